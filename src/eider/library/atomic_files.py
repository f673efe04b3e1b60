"""Files are written aside, flushed to disk and renamed: a killed process leaves the old state or the new one."""

import errno
import itertools
import os
import socket
import stat
import zlib
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from eider.library.errors import LibraryError

# A file that is being written bears machine and process in its name, so that one left by a dead process is told.
_MACHINE = f"{zlib.crc32(socket.gethostname().encode()):08x}"
_COUNT = itertools.count()
PART = ".part"


def write_atomic(path: Path, data: bytes) -> None:
    """Write a file atomically, creating its folder if needed: readers see the old content or the new.

    Raises:
        LibraryError: the file cannot be written, or what is there is no regular file; it is unchanged.
    """
    with told_as(path, len(data)):
        path.parent.mkdir(parents=True, exist_ok=True)
        folder = os.open(path.parent, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        replace_file(folder, path.name, data, path)
    finally:
        os.close(folder)


def replace_file(folder: int, name: str, data: bytes, path: Path) -> None:
    """Write a file in an open folder (its descriptor); `path` is how an error calls it.

    Raises:
        LibraryError: the file cannot be written, or what is there is no regular file; it is unchanged.
    """
    aside = f".{_MACHINE}-{os.getpid()}-{next(_COUNT)}{PART}"
    with told_as(path, len(data)):
        mode = _mode_of(folder, name, path)
        flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
        handle = os.open(aside, flags, 0o666, dir_fd=folder)
        try:
            with os.fdopen(handle, "wb") as file:
                if mode is not None:
                    os.fchmod(handle, mode)
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            os.replace(aside, name, src_dir_fd=folder, dst_dir_fd=folder)
            os.fsync(folder)
        except OSError:
            _remove(folder, aside)
            raise


def remove_leftovers(folder: int) -> None:
    """Remove the half-written files of this machine's dead processes from an open folder."""
    for name in os.listdir(folder):
        machine, _, rest = name.removeprefix(".").partition("-")
        process = rest.partition("-")[0]
        if not (name.startswith(".") and name.endswith(PART) and machine == _MACHINE and process.isdigit()):
            continue
        if not _is_alive(int(process)):
            _remove(folder, name)


@contextmanager
def told_as(path: Path, size: int = 0) -> Iterator[None]:
    """Errors of the system within come as errors of the library about this file.

    Raises:
        LibraryError: the system refused.
    """
    try:
        yield
    except OSError as fault:
        raise LibraryError(why_not_written(path, fault, size)) from fault


def why_not_written(path: Path, fault: OSError, size: int = 0) -> str:
    """Why a file of this size (bytes) was not written, and what to do."""
    if fault.errno in (errno.ENOSPC, errno.EDQUOT):
        need = max(1, -(-size // 1_000_000))
        return f"the disk is full; nothing was changed; free {need} MB and try again ({path})"
    if fault.errno in (errno.ELOOP, errno.ENOTDIR):
        return f"{path} was not written: it lies behind a link or a file; replace that by a folder"
    return f"{path} cannot be written ({fault.strerror}); check the folder and its permissions"


def _mode_of(folder: int, name: str, path: Path) -> int | None:
    """The permissions of the file being replaced, or None for a new one."""
    try:
        found = os.stat(name, dir_fd=folder, follow_symlinks=False)
    except FileNotFoundError:
        return None
    if not stat.S_ISREG(found.st_mode):
        raise LibraryError(f"{path} is not a regular file; nothing was written. Choose another name")
    return stat.S_IMODE(found.st_mode)


def _is_alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        # It is someone else's.
        return True
    return True


def _remove(folder: int, name: str) -> None:
    with suppress(FileNotFoundError):
        os.unlink(name, dir_fd=folder)
