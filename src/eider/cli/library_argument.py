"""The arguments of commands on libraries, and how they open one."""

from pathlib import Path

import click

from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.library import Library, open_library
from eider.library.git.commit_reading import Person

library_argument = click.argument("folder", metavar="LIBRARY", type=click.Path(path_type=Path))
item_argument = click.argument("item", metavar="ITEM")


def opened_library(folder: Path) -> Library:
    """The library in a folder; one that was never read on this machine is read with its progress shown."""
    library = open_library(folder)
    if library.index.is_new:
        with shown_progress() as task:
            library.read_first(lambda share: task.report(share, "reading the library for the first time"))
    return library


def person_of(user: str) -> Person | None:
    """Who works in a library, written as “Name <address>”; None for nothing.

    Raises:
        InputError: it is not written so.
    """
    if not user:
        return None
    name, bracket, address = user.partition("<")
    if not name.strip() or not bracket or not address.rstrip().endswith(">"):
        raise InputError(f"--user {user}: expected “Name <address>”")
    return Person(name.strip(), address.strip().removesuffix(">"))
