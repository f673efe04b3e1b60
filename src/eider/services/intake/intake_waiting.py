"""Deliveries that wait in a library until someone looks at them: kept beside the working copies."""

import secrets
from collections.abc import Iterator, Sequence
from pathlib import Path

import msgspec

from eider.errors import EiderError, InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.item_paths import PRIVATE, safe_name
from eider.model.codec import decode, encode
from eider.model.wording import counted
from eider.services.intake.arrivals import IGNORED
from eider.services.tasks import Task

FOLDER = f"{PRIVATE}/intake"
# Deliveries of more files or bytes stay where they are: a copy of a whole library takes long, and as much room again.
MOST_FILES, MOST_BYTES = 2_000, 512 * 2**20
# Letters of the name of a delivery's own file within its folder.
ABOUT = "delivery.json"


class Delivery(msgspec.Struct, frozen=True, omit_defaults=True):
    """Files that arrived together.

    Attributes:
        id: by what it is known on this machine.
        names: of the files and folders as they were given.
        source: what its source is called; its map is learned under this name.
        by, at: who kept it, and when (ISO 8601, UTC).
        paths: where they lie; files that were copied lie in the library's own folder.
        copied: whether they were copied, and do not change with what someone does to the originals.
    """

    id: str
    names: tuple[str, ...]
    source: str
    by: str
    at: str
    paths: tuple[str, ...]
    copied: bool = True

    @property
    def title(self) -> str:
        """It in a list."""
        more = f" and {counted(len(self.names) - 1, 'other')}" if len(self.names) > 1 else ""
        return f"{self.names[0]}{more}, {self.at[:10]}"


def keep_delivery(library: Library, paths: Sequence[Path], source: str = "", task: Task | None = None) -> Delivery:
    """Keep files and folders in the library until they are discarded; it changes nothing else.

    Raises:
        InputError: a path is not there. ReadOnlyError, LibraryError: nothing can be written.
        CancelledError: the user cancelled; nothing is kept.
    """
    task = task or Task()
    library.require_writable()
    for path in paths:
        if not path.exists():
            raise InputError(f"{path} is not there; check the name")
    if not paths:
        raise InputError("no file is named")
    key = secrets.token_hex(6)
    files = [(path, *found) for path in paths for found in _files_of(path)]
    is_small = len(files) <= MOST_FILES and sum(file.stat().st_size for _root, file, _inside in files) <= MOST_BYTES
    names = tuple(path.resolve().name for path in paths)
    kept = [str(path.resolve()) for path in paths]
    if is_small:
        kept = [str(library.files.path(f"{FOLDER}/{key}/{safe_name(name)}")) for name in names]
        try:
            for index, (root, file, inside) in enumerate(files):
                task.report(index / len(files), f"keeping {file.name}")
                top = safe_name(root.resolve().name)
                library.files.write("/".join((FOLDER, key, top, *map(_safe, inside))), file.read_bytes())
        except BaseException:
            _remove(library, key)
            raise
    about = Delivery(
        key, names, source or names[0], library.person().name, utc_now(), tuple(dict.fromkeys(kept)), is_small
    )
    library.files.write(f"{FOLDER}/{key}/{ABOUT}", encode(about).encode())
    return about


def _files_of(path: Path) -> Iterator[tuple[Path, tuple[str, ...]]]:
    """The files below a path, each with the names that lead to it; links are not followed."""
    if not path.is_dir():
        yield path, ()
        return
    for file in sorted(path.rglob("*")):
        if file.is_file() and not file.is_symlink() and file.name not in IGNORED and not file.name.startswith("."):
            yield file, file.relative_to(path).parts


def _safe(name: str) -> str:
    """A name along a path as it is, where the library can hold it."""
    return name if name not in ("", ".", "..") and len(name.encode()) <= 200 else safe_name(name)


def waiting_deliveries(library: Library) -> tuple[Delivery, ...]:
    """What waits, the oldest first; one whose own file is damaged is left out."""
    found = []
    folder = library.files.path(FOLDER)
    for place in sorted(folder.iterdir()) if folder.is_dir() else ():
        try:
            data = library.files.read(f"{FOLDER}/{place.name}/{ABOUT}")
            if data is not None:
                found.append(decode(data, Delivery, str(place / ABOUT)))
        except EiderError:
            continue
    return tuple(sorted(found, key=lambda delivery: delivery.at))


def delivery_paths(delivery: Delivery) -> tuple[Path, ...]:
    """Where the files of a delivery lie.

    Raises:
        InputError: it was not copied, and is not there any more.
    """
    paths = tuple(Path(path) for path in delivery.paths)
    if gone := [path for path in paths if not path.exists()]:
        raise InputError(f"{gone[0]} is no longer there; discard the delivery, or bring the files back")
    return paths


def discard_delivery(library: Library, delivery: Delivery) -> None:
    """Remove a delivery, with its files where they were copied; parts that were taken from it stay.

    Raises:
        ReadOnlyError, LibraryError: nothing can be removed.
    """
    library.require_writable()
    _remove(library, delivery.id)


def _remove(library: Library, key: str) -> None:
    folder = library.files.path(f"{FOLDER}/{safe_name(key)}")
    inside = sorted((path for path in folder.rglob("*") if not path.is_dir()), reverse=True) if folder.is_dir() else []
    for path in inside:
        library.files.remove(path.relative_to(library.folder).as_posix())
