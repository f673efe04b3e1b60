"""The command facts: the facts of many parts as a table, out and in again."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.commands.fact_table import FactChange, changes_between, spelling_groups
from eider.errors import InputError
from eider.library import Library
from eider.model.wording import counted
from eider.services.fact_tables import keep_fact_changes, open_fact_table, read_fact_table, write_fact_table

# Changes that are printed one by one.
MOST_SHOWN = 40


@click.command("facts")
@library_argument
@click.argument("words", nargs=-1)
@click.option(
    "--out", type=click.Path(path_type=Path), help="Write the table to this file: CSV, or a workbook (.xlsx)."
)
@click.option("--from", "source", type=click.Path(path_type=Path), help="Show what a table would change.")
@click.option("--keep", is_flag=True, help="With --from: make working copies of the parts that change.")
@json_option
def facts(
    folder: Path, words: tuple[str, ...], out: Path | None, source: Path | None, *, keep: bool, as_json: bool
) -> None:
    """Print the facts of the parts that are found as a table, or change them by a table that was edited elsewhere."""
    library = opened_library(folder)
    if source is None:
        if keep:
            raise InputError("--keep needs --from: name the table that holds the changes")
        _print(library, " ".join(words), out, as_json=as_json)
    elif out is not None or words:
        raise InputError("--from takes the parts that the file names; leave out words and --out")
    else:
        _change(library, source, keep=keep, as_json=as_json)


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


def _change(library: Library, source: Path, *, keep: bool, as_json: bool) -> None:
    read = read_fact_table(library, source)
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
    if keep:
        with shown_progress() as task:
            kept = keep_fact_changes(library, changes, library.person().name, task)
        data |= {"kept": kept.kept, "left": [{"part": part, "why": why} for part, why in kept.left]}
        lines += [f"{part} was left: {why}" for part, why in kept.left]
        lines.append(f"{counted(len(kept.kept), 'working copy', 'working copies')} saved")
    else:
        lines.append(f"{counted(len(changes), 'change')}; --keep saves them as working copies")
    finish(data, lines, as_json)


def _line(change: FactChange) -> str:
    return f"{change.part}: {change.name}: {change.before or '(empty)'} → {change.after or '(empty)'}"
