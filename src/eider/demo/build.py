"""Builds the demo library through the same use cases as a user's."""

import json
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

from eider.datasheets import Datasheet
from eider.datasheets.capture import Capture, capture
from eider.demo.catalogue import chip_name
from eider.demo.data import ChipSeries, ChipSize, buffer_text, chips, converter, pin_table_text, sheet_data
from eider.demo.scan import scan_text
from eider.demo.sheets import DATASHEETS, write_datasheets
from eider.evidence.changes import now
from eider.exchange.pins.bsdl import read_bsdl
from eider.exchange.pins.ibis import read_ibis
from eider.library import Library, init_library
from eider.library.versions import Person
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.workbench import edits, symbol_edits
from eider.workbench.capturing import proposals, take_dimensions, take_pins, take_reading
from eider.workbench.generate import regenerate
from eider.workbench.releasing import release_part

LIBRARIAN = Person("Skerry librarian", "librarian@skerry.example")


def build_library(folder: Path, *, finished: bool = False) -> Library:
    """Make the demo in a folder: datasheets in `inbox`, and a library with the LYN-C capacitors released.

    With `finished` NVK-1216T, NVK-4GT and NVK-U100P are made and released too.
    """
    inbox = folder / "inbox"
    inbox.mkdir(parents=True, exist_ok=True)
    (inbox / "NVK-1216T-pins.csv").write_text(pin_table_text(), encoding="utf-8")
    write_datasheets(inbox)
    (inbox / "NVK-U100P.bsd").write_text(scan_text(), encoding="utf-8")
    (inbox / "NVK-4GT.ibs").write_text(buffer_text(), encoding="utf-8")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    sheet = attach(library, inbox / "LYN-C.pdf", pages=2)
    series = chips()
    for size in series.sizes:
        for value in series.values:
            bundle = chip_part(library, series, size, value, sheet)
            release_part(library, bundle, "first release, from the series datasheet")
    if finished:
        for make, name, pages in ((converter_part, "NVK-1216T", 4), (gates_part, "NVK-4GT", 1),
                                  (controller_part, "NVK-U100P", 5)):  # fmt: skip
            made = make(library, attach(library, inbox / f"{name}.pdf", pages))
            release_part(library, made, "first release, checked against the datasheet")
    return library


@cache
def captures(name: str) -> tuple[Capture, ...]:
    """What is read of a datasheet in each box in which the demo's own program draws a table."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / f"{name}.pdf"
        DATASHEETS[name](path)
        truth = json.loads(path.with_suffix(".truth.json").read_text(encoding="utf-8"))
        places = [table["places"][0] for table in truth["tables"]]
        datasheet = Datasheet(path)
        try:
            return tuple(capture(datasheet, place["page"], tuple(place["box"])) for place in places)
        finally:
            datasheet.close()


def attach(library: Library, path: Path, pages: int) -> DatasheetLink:
    """Keep a PDF with the library."""
    return DatasheetLink(library.attach(path.read_bytes()), path.name, pages)


def chip_part(library: Library, series: ChipSeries, size: ChipSize, value: str, sheet: DatasheetLink) -> Bundle:
    """One capacitor of the series."""
    name = chip_name(size.size, value)
    bundle = edits.new_part(name, series.category, library.settings)
    bundle = edits.set_about(
        bundle, description=f"Chip capacitor {value} {size.voltage} {series.dielectric} {size.size}"
    )
    bundle = edits.attach_datasheet(bundle, sheet)
    bundle = with_captured(bundle, "LYN-C", sheet, size.size)
    facts = {
        "Manufacturer": series.maker,
        "Part number": name,
        "Capacitance": value,
        "Tolerance": series.tolerance,
        "Rated voltage": size.voltage,
        "Dielectric": series.dielectric,
        "Lifecycle": "active",
    }
    return regenerate(with_facts(bundle, facts, sheet, 1), library.rulebook())


def converter_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-1216T, made as a librarian would make it."""
    part = converter()
    bundle = edits.new_part(part.name, part.category, library.settings)
    bundle = edits.set_about(bundle, description=part.description)
    bundle = edits.attach_datasheet(bundle, sheet)
    # Groups are not in the datasheet; they come from the table of pins beside it.
    bundle = edits.set_pin_table(bundle, edits.read_pin_text(pin_table_text()).pins)
    bundle = edits.set_pins(edits.set_family(bundle, part.family), str(part.pins))
    bundle = with_captured(bundle, part.name, sheet)
    return regenerate(with_facts(bundle, part.facts, sheet, 1), library.rulebook())


def gates_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-4GT: pins from its buffer model, four equal gates and a supply."""
    bundle = _sheet_part(library, "nvk-4gt", sheet)
    bundle = take_reading(bundle, read_ibis(buffer_text())[0].reading, "NVK-4GT.ibs")
    bundle = symbol_edits.set_graphic(symbol_edits.split_units(bundle, "equal"), "nand")
    return regenerate(bundle, library.rulebook())


def controller_part(library: Library, sheet: DatasheetLink) -> Bundle:
    """NVK-U100P: pins from its boundary-scan description, whose doubts the librarian has settled."""
    bundle = _sheet_part(library, "nvk-u100p", sheet)
    bundle = take_reading(bundle, read_bsdl(scan_text())[0].reading, "NVK-U100P.bsd")
    settled = [
        edits.replace(p, type="passive" if p.type == "undecided" else p.type, assumed=False) for p in bundle.symbol.pins
    ]
    return regenerate(edits.set_pin_table(bundle, settled), library.rulebook())


def _sheet_part(library: Library, key: str, sheet: DatasheetLink) -> Bundle:
    """A part of `datasheets.toml` with the dimensions of its datasheet."""
    data = sheet_data(key)
    bundle = edits.new_part(data.name, "ic", library.settings)
    bundle = edits.attach_datasheet(edits.set_about(bundle, description=data.description), sheet)
    bundle = edits.set_pins(edits.set_family(bundle, data.family), str(data.pins))
    found = next(c for c in captures(data.name) if c.kind == "dimensions")
    bundle = take_dimensions(bundle, found, proposals(bundle, found)[0].letters, sheet.sha256, LIBRARIAN.name)
    facts = {"Manufacturer": "Norrvik Semi", "Part number": data.name, "Lifecycle": "active"}
    return with_facts(bundle, facts, sheet, 1)


def with_captured(bundle: Bundle, name: str, link: DatasheetLink, member: str = "") -> Bundle:
    """Take the tables of a datasheet over, as somebody does who draws a rectangle round each of them."""
    for found in captures(name):
        if found.kind == "pins":
            bundle = take_pins(bundle, found, link.sha256, LIBRARIAN.name)
        else:
            letters = proposals(bundle, found, member)[0].letters
            bundle = take_dimensions(bundle, found, letters, link.sha256, LIBRARIAN.name, member)
    return bundle


def with_facts(bundle: Bundle, facts: dict[str, str], sheet: DatasheetLink, page: int) -> Bundle:
    """Fill in facts, and say on which page they stand."""
    evidence = Evidence(EvidenceKind.DATASHEET, document=sheet.sha256, page=page, by=LIBRARIAN.name, at=now())
    for name, value in facts.items():
        bundle = edits.set_fact(bundle, name, value, evidence)
    return bundle
