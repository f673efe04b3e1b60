"""The command houses: what was learned of the datasheets of each house."""

from pathlib import Path

import click
import msgspec

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.commands.datasheets.house_rules import rule_words
from eider.errors import InputError
from eider.services.datasheets.houses import change_rule, known_houses


@click.command("houses")
@library_argument
@click.option("--off", type=int, default=0, metavar="N", help="Switch a rule off, by its number in the list.")
@click.option("--on", type=int, default=0, metavar="N", help="Switch a rule on again.")
@click.option("--remove", type=int, default=0, metavar="N", help="Remove a rule.")
@json_option
def houses(folder: Path, off: int, on: int, remove: int, as_json: bool) -> None:
    """List what was learned of the datasheets of each house, or change it."""
    library = opened_library(folder)
    numbered = [(name, rule) for name, house in known_houses(library).items() for rule in house.rules]
    asked = [(number, how) for number, how in ((off, "off"), (on, "on"), (remove, "back")) if number]
    if len(asked) > 1:
        raise InputError("name one of --off, --on and --remove")
    for number, how in asked:
        if not 1 <= number <= len(numbered):
            raise InputError(f"there is no rule {number}; there are {len(numbered)}")
        name, rule = numbered[number - 1]
        changed = None if how == "back" else msgspec.structs.replace(rule, active=how == "on")
        change_rule(library, name, rule, changed)
    known = known_houses(library)
    rules = [(name, rule) for name, house in known.items() for rule in house.rules]
    data = [
        {"number": n, "house": name, "words": rule_words(rule), "rule": rule} for n, (name, rule) in enumerate(rules, 1)
    ]
    lines = [
        f"{n:3} {name}: {rule_words(rule)} (as {rule.by} confirmed in {rule.sheet}, {rule.at[:10]})"
        f"{'' if rule.active else ', switched off'}"
        for n, (name, rule) in enumerate(rules, 1)
    ]
    finish(data, lines or ["nothing was learned yet of the datasheets of any house"], as_json)
