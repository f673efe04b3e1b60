"""The command withdraw: a part that shall not be used any more."""

from pathlib import Path

import click

from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.services.releasing.withdrawing import reinstate_part, withdraw_part, withdrawn_words


@click.command("withdraw")
@library_argument
@item_argument
@click.option("--note", required=True, help="Why.")
@click.option("--successor", default="", help="The part to use in its place.")
@click.option("--undo", is_flag=True, help="Undo the withdrawal.")
@json_option
def withdraw(folder: Path, item: str, note: str, successor: str, undo: bool, as_json: bool) -> None:
    """Withdraw a released part, as its next revision: it stays readable, and is found only when asked for."""
    library = opened_library(folder)
    row = library.find(item)
    if undo:
        made = reinstate_part(library, row.id, note)
        told = f"{row.name} is used again, revision {made.revision}"
    else:
        made = withdraw_part(library, row.id, note, successor)
        told = f"{row.name} is {withdrawn_words(library.load(row.id))}"
    state = library.find(row.id).state
    finish({"item": row.name, "state": state, "revision": made.revision}, [told], as_json)
