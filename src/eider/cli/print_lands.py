"""The command print: land patterns 1:1 on paper."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.library.atomic_files import write_atomic
from eider.model.wording import counted
from eider.reports.footprint_print import PAPERS, print_pages, print_tiles


@click.command("print")
@library_argument
@click.argument("items", metavar="ITEM...", nargs=-1, required=True)
@click.option("--out", required=True, type=click.Path(path_type=Path, dir_okay=False), help="The PDF to write.")
@click.option("--paper", type=click.Choice(list(PAPERS), case_sensitive=False), default="A4", show_default=True)
@click.option("--mirrored", is_flag=True, help="As seen from below.")
@json_option
def print_lands(folder: Path, items: tuple[str, ...], out: Path, paper: str, mirrored: bool, as_json: bool) -> None:
    """Write the land patterns of parts at their true size, several on a page, with bars to measure the print by."""
    library = opened_library(folder)
    tiles = print_tiles([library.load(library.find(item).id) for item in items])
    write_atomic(out, print_pages(tiles, paper, mirrored=mirrored))
    told = f"{counted(len(tiles), 'land pattern')} 1:1 on {paper}: {out}"
    finish({"file": str(out), "patterns": len(tiles), "paper": paper, "mirrored": mirrored}, [told], as_json)
