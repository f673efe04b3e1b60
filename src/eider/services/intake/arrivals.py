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
from eider.services.publishing.format_registry import HEAD, all_formats, format_of_file
from eider.services.tasks import Task

# A delivery of more files is one for several runs.
MOST_FILES = 100_000
# Archives in archives in archives are unpacked, and no more.
DEEPEST = 3
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
        log += [told if told.startswith(path.name) else f"{path.name}: {told}" for told in read.log]
    return Arrival(grouped_parts(found), documents, tuple(log), layers)


def _all_files(paths: Sequence[Path], unpacked: Path, log: list[str]) -> Iterator[Path]:
    """The files in folders and archives, by name; links are not followed."""
    count = 0
    for path in paths:
        if not path.exists():
            raise InputError(f"{path} is not there; check the name")
        inside = sorted(p for p in path.rglob("*") if p.is_file() and not p.is_symlink()) if path.is_dir() else [path]
        for file in inside:
            if _is_ignored(file.name):
                continue
            for one in _opened(file, unpacked / str(count), log, DEEPEST):
                count += 1
                if count > MOST_FILES:
                    raise InputError(f"there are more than {MOST_FILES:,} files; take fewer at a time")
                yield one


def _is_ignored(name: str) -> bool:
    return name in IGNORED or name.startswith(".")


def _opened(file: Path, folder: Path, log: list[str], depth: int) -> Iterator[Path]:
    """A file, or the files of an archive and of those in it; one that cannot be read is told and left out."""
    try:
        if not _is_archive(file):
            yield file
        elif depth == 0:
            log.append(f"{file.name}: it lies in archives {DEEPEST} deep; unpack it, and take it by itself")
        else:
            for index, inner in enumerate(_unpacked(file, folder, log)):
                yield from _opened(inner, folder / f"in{index}", log, depth - 1)
    except (EiderError, OSError) as fault:
        log.append(str(fault) if file.name in str(fault) else f"{file.name}: {fault}")


def _is_archive(path: Path) -> bool:
    """Whether a file is an archive of files, and not a document that is packed as one."""
    return zipfile.is_zipfile(path) and _packed_format(path) is None


def _packed_format(path: Path) -> FormatSpec | None:
    """The format of which an archive is, by one of its files; None for one of files of any kind.

    Raises:
        InputError: it is damaged, or beyond the limits.
    """
    with opened_archive(path) as archive:
        return next((e for e in all_formats().values() if e.archived and e.archived in archive.names), None)


def _unpacked(path: Path, folder: Path, log: list[str]) -> Iterator[Path]:
    with opened_archive(path) as archive:
        log += [f"{path.name}: {told}" for told in archive.left_out]
        folder.mkdir(parents=True, exist_ok=True)
        for index, name in enumerate(archive.names):
            plain = PurePosixPath(name).name
            if _is_ignored(plain):
                continue
            try:
                (checked,) = checked_path(plain)
                data = archive.read(name)
            except EiderError as fault:
                log.append(f"{path.name}: {name[:120]}: {fault}")
                continue
            place = folder / str(index)
            place.mkdir()
            target = place / checked
            target.write_bytes(data)
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
    """The format of a file, by its content before its name."""
    if head.startswith(b"PK"):
        return _packed_format(path)
    return format_of_file(path, head, lambda entry: bool(entry.read_parts or entry.read_pins))
