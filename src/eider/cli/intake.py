"""The command intake: what is in files from elsewhere, and what of it is taken."""

import tempfile
from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.model.codec import decode
from eider.model.wording import counted
from eider.services.arrivals import look_into
from eider.services.intake import (
    IntakeMap,
    IntakePart,
    IntakeTaken,
    chosen_parts,
    held_against,
    take_parts,
)

MOST_SHOWN = 5


@click.command("intake")
@library_argument
@click.argument("files", metavar="FILE...", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--map", "mapping", type=click.Path(path_type=Path), help="How names become the library's (JSON).")
@click.option("--accept", multiple=True, metavar="new|all|NAME", help="Take these as drafts; nothing is taken without.")
@json_option
def intake(folder: Path, files: tuple[Path, ...], mapping: Path | None, accept: tuple[str, ...], as_json: bool) -> None:
    """Print what files, folders or archives hold, held against the library; take what is accepted as drafts."""
    library = opened_library(folder)
    rules = decode(mapping.read_bytes(), IntakeMap, str(mapping)) if mapping else IntakeMap()
    with tempfile.TemporaryDirectory(prefix="eider-intake-") as unpacked, shown_progress() as task:
        arrival = look_into(files, Path(unpacked), task)
        parts, left = held_against(library, arrival, rules, task)
        done = IntakeTaken((), ())
        if accept:
            done = take_parts(library, arrival, chosen_parts(parts, accept), task)
    log = [*arrival.log, *left, *done.log]
    data = {"found": [_data(part) for part in parts], "taken": done.taken, "log": log}
    lines = [line for part in parts for line in _lines(part)]
    lines += [*log, f"{counted(len(parts), 'part')} found, {len(done.taken)} taken"]
    finish(data, lines, as_json)


def _data(part: IntakePart) -> dict[str, object]:
    return {
        "name": part.name,
        "kind": ", ".join(part.found.kinds),
        "from": part.found.source,
        "state": part.state,
        "missing": part.missing,
        "differences": part.differences,
        "doubts": part.doubts,
    }


def _lines(part: IntakePart) -> list[str]:
    told = [*part.differences[:MOST_SHOWN], *part.missing, *part.doubts] if part.state != "same" else part.doubts
    return [
        f"{part.name}: {part.state}, {', '.join(part.found.kinds)} from {part.found.source}",
        *(f"    {t}" for t in told),
    ]
