"""Makes libraries, and opens them."""

import contextlib
import getpass
import re
import shutil
from pathlib import Path

from eider.errors import EiderError
from eider.library.atomic_files import why_not_written
from eider.library.errors import LibraryError
from eider.library.git.commit_reading import Person
from eider.library.git.git_repository import project_of
from eider.library.git.housekeeping import keep_house
from eider.library.git.versions import Versions
from eider.library.item_paths import PRIVATE, SETTINGS
from eider.library.library_files import LibraryFiles
from eider.library.releases.release_recovery import finish_interrupted
from eider.library.store import Library
from eider.model.codec import convert, parse_toml
from eider.model.library import LIBRARY_FORMAT, LibrarySettings
from eider.packaged_data import packaged_text


def init_library(folder: Path, name: str = "", person: Person | None = None, *, in_project: bool = False) -> Library:
    """Make a new library in an empty or new folder; where that fails, nothing of it is left.

    `in_project` makes it a folder of the project (a git repository) around it, whose commits keep it; otherwise it
    has a repository by itself.

    Raises:
        LibraryError: the folder is not empty or cannot be made, or there is no project around it.
    """
    place = project_of(folder) if in_project else None
    if in_project and place is None:
        raise LibraryError(f"{folder} lies in no git repository; make the library without --in-project")
    if place is not None and person is not None:
        raise LibraryError("who works in a project is git's own setting there; leave --user out")
    if folder.is_symlink() or (folder.exists() and not folder.is_dir()):
        raise LibraryError(f"{folder} is a link or a file; name a new folder for the library")
    if folder.exists() and any(folder.iterdir()):
        raise LibraryError(f"{folder} is not empty; name a new folder for the library")
    text = packaged_text("library/default.toml")
    clean = re.sub(r'[\\"\x00-\x1f]', " ", name or folder.resolve().name)
    files: dict[str, bytes | None] = {
        SETTINGS: text.replace("{name}", clean).encode(),
        ".gitignore": f"{PRIVATE}/\n".encode(),
    }
    login = getpass.getuser()
    who = person or Person(login, f"{login}@localhost")
    was_there = folder.exists()
    try:
        folder.mkdir(parents=True, exist_ok=True)
        versions = Versions(folder, place) if place else Versions.create(folder, who)
        who = (versions.person() or who) if place else who
        for path, data in files.items():
            LibraryFiles(folder).write(path, data or b"")
        versions.commit(files, f"Begin the library {clean}", who)
        library = open_library(folder)
        keep_house(library)
        return library
    except (OSError, EiderError) as fault:
        _clear(folder, was_there=was_there)
        if isinstance(fault, OSError):
            raise LibraryError(why_not_written(folder, fault)) from fault
        raise


def _clear(folder: Path, *, was_there: bool) -> None:
    """Remove what a library that could not be begun left in its folder, which was empty or new."""
    for entry in folder.iterdir() if folder.is_dir() else ():
        if entry.is_dir() and not entry.is_symlink():
            shutil.rmtree(entry, ignore_errors=True)
        else:
            entry.unlink(missing_ok=True)
    if not was_there:
        with contextlib.suppress(OSError):
            folder.rmdir()


def open_library(folder: Path) -> Library:
    """Open a library, and make whole what a killed process left; the error says what is wrong with the folder.

    Raises:
        LibraryError: the folder is no library, its settings cannot be read, or it has a format of before.
        DocumentError: its settings hold a value that they cannot have.
    """
    path = folder / SETTINGS
    try:
        data = LibraryFiles(folder).read(SETTINGS)
        if data is None:
            raise LibraryError(f"{folder} is not an Eider library: it has no {SETTINGS}; make one with eider init")
        settings = convert(parse_toml(data.decode(), str(path)), LibrarySettings, str(path))
    except UnicodeDecodeError as fault:
        raise LibraryError(f"{path} cannot be read: {fault}") from fault
    if settings.format < LIBRARY_FORMAT:
        raise LibraryError(
            f"{folder} has format {settings.format}, of a trial version of Eider; this one reads {LIBRARY_FORMAT}"
        )
    library = Library(folder, settings)
    finish_interrupted(library)
    return library
