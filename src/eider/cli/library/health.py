"""The commands report and duplicates: how a library is, and what is in it twice."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.library import Library
from eider.library.index.item_reader import ItemHead
from eider.model.codec import to_data
from eider.model.wording import counted
from eider.reports.health_page import health_lines
from eider.services.checking.duplicates import find_duplicates, merge_items, merged_words
from eider.services.checking.library_health import library_health, require_report_name, save_report


@click.command("report")
@library_argument
@click.option(
    "--out", required=True, type=click.Path(path_type=Path), metavar="FILE", help="A page (.html) or the data (.json)."
)
@json_option
def report(folder: Path, out: Path, as_json: bool) -> None:
    """Write the health of a library: evidence, findings, bodies, datasheets, duplicates, each with its parts."""
    require_report_name(out)
    library = opened_library(folder)
    with shown_progress() as task:
        health = library_health(library, task)
    save_report(out, health)
    finish({"file": str(out), **to_data(health)}, [*health_lines(health), f"wrote {out}"], as_json)


@click.command("duplicates")
@library_argument
@click.option(
    "--merge",
    nargs=2,
    metavar="KEEP OTHER",
    help="Move all parts that use an item OTHER to the item KEEP (ids, or names where they are clear).",
)
@json_option
def duplicates(folder: Path, merge: tuple[str, str] | None, as_json: bool) -> None:
    """Find items that are equal or nearly so, and parts with one orderable number; merge them on request."""
    library = opened_library(folder)
    with shown_progress() as task:
        if merge:
            keep, other = (_one_item(library, name) for name in merge)
            names = merge_items(library, keep, other, task)
            finish({"kept": keep.id, "merged": other.id, "parts": names}, [merged_words(keep, other, names)], as_json)
        found = find_duplicates(library, task)
    lines = [f"{one.words} ({', '.join(one.ids)})" for one in found]
    finish({"duplicates": found}, [*lines, counted(len(found), "duplicate")], as_json)


def _one_item(library: Library, name: str) -> ItemHead:
    library.index.refresh()
    named = library.index.items_named(name)
    if len(named) != 1:
        why = "no released item is called so" if not named else f"{counted(len(named), 'item')} are called so"
        raise InputError(f"{name}: {why}; eider duplicates prints the ids")
    return named[0]
