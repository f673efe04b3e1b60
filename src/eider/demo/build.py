"""Builds the demo library through the same use cases as a user's."""

from collections.abc import Callable
from pathlib import Path

from eider.checks import PartUnderCheck, run_checks
from eider.commands.evaluation import count_by_severity, evaluate_part
from eider.demo.data import buffer_text, chips, pin_table_text, sheet_data
from eider.demo.flaws import FLAWS, flawed
from eider.demo.parts import (
    LIBRARIAN,
    chip_part,
    choke_part,
    connector_part,
    controller_part,
    converter_part,
    crystal_part,
    diode_part,
    electrolytic_part,
    front_end_part,
    gates_part,
    holder_part,
    memory_part,
    oscillator_part,
    regulator_part,
    tantalum_part,
    terminals_part,
    transformer_part,
    transistor_part,
)
from eider.demo.scan import scan_text
from eider.demo.sheets import write_datasheets
from eider.library import Library, init_library
from eider.library.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.services.releasing import release_part, rules_for

# The parts that the finished demo has besides the series: how each is made, and the pages of its datasheet.
MADE: tuple[tuple[str, Callable[[Library, DatasheetLink], Bundle], int], ...] = (
    ("NVK-1216T", converter_part, 4), ("NVK-4GT", gates_part, 1), ("NVK-U100P", controller_part, 5),
    ("BRM-PT6", transformer_part, 1), ("LYN-Y32", crystal_part, 1), ("NVK-N2S", transistor_part, 1),
    ("NVK-3301Q", front_end_part, 2), ("NVK-M64B", memory_part, 3), ("LYN-T3528", tantalum_part, 1),
    ("LYN-D5226", diode_part, 1), ("LYN-X25", oscillator_part, 1), ("BRM-L18", regulator_part, 2),
    ("BRM-CH16", holder_part, 2), ("OHC-350-04", terminals_part, 1),
    ("BRM-E100", electrolytic_part, 1), ("BRM-ECH47", choke_part, 1),
)  # fmt: skip


# This one of the connectors is still being worked on.
DRAFT_WAYS = 4


def build_library(folder: Path, *, finished: bool = False) -> Library:
    """Make the demo in a folder: datasheets in `inbox`, and a library with the LYN-C capacitors released.

    With `finished` the other parts are made and released too, and one is begun.
    """
    inbox = folder / "inbox"
    inbox.mkdir(parents=True, exist_ok=True)
    (inbox / "NVK-1216T-pins.csv").write_text(pin_table_text(), encoding="utf-8")
    write_datasheets(inbox)
    (inbox / "NVK-U100P.bsd").write_text(scan_text(), encoding="utf-8")
    (inbox / "NVK-4GT.ibs").write_text(buffer_text(), encoding="utf-8")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    for key in ("lyn-c", "lyn-r") if finished else ("lyn-c",):
        series = chips(key)
        sheet = attach(library, inbox / f"{series.name}.pdf", pages=2)
        for size in series.sizes:
            for value in series.values:
                bundle = chip_part(library, series, size, value, sheet)
                release_part(library, bundle, "first release, from the series datasheet")
    for name, make, pages in MADE if finished else ():
        made = make(library, attach(library, inbox / f"{name}.pdf", pages))
        release_part(library, made, "first release, checked against the datasheet")
    for ways in sheet_data("ohc-125").ways if finished else ():
        made = connector_part(library, ways, attach(library, inbox / "OHC-125.pdf", pages=3))
        if ways == DRAFT_WAYS:
            outcome = evaluate_part(made, rules_for(library, made))
            library.copies.save(WorkingCopy(bundle=outcome.bundle, findings=outcome.counts))
        else:
            release_part(library, made, "first release, from the family table")
    return library


def build_flawed(folder: Path) -> Library:
    """Make the demo's second library in a folder: drafts with one slip each, for the checks to find."""
    write_datasheets(folder / "inbox")
    library = init_library(folder / "flawed", "Skerry Fieldworks, flawed", LIBRARIAN)
    bases = {flaw.base for flaw in FLAWS}
    sound = {
        name: make(library, attach(library, folder / "inbox" / f"{name}.pdf", pages))
        for name, make, pages in MADE
        if name in bases
    }
    wide = connector_part(library, 12, attach(library, folder / "inbox" / "OHC-125.pdf", pages=3))
    sound[wide.part.name] = wide
    rulebook = library.rulebook()
    for flaw in FLAWS:
        bundle = flawed(flaw, sound, rulebook)
        findings = run_checks(PartUnderCheck(bundle, rulebook, library.settings))
        library.copies.save(WorkingCopy(bundle=bundle, findings=count_by_severity(findings)))
    return library


def attach(library: Library, path: Path, pages: int) -> DatasheetLink:
    """Keep a PDF with the library."""
    return DatasheetLink(library.attach(path.read_bytes()), path.name, pages)
