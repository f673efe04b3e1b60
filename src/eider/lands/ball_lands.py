"""Lands of ball and land grids (IPC-7351, IPC-7352): their size from the ball. Lengths in mm."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from eider.errors import InputError
from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.lands.pads import opening_of
from eider.model.pattern import Pad, PadShape, SizeDerivation
from eider.packages.family import BallGrid, LandRecipe
from eider.rulebooks import Rulebook


class GridLands(NamedTuple):
    """The pads of a grid without openings, and how their size came about."""

    pads: tuple[Pad, ...]
    derivation: SizeDerivation


def land_size(ball: float, kind: str, rulebook: Rulebook) -> tuple[float, str]:
    """Diameter of the land for a nominal ball (mm), and the words for how it follows.

    The rulebook's table wins for collapsing balls; between its entries the share of the ball's size holds.

    Raises:
        InputError: the size is not greater than zero.
    """
    if ball <= 0:
        raise InputError(f"ball or land diameter {ball:g} mm. Enter its size in the package sheet")
    rules = rulebook.grids
    if kind == "flat":
        return round_to_step(ball, rules.step), f"land = terminal at nominal size = {ball:g}"
    if kind == "collapsing":
        for listed, land in rules.lands:
            if abs(listed - ball) < NOISE:
                return land, f"land by the rulebook's table: ball {ball:g} → {land:g}"
    share = next(s for s in sorted(rules.steps, key=lambda s: -s.at_least) if ball >= s.at_least - NOISE)
    factor = 1 - share.collapsing if kind == "collapsing" else 1 + share.non_collapsing
    size = round_to_step(ball * factor, rules.step)
    return size, f"land = ball × {factor:g} = {ball:g} × {factor:g} = {ball * factor:.4f} → {size:g}"


def mask_defined_openings(pads: Sequence[Pad], recipe: LandRecipe, rulebook: Rulebook) -> tuple[Pad, ...]:
    """The pads with openings that are smaller than their copper, where the mask defines the land; and their paste."""
    numbers = {number for grid in recipe.grids if grid.mask_defined for number in grid.numbers}
    if not numbers:
        return tuple(pads)
    overlap = rulebook.grids.mask_overlap
    made = []
    for pad in pads:
        opening = opening_of(pad, -overlap) if pad.number in numbers else None
        paste = opening_of(pad, rulebook.pads.paste_expansion - overlap) if opening else None
        made.append(replace(pad, mask=(opening,), paste=(paste,) if paste else ()) if opening else pad)
    return tuple(made)


def lay_grid(grid: BallGrid, rulebook: Rulebook) -> GridLands:
    """A land for every position."""
    size, words = land_size(grid.size.middle, grid.kind, rulebook)
    height, formulas = size, [words]
    if grid.height is not None:
        height, more = land_size(grid.height.middle, grid.kind, rulebook)
        formulas.append(more.replace("land", "length", 1))
    if grid.mask_defined:
        under = 2 * rulebook.grids.mask_overlap
        formulas.append(f"defined by the mask: the opening is {size:g}, copper {size:g} + {under:g} → {size + under:g}")
        size, height = tidy(size + under), tidy(height + under)
    shape: PadShape = "rectangle" if grid.square or size != height else "circle"
    x, y = np.round(grid.x, 6) + 0.0, np.round(grid.y, 6) + 0.0
    pads = tuple(
        Pad(number, px, py, size, height, shape=shape)
        for number, px, py in zip(grid.numbers, x.tolist(), y.tolist(), strict=True)
    )
    derivation = SizeDerivation(
        group=grid.group,
        numbers=grid.numbers,
        values={"land": tidy(size)} | ({} if height == size else {"land length": tidy(height)}),
        inputs={"nominal": grid.size.middle},
        formulas=tuple(formulas),
    )
    return GridLands(pads, derivation)
