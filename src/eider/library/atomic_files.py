"""Files are written aside, flushed to disk and renamed: a killed process leaves the old state or the new one."""

import errno
import os
import tempfile
from pathlib import Path

from eider.library.errors import LibraryError


def write_atomic(path: Path, data: bytes) -> None:
    """Write a file atomically, creating its folder if needed: readers see the old content or the new.

    Raises:
        LibraryError: the file cannot be written; what was there is unchanged.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(prefix=".", suffix=".part", dir=path.parent)
    except OSError as fault:
        raise LibraryError(_say(path, fault)) from fault
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        Path(name).replace(path)
    except OSError as fault:
        Path(name).unlink(missing_ok=True)
        raise LibraryError(_say(path, fault)) from fault
    _sync_folder(path.parent)


def _sync_folder(folder: Path) -> None:
    descriptor = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def _say(path: Path, fault: OSError) -> str:
    if fault.errno == errno.ENOSPC:
        return f"{path} was not written: the disk is full; what was there before is untouched. Make room and try again"
    return f"{path} cannot be written ({fault.strerror}); check the folder and its rights"
