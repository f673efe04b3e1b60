"""Builds the demo library through the same use cases as a user's."""

from pathlib import Path

from eider.demo.catalogue import chip_name
from eider.demo.data import ChipSeries, ChipSize, chips, converter, pin_table_text
from eider.demo.sheets import write_chip_datasheet, write_converter_datasheet
from eider.library import Library, init_library
from eider.library.versions import Person
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.workbench import edits
from eider.workbench.generate import regenerate
from eider.workbench.releasing import release_part

LIBRARIAN = Person("Skerry librarian", "librarian@skerry.example")


def build_library(folder: Path, *, finished: bool = False) -> Library:
    """Make the demo in a folder: datasheets in `inbox`, and a library with the LYN-C capacitors released.

    With `finished` NVK-1216T is made and released too.
    """
    inbox = folder / "inbox"
    inbox.mkdir(parents=True, exist_ok=True)
    (inbox / "NVK-1216T-pins.csv").write_text(pin_table_text(), encoding="utf-8")
    write_converter_datasheet(inbox / "NVK-1216T.pdf")
    write_chip_datasheet(inbox / "LYN-C.pdf")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    sheet = attach(library, inbox / "LYN-C.pdf", pages=2)
    series = chips()
    for size in series.sizes:
        for value in series.values:
            bundle = chip_part(library, series, size, value, sheet)
            release_part(library, bundle, "first release, from the series datasheet")
    if finished:
        made = converter_part(library, attach(library, inbox / "NVK-1216T.pdf", pages=4))
        release_part(library, made, "first release, checked against the datasheet")
    return library


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
    bundle = with_dimensions(bundle, size.dims, sheet, series.outline_page)
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
    bundle = edits.set_pin_table(bundle, edits.read_pin_text(pin_table_text()).pins)
    bundle = edits.set_pins(edits.set_family(bundle, part.family), str(part.pins))
    bundle = with_dimensions(bundle, part.dims, sheet, part.outline_page)
    for own, letter in part.aliases.items():
        bundle = edits.set_alias(bundle, letter, own)
    return regenerate(with_facts(bundle, part.facts, sheet, 1), library.rulebook())


def with_dimensions(bundle: Bundle, dims: dict[str, str], sheet: DatasheetLink, page: int) -> Bundle:
    """Type every dimension, and say on which page it stands."""
    for letter, text in dims.items():
        bundle = edits.set_dimension(bundle, letter, text)
    evidence = Evidence(
        EvidenceKind.DATASHEET, document=sheet.sha256, page=page, text="table of dimensions",
        by=LIBRARIAN.name, at=edits.now(),
    )  # fmt: skip
    return edits.set_evidence(bundle, list(dims), evidence)


def with_facts(bundle: Bundle, facts: dict[str, str], sheet: DatasheetLink, page: int) -> Bundle:
    """Fill in facts, and say on which page they stand."""
    evidence = Evidence(EvidenceKind.DATASHEET, document=sheet.sha256, page=page, by=LIBRARIAN.name, at=edits.now())
    for name, value in facts.items():
        bundle = edits.set_fact(bundle, name, value, evidence)
    return bundle
