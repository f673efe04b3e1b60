"""The command search; apart from others, since it is asked often and needs little."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.model.wording import counted


@click.command("search")
@library_argument
@click.argument("words", nargs=-1)
@click.option("--withdrawn", is_flag=True, help="Include withdrawn parts.")
@json_option
def search(folder: Path, words: tuple[str, ...], withdrawn: bool, as_json: bool) -> None:
    """Find parts by pieces of names, descriptions and values, in any order; * and ? are wildcards."""
    rows = opened_library(folder).find_parts(" ".join(words), with_withdrawn=withdrawn).rows
    lines = [f"{r.name:24} {r.state:9} r{r.revision:<3} {r.package:24} {r.description}" for r in rows]
    finish({"parts": rows, "count": len(rows)}, [*lines, counted(len(rows), "part")], as_json)
