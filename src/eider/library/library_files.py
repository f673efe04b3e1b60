"""The files of a library: every read and write below its folder goes through here, by checked paths, past no link."""

import fcntl
import os
import re
import stat
from collections.abc import Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path

from eider.library.atomic_files import remove_leftovers, replace_file, told_as
from eider.library.errors import LibraryError
from eider.model.item_ref import SHA256

_OPEN_FOLDER = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC
# What Linux allows for a name, in bytes.
LONGEST_NAME = 255


def checked_path(path: str) -> tuple[str, ...]:
    """The names along a path below a library's folder.

    Raises:
        LibraryError: it leads out of the folder, or into git's own files.
    """
    names = tuple(path.split("/"))
    is_sound = all(name not in ("", ".", "..") and "\0" not in name and _fits(name) for name in names)
    if not is_sound or names[0].lower() == ".git":
        raise LibraryError(f"“{path[:80]}” is not a path inside a library")
    return names


def is_sha256(text: str) -> bool:
    """Whether a text is a SHA-256 as documents name it: 64 hexadecimal digits in small letters."""
    return re.fullmatch(SHA256, text) is not None


class LibraryFiles:
    """The files below one library's folder. Paths are relative to it, with forward slashes."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def path(self, path: str) -> Path:
        """Where a file lies, for someone who only reads it.

        Raises:
            LibraryError: the path leads out of the folder.
        """
        return self.folder.joinpath(*checked_path(path))

    def read(self, path: str) -> bytes | None:
        """The content of a regular file, or None if it does not exist.

        Raises:
            LibraryError: it cannot be read, is not a regular file, or lies behind a link.
        """
        *folders, name = checked_path(path)
        try:
            with self._opened(folders) as folder:
                return _read(folder, name)
        except (FileNotFoundError, NotADirectoryError):
            return None
        except OSError as fault:
            raise LibraryError(f"{self.path(path)} cannot be read ({fault.strerror}); check what it is") from fault

    def write(self, path: str, data: bytes) -> None:
        """Write a file atomically; folders that are missing are made.

        Raises:
            LibraryError: the file cannot be written, or lies behind a link; what was there is unchanged.
        """
        *folders, name = checked_path(path)
        with told_as(self.path(path), len(data)), self._opened(folders, make=True) as folder:
            replace_file(folder, name, data, self.path(path))

    def remove(self, path: str) -> None:
        """Remove a file, and folders that it leaves empty; nothing happens where it is not there.

        Raises:
            LibraryError: the file cannot be removed, or lies behind a link.
        """
        *folders, name = checked_path(path)
        with told_as(self.path(path)):
            try:
                with self._opened(folders) as folder:
                    os.unlink(name, dir_fd=folder)
            except (FileNotFoundError, NotADirectoryError):
                return
        # A folder that still holds something stays.
        with suppress(OSError):
            while folders:
                *folders, last = folders
                with self._opened(folders) as folder:
                    os.rmdir(last, dir_fd=folder)

    def move(self, path: str, name: str) -> None:
        """Give a file another name in its folder; what bore that name is replaced."""
        *folders, old = checked_path(path)
        checked_path(name)
        with told_as(self.path(path)), self._opened(folders) as folder:
            os.replace(old, name, src_dir_fd=folder, dst_dir_fd=folder)

    def make_folder(self, path: str) -> None:
        """Make a folder where it is missing.

        Raises:
            LibraryError: it cannot be made, or is a link.
        """
        with told_as(self.path(path)), self._opened(checked_path(path), make=True):
            pass

    def stamps(self, path: str) -> dict[str, int]:
        """The regular files of a folder with the time of their last change (ns); none where there is no folder."""
        try:
            with self._opened(checked_path(path)) as folder, os.scandir(folder) as entries:
                found = [(entry.name, entry.stat(follow_symlinks=False)) for entry in entries]
        except OSError:
            return {}
        return {name: status.st_mtime_ns for name, status in found if stat.S_ISREG(status.st_mode)}

    def clear_leftovers(self, path: str) -> None:
        """Remove what dead processes left half-written in a folder."""
        try:
            with self._opened(checked_path(path)) as folder:
                remove_leftovers(folder)
        except OSError:
            return

    @contextmanager
    def locked(self, path: str) -> Iterator[None]:
        """Hold a lock file; whoever wants it meanwhile waits, and a process that dies lets it go.

        Raises:
            LibraryError: the lock file cannot be made.
        """
        *folders, name = checked_path(path)
        with told_as(self.path(path)), self._opened(folders, make=True) as folder:
            flags = os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC
            lock = os.open(name, flags, 0o666, dir_fd=folder)
        try:
            fcntl.flock(lock, fcntl.LOCK_EX)
            yield
        finally:
            os.close(lock)

    @contextmanager
    def _opened(self, names: Sequence[str], *, make: bool = False) -> Iterator[int]:
        """The descriptor of a folder, reached without following a link below the library's own."""
        # The library's folder itself may be reached through links: the user named it.
        folder = os.open(self.folder, _OPEN_FOLDER & ~os.O_NOFOLLOW)
        try:
            for name in names:
                below = _enter(folder, name, make=make)
                os.close(folder)
                folder = below
            yield folder
        finally:
            os.close(folder)


def _enter(folder: int, name: str, *, make: bool) -> int:
    try:
        return os.open(name, _OPEN_FOLDER, dir_fd=folder)
    except FileNotFoundError:
        if not make:
            raise
    # Another process may make it meanwhile.
    with suppress(FileExistsError):
        os.mkdir(name, 0o777, dir_fd=folder)
    return os.open(name, _OPEN_FOLDER, dir_fd=folder)


def _read(folder: int, name: str) -> bytes:
    # Without O_NONBLOCK a FIFO would hold the reader up for ever.
    file = os.open(name, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC, dir_fd=folder)
    with os.fdopen(file, "rb") as opened:
        if not stat.S_ISREG(os.fstat(opened.fileno()).st_mode):
            raise LibraryError(f"{name} is not a regular file")
        return opened.read()


def _fits(name: str) -> bool:
    try:
        return len(name.encode()) <= LONGEST_NAME
    except UnicodeEncodeError:
        return False
