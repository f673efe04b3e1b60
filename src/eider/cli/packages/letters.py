"""The command letters: the dimensions that a package family asks for, by their letters."""

import click

from eider.cli.output import finish, json_option
from eider.packages.family import Family, FamilyField, Letter
from eider.packages.registry import all_families, family_of


@click.command("letters")
@click.argument("family", default="")
@json_option
def letters(family: str, as_json: bool) -> None:
    """List the letters of a package family, with their meanings; without a family those of all."""
    families = [family_of(family)] if family else list(all_families().values())
    lines = [line for found in families for line in _lines(found)]
    finish([_family(found) for found in families], lines, as_json)


def _family(family: Family) -> dict[str, object]:
    return {
        "family": family.key,
        "title": family.title,
        "letters": [_letter(letter) for letter in family.letters],
        "options": [_option(field) for field in family.fields],
    }


def _letter(letter: Letter) -> dict[str, object]:
    return {"key": letter.key, "meaning": letter.meaning, "view": letter.view, "required": _is_required(letter)}


def _option(field: FamilyField) -> dict[str, object]:
    return {"key": field.key, "title": field.title, "kind": field.kind, "choices": list(field.choices)}


def _is_required(letter: Letter) -> bool:
    """Whether a sheet has to give the length: none stands in for it, and every package of the family has it."""
    return letter.assumed is None and not letter.optional


def _lines(family: Family) -> list[str]:
    rows = [f"  {x.key:4} {x.meaning}{'' if _is_required(x) else ' (optional)'}" for x in family.letters]
    return [f"{family.key}: {family.title}", *rows]
