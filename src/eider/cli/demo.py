"""The command demo: the window on a fresh demo library, or the whole example without a display."""

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import click

from eider.cli.output import finish, json_option
from eider.cli.window import has_display, show
from eider.demo.build import begin_library, build_flawed, fill_library, write_inbox
from eider.demo.cache import copy_from_cache, keep_in_cache
from eider.demo.catalogue import demo_service
from eider.demo.walk import walk
from eider.errors import InputError
from eider.library.library_opening import open_library
from eider.library.store import Library
from eider.services.tasks import BackgroundWork, Task


@click.command("demo")
@click.option("--headless", is_flag=True, help="Run the whole example without a window, and say what was made.")
@click.option(
    "--out", type=click.Path(path_type=Path), help="Where to put the demo; a new temporary folder unless given."
)
@click.option("--empty", is_flag=True, help="Open the window on an empty library, to make the parts yourself.")
@click.option(
    "--finished", is_flag=True, hidden=True, expose_value=False, help="Accepted for older scripts; no effect."
)
@click.option("--flawed", is_flag=True, help="The second library instead: parts with one slip each.")
@json_option
def demo(headless: bool, out: Path | None, empty: bool, flawed: bool, as_json: bool) -> None:
    """Try Eider on invented parts: from datasheet to release and export."""
    if out and (out.is_symlink() or (out.exists() and not (out.is_dir() and not any(out.iterdir())))):
        raise InputError(f"{out} is not a new or empty folder; name one for the demo")
    folder = out or Path(tempfile.mkdtemp(prefix="eider-demo-"))
    is_hidden = os.environ.get("QT_QPA_PLATFORM") in ("offscreen", "minimal")
    without_window = headless or is_hidden or not has_display()
    if without_window and not flawed:
        result = walk(folder, say=None if as_json else click.echo)
        finish(result, [], as_json)
    if flawed:
        if not as_json:
            click.echo(f"preparing the demo library in {folder} …")
        library = build_flawed(folder)
        if without_window:
            parts = len(library.search())
            told = f"{parts} parts with one slip each in {library.folder}; find them with: eider check {library.folder}"
            finish({"library": str(library.folder), "parts": parts}, [told], as_json)
        sys.exit(_with_catalogue(library, folder))
    if empty:
        library = begin_library(folder)
        write_inbox(folder / "inbox")
        sys.exit(_with_catalogue(library, folder))
    cached = copy_from_cache(folder)
    if cached is not None:
        sys.exit(_with_catalogue(cached, folder))
    sys.exit(
        _with_catalogue(begin_library(folder), folder, BackgroundWork("Building the demo library", _building(folder)))
    )


def _building(folder: Path) -> Callable[[Task], None]:
    """Fills the library beside the window, through a connection of its own, and keeps it for the next start."""

    def build(task: Task) -> None:
        library = open_library(folder / "library")
        try:
            fill_library(library, folder, finished=True, task=task)
        finally:
            library.close()
        keep_in_cache(folder)

    return build


def _with_catalogue(library: Library, folder: Path, background: BackgroundWork | None = None) -> int:
    """Show a library with the demo's stand-in supplier, where that is installed; returns the exit status."""
    greeting = f"The datasheets to work from are in {folder / 'inbox'}"
    try:
        service = demo_service()
    except InputError as fault:
        return show(library, "", f"{greeting}. No supplier: {fault}", background)
    try:
        return show(library, service.address, greeting, background)
    finally:
        service.close()
