"""What went into the derivation of lands, each linked to the cell of the sheet and the evidence it came from."""

from collections.abc import Iterator

import msgspec

from eider.checks import PartUnderCheck
from eider.evidence.value_evidence import datasheet_names, evidence_words
from eider.geometry.lengths import format_length, format_limits
from eider.geometry.limits import Limits
from eider.model.address import Address, DimensionAddress
from eider.packages.family import LandRecipe, letter_of


class InputRow(msgspec.Struct, frozen=True):
    """An input of a group: its name in the equations, its value in words, the sheet's letter and evidence.

    `address` is that of the cell; none for what the rulebook gives, which `letter` then says.
    """

    group: str
    name: str
    value: str
    letter: str
    evidence: str
    address: Address | None = None


def derivation_inputs(view: PartUnderCheck, unit: str = "mm") -> list[InputRow]:
    """Every length that went into the lands, by group, then what the rulebook gives to all."""
    if view.recipe is None or view.dims is None:
        return []
    rows = [_row(view, unit, *found) for found in _lengths(view.recipe)]
    rules = view.rulebook.tolerances
    if view.recipe.rows:
        named = (("F", rules.fabrication, "fabrication"), ("P", rules.placement, "placement"))
        rows += [
            InputRow("all rows", name, format_length(value, unit), f"rulebook, {what}", view.rulebook.name)
            for name, value, what in named
        ]
    return rows


def _lengths(recipe: LandRecipe) -> Iterator[tuple[str, str, Limits]]:
    for rows in recipe.rows:
        named = (("L", rows.length), ("T", rows.foot), ("W", rows.width), ("S", rows.gap))
        yield from ((rows.group, name, limits) for name, limits in named if limits is not None)
    for plate in recipe.plates:
        yield f"thermal pad {plate.number}", "width", plate.width
        yield f"thermal pad {plate.number}", "height", plate.height
    for grid in recipe.grids:
        yield grid.group, "size", grid.size
    for leads in recipe.leads:
        yield leads.group, "width", leads.width
        if leads.thickness is not None:
            yield leads.group, "thickness", leads.thickness


def _row(view: PartUnderCheck, unit: str, group: str, name: str, limits: Limits) -> InputRow:
    letter, value = letter_of(limits), format_limits(limits, unit)
    dimension = view.bundle.sheet.dims.get(letter)
    if not letter:
        return InputRow(group, name, value, "worked out", "from lengths of the sheet")
    sheet_letter = view.bundle.sheet.datasheet_letter(letter)
    shown = f"{letter} ({sheet_letter} in the sheet)" if sheet_letter else letter
    if dimension is None:
        return InputRow(group, name, value, shown, "assumed", DimensionAddress(letter))
    names = datasheet_names(view.bundle.part)
    words = evidence_words(dimension, names)
    return InputRow(group, name, value, shown, words, DimensionAddress(letter))
