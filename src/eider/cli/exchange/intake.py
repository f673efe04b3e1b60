"""The command intake: what is in files from elsewhere, and what of it is taken."""

import tempfile
from pathlib import Path

import click
from msgspec.structs import replace

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.library import Library
from eider.model.codec import decode
from eider.model.intake import INTAKE_ITEMS, IntakeMap
from eider.model.wording import counted
from eider.services.intake.arrivals import look_into
from eider.services.intake.intake_mapping import known_sources, learn_source, reading_hints
from eider.services.intake.intake_reading import IntakePart, chosen_parts, held_against
from eider.services.intake.intake_taking import IntakeTaken, TakingChoice, items_of, take_parts
from eider.services.intake.intake_waiting import delivery_paths, keep_delivery, waiting_deliveries

MOST_SHOWN = 5


@click.command("intake")
@library_argument
@click.argument("files", metavar="[FILE]...", nargs=-1, type=click.Path(path_type=Path))
@click.option("--map", "mapping", type=click.Path(path_type=Path), help="How names become the library's (JSON).")
@click.option("--source", default="", help="What the source is called: its map is learned, and used the next time.")
@click.option("--accept", multiple=True, metavar="new|all|NAME", help="Take these as drafts; nothing is taken without.")
@click.option("--item", "items", multiple=True, type=click.Choice(INTAKE_ITEMS), help="Take only this of a part.")
@click.option("--own", is_flag=True, help="Take items as the part's own, also where the library has the same.")
@click.option("--keep", is_flag=True, help="Let the files wait in the library.")
@json_option
def intake(
    folder: Path,
    files: tuple[Path, ...],
    mapping: Path | None,
    source: str,
    accept: tuple[str, ...],
    items: tuple[str, ...],
    own: bool,
    keep: bool,
    as_json: bool,
) -> None:
    """Print what files, folders or archives hold, compared with the library; take what is accepted as drafts.

    Without files, what waits in the library is looked at.
    """
    library = opened_library(folder)
    rules = _rules(library, mapping, source)
    paths = files or tuple(path for delivery in waiting_deliveries(library) for path in delivery_paths(delivery))
    if not paths:
        raise InputError("nothing waits in the library; name the files to look into")
    with tempfile.TemporaryDirectory(prefix="eider-intake-") as unpacked, shown_progress() as task:
        if keep and files:
            keep_delivery(library, files, source, task)
        arrival = look_into(paths, Path(unpacked), task, reading_hints(rules))
        parts, left = held_against(library, arrival, rules, task)
        done = IntakeTaken((), ())
        if accept:
            choice = TakingChoice(items_of(items), share=not own)
            done = take_parts(library, arrival, chosen_parts(parts, accept), task, rules, choice)
            if source:
                learn_source(library, source, rules)
    log = [*arrival.log, *left, *done.log]
    data = {"found": [_data(part) for part in parts], "taken": done.taken, "log": log, "layers": arrival.layers}
    lines = [line for part in parts for line in _lines(part)]
    lines += [*log, f"{counted(len(parts), 'part')} found, {len(done.taken)} taken"]
    finish(data, lines, as_json)


def _rules(library: Library, mapping: Path | None, source: str) -> IntakeMap:
    """The map that was given, over what was learned of the source."""
    known = known_sources(library).get(source, IntakeMap())
    if mapping is None:
        return known
    try:
        given = decode(mapping.read_bytes(), IntakeMap, str(mapping))
    except OSError as fault:
        raise InputError(f"{mapping} cannot be read: {fault.strerror}") from fault
    mapped = ("names", "facts", "layers", "corrections", "packages")
    merged = {name: {**getattr(known, name), **getattr(given, name)} for name in mapped}
    plain = {name: getattr(given, name) or getattr(known, name) for name in ("category", "unit", "licence")}
    return replace(given, **merged, **plain)


def _data(part: IntakePart) -> dict[str, object]:
    return {
        "name": part.name,
        "kind": ", ".join(part.found.kinds),
        "from": part.found.source,
        "state": part.state,
        "missing": part.missing,
        "differences": part.differences,
        "doubts": part.doubts,
        "came_as": part.came_as,
        "lands": _lands(part),
        "faults": [{"fault": fault.words, "corrections": fault.corrections} for fault in part.faults],
        "same_lands": part.like.lands[1],
        "same_pins": part.like.pins[1],
    }


def _lands(part: IntakePart) -> dict[str, object] | None:
    reading = part.reading
    if reading is None:
        return None
    rows = [row._asdict() for row in reading.rows]
    return {"form": reading.form, "rows": rows, "families": reading.families, "joints": part.joints}


def _lines(part: IntakePart) -> list[str]:
    told = [f"lands: {part.reading.words}"] if part.reading else []
    told += [part.joints] if part.joints else []
    told += [
        f"{fault.words} (correct with: {', '.join(fault.corrections) or 'your own changes'})" for fault in part.faults
    ]
    told += [f"the library has the same lands: {part.like.lands[1]}"] if part.like.lands[1] else []
    told += [*part.differences[:MOST_SHOWN], *part.missing, *part.doubts] if part.state != "same" else part.doubts
    return [
        f"{part.name}: {part.state}, {', '.join(part.found.kinds)} from {part.found.source}",
        *(f"    {t}" for t in told),
    ]
