"""Family tables over a library: members new, changed and the same, hand changes kept, released in one commit."""

import json
import shutil
from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.demo.build import attach, connector_family, resistor_family
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, captures, chip_part, connector_part
from eider.demo.sheets import DATASHEETS, write_chip_datasheet
from eider.errors import EiderError, InputError, NotFoundError
from eider.library import Library, init_library, open_library
from eider.library.documents.family_files import family_names, read_family, save_family
from eider.library.documents.working_copies import WorkingCopy
from eider.library.errors import ConflictError
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRow, FamilyRule, FamilyTable
from eider.model.footprint import Adjustment
from eider.model.item_ref import Ref
from eider.services.families.family_rows import entered, merged_rows, rows_from_capture, rows_from_file, write_rows
from eider.services.families.family_tables import FamilyPlan, keep_members, plan_family, release_members
from eider.services.releasing.part_releasing import BlockedError, release_part
from eider.services.tasks import CancelledError, Task

ROWS = (("1608", "1.5 kΩ"), ("2012", "4.75 kΩ"), ("1608", "1 kΩ"))


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The bases of the demo's families, and the table of three resistors."""
    folder = tmp_path_factory.mktemp("families")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    write_chip_datasheet(folder / "LYN-R.pdf", "lyn-r")
    series, sheet = chips("lyn-r"), attach(library, folder / "LYN-R.pdf", 2)
    for size in series.sizes:
        release_part(library, chip_part(library, series, size, "1 kΩ", sheet), "base")
    DATASHEETS["OHC-125"](folder / "OHC-125.pdf")
    link = attach(library, folder / "OHC-125.pdf", 3)
    release_part(library, connector_part(library, 8, link), "base")
    save_family(library, connector_family(library, link), "connectors", replaces=None)
    table = resistor_family(library)
    rows = tuple(FamilyRow({"Size": size, "Resistance": value}) for size, value in ROWS)
    save_family(library, replace(table, name="R", rows=rows), "resistors", replaces=None)
    library.close()
    return folder / "library"


@pytest.fixture
def library(made: Path, tmp_path: Path) -> Library:
    return open_library(shutil.copytree(made, tmp_path / "library"))


def _plan(library: Library, name: str = "R") -> FamilyPlan:
    return plan_family(library, read_family(library, name))


def _states(plan: FamilyPlan) -> dict[str, str]:
    return {member.name: member.state for member in plan.members}


def _released(library: Library, name: str = "R") -> FamilyTable:
    return release_members(library, _plan(library, name), "the first of them", read_family(library, name))[0]


def test_members_are_made_of_the_base_of_their_size(library: Library) -> None:
    plan = _plan(library)
    assert _states(plan) == {"LYN-R1608-1K5": "new", "LYN-R2012-4K75": "new", "LYN-R1608-1K": "base"}
    part = plan.members[1].part
    assert part is not None
    facts = {name: fact.value for name, fact in part.bundle.part.facts.items()}
    assert facts["Resistance"] == "4.75 kΩ" and facts["Rated power"] == "125 mW"
    assert facts["Part number"] == "LYN-R2012-4K75"
    assert part.bundle.part.description == "Chip resistor 4.75 kΩ 125 mW 1 % 2012"
    assert part.bundle.sheet.dims["D"].text == "2.00±0.10"
    assert part.findings == () and plan.doubts == ()


def test_members_are_released_in_one_commit_with_the_table_and_share_their_items(library: Library) -> None:
    before = library.versions.head
    made = _released(library)
    assert library.versions.head != before
    parts = [library.load(library.find(name).id) for name in ("LYN-R1608-1K5", "LYN-R1608-1K")]
    assert parts[0].part.package == parts[1].part.package and parts[0].part.footprint == parts[1].part.footprint
    assert parts[0].part.release is not None and parts[0].part.release.revision == 1
    assert read_family(library, "R") == made
    again = _plan(library)
    assert set(_states(again).values()) == {"same", "base"}
    with pytest.raises(InputError, match="nothing to release"):
        release_members(library, again, "again", made)


def test_a_change_of_the_base_reaches_all_members_of_its_size_and_they_go_on_sharing(library: Library) -> None:
    _released(library)
    base = library.load(library.find("LYN-R1608-1K").id)
    release_part(library, footprint_edits.set_level(base, "A"), "denser")
    plan = _plan(library)
    assert _states(plan) == {"LYN-R1608-1K5": "changed", "LYN-R2012-4K75": "same", "LYN-R1608-1K": "base"}
    release_members(library, plan, "as the base", read_family(library, "R"))
    parts = [library.load(library.find(name).id) for name in ("LYN-R1608-1K5", "LYN-R1608-1K")]
    assert parts[0].footprint.level == "A"
    assert parts[0].part.footprint == parts[1].part.footprint


def test_what_was_changed_by_hand_is_named_and_survives(library: Library) -> None:
    table = _released(library)
    member = library.load(library.find("LYN-R1608-1K5").id)
    hand = fact_edits.set_fact(footprint_edits.adjust_pad(member, Adjustment("1", "width", "1.0")), "Shelf", "A7")
    library.copies.save(WorkingCopy(bundle=hand))
    # Another value in the row, and a fact that the definition gives again.
    rows = (FamilyRow({"Size": "1608", "Resistance": "1.6 kΩ"}, {}, table.rows[0].part), *table.rows[1:])
    plan = plan_family(library, replace(table, rows=rows))
    first = plan.members[0]
    assert (first.name, first.state) == ("LYN-R1608-1K6", "changed")
    assert first.by_hand == ("Shelf", "Adjustment of width of pad 1")
    assert first.part is not None
    made = first.part.bundle
    assert made.part.facts["Resistance"].value == "1.6 kΩ" and made.part.facts["Shelf"].value == "A7"
    assert made.footprint.adjustments == hand.footprint.adjustments
    assert "Resistance changed from 1.5 kΩ to 1.6 kΩ" in first.changes
    kept = keep_members(library, plan, table)
    assert library.load(table.rows[0].part).part.name == "LYN-R1608-1K6"
    again = plan_family(library, kept).members[0]
    assert (again.state, again.by_hand) == ("same", first.by_hand)


def test_a_row_that_goes_leaves_its_part_and_is_told(library: Library) -> None:
    table = _released(library)
    plan = plan_family(library, replace(table, rows=table.rows[1:]))
    assert plan.doubts == ("LYN-R1608-1K5 is in the table no more; the part stays as it is",)


@pytest.mark.parametrize(
    ("cells", "says"),
    [
        ({"Size": "9999", "Resistance": "1 kΩ"}, "no base for Size “9999”"),
        ({"Size": "1608", "Resistance": "many"}, "Resistance “many” is not a value"),
        ({"Size": "1608"}, "Resistance “” is not a value"),
    ],
)
def test_a_row_of_which_nothing_can_be_made_says_why(library: Library, cells: dict[str, str], says: str) -> None:
    table = read_family(library, "R")
    plan = plan_family(library, replace(table, rows=(*table.rows, FamilyRow(cells))))
    assert plan.members[-1].state == "fault" and says in plan.members[-1].fault
    with pytest.raises(InputError, match="row 4"):
        keep_members(library, plan, table)
    with pytest.raises(InputError, match="row 4"):
        release_members(library, plan, "note", table)


def test_two_rows_of_one_name_are_a_fault_of_both(library: Library) -> None:
    table = read_family(library, "R")
    plan = plan_family(library, replace(table, rows=(table.rows[0], table.rows[0], table.rows[2])))
    assert [m.state for m in plan.members] == ["fault", "fault", "base"]
    assert plan.members[0].fault == "rows 1, 2 make parts of one name"


def test_connectors_come_from_the_datasheets_own_table(library: Library) -> None:
    plan = _plan(library, "OHC-125")
    assert plan.count("new") == 10 and plan.count("base") == 1 and plan.doubts == ()
    assert [m.findings for m in plan.members if m.findings] == []
    twelve = plan.members[-1].part
    assert twelve is not None
    bundle = twelve.bundle
    pads = bundle.footprint.pattern.pads if bundle.footprint.pattern else ()
    xs = sorted(pad.x for pad in pads if pad.number not in ("MP", ""))
    # Twelve contacts at 1.25: eleven pitches between the outer ones.
    assert len(xs) == 12 and xs[-1] - xs[0] == pytest.approx(13.75)
    row = bundle.sheet.dims["row"]
    assert (row.text, row.evidence.page if row.evidence else 0) == ("13.75", 2)
    assert bundle.footprint.distances[0].shall.text == "13.75"
    assert bundle.part.facts["Ways"].value == "12" and bundle.symbol.graphic == "connector-pins/1x12-shield"


def test_a_base_that_was_never_released_and_too_many_rows_are_refused(library: Library) -> None:
    part = library.load(library.find("LYN-R1608-1K").id)
    draft = replace(part, part=replace(part.part, id="d" * 16, name="DRAFT", release=None))
    library.copies.save(WorkingCopy(bundle=draft))
    definition = FamilyDefinition((FamilyBase(Ref("", "DRAFT")),), "", (FamilyColumn("Name", ("name",)),))
    with pytest.raises(InputError, match="was never released"):
        plan_family(library, FamilyTable(name="x", definition=definition, rows=(FamilyRow({"Name": "A"}),)))
    with pytest.raises(InputError, match="5001 rows"):
        plan_family(library, FamilyTable(name="x", rows=(FamilyRow({}),) * 5001))


@pytest.mark.parametrize(
    ("columns", "rules", "says"),
    [
        ((FamilyColumn("N", ("name",)), FamilyColumn("X", ("colour",))), (), "nothing that a column can set"),
        ((FamilyColumn("N", ("name",)), FamilyColumn("X", ("sheet.colour",))), (), "has no colour"),
        ((FamilyColumn("N", ("name",)), FamilyColumn("X", ("distance.1",))), (), "keeps 0 distances"),
        ((FamilyColumn("N", ("name",)), FamilyColumn("X", ("pins",))), (), "not a number of pins"),
        ((FamilyColumn("N", ("name",)),), (FamilyRule("description", "{Smell}"),), "neither a column nor a fact"),
        ((FamilyColumn("N", ("name",)),), (FamilyRule("description", "{N|upper}"),), "not a form of"),
        ((FamilyColumn("N"),), (), "the row sets no name"),
    ],
)
def test_a_definition_that_cannot_be_used_says_why(
    library: Library, columns: tuple[FamilyColumn, ...], rules: tuple[FamilyRule, ...], says: str
) -> None:
    base = FamilyBase(Ref(library.find("LYN-R1608-1K").id))
    table = FamilyTable(
        name="x", definition=FamilyDefinition((base,), "", columns, rules), rows=(FamilyRow({"N": "A", "X": "b"}),)
    )
    assert says in plan_family(library, table).members[0].fault


def test_a_description_that_nothing_sets_is_told_where_the_facts_are_others(library: Library) -> None:
    table = read_family(library, "R")
    rules = tuple(rule for rule in table.definition.rules if rule.sets != "description")
    plan = plan_family(library, replace(table, definition=replace(table.definition, rules=rules)))
    still = "the description is still that of {}; set description by a column or a rule"
    assert {member.name: member.doubts for member in plan.members} == {
        "LYN-R1608-1K5": (still.format("LYN-R1608-1K"),),
        "LYN-R2012-4K75": (still.format("LYN-R2012-1K"),),
        "LYN-R1608-1K": (),
    }


def test_a_blocker_stops_them_all(library: Library) -> None:
    table = read_family(library, "R")
    columns = (*table.definition.columns, FamilyColumn("Maker", ("fact.Manufacturer",)), FamilyColumn("D", ("dims.D",)))
    definition = replace(table.definition, columns=columns)
    rows = (replace(table.rows[0], cells={**table.rows[0].cells, "D": "1.8–1.2"}), *table.rows[1:])
    plan = plan_family(library, replace(table, definition=definition, rows=rows))
    with pytest.raises(BlockedError, match="LYN-R1608-1K5"):
        release_members(library, plan, "note", table)
    assert not library.has_part("LYN-R2012-4K75")


def test_someone_else_who_changes_the_table_is_not_overwritten(library: Library) -> None:
    table = read_family(library, "R")
    plan = plan_family(library, table)
    save_family(library, replace(table, rows=table.rows[1:]), "fewer", replaces=table)
    for act in (lambda: keep_members(library, plan, table), lambda: release_members(library, plan, "n", table)):
        with pytest.raises(ConflictError, match="meanwhile"):
            act()
    for name in ("", "a/b", "..", "ä"):
        with pytest.raises(InputError, match="not a name for a family table"):
            save_family(library, replace(table, name=name), "x", replaces=None)
    with pytest.raises(NotFoundError, match="it has OHC-125, R"):
        read_family(library, "unheard-of")


def test_a_plan_is_cancelled(library: Library) -> None:
    task = Task(lambda share, _what: task.cancel() if share > 0.3 else None)
    with pytest.raises(CancelledError):
        plan_family(library, read_family(library, "OHC-125"), task)


def test_a_damaged_or_newer_table_is_told(library: Library) -> None:
    path = library.folder / "families" / "R.family.json"
    path.write_text(path.read_text(encoding="utf-8").replace("eider-family/1", "eider-family/9"), encoding="utf-8")
    with pytest.raises(InputError, match="newer Eider"):
        read_family(library, "R")
    path.write_text("{", encoding="utf-8")
    with pytest.raises(EiderError, match=r"R\.family\.json is damaged"):
        read_family(library, "R")


def test_rows_come_from_files_and_keep_their_parts(library: Library, tmp_path: Path) -> None:
    table = _released(library)
    write_rows(tmp_path / "rows.xlsx", table)
    read = rows_from_file(tmp_path / "rows.xlsx", table.definition.columns)
    assert [row.cells for row in read.rows] == [row.cells for row in table.rows] and read.doubts == ()
    (tmp_path / "rows.csv").write_text("resistance;Smell;SIZE\n1.5 kΩ;x;1608\n;;\n2 kΩ;;1608\n", encoding="utf-8")
    read = rows_from_file(tmp_path / "rows.csv", table.definition.columns)
    assert read.doubts[-1] == "not columns of the table: Smell"
    merged = merged_rows(table.rows, read.rows, "Resistance")
    assert [(row.cells["Resistance"], row.part) for row in merged] == [("1.5 kΩ", table.rows[0].part), ("2 kΩ", "")]
    (tmp_path / "odd.csv").write_text("a;b\n1;2\n", encoding="utf-8")
    with pytest.raises(InputError, match="none of the headings"):
        rows_from_file(tmp_path / "odd.csv", table.definition.columns)
    typed = entered(table.rows[0], "Resistance", " 3 kΩ ", "someone", "2026-11-28T00:00:00Z")
    assert typed.cells["Resistance"] == "3 kΩ" and typed.evidence["Resistance"].by == "someone"
    assert "Resistance" not in entered(typed, "Resistance", "", "someone", "").cells


def test_a_captured_table_without_members_gives_no_rows() -> None:
    own = next(c for c in captures("OHC-125") if c.dimensions and not c.dimensions.rows[0].member)
    with pytest.raises(InputError, match="no column for members"):
        rows_from_capture(own, (), "ways", "0" * 64, "x")


def test_the_command_shows_keeps_and_releases(library: Library, tmp_path: Path) -> None:
    folder = str(library.folder)
    shown = answer("family", folder, "R")
    assert [(m["name"], m["state"]) for m in shown["members"]] == [
        ("LYN-R1608-1K5", "new"),
        ("LYN-R2012-4K75", "new"),
        ("LYN-R1608-1K", "base"),
    ]
    assert not library.has_part("LYN-R1608-1K5")
    assert answer("family", folder, "R", "--apply")["kept"] == ["LYN-R1608-1K5", "LYN-R2012-4K75"]
    assert library.find("LYN-R1608-1K5").state == "draft"
    assert answer("family", folder, "R", "--release", "all of them")["released"] == 2
    (tmp_path / "rows.csv").write_text("name,value\nLYN-X1,2.2 kΩ\n", encoding="utf-8")
    new = answer(
        "family", folder, "X", "--base", "LYN-R1608-1K", "--column", "name=name", "--column", "value=fact.Resistance",
        "--rule", "fact.Part number={name}", "--rows", str(tmp_path / "rows.csv"), "--save",
    )  # fmt: skip
    assert [(m["name"], m["state"]) for m in new["members"]] == [("LYN-X1", "new")]
    assert "X" in family_names(library)
    file = tmp_path / "family.json"
    file.write_bytes((library.folder / "families" / "X.family.json").read_bytes())
    eider("family", folder, str(file), "--rows-out", str(tmp_path / "out.csv"))
    assert (tmp_path / "out.csv").read_text(encoding="utf-8-sig").splitlines()[1] == "LYN-X1,2.2 kΩ"
    bad = json.loads(file.read_text(encoding="utf-8"))
    bad["definition"]["columns"][1]["sets"] = ["pins"]
    file.write_text(json.dumps(bad), encoding="utf-8")
    assert "not a number of pins" in eider("family", folder, str(file), status=1).stdout
    assert "there is no family table" in eider("family", folder, "none", status=2).stderr
    assert "expected TARGET=TEXT" in eider("family", folder, "R", "--rule", "name", status=2).stderr
