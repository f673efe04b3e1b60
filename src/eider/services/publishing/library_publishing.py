"""Publishes a library: a folder with every released part in chosen formats, brought up to date whole or not at all.

What is new is first written aside; then a note says what is to be moved where, and the moves are made. Whoever finds
the note finishes them: a killed process leaves the old state or the new one.
"""

import hashlib
import shutil
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from pathlib import Path

import msgspec

from eider.errors import InputError
from eider.library import Library
from eider.library.atomic_files import told_as, write_atomic
from eider.library.errors import LibraryError
from eider.library.item_paths import safe_name
from eider.library.library_files import LibraryFiles
from eider.library.settings.settings_file import save_section, toml_value
from eider.model.codec import DocumentError, decode, encode
from eider.model.library import PublishSettings
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import Exported, ExportRequest, documents_of
from eider.services.publishing.format_registry import export_format
from eider.services.sharing.roles import require_role
from eider.services.tasks import Task

PUBLISH_FORMAT = "eider-publish/1"
MANIFEST, STAGING, NOTE = "manifest.json", ".eider-publish", ".eider-publish/moves.json"
WITHDRAWN = "withdrawn"
READ_ONLY = 0o444
RunExport = Callable[[ExportRequest], Exported]


class PublishedPart(msgspec.Struct, frozen=True):
    """A published part: its revision, the folder of its files, and the SHA-256 of each of these."""

    id: str
    name: str
    revision: int
    folder: str
    files: dict[str, str]


class PublishManifest(msgspec.Struct, frozen=True):
    """What a published folder holds; other programs read it to see what is new."""

    format: str
    library: str
    formats: tuple[str, ...]
    parts: tuple[PublishedPart, ...]


class PublishReport(msgspec.Struct, frozen=True):
    """What was done: files written and folders removed, how many parts there are, and what could not be written."""

    written: tuple[str, ...]
    removed: tuple[str, ...]
    parts: int
    manifest: str
    log: tuple[str, ...] = ()


class _Moves(msgspec.Struct, frozen=True):
    """What is left to be done once everything has been written aside."""

    moved: tuple[str, ...]
    removed: tuple[str, ...]
    manifest: PublishManifest


class _Wanted(msgspec.Struct, frozen=True):
    id: str
    name: str
    revision: int
    folder: str


def _here(request: ExportRequest) -> Exported:
    return request()


def publish_library(
    library: Library, folder: Path, keys: Sequence[str], task: Task | None = None, run: RunExport = _here
) -> PublishReport:
    """Bring a published folder up to date with the released parts of a library; `run` tells where parts are written.

    Raises:
        InputError: a format is not known, or the folder holds something else.
        LibraryError: it cannot be written; what was published is as it was. CancelledError: the same.
    """
    task, formats = task or Task(), tuple(export_format(key).key for key in keys)
    files = _opened(folder)
    before = _finished(files)
    known = {part.id: part for part in before.parts} if before and before.formats == formats else {}
    wanted = tuple(_wanted(library, known))
    kept = {w.id: known[w.id] for w in wanted if w.id in known and _is_there(folder, known[w.id], w)}
    changed = [w for w in wanted if w.id not in kept]
    log: list[str] = []
    made: dict[str, PublishedPart] = {}
    try:
        for index, part in enumerate(changed):
            task.report(index / max(len(changed), 1), f"writing {part.name}")
            made[part.id], told = _write_aside(library, folder / STAGING, part, formats, run)
            log += told
    except BaseException:
        shutil.rmtree(folder / STAGING, ignore_errors=True)
        raise
    parts = tuple(kept.get(w.id) or made[w.id] for w in wanted)
    used = {part.folder for part in parts}
    removed = tuple(part.folder for part in (before.parts if before else ()) if part.folder not in used)
    manifest = PublishManifest(PUBLISH_FORMAT, library.settings.name, formats, parts)
    if made or removed or manifest != before:
        moves = _Moves(tuple(part.folder for part in made.values()), removed, manifest)
        files.write(NOTE, encode(moves).encode())
        _apply(files, moves)
    written = tuple(f"{part.folder}/{name}" for part in made.values() for name in part.files)
    return PublishReport(written, removed, len(parts), str(folder / MANIFEST), tuple(log))


def publish_folder(library: Library, publish: PublishSettings) -> Path:
    """The folder that settings name, from that of the library where they name no absolute one."""
    return library.folder / Path(publish.folder).expanduser()


def publish_by_settings(library: Library, task: Task | None = None) -> PublishReport | None:
    """Publish as the settings say, after a release; None where they do not say that it is wanted.

    Raises:
        InputError, LibraryError: it could not be done; the release stands.
    """
    publish = library.settings.publish
    return publish_library(library, publish_folder(library, publish), publish.formats, task) if publish else None


def keep_publishing(library: Library, publish: PublishSettings | None) -> None:
    """Set how the library is published after each release, or stop that; only a librarian may.

    Raises:
        RoleError: the person is not a librarian. ConflictError, ReadOnlyError: nothing was changed.
    """
    require_role(library, "settings")
    before = library.settings.publish
    if publish == before:
        return
    lines, note = list[str](), "publish no more after releases"
    if publish is not None:
        named = f"folder = {toml_value(publish.folder)}", f"formats = {toml_value(publish.formats)}"
        lines, note = ["", "[publish]", *named], f"publish into {publish.folder}"
    save_section(library, "publish", publish, lines, note, replaces=before)


def _opened(folder: Path) -> LibraryFiles:
    """The folder, made where it is missing; one that holds something else is refused."""
    with told_as(folder):
        folder.mkdir(parents=True, exist_ok=True)
        is_other = any(folder.iterdir()) and not any((folder / name).exists() for name in (MANIFEST, STAGING))
    if is_other:
        raise InputError(f"{folder} holds something else; publish into a new or empty folder")
    return LibraryFiles(folder)


def _finished(files: LibraryFiles) -> PublishManifest | None:
    """Finish what a killed process left; returns what is published, None before the first time."""
    note = files.read(NOTE)
    if note is not None:
        with suppress(DocumentError):
            _apply(files, decode(note, _Moves, NOTE))
    shutil.rmtree(files.folder / STAGING, ignore_errors=True)
    data = files.read(MANIFEST)
    if data is None:
        return None
    try:
        found = decode(data, PublishManifest, MANIFEST)
    except DocumentError as fault:
        raise LibraryError(f"{files.path(MANIFEST)} is not a manifest of Eider; publish into a new folder") from fault
    if found.format != PUBLISH_FORMAT:
        raise LibraryError(f"{files.path(MANIFEST)} has the format {found.format}; update Eider, or use a new folder")
    return found


def _wanted(library: Library, known: dict[str, PublishedPart]) -> Iterator[_Wanted]:
    """The newest released revision of every part, and its folder: withdrawn ones lie aside."""
    used: set[str] = set()
    for row in library.find_parts("", with_withdrawn=True).rows:
        revision = library.index.newest_revision(row.id)
        if not revision:
            continue
        # A part that is being worked on is published as it was released, under its released name.
        is_copy = row.state in ("changed", "draft")
        part = library.load_release(row.id).part if is_copy else None
        name = part.name if part else row.name
        is_withdrawn = part.withdrawn is not None if part else row.state == "withdrawn"
        place = f"{WITHDRAWN}/{safe_name(name)}" if is_withdrawn else f"parts/{safe_name(name)}"
        before = known.get(row.id)
        if before and before.folder in (place, f"{place}~{row.id}"):
            place = before.folder
        if place in used:
            place = f"{place}~{row.id}"
        used.add(place)
        yield _Wanted(row.id, name, revision, place)


def _is_there(folder: Path, part: PublishedPart, wanted: _Wanted) -> bool:
    is_same = (part.name, part.revision, part.folder) == (wanted.name, wanted.revision, wanted.folder)
    return is_same and all((folder / part.folder / name).is_file() for name in part.files)


def _write_aside(
    library: Library, staging: Path, part: _Wanted, formats: tuple[str, ...], run: RunExport
) -> tuple[PublishedPart, list[str]]:
    """Write a part below the staging folder; returns it, and what of it could not be written."""
    bundle, place = library.load_release(part.id), staging / part.folder
    request = ExportRequest(bundle, formats, str(place), rules_for(library, bundle), documents_of(library, bundle))
    exported = run(request)
    told = [f"{part.name}: {line}" for line in exported.log if "not written" in line or "withdrawn" in line]
    sums = {}
    for name in sorted(exported.files):
        path = Path(name)
        with told_as(path):
            sums[path.relative_to(place).as_posix()] = hashlib.sha256(path.read_bytes()).hexdigest()
            path.chmod(READ_ONLY)
    return PublishedPart(part.id, part.name, part.revision, part.folder, sums), told


def _apply(files: LibraryFiles, moves: _Moves) -> None:
    """Make the moves that were not made yet; the manifest comes last."""
    folder = files.folder
    with told_as(folder):
        for place in moves.moved:
            aside, target = folder / STAGING / place, files.path(place)
            if aside.is_dir():
                shutil.rmtree(target, ignore_errors=True)
                target.parent.mkdir(parents=True, exist_ok=True)
                aside.rename(target)
        for place in moves.removed:
            shutil.rmtree(files.path(place), ignore_errors=True)
    write_atomic(folder / MANIFEST, encode(moves.manifest).encode())
    shutil.rmtree(folder / STAGING, ignore_errors=True)
