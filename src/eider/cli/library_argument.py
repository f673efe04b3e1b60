"""The arguments of commands on libraries, and how they open one."""

from pathlib import Path

import click

from eider.cli.progress import shown_progress
from eider.library import Library, open_library

library_argument = click.argument("folder", metavar="LIBRARY", type=click.Path(path_type=Path))
item_argument = click.argument("item", metavar="ITEM")


def opened_library(folder: Path) -> Library:
    """The library in a folder; one that was never read on this machine is read with its progress shown."""
    library = open_library(folder)
    if library.index.is_new:
        with shown_progress() as task:
            library.read_first(lambda share: task.report(share, "reading the library for the first time"))
    return library
