"""The second library of the demo: parts with one slip each, for the checks to find."""

from collections.abc import Mapping

from eider.commands.facts import fact_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.flaws import of_lands, of_models, of_parts, of_sheets, of_symbols
from eider.demo.flaws.changes import Flaw
from eider.model.bundle import Bundle
from eider.rulebooks import Rulebook

FLAWS: tuple[Flaw, ...] = (*of_sheets.FLAWS, *of_lands.FLAWS, *of_symbols.FLAWS, *of_parts.FLAWS, *of_models.FLAWS)


def flawed(flaw: Flaw, sound: Mapping[str, Bundle], rulebook: Rulebook) -> Bundle:
    """The part that a flaw makes of a sound one; `sound` holds the demo's parts by name."""
    bundle = new_parts.start_from_part(sound[flaw.base], flaw.part_name)
    bundle = fact_edits.set_about(bundle, description=f"{flaw.base} with {flaw.slip}")
    bundle = flaw.change(rerun_recipes(bundle, rulebook))
    return bundle if flaw.stored else rerun_recipes(bundle, rulebook)
