"""Commands on libraries: init, search, release, history, export."""

from pathlib import Path

import click

from eider.cli.library_argument import item_argument, library_argument, opened_library, person_of
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import EiderError, InputError
from eider.library import Library, init_library
from eider.library.git.housekeeping import keep_house
from eider.model.wording import counted
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import documents_of, export_part
from eider.services.publishing.format_registry import export_formats
from eider.services.publishing.library_publishing import publish_by_settings
from eider.services.releasing.library_history import (
    TimelineFilter,
    item_name,
    library_timeline,
    restore_revision,
    write_audit,
)
from eider.services.releasing.part_releasing import BlockedError, release_parts


@click.command("init")
@click.argument("folder", metavar="DIR", type=click.Path(path_type=Path))
@click.option("--name", default="", help="Name of the library; the folder's name unless given.")
@click.option("--user", default="", help="Who works here, as “Name <address>”.")
@click.option("--in-project", is_flag=True, help="As a folder of the git repository around it, not with its own.")
@json_option
def init(folder: Path, name: str, user: str, in_project: bool, as_json: bool) -> None:
    """Make a new library in a new or empty folder."""
    library = init_library(folder, name, person_of(user), in_project=in_project)
    data = {"library": str(folder), "name": library.settings.name, "categories": list(library.settings.categories)}
    finish(data, [f"made the library {library.settings.name} in {folder}"], as_json)


@click.command("release")
@library_argument
@click.argument("items", metavar="ITEM...", nargs=-1, required=True)
@click.option("--note", required=True, help="What was done, and why.")
@json_option
def release(folder: Path, items: tuple[str, ...], note: str, as_json: bool) -> None:
    """Release a part as its next revision; several parts together, all of them or none."""
    library = opened_library(folder)
    rows = [library.find(item) for item in items]
    try:
        with shown_progress() as task:
            released = release_parts(library, [library.load(row.id) for row in rows], note, task)
    except BlockedError as fault:
        refused = {"item": fault.name, "revision": None, "findings": fault.findings}
        click.echo(f"eider: {fault}", err=True)
        finish(refused, finding_lines(fault.findings), as_json, blocked=True)
    data = [
        {"item": row.name, "revision": made.revision, "commit": made.commit, "items": made.items}
        for row, made in zip(rows, released, strict=True)
    ]
    lines = []
    for row, made in zip(rows, released, strict=True):
        lines.append(f"released {row.name} as revision {made.revision}")
        lines += [f"  {entry.kind} {entry.path} revision {entry.revision}" for entry in made.items]
    lines += [word for word in (released[0].behind, keep_house(library), _published(library)) if word]
    finish(data[0] if len(data) == 1 else {"released": data}, lines, as_json)


def _published(library: Library) -> str:
    """What was published after a release where the library says so; what went wrong does not undo the release."""
    try:
        with shown_progress() as task:
            report = publish_by_settings(library, task)
    except EiderError as fault:
        return f"not published: {fault}"
    return f"published: {counted(len(report.written), 'file')} written" if report else ""


@click.command("history")
@library_argument
@click.argument("item", metavar="[ITEM]", required=False)
@click.option("--by", default="", help="Only by this person (part of the name).")
@click.option("--since", default="", metavar="DATE", help="Only since this date, such as 2026-11-28.")
@click.option("--words", default="", help="Only with these words in the name or note.")
@click.option("--all-kinds", is_flag=True, help="Include symbols, footprints, packages, bodies and rulebooks.")
@click.option("--out", type=click.Path(path_type=Path), help="Write them for an audit: CSV, or a workbook (.xlsx).")
@json_option
def history(
    folder: Path,
    item: str | None,
    by: str,
    since: str,
    words: str,
    all_kinds: bool,
    out: Path | None,
    as_json: bool,
) -> None:
    """List the released revisions of a part, or of the whole library: who, when, why."""
    library = opened_library(folder)
    if item is None:
        kinds = () if all_kinds else ("part",)
        revisions = library_timeline(library, TimelineFilter(kinds, by, since, words))
        lines = [f"{r.at}  {r.by}  {item_name(r)} r{r.revision}  {r.note.splitlines()[0]}" for r in revisions]
        name = library.settings.name
    else:
        row = library.find(item)
        revisions, name = library.history(row.id), row.name
        lines = [f"r{r.revision}  {r.at}  {r.by}  {r.note}" for r in revisions] or [f"{name} is not released yet"]
    if out is not None:
        write_audit(out, revisions)
        lines = [f"{out}: {counted(len(revisions), 'revision')}"]
    finish({"item": name, "revisions": revisions, "file": str(out) if out else None}, lines, as_json)


@click.command("restore")
@library_argument
@item_argument
@click.argument("revision", metavar="REV", type=int)
@json_option
def restore(folder: Path, item: str, revision: int, as_json: bool) -> None:
    """Make a working copy that is as an old revision was; released, it is the next one."""
    library = opened_library(folder)
    row = library.find(item)
    made = restore_revision(library, row.id, revision)
    told = f"{made.part.name} is a working copy as revision {revision} was; release it to make it the newest"
    finish({"item": row.name, "restored": revision}, [told], as_json)


@click.command("export")
@library_argument
@click.argument("items", metavar="ITEM...", nargs=-1, required=True)
@click.option(
    "--to", "formats", required=True, metavar="FORMAT[,FORMAT]", help=f"Any of {', '.join(export_formats())}."
)
@click.option("--out", required=True, type=click.Path(path_type=Path), help="The folder to write into.")
@click.option("--revision", type=click.IntRange(min=0), default=0, help="A released revision; the newest unless given.")
@json_option
def export(folder: Path, items: tuple[str, ...], formats: str, out: Path, revision: int, as_json: bool) -> None:
    """Export released parts in open formats; what is not released cannot be taken."""
    library = opened_library(folder)
    keys = [key.strip() for key in formats.split(",") if key.strip()]
    if not keys:
        raise InputError(f"--to names no format; any of {', '.join(export_formats())}")
    files: list[str] = []
    log: list[str] = []
    for item in items:
        row = library.find(item)
        bundle = library.load_release(row.id, revision)
        result = export_part(bundle, keys, out, rules_for(library, bundle), documents_of(library, bundle))
        files += result.files
        log += [f"{row.name}: {entry}" for entry in result.log]
    finish({"files": files, "log": log}, [*files, *log], as_json)
