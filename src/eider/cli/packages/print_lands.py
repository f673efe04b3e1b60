"""The command print: land patterns 1:1 on paper."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.reports.paper_sizes import PAPERS
from eider.services.publishing.printing import print_parts


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
    with shown_progress() as task:
        ids = [library.find(item).id for item in items]
        printed = print_parts(library, ids, out, paper, mirrored=mirrored, task=task)
    finish(printed, [printed.words], as_json)
