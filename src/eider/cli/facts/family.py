"""The command family: the members of a family table made, compared with the library, kept or released."""

from pathlib import Path

import click
import msgspec

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.library import Library
from eider.library.documents.family_files import family_names, parse_family, read_family, save_family
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRule, FamilyTable
from eider.model.item_ref import Ref
from eider.model.wording import counted
from eider.services.families.family_rows import merged_rows, rows_from_file, write_rows
from eider.services.families.family_tables import FamilyPlan, PlannedMember, keep_members, plan_family, release_members

replace = msgspec.structs.replace
# Members that are printed one by one, and changes of each.
MOST_MEMBERS, MOST_CHANGES = 60, 4


@click.command("family")
@library_argument
@click.argument("table", metavar="TABLE")
@click.option("--base", "bases", multiple=True, metavar="PART|CELL=PART", help="What members begin as, by a cell.")
@click.option("--by", "chosen_by", default="", help="The column whose cell chooses the base.")
@click.option("--column", "columns", multiple=True, metavar="HEADING=TARGETS", help="A column and what it sets.")
@click.option("--rule", "rules", multiple=True, metavar="TARGET=TEXT", help="What follows from the cells.")
@click.option("--rows", type=click.Path(path_type=Path), help="Take the rows from a CSV or a workbook.")
@click.option("--key", default="", help="The column by which rows of the file are known; the first unless given.")
@click.option("--rows-out", type=click.Path(path_type=Path), help="Write the rows to a CSV or a workbook.")
@click.option("--save", is_flag=True, help="Keep the table with the library, and make no members yet.")
@click.option("--apply", is_flag=True, help="Make working copies of the members that are new or change.")
@click.option("--release", "note", default="", metavar="NOTE", help="Release the members together, with a note.")
@json_option
def family(
    folder: Path,
    table: str,
    bases: tuple[str, ...],
    chosen_by: str,
    columns: tuple[str, ...],
    rules: tuple[str, ...],
    rows: Path | None,
    key: str,
    rows_out: Path | None,
    note: str,
    *,
    save: bool,
    apply: bool,
    as_json: bool,
) -> None:
    """Show what the members of a family table are and how they would change; make or release them on request.

    TABLE is the name of a table of the library, of a new one, or a file *.json. Targets are pins, name, description,
    dims.A, fact.Ways, sheet.columns, distance.1; several stand with commas between.
    """
    library = opened_library(folder)
    stored, made = _opened(library, table, is_new=bool(bases))
    made = _changed(library, made, bases, chosen_by, columns, rules)
    told: list[str] = []
    if rows is not None:
        read = rows_from_file(rows, made.definition.columns)
        by = key or next((c.heading for c in made.definition.columns), "")
        made, told = replace(made, rows=merged_rows(made.rows, read.rows, by)), list(read.doubts)
    if rows_out is not None:
        write_rows(rows_out, made)
    with shown_progress() as task:
        plan = plan_family(library, made, task)
        released = 0
        if note:
            released = len(release_members(library, plan, note, stored, task)[1])
        elif apply:
            keep_members(library, plan, stored, task)
        elif save:
            save_family(library, made, f"family table {made.name} kept", replaces=stored)
    _print(plan, told, kept=apply and not note, released=released, as_json=as_json)


def _opened(library: Library, table: str, *, is_new: bool) -> tuple[FamilyTable | None, FamilyTable]:
    """The table of the library, and the one at hand."""
    path = Path(table)
    if path.suffix == ".json":
        if not path.is_file():
            raise InputError(f"{path} is not there; name a file, or a table of the library")
        made = parse_family(path.read_bytes(), str(path))
        return (read_family(library, made.name) if made.name in family_names(library) else None), made
    if table in family_names(library) or not is_new:
        stored = read_family(library, table)
        return stored, stored
    return None, FamilyTable(name=table)


def _changed(
    library: Library,
    table: FamilyTable,
    bases: tuple[str, ...],
    chosen_by: str,
    columns: tuple[str, ...],
    rules: tuple[str, ...],
) -> FamilyTable:
    old = table.definition
    made_bases = tuple(_base(library, text) for text in bases)
    made_columns = tuple(FamilyColumn(*_pair(text, "column")) for text in columns)
    made_rules = tuple(FamilyRule(*_rule(text)) for text in rules)
    definition = FamilyDefinition(
        made_bases or old.bases, chosen_by or old.chosen_by, made_columns or old.columns, made_rules or old.rules
    )
    return replace(table, definition=definition)


def _base(library: Library, text: str) -> FamilyBase:
    cell, _, name = text.rpartition("=")
    row = library.find(name.strip())
    return FamilyBase(Ref(row.id, row.name), cell.strip())


def _pair(text: str, option: str) -> tuple[str, tuple[str, ...]]:
    heading, _, targets = text.partition("=")
    if not heading.strip():
        raise InputError(f"--{option} {text}: expected HEADING=TARGETS, such as ways=pins,fact.Ways")
    return heading.strip(), tuple(target.strip() for target in targets.split(",") if target.strip())


def _rule(text: str) -> tuple[str, str]:
    target, equals, template = text.partition("=")
    if not equals or not target.strip():
        raise InputError(f"--rule {text}: expected TARGET=TEXT, such as name=OHC-125-{{ways|02}}R")
    return target.strip(), template.strip()


def _print(plan: FamilyPlan, told: list[str], *, kept: bool, released: int, as_json: bool) -> None:
    findings = [finding for member in plan.members for finding in member.findings]
    data = {
        "table": plan.table.name,
        "members": [_data(member) for member in plan.members],
        "findings": findings,
        "doubts": [*told, *plan.doubts],
        "kept": [m.name for m in plan.to_keep] if kept else [],
        "released": released,
    }
    lines = [line for member in plan.members[:MOST_MEMBERS] for line in _lines(member)]
    if len(plan.members) > MOST_MEMBERS:
        lines.append(f"and {counted(len(plan.members) - MOST_MEMBERS, 'more member')}")
    lines += [*told, *plan.doubts, _summary(plan)]
    if kept:
        lines.append(f"{counted(len(plan.to_keep), 'working copy', 'working copies')} saved")
    if released:
        lines.append(f"{counted(released, 'part')} released")
    finish(data, lines, as_json, blocked=plan.count("fault") > 0)


def _data(member: PlannedMember) -> dict[str, object]:
    return {
        "name": member.name,
        "row": member.row + 1,
        "state": member.state,
        "changes": member.changes,
        "by_hand": member.by_hand,
        "doubts": member.doubts,
        "fault": member.fault,
        "counts": member.part.counts if member.part else {},
    }


def _lines(member: PlannedMember) -> list[str]:
    counts = member.part.counts if member.part else {}
    found = ", ".join(f"{counted(n, severity)}" for severity, n in counts.items() if n)
    lines = [f"{member.name}: {member.fault or member.state}{f'; {found}' if found else ''}"]
    lines += [f"    {words}" for words in member.changes[:MOST_CHANGES]]
    if len(member.changes) > MOST_CHANGES:
        lines.append(f"    and {counted(len(member.changes) - MOST_CHANGES, 'more change')}")
    lines += [f"    changed by hand, stays: {place}" for place in member.by_hand[:MOST_CHANGES]]
    return [*lines, *(f"    {doubt}" for doubt in member.doubts)]


def _summary(plan: FamilyPlan) -> str:
    states = ("new", "changed", "same", "base", "fault")
    told = ", ".join(f"{plan.count(state)} {state}" for state in states if plan.count(state))  # type: ignore[arg-type]
    return f"{plan.table.name}: {counted(len(plan.members), 'member')}: {told or 'none'}"
