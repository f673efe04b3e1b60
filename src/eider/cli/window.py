"""The command open: the window on a library. The one place of the command line that knows the desktop."""

import importlib
import os
import sys
from pathlib import Path

import click

from eider.cli.library_argument import person_of
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.services.sharing.synchronising import folder_for, open_shared
from eider.services.tasks import BackgroundWork


def has_display() -> bool:
    """Whether a window can be shown to anybody."""
    return any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY"))


def show(
    library: Library | None, catalogue: str = "", greeting: str = "", background: BackgroundWork | None = None
) -> int:
    """Show the window until it is closed, on the library opened last where none is given; returns the exit status.

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
@click.argument("library", metavar="[LIBRARY|URL]", required=False)
@click.option("--to", "target", type=click.Path(path_type=Path), help="With a URL: the new folder of the library.")
@click.option(
    "--user", default="", help="With a URL: who works there, as “Name <address>”; git's settings unless given."
)
@click.option("--whole", is_flag=True, help="With a URL: all datasheets and STEP files now, not when they are needed.")
@click.option("--no-window", is_flag=True, help="With a URL: clone it, and open no window.")
@json_option
def open_window(
    library: str | None, target: Path | None, user: str, whole: bool, no_window: bool, as_json: bool
) -> None:
    """Open the window on a library, or a shared library by its address; returns when the window is closed.

    Without LIBRARY it is the one that was open last, or one that you choose.
    """
    if library is not None and is_address(library) and not Path(library).is_dir():
        folder = target or Path(folder_for(library))
        with shown_progress() as task:
            made = open_shared(library, folder, person_of(user), task, whole=whole)
        if no_window or as_json or not has_display():
            data = {"library": str(made.folder), "received": [], "sent": 0, "conflicts": [], "waiting": []}
            finish(data, [f"{library} is open in {made.folder}"], as_json)
        sys.exit(show(made))
    status = show(open_library(Path(library)) if library is not None else None)
    if status:
        sys.exit(status)
    finish({"library": library}, [], as_json)


def is_address(text: str) -> bool:
    """Whether a text is the address of a shared library and no folder."""
    return "://" in text or "@" in text.partition(":")[0] or text.endswith(".git")
