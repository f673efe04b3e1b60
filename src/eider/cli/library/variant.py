"""The command variant: another orderable number of a part, or the part in another package."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finding_lines, finish, json_option
from eider.commands.parts.variants import new_variant
from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.services.parts.part_evaluation import save_evaluated
from eider.services.parts.part_opening import begin_part


@click.command("variant")
@library_argument
@click.argument("item")
@click.option("--name", default="", help="The name of the variant; composed from its facts unless given.")
@click.option("--set", "values", multiple=True, metavar="NAME=VALUE", help="A fact in which it differs.")
@click.option("--package", "in_package", is_flag=True, help="In another package: the symbol alone is shared.")
@json_option
def variant(folder: Path, item: str, name: str, values: tuple[str, ...], in_package: bool, as_json: bool) -> None:
    """Begin a variant of a released part: a separate part that shares whatever is the same."""
    library = opened_library(folder)
    facts = dict(map(_value, values))
    bundle = library.load_release(library.find(item).id)
    kind, by = ("package" if in_package else "number"), library.person().name
    state = begin_part(
        library,
        lambda: new_variant(
            bundle, "package" if in_package else "number", name, facts, library.settings, by, utc_now()
        ),
    )
    save_evaluated(library, state.bundle)
    shared = ("symbol",) if in_package else ("package", "symbol", "footprint", "body")
    data = {"name": state.bundle.part.name, "kind": kind, "shares": shared, "findings": state.findings}
    made = f"{state.bundle.part.name}: working copy, shares {', '.join(shared)} with {item}"
    finish(data, [*finding_lines(state.findings), made], as_json)


def _value(text: str) -> tuple[str, str]:
    fact, equals, value = text.partition("=")
    if not equals or not fact.strip():
        raise InputError(f"--set {text}: expected NAME=VALUE, such as Packing=reel")
    return fact.strip(), value.strip()
