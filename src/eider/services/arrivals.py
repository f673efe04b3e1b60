"""What is in files, folders and archives that arrived: every file recognised by its content, parts put together."""

import zipfile
from collections.abc import Iterator, Sequence
from pathlib import Path, PurePosixPath

import msgspec

from eider.errors import EiderError, InputError
from eider.exchange.archives import opened_archive
from eider.exchange.format_spec import FormatSpec
from eider.exchange.found_parts import FoundFile, FoundPart, grouped_parts
from eider.exchange.part_tables import found_pins
from eider.exchange.reading_hints import NO_HINTS, ReadingHints
from eider.library.library_files import checked_path
from eider.services.format_registry import HEAD, all_formats
from eider.services.tasks import Task

# A delivery of more files is one for several runs.
MOST_FILES = 100_000
IGNORED = frozenset({".DS_Store", "Thumbs.db", "desktop.ini"})


class Arrival(msgspec.Struct, frozen=True):
    """The parts of a delivery, documents by their sum, and what was not understood or left out, with its file.

    `layers` are the layers of its drawings by name, each with what it was taken for.
    """

    parts: tuple[FoundPart, ...]
    documents: dict[str, bytes]
    log: tuple[str, ...]
    layers: dict[str, str] = {}


def look_into(
    paths: Sequence[Path], unpacked: Path, task: Task | None = None, hints: ReadingHints = NO_HINTS
) -> Arrival:
    """Read everything in files, folders and archives; files of archives are unpacked below `unpacked`.

    Raises:
        InputError: a path is not there, or there are too many files. CancelledError: the user cancelled.
    """
    task, log = task or Task(), list[str]()
    files = list(_all_files(paths, unpacked, log))
    found: list[FoundPart] = []
    documents: dict[str, bytes] = {}
    layers: dict[str, str] = {}
    for index, path in enumerate(files):
        task.report(index / len(files), f"reading {path.name}")
        try:
            read = read_arrived(path, hints)
        except (EiderError, OSError) as fault:
            log.append(str(fault) if path.name in str(fault) else f"{path.name}: {fault}")
            continue
        found += read.parts
        documents |= read.documents
        layers |= read.layers
        log += [f"{path.name}: {told}" for told in read.log]
    return Arrival(grouped_parts(found), documents, tuple(log), layers)


def _all_files(paths: Sequence[Path], unpacked: Path, log: list[str]) -> Iterator[Path]:
    """The files in folders and archives, by name; links are not followed."""
    count = 0
    for path in paths:
        if not path.exists():
            raise InputError(f"{path} is not there; check the name")
        inside = sorted(p for p in path.rglob("*") if p.is_file() and not p.is_symlink()) if path.is_dir() else [path]
        for file in inside:
            if file.name in IGNORED or file.name.startswith("."):
                continue
            for one in _unpacked(file, unpacked / str(count), log) if _is_archive(file) else [file]:
                count += 1
                if count > MOST_FILES:
                    raise InputError(f"there are more than {MOST_FILES:,} files; take fewer at a time")
                yield one


def _is_archive(path: Path) -> bool:
    """Whether a file is an archive of files, and not a document that is packed as one."""
    return zipfile.is_zipfile(path) and _packed_format(path) is None


def _packed_format(path: Path) -> FormatSpec | None:
    """The format of which an archive is, by one of its files; None for one of files of any kind."""
    try:
        with opened_archive(path) as archive:
            return next((e for e in all_formats().values() if e.archived and e.archived in archive.names), None)
    except InputError:
        return None


def _unpacked(path: Path, folder: Path, log: list[str]) -> Iterator[Path]:
    with opened_archive(path) as archive:
        log += [f"{path.name}: {told}" for told in archive.left_out]
        folder.mkdir(parents=True, exist_ok=True)
        for index, name in enumerate(archive.names):
            if PurePosixPath(name).name.startswith(".") or PurePosixPath(name).name in IGNORED:
                continue
            place = folder / str(index)
            place.mkdir()
            (checked,) = checked_path(PurePosixPath(name).name)
            target = place / checked
            target.write_bytes(archive.read(name))
            yield target


def read_arrived(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """Read one file by its content, or else by its suffix.

    Raises:
        InputError: nothing reads it, or it is damaged.
    """
    with path.open("rb") as file:
        head = file.read(HEAD)
    known = _format_of(path, head)
    if known is None:
        raise InputError("its format is not known to Eider; nothing of it is taken")
    if known.read_parts is not None:
        return known.read_parts(path, hints)
    if known.read_pins is None:
        raise InputError(f"{known.title} is written by Eider and not read")
    return found_pins(path, known.read_pins(path))


def _format_of(path: Path, head: bytes) -> FormatSpec | None:
    if head.startswith(b"PK") and (packed := _packed_format(path)) is not None:
        return packed
    readers = [entry for entry in all_formats().values() if entry.read_parts or entry.read_pins]
    by_content = next((entry for entry in readers if entry.recognises and entry.recognises(head)), None)
    if by_content is not None:
        return by_content
    name = path.name.lower()
    return next((entry for entry in readers if any(name.endswith(suffix) for suffix in entry.suffixes)), None)
