"""Does the body stand on its lands? What must agree, measured and expected."""

import math
from collections.abc import Callable, Iterator

import msgspec

from eider.bodies.body_solids import body_solids, measure_body
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.geometry.rounding import NOISE
from eider.geometry.shapes import Box, inside_by
from eider.model.body import ImportedModel
from eider.model.bundle import Bundle
from eider.model.pattern import Pad
from eider.packages.orientation import orientation_in, terminals_on
from eider.packages.registry import family_of

SMALLEST = 1e-4
# How far (mm) a model may be from what is expected; makers draw rounded and nominal.
OF_MODEL = 0.01
# Material of marks on a body.
PAINT = "marking"
Show = Callable[[float], str]


class Agreement(msgspec.Struct, frozen=True):
    """One thing that must agree between body, lands and sheet."""

    what: str
    measured: str
    expected: str
    agrees: bool


def body_alignment(bundle: Bundle, unit: str) -> list[Agreement]:
    """Seating plane, height, and each terminal's foot on its land; empty while the sheet is not complete."""

    def show(mm: float) -> str:
        return format_length(mm, unit)

    if bundle.body.model is not None:
        return list(_of_model(bundle, bundle.body.model, show))
    try:
        return list(_of_generated(bundle, show))
    except EiderError:
        return []


def _of_generated(bundle: Bundle, show: Show) -> Iterator[Agreement]:
    """Leads and posts that go through the board, and the paint of marks, are not what the body stands on or ends with.

    Balls are larger than their lands: of them it is the middle that must agree.
    """
    family = family_of(bundle.sheet.family)
    dims = family.dims(bundle.sheet)
    pattern = bundle.footprint.pattern
    solids = body_solids(bundle.sheet, bundle.body)
    recipe = family.lands(bundle.sheet, dims)
    terminals = terminals_on(bundle.sheet, pattern) if pattern else family.terminals(bundle.sheet, dims)
    heights = [measure_body((solid,)).bounds for solid in solids if solid.material != PAINT]
    goes_through = bool(recipe.leads) or any(pad.hole for pad in (pattern.pads if pattern else ()))
    standing = [low[2] for low, _ in heights if not goes_through or low[2] >= 0]
    low, high = min(standing, default=0.0), max(top[2] for _, top in heights)
    balls = {number for grid in recipe.grids for number in grid.numbers}
    yield Agreement("Seating plane at zero", show(low), show(0.0), abs(low) <= SMALLEST)
    if "A" in dims:
        expected = dims["A"].upper
        is_same = abs(high - expected) <= SMALLEST
        yield Agreement("Height as in the package sheet", show(high), show(expected), is_same)
    pads = {pad.number: pad for pad in pattern.pads} if pattern else {}
    for terminal in terminals:
        yield _of_terminal(terminal.number, terminal.foot, pads, show, is_ball=terminal.number in balls)


def _of_model(bundle: Bundle, model: ImportedModel, show: Show) -> Iterator[Agreement]:
    """The model against the generated body in size, and against the lands terminal by terminal."""
    measure, pattern = model.measure, bundle.footprint.pattern
    seat = measure.seating
    yield Agreement("Seating plane at zero", show(seat), show(0.0), abs(seat) <= OF_MODEL)
    (x0, y0, _), (x1, y1, top) = measure.bounds
    try:
        low, high = measure_body(body_solids(bundle.sheet)).bounds
    except EiderError:
        pass
    else:
        sizes = (("Extent in x", x1 - x0, high[0] - low[0]), ("Extent in y", y1 - y0, high[1] - low[1]))
        for what, size, generated in (*sizes, ("Height", top, high[2])):
            yield Agreement(
                f"{what} as generated", show(size), show(generated), abs(size - generated) <= 0.1 * generated
            )
    pads = {pad.number: pad for pad in pattern.pads} if pattern else {}
    orientation = orientation_in(pattern) if pattern else None
    for terminal in measure.terminals:
        foot = orientation.box(terminal.box) if orientation else terminal.box
        mine = [pad for pad in (pattern.pads if pattern else ()) if pad.number == terminal.number]
        nearest = {terminal.number: min(mine, key=lambda pad: _apart(foot, pad.box))} if mine else {}
        yield _of_terminal(terminal.number, foot, nearest, show, is_ball=foot[0] == foot[2])
    missing = sorted(pads.keys() - {terminal.number for terminal in measure.terminals} - {""}, key=len)
    for number in missing:
        yield Agreement(f"terminal {number} on its land", "not found", "on the land", False)


def _apart(foot: Box, land: Box) -> float:
    """How far the middles of two boxes are apart (mm)."""
    return math.dist(*(((x0 + x1) / 2, (y0 + y1) / 2) for x0, y0, x1, y1 in (foot, land)))


def _of_terminal(number: str, foot: Box, pads: dict[str, Pad], show: Show, *, is_ball: bool) -> Agreement:
    pad = pads.get(number)
    if pad is None:
        return Agreement(f"terminal {number} on its land", "no land", "on the land", False)
    land = pad.box
    if is_ball:
        off = max(abs(foot[k] + foot[k + 2] - land[k] - land[k + 2]) / 2 for k in (0, 1))
        return Agreement(f"terminal {number} off its land by", show(off), show(0.0), off <= OF_MODEL)
    inside = inside_by(foot, land)
    return Agreement(f"terminal {number} inside its land by", show(inside), f"≥ {show(0.0)}", inside >= -NOISE)
