"""A library shared through a bare repository, opened by two people."""

import subprocess
from collections.abc import Callable
from pathlib import Path

from eider.commands.facts import fact_edits
from eider.commands.parts.new_parts import new_part
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.library import Library, init_library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.commit_reading import Person
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.synchronising import open_shared, share_library

REVIEWER = Person("Skerry reviewer", "reviewer@skerry.example")


def git(folder: Path, *arguments: str) -> str:
    """What git prints; it has to succeed."""
    done = subprocess.run(["git", "-C", str(folder), *arguments], capture_output=True, text=True, check=True)
    return done.stdout.strip()


def bare_server(folder: Path) -> Path:
    """An empty repository, as a server has it."""
    subprocess.run(["git", "init", "--quiet", "--bare", str(folder)], check=True)
    return folder


def sound_server(server: Path) -> None:
    """The server has no damage; what nothing refers to any more is none."""
    said = subprocess.run(
        ["git", "-C", str(server), "fsck", "--full", "--strict", "--no-dangling"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert said.returncode == 0, said.stderr
    assert "missing" not in said.stdout and "broken" not in said.stdout


def capacitor(library: Library) -> Bundle:
    """A part without findings that block it."""
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    return chip_part(library, series, size, "100 nF", DatasheetLink("0" * 64, "LYN-C.pdf", 2))


def shared_pair(folder: Path, bundle: Callable[[Library], Bundle]) -> tuple[Path, Library, Library]:
    """The server, the library of the librarian with one released part, and that of the reviewer."""
    ours = init_library(folder / "ours", "Skerry Fieldworks", LIBRARIAN)
    release_part(ours, bundle(ours), "first release")
    server = bare_server(folder / "server.git")
    share_library(ours, f"file://{server}")
    theirs = open_shared(f"file://{server}", folder / "theirs", REVIEWER)
    return server, ours, theirs


def change_fact(library: Library, part_id: str, name: str, value: str) -> Bundle:
    """A working copy of a part with another fact."""
    made = fact_edits.set_fact(library.load(part_id), name, value)
    library.copies.save(WorkingCopy(bundle=made))
    return made


def begin(library: Library, name: str) -> Bundle:
    """A draft of a new part."""
    made = new_part(name, "ic", library.settings)
    library.copies.save(WorkingCopy(bundle=made))
    return made


def again(library: Library) -> Library:
    """The library opened again, as after a restart."""
    return open_library(library.folder)
