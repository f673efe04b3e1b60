"""The command measure: a distance in a land pattern, which can be kept as a check."""

from pathlib import Path

import click

from eider.checks import PartUnderCheck
from eider.cli.library_argument import item_argument, library_argument
from eider.cli.output import finish, json_option
from eider.commands.lands.kept_distances import keep_distance
from eider.commands.parts.evaluation import evaluate_part
from eider.errors import InputError
from eider.lands.measure_anchors import distance_of, wanted
from eider.library import open_library
from eider.model.footprint import ALONG, Along, KeptDistance
from eider.services.parts.part_evaluation import save_part
from eider.services.parts.part_rules import rules_for


@click.command("measure")
@library_argument
@item_argument
@click.argument("first", metavar="FROM")
@click.argument("second", metavar="TO")
@click.option("--along", type=click.Choice(ALONG), default="direct", help="Direction; direct by default.")
@click.option(
    "--shall",
    default="",
    metavar="LENGTH",
    help="Keep the distance and require this length from now on, such as 6.35±0.02.",
)
@json_option
def measure(folder: Path, item: str, first: str, second: str, along: Along, shall: str, as_json: bool) -> None:
    """Measure between two places of a land pattern, such as “pad 1 left” and “pad 8 right”."""
    library = open_library(folder)
    bundle = library.load(library.find(item).id)
    rules = rules_for(library, bundle)
    around = PartUnderCheck(bundle, rules.rulebook, rules.settings).surroundings
    if around is None:
        raise InputError(f"{item} has no lands to measure; complete its package sheet first")
    kept = KeptDistance(first, second, along)
    distance = distance_of(around, kept)
    if shall:
        library.require_writable()
        outcome = evaluate_part(keep_distance(bundle, kept, shall), rules)
        # What it shall be has to be a length; the window shows the same as a finding at its cell.
        wanted(outcome.bundle.sheet, outcome.bundle.footprint.distances[-1])
        save_part(library, outcome)
    told = f"{kept.key}: {distance:.4f} mm" + (f", kept: required {shall}" if shall else "")
    finish({"from": first, "to": second, "along": along, "mm": round(distance, 6), "kept": shall}, [told], as_json)
