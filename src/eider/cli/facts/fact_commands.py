"""The command facts: the facts of many parts as a table, out and in again."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.facts.fact_table import FactChange, changes_between, spelling_groups
from eider.errors import InputError
from eider.library import Library
from eider.model.wording import counted
from eider.services.facts.fact_tables import (
    ReadFacts,
    keep_fact_changes,
    open_fact_table,
    read_fact_table,
    set_facts,
    write_fact_table,
)

# Changes that are printed one by one.
MOST_SHOWN = 40


@click.command("facts")
@library_argument
@click.argument("words", nargs=-1)
@click.option(
    "--out", type=click.Path(path_type=Path), help="Write the table to this file: CSV, or a workbook (.xlsx)."
)
@click.option("--from", "source", type=click.Path(path_type=Path), help="Change the parts that a table names.")
@click.option("--set", "values", multiple=True, metavar="NAME=VALUE", help="Change a fact of the parts that are found.")
@click.option("--dry-run", is_flag=True, help="With --from and --set: print the changes and save nothing.")
@json_option
def facts(
    folder: Path,
    words: tuple[str, ...],
    out: Path | None,
    source: Path | None,
    values: tuple[str, ...],
    *,
    dry_run: bool,
    as_json: bool,
) -> None:
    """Print the facts of the parts that are found as a table, or change them; changed parts become working copies."""
    library = opened_library(folder)
    if source is not None:
        if out is not None or words or values:
            raise InputError("--from takes the parts and values that the file names; leave out words, --set and --out")
        _change(library, read_fact_table(library, source), dry_run=dry_run, as_json=as_json)
    elif values:
        if out is not None or not words:
            raise InputError("--set needs the words that the parts are found by, and no --out; “*” finds all parts")
        found = set_facts(library, " ".join(words), dict(map(_value, values)))
        _change(library, found, dry_run=dry_run, as_json=as_json)
    elif dry_run:
        raise InputError("--dry-run needs --from or --set: name what is to change")
    else:
        _print(library, " ".join(words), out, as_json=as_json)


def _value(text: str) -> tuple[str, str]:
    name, equals, value = text.partition("=")
    if not equals or not name.strip():
        raise InputError(f"--set {text}: expected NAME=VALUE, such as Lifecycle=active; an empty value clears the fact")
    return name.strip(), value.strip()


def _print(library: Library, words: str, out: Path | None, *, as_json: bool) -> None:
    table = open_fact_table(library, words)
    groups = spelling_groups(table.parts, library.settings)
    told = [
        f"{group.meant} is also spelled {', '.join(f'{name} ({n})' for name, n in group.others)}" for group in groups
    ]
    if out is not None:
        write_fact_table(out, table)
        lines = [f"{out}: {counted(len(table.parts), 'part')}, {counted(len(table.names), 'fact')}", *told]
    else:
        lines = [f"{p.name}: {'; '.join(f'{name} {text}' for name, text in p.facts.items())}" for p in table.parts]
        lines += told
    data = {
        "file": str(out) if out else None,
        "names": table.names,
        "parts": [{"name": part.name, "category": part.category, "facts": part.facts} for part in table.parts],
        "spellings": [{"meant": group.meant, "others": dict(group.others)} for group in groups],
    }
    finish(data, lines, as_json)


def _change(library: Library, read: ReadFacts, *, dry_run: bool, as_json: bool) -> None:
    changes = list(changes_between(read.before, read.after))
    data = {
        "changes": [change._asdict() for change in changes],
        "doubts": read.doubts,
        "kept": [],
        "left": [],
    }
    lines = [*(_line(change) for change in changes[:MOST_SHOWN]), *read.doubts]
    if len(changes) > MOST_SHOWN:
        lines.append(f"and {counted(len(changes) - MOST_SHOWN, 'more change')}")
    if not dry_run:
        with shown_progress() as task:
            kept = keep_fact_changes(library, changes, library.person().name, task)
        data |= {"kept": kept.kept, "left": [{"part": part, "why": why} for part, why in kept.left]}
        lines += [f"{part} was skipped: {why}" for part, why in kept.left]
        lines.append(f"{counted(len(kept.kept), 'working copy', 'working copies')} saved")
    else:
        lines.append(f"{counted(len(changes), 'change')}; nothing was saved")
    finish(data, lines, as_json)


def _line(change: FactChange) -> str:
    return f"{change.part}: {change.name}: {change.before or '(empty)'} → {change.after or '(empty)'}"
