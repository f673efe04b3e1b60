"""The command open: the window on a library. The one place of the command line that knows the desktop."""

import sys
from pathlib import Path

import click

from eider.cli.output import finish, json_option
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.services.tasks import BackgroundWork


def show(library: Library, catalogue: str = "", greeting: str = "", background: BackgroundWork | None = None) -> int:
    """Show the window until it is closed; returns the exit status."""
    try:
        from eider.desktop.app.start import run
    except ImportError as fault:
        raise EiderError(
            f"the window cannot be opened: {fault}; install the libraries that `python tools/system_libraries.py` names"
        ) from fault
    status: int = run(library, catalogue, greeting, background)
    return status


@click.command("open")
@click.argument("folder", metavar="LIBRARY", type=click.Path(path_type=Path))
@json_option
def open_window(folder: Path, as_json: bool) -> None:
    """Open the window on a library; returns when it is closed."""
    status = show(open_library(folder))
    if status:
        sys.exit(status)
    finish({"library": str(folder)}, [], as_json)
