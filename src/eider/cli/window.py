"""The command open: the window on a library. The one place of the command line that knows the desktop."""

import importlib
import os
import sys
from pathlib import Path

import click

from eider.cli.output import finish, json_option
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.services.tasks import BackgroundWork


def has_display() -> bool:
    """Whether a window can be shown to anybody."""
    return any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY"))


def show(library: Library, catalogue: str = "", greeting: str = "", background: BackgroundWork | None = None) -> int:
    """Show the window until it is closed; returns the exit status.

    Raises:
        EiderError: there is no display, or Qt's system libraries are missing.
    """
    _expect_window()
    from eider.desktop.app.start import run

    status: int = run(library, catalogue, greeting, background)
    return status


def _expect_window() -> None:
    if not has_display() and not os.environ.get("QT_QPA_PLATFORM"):
        # Qt would end the process with a page of its own words.
        raise EiderError("there is no display for the window; start Eider from a desktop session")
    try:
        importlib.import_module("eider.desktop.app.start")
    except ImportError as fault:
        raise EiderError(
            f"the window cannot be opened: {fault}; install the libraries that `python tools/system_libraries.py` names"
        ) from fault


@click.command("open")
@click.argument("folder", metavar="[LIBRARY]", required=False, type=click.Path(path_type=Path))
@json_option
def open_window(folder: Path | None, as_json: bool) -> None:
    """Open the window on a library; returns when it is closed.

    Without LIBRARY it is the one that was open last, or one that you choose.
    """
    if folder is None:
        folder = _last_library()
    status = show(open_library(folder))
    if status:
        sys.exit(status)
    finish({"library": str(folder)}, [], as_json)


def _last_library() -> Path:
    _expect_window()
    from eider.desktop.app.start import last_library

    chosen = last_library()
    if chosen is None:
        raise EiderError("no library was chosen; make one with `eider init`, or see the invented one with `eider demo`")
    return chosen
