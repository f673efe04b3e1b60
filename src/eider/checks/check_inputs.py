"""What checks read: the pieces of a part and its rules, so that what a change did not touch is not checked again."""

from collections.abc import Mapping
from typing import Literal, get_args

from eider.model.bundle import Bundle
from eider.model.library import LibrarySettings
from eider.rulebooks import Rulebook

Input = Literal[
    "sheet", "lands", "symbol", "body", "about", "facts", "match", "datasheets", "doubts", "rulebook", "settings"
]
INPUTS: tuple[Input, ...] = get_args(Input)


def inputs_of(bundle: Bundle, rulebook: Rulebook, settings: LibrarySettings) -> Mapping[Input, object]:
    """Every input by its name: `lands` is the footprint, `about` name, category and description of the part."""
    part = bundle.part
    return {
        "sheet": bundle.sheet,
        "lands": bundle.footprint,
        "symbol": bundle.symbol,
        "body": bundle.body,
        "about": (part.name, part.category, part.description),
        "facts": part.facts,
        "match": (part.match, part.mechanical, part.internal, part.pinout),
        "datasheets": part.datasheets,
        "doubts": part.to_confirm,
        "rulebook": rulebook,
        "settings": settings,
    }


def changed_inputs(before: Mapping[Input, object], after: Mapping[Input, object]) -> frozenset[Input]:
    """The inputs that are not what they were."""
    return frozenset(name for name in INPUTS if before[name] is not after[name] and before[name] != after[name])
