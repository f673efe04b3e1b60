"""Makes a library of many parts through the code that releases every other part: `big_library N FOLDER`."""

import sys
import time
from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory

from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.parts import new_parts
from eider.demo.build import attach
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part, converter_part
from eider.demo.sheets import write_chip_datasheet
from eider.library import Library, init_library
from eider.library.git.housekeeping import keep_house
from eider.library.releases.release_commit import release_bundles
from eider.model.bundle import Bundle

BATCH = 1000


def parts(library: Library, count: int) -> Iterator[Bundle]:
    """Capacitors that share all but their facts, and among every four parts one circuit with items of its own."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "LYN-C.pdf"
        write_chip_datasheet(path)
        link, series = attach(library, path, 2), chips()
        chip = chip_part(library, series, series.sizes[0], series.values[0], link)
        circuit = converter_part(library, link)
    for number in range(count):
        made = _circuit(circuit, number) if number % 4 == 0 else new_parts.start_from_part(chip, f"LYN-C{number:05}")
        yield fact_edits.set_fact(made, "Compliance", f"lot {number}")


def _circuit(like: Bundle, number: int) -> Bundle:
    made = new_parts.start_from_part(like, f"NVK-{number:05}")
    sheet, symbol = replace(made.sheet, name=f"{made.sheet.name}-{number}"), made.symbol
    pins = (replace(symbol.pins[0], name=f"EN{number}"), *symbol.pins[1:])
    return replace(
        made,
        sheet=sheet,
        symbol=replace(symbol, name=made.part.name, pins=pins),
        footprint=replace(made.footprint, name=f"{made.footprint.name}-{number}"),
        body=replace(made.body, name=f"{made.body.name}-{number}"),
    )


def make_library(folder: Path, count: int) -> Library:
    """A new library with so many released parts."""
    library = init_library(folder, "Big", LIBRARIAN)
    batch: list[Bundle] = []
    begin = time.monotonic()
    for index, part in enumerate(parts(library, count), start=1):
        batch.append(part)
        if len(batch) == BATCH or index == count:
            release_bundles(library, batch, "made in one go")
            keep_house(library)
            batch.clear()
            print(f"{index} parts in {time.monotonic() - begin:.0f} s", file=sys.stderr)
    return library


if __name__ == "__main__":
    make_library(Path(sys.argv[2]), int(sys.argv[1])).close()
