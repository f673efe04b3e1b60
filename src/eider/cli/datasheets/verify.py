"""The command verify: every cited value read again in its datasheet."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.model.wording import counted
from eider.services.datasheets.evidence_verification import verify_parts


@click.command("verify")
@library_argument
@click.argument("items", metavar="[ITEM]...", nargs=-1)
@json_option
def verify(folder: Path, items: tuple[str, ...], as_json: bool) -> None:
    """Read every value that cites a place in a datasheet there again, and print those that differ."""
    library = opened_library(folder)
    rows = [library.find(item) for item in items] if items else library.search()
    with shown_progress() as task:
        found = list(verify_parts(library, rows, task))
    by = {outcome: [v for v in found if v.outcome == outcome] for outcome in ("same", "moved", "differs", "unreadable")}
    differs = [
        {"item": v.item, "address": v.address, "was": v.was, "reads": v.reads, "page": v.page} for v in by["differs"]
    ]
    data = {
        "values": len(found),
        "same": len(by["same"]),
        "moved": len(by["moved"]),
        "differs": differs,
        "unreadable": len(by["unreadable"]),
        "why": [{"item": v.item, "address": v.address, "page": v.page, "why": v.reads} for v in by["unreadable"]],
    }
    lines = [f"{v.item} {v.address}, page {v.page}: was “{v.was}”, reads “{v.reads}”" for v in by["differs"]]
    lines += [f"{v.item} {v.address}, page {v.page}: {v.reads}" for v in by["unreadable"]]
    counts = ", ".join(f"{len(values)} {outcome}" for outcome, values in by.items())
    finish(data, [*lines, f"{counted(len(found), 'cited value')}: {counts}"], as_json, blocked=bool(differs))
