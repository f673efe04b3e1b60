"""Makes libraries, and opens them."""

import getpass
import re
import tomllib
from importlib import resources
from pathlib import Path

from eider.library.atomic_files import write_atomic
from eider.library.errors import LibraryError
from eider.library.item_paths import PRIVATE, SETTINGS
from eider.library.release_commit import finish_interrupted
from eider.library.store import Library
from eider.library.versions import Person, Versions
from eider.model.codec import convert
from eider.model.library import LibrarySettings


def init_library(folder: Path, name: str = "", person: Person | None = None) -> Library:
    """Make a new library in an empty or new folder.

    Raises:
        LibraryError: the folder is not empty or cannot be made.
    """
    if folder.exists() and any(folder.iterdir()):
        raise LibraryError(f"{folder} is not empty; name a new folder for the library")
    text = (resources.files("eider.library") / "default.toml").read_text(encoding="utf-8")
    clean = re.sub(r'[\\"\x00-\x1f]', " ", name or folder.resolve().name)
    files = {
        SETTINGS: text.replace("{name}", clean).encode(),
        ".gitignore": f"{PRIVATE}/\n".encode(),
    }
    for path, data in files.items():
        write_atomic(folder / path, data)
    login = getpass.getuser()
    who = person or Person(login, f"{login}@localhost")
    Versions.create(folder, who).commit(files, f"Begin the library {clean}", who)
    return open_library(folder)


def open_library(folder: Path) -> Library:
    """Open a library; the error says what is wrong with the folder.

    Raises:
        LibraryError: the folder is no library, or its settings cannot be read.
        DocumentError: its settings hold a value that they cannot have.
    """
    path = folder / SETTINGS
    try:
        data = tomllib.loads(path.read_text(encoding="utf-8"))
    except (FileNotFoundError, NotADirectoryError):
        raise LibraryError(f"{folder} is no Eider library: it has no {SETTINGS}; make one with eider init") from None
    except (tomllib.TOMLDecodeError, UnicodeDecodeError, OSError) as fault:
        raise LibraryError(f"{path} cannot be read: {fault}") from fault
    library = Library(folder, convert(data, LibrarySettings, str(path)))
    finish_interrupted(library)
    return library
