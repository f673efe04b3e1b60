"""Builds the demo library through the same use cases as a user's."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial
from pathlib import Path

from eider.checks import PartUnderCheck, run_checks
from eider.commands.parts import body_edits
from eider.commands.parts.evaluation import count_by_severity, evaluate_part, rerun_recipes
from eider.demo.data import ChipSeries, ChipSize, buffer_text, chips, pin_table_text, sheet_data
from eider.demo.flaws import FLAWS, flawed
from eider.demo.flaws.changes import adjusted, misread, with_pin
from eider.demo.maker_models import CONNECTOR_4, CONVERTER, placed_model, step_of
from eider.demo.parts import (
    LIBRARIAN,
    captures,
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
    power_switch_part,
    regulator_part,
    socket_part,
    tantalum_part,
    terminals_part,
    transformer_part,
    transistor_part,
)
from eider.demo.preferred_values import E96
from eider.demo.scan import scan_text
from eider.demo.sheets import write_datasheets
from eider.evidence.evidence_changes import utc_now
from eider.library import Library, init_library
from eider.library.documents.attachments import DocumentKind
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.housekeeping import keep_house
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRow, FamilyRule, FamilyTable
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink
from eider.services.families.family_rows import rows_from_capture
from eider.services.families.family_tables import plan_family, release_members
from eider.services.parts.part_evaluation import save_part
from eider.services.parts.part_rules import rules_for
from eider.services.releasing.part_releasing import release_part
from eider.services.tasks import Task

# The connector that the others begin as, and the value of the resistors that the others do.
CONNECTOR_BASE = 8
RESISTOR_BASE = "1 kΩ"
_RESISTOR_NAME = "LYN-R{Size}-{Resistance|code}"


def connector_family(library: Library, sheet: DatasheetLink) -> FamilyTable:
    """OHC-125: ways and lengths as the datasheet's own table has them, each cell with its place there."""
    data = sheet_data("ohc-125")
    columns = (
        FamilyColumn("ways", ("pins", "fact.Ways")),
        FamilyColumn("A", ("dims.row", "distance.1")),
        FamilyColumn("C", ("dims.D",)),
    )
    name = "OHC-125-{ways|02}R"
    rules = (
        FamilyRule("name", name),
        FamilyRule("fact.Part number", name),
        FamilyRule("description", "Wire-to-board connector, {ways} ways"),
    )
    base = FamilyBase(Ref(library.find(f"OHC-125-{CONNECTOR_BASE:02}R").id))
    found = next(c for c in captures(data.name) if c.dimensions and c.dimensions.rows[0].member)
    read = rows_from_capture(found, columns, "ways", sheet.sha256, LIBRARIAN.name)
    return FamilyTable(name="OHC-125", definition=FamilyDefinition((base,), "", columns, rules), rows=read.rows)


def resistor_family(library: Library) -> FamilyTable:
    """LYN-R: 96 values to the decade from 1 kΩ on, in each of the three sizes."""
    series = chips("lyn-r")
    bases = tuple(
        FamilyBase(Ref(library.find(series.part_name(size.size, RESISTOR_BASE)).id), size.size) for size in series.sizes
    )
    columns = (FamilyColumn("Size"), FamilyColumn("Resistance", ("fact.Resistance",)))
    rules = (
        FamilyRule("name", _RESISTOR_NAME),
        FamilyRule("fact.Part number", _RESISTOR_NAME),
        FamilyRule("description", "Chip resistor {Resistance} {Rated power} {Tolerance} {Size}"),
    )
    typed = Evidence(EvidenceKind.ENTERED, by=LIBRARIAN.name, at=utc_now())
    rows = tuple(
        FamilyRow({"Size": size.size, "Resistance": f"{number / 100:g} kΩ"}, {"Resistance": typed})
        for size in series.sizes
        for number in E96
    )
    made = FamilyDefinition(bases, "Size", columns, rules)
    return FamilyTable(name="LYN-R-E96", definition=made, rows=rows)


# The parts that the finished demo has besides the series: how each is made, and the pages of its datasheet.
MADE: tuple[tuple[str, Callable[[Library, DatasheetLink], Bundle], int], ...] = (
    ("NVK-1216T", converter_part, 4), ("NVK-4GT", gates_part, 1), ("NVK-U100P", controller_part, 5),
    ("BRM-PT6", transformer_part, 1), ("LYN-Y32", crystal_part, 1), ("NVK-N2S", transistor_part, 1),
    ("NVK-3301Q", front_end_part, 3), ("NVK-M64B", memory_part, 3), ("LYN-T3528", tantalum_part, 1),
    ("LYN-D5226", diode_part, 1), ("LYN-X25", oscillator_part, 1), ("BRM-L18", regulator_part, 2),
    ("BRM-CH16", holder_part, 2), ("OHC-350-04", terminals_part, 1),
    ("BRM-E100", electrolytic_part, 1), ("BRM-ECH47", choke_part, 1), ("BRM-S40", power_switch_part, 1),
    ("OHC-S5", socket_part, 1),
)  # fmt: skip


# This one of the connectors is worked on again, with another body.
DRAFT_WAYS = 4
# These are still being worked on: their findings say what is left to do.
DRAFTS: Mapping[str, Callable[[Bundle], Bundle]] = {
    "NVK-4GT": with_pin("9", type="undecided"),
    "LYN-T3528": adjusted(("1", "width", "1.0")),
    "BRM-L18": misread("c", "0.20–0.09"),
}


def build_library(folder: Path, *, finished: bool = False, task: Task | None = None) -> Library:
    """Make the demo in a folder: datasheets in `inbox`, and a library with the LYN-C capacitors released.

    With `finished` every other part of the scenario is made and released too, but for some that are begun.
    """
    library = begin_library(folder)
    fill_library(library, folder, finished=finished, task=task)
    return library


def begin_library(folder: Path) -> Library:
    """The demo's library without parts, so that it can be looked at while it is filled."""
    (folder / "inbox").mkdir(parents=True, exist_ok=True)
    return init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)


def fill_library(library: Library, folder: Path, *, finished: bool, task: Task | None = None) -> None:
    """Make the datasheets and parts of the demo.

    Raises:
        CancelledError: the user cancelled; what was made by then stays.
    """
    inbox, task = folder / "inbox", task or Task()
    task.report(0.0, "drawing datasheets")
    write_inbox(inbox)
    work = [*_series(library, inbox, finished=finished), *(_others(library, inbox) if finished else ())]
    for index, (name, make) in enumerate(work):
        task.report(0.1 + 0.9 * index / len(work), f"making {name}")
        make()
    keep_house(library)


def write_inbox(inbox: Path) -> None:
    """The documents that a librarian works from: datasheets, pin tables, files of makers."""
    inbox.mkdir(parents=True, exist_ok=True)
    (inbox / "NVK-1216T-pins.csv").write_text(pin_table_text(), encoding="utf-8")
    write_datasheets(inbox)
    (inbox / "NVK-U100P.bsd").write_text(scan_text(), encoding="utf-8")
    (inbox / "NVK-4GT.ibs").write_text(buffer_text(), encoding="utf-8")


Work = tuple[str, Callable[[], object]]


def _series(library: Library, inbox: Path, *, finished: bool) -> Iterator[Work]:
    """Each value of each size of the chip series."""

    def release(series: ChipSeries, size: ChipSize, value: str, sheet: DatasheetLink) -> None:
        bundle = chip_part(library, series, size, value, sheet)
        release_part(library, bundle, "first release, from the series datasheet")

    for key in ("lyn-c", "lyn-r") if finished else ("lyn-c",):
        series = chips(key)
        sheet = attach(library, inbox / f"{series.name}.pdf", pages=2)
        for size in series.sizes:
            for value in series.values:
                yield f"{series.name} {value}", partial(release, series, size, value, sheet)


def _others(library: Library, inbox: Path) -> Iterator[Work]:
    """Every other part of the scenario, released or begun."""

    def make_part(name: str, make: Callable[[Library, DatasheetLink], Bundle], pages: int) -> None:
        made = make(library, attach(library, inbox / f"{name}.pdf", pages))
        if name in DRAFTS:
            _save_draft(library, DRAFTS[name](made))
        else:
            release_part(library, made, "first release, checked against the datasheet")

    def make_connectors() -> None:
        sheet = attach(library, inbox / "OHC-125.pdf", pages=3)
        release_part(library, connector_part(library, CONNECTOR_BASE, sheet), "the connector that the family begins as")
        _release_family(library, connector_family(library, sheet), "all ways, from the datasheet's table")
        # One of them gets the manufacturer's STEP file as its body: a change by hand, which the family leaves alone.
        library.attachments.keep(DocumentKind.MODEL, step_of(CONNECTOR_4))
        member = library.load(library.find(f"OHC-125-{DRAFT_WAYS:02}R").id)
        made = body_edits.use_model(member, placed_model(CONNECTOR_4))
        _save_draft(library, rerun_recipes(made, library.rulebook()))

    for name, make, pages in MADE:
        yield name, partial(make_part, name, make, pages)
    yield "the OHC-125 family", make_connectors
    yield "the LYN-R family", lambda: _release_family(library, resistor_family(library), "the E96 series from 1 kΩ on")


def _release_family(library: Library, table: FamilyTable, note: str) -> None:
    release_members(library, plan_family(library, table), note, None)


def _save_draft(library: Library, bundle: Bundle) -> None:
    save_part(library, evaluate_part(bundle, rules_for(library, bundle)))


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
    library.attachments.keep(DocumentKind.MODEL, step_of(CONVERTER))
    rulebook = library.rulebook()
    for flaw in FLAWS:
        bundle = flawed(flaw, sound, rulebook)
        findings = run_checks(PartUnderCheck(bundle, rulebook, library.settings))
        library.copies.save(WorkingCopy(bundle=bundle, findings=count_by_severity(findings)))
    return library


def attach(library: Library, path: Path, pages: int) -> DatasheetLink:
    """Keep a PDF with the library."""
    return DatasheetLink(library.attachments.keep(DocumentKind.DATASHEET, path.read_bytes()), path.name, pages)
