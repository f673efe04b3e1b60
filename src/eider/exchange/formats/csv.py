"""Tables as CSV (RFC 4180): pads and pins."""

import csv
import io
from collections.abc import Iterable, Sequence
from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile
from eider.exchange.json_files import read_text
from eider.exchange.part_tables import found_tables
from eider.exchange.pin_source import PinSource
from eider.exchange.reading_hints import ReadingHints
from eider.geometry.lengths import format_length
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.pattern import Pattern
from eider.model.symbol import Symbol
from eider.symbols.pin_table import read_pins, split_table


def pads_csv(pattern: Pattern) -> str:
    """Every pad with its centre and size in mm."""
    header = ("number", "x mm", "y mm", "width mm", "height mm", "rotation deg", "shape", "hole mm", "layers")
    rows = (
        (
            pad.number,
            *(format_length(v, with_unit=False) for v in (pad.x, pad.y, pad.width, pad.height)),
            f"{pad.rotation:g}",
            pad.shape,
            format_length(pad.hole.width, with_unit=False) if pad.hole else "",
            pad.layers,
        )
        for pad in pattern.pads
    )
    return _csv(header, rows)


def pins_csv(symbol: Symbol) -> str:
    """The pin table, with the further columns that any pin has."""
    more = tuple(dict.fromkeys(name for pin in symbol.pins for name in pin.more))
    header = ("number", "name", "type", "active low", "group", "description", "alternatives", *more)
    rows = (
        (p.number, p.name, p.type, "yes" if p.active_low else "no", p.group, p.description, " / ".join(p.alternatives),
         *(p.more.get(name, "") for name in more))
        for p in symbol.pins
    )  # fmt: skip
    return _csv(header, rows)


def _csv(header: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(header)
    writer.writerows(rows)
    return text.getvalue()


def _write(source: ExportSource, folder: Path) -> list[Path]:
    bundle = source.bundle
    name = safe_name(bundle.part.name)
    made = [folder / f"{name}-pins.csv"]
    write_atomic(made[0], pins_csv(bundle.symbol).encode())
    for index, pattern in enumerate(bundle.footprint.patterns):
        made.append(folder / (f"{name}-pads-{pattern.level}.csv" if index else f"{name}-pads.csv"))
        write_atomic(made[-1], pads_csv(pattern).encode())
    return made


def read_pin_table_file(path: Path) -> list[PinSource]:
    """A table of text with a line for each pin; the readers of pins fall back on it."""
    rows = split_table(read_text(path))
    return [PinSource(path.stem, read_pins(rows), tuple(tuple(row) for row in rows))]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """A table of pads or of pins, by its headings."""
    return found_tables(path, [("", split_table(read_text(path)))])


FORMAT = FormatSpec(
    key="csv",
    title="Pads and pins as CSV",
    suffixes=(".csv", ".tsv", ".txt"),
    order=50,
    loses="drawings, body and facts",
    write=_write,
    read_pins=read_pin_table_file,
    read_parts=_read_parts,
)
