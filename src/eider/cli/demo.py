"""The command demo: the window on a fresh demo library, or the whole example without a display."""

import os
import sys
import tempfile
from pathlib import Path

import click

from eider.cli.output import finish, json_option
from eider.cli.window import show
from eider.demo.build import build_flawed, build_library
from eider.demo.catalogue import demo_service
from eider.demo.walk import walk


@click.command("demo")
@click.option("--headless", is_flag=True, help="Run the whole example without a window, and say what was made.")
@click.option(
    "--out", type=click.Path(path_type=Path), help="Where to put the demo; a new temporary folder unless given."
)
@click.option("--finished", is_flag=True, help="Open the window with the example's part already made and released.")
@click.option("--flawed", is_flag=True, help="The second library instead: parts with one slip each.")
@json_option
def demo(headless: bool, out: Path | None, finished: bool, flawed: bool, as_json: bool) -> None:
    """Try Eider on invented parts: from datasheet to release and export."""
    folder = out or Path(tempfile.mkdtemp(prefix="eider-demo-"))
    without_window = headless or not _has_display()
    if without_window and not flawed:
        result = walk(folder, say=None if as_json else click.echo)
        finish(result, [], as_json)
    if not as_json:
        click.echo(f"preparing the demo library in {folder} …")
    library = build_flawed(folder) if flawed else build_library(folder, finished=finished)
    if without_window:
        parts = len(library.search())
        told = f"{parts} parts with one slip each in {library.folder}; find them with: eider check {library.folder}"
        finish({"library": str(library.folder), "parts": parts}, [told], as_json)
    service = demo_service()
    try:
        status = show(library, service.address, f"The datasheets to work from are in {folder / 'inbox'}")
    finally:
        service.close()
    sys.exit(status)


def _has_display() -> bool:
    """Whether a window would be seen by anybody."""
    if os.environ.get("QT_QPA_PLATFORM") in ("offscreen", "minimal"):
        return False
    return any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY"))
