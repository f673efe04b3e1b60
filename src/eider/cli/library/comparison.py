"""The command diff: how two states of a part, or two parts, differ."""

from pathlib import Path

import click

from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.errors import InputError, NotFoundError
from eider.library import Library
from eider.library.git.revision_compare import compare_revisions
from eider.model.codec import to_data
from eider.services.releasing.part_comparison import StateChoice, compare_bundles, load_state, save_comparison

WORKING = "working"


@click.command("diff")
@library_argument
@item_argument
@click.argument("before", metavar="REV")
@click.argument("after", metavar="REV")
@click.option("--with", "other", default="", metavar="ITEM", help="The second revision is that of another part.")
@click.option("--out", type=click.Path(path_type=Path), metavar="FILE.pdf", help="The drawings over each other.")
@json_option
def diff(folder: Path, item: str, before: str, after: str, other: str, out: Path | None, as_json: bool) -> None:
    """Show how two revisions of a part and all that belongs to it differ; `working` is the working copy."""
    library = opened_library(folder)
    choices = [_choice(library, item, before), _choice(library, other or item, after)]
    old, new = (load_state(library, choice) for choice in choices)
    plain = list(compare_revisions(to_data(old), to_data(new)))
    found = compare_bundles(old, new, choices[0].words, choices[1].words)
    if out is not None:
        save_comparison(out, found)
    data = {
        "item": choices[0].name,
        "from": _named(before),
        "to": _named(after),
        "differences": [{"place": d.place, "before": d.before, "after": d.after, "words": d.words} for d in plain],
        "words": found.differences,
        "drawings": {drawing.title: "same" if drawing.is_same else "differs" for drawing in found.drawings},
        "pins": [pin for pin in found.pins if not pin.is_same],
        "values": [value for value in found.values if not value.is_same],
        "file": str(out) if out else None,
    }
    lines = [*found.differences] or [d.words for d in plain] or ["no differences"]
    finish(data, [*lines, *([f"wrote {out}"] if out else [])], as_json)


def _choice(library: Library, item: str, revision: str) -> StateChoice:
    row = library.find(item)
    if revision == WORKING:
        return StateChoice(row.id, row.name, 0)
    if not revision.isdecimal():
        raise InputError(f"“{revision}” is not a revision: a number from 1, or {WORKING} for the working copy")
    if library.revision(row.id, int(revision)) is None:
        raise NotFoundError(f"{row.name} has no revision {revision}; eider history lists them")
    return StateChoice(row.id, row.name, int(revision))


def _named(revision: str) -> int | str:
    return int(revision) if revision.isdecimal() else revision
