"""Does the body stand on its lands? What must agree, measured and expected."""

import math
from collections.abc import Callable, Iterator

import msgspec

from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.bodies.solids.solids_measure import measure_of_body
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.geometry.plane import Box, inside_by
from eider.geometry.rounding import NOISE
from eider.model.body import ModelMeasure
from eider.model.bundle import Bundle
from eider.model.pattern import Pad
from eider.packages.orientation import orientation_in
from eider.packages.registry import family_of

# How far (mm) a body may be from what is expected; makers draw rounded and nominal.
OF_MODEL = 0.01
Show = Callable[[float], str]


class Agreement(msgspec.Struct, frozen=True):
    """One thing that must agree between body, lands and sheet."""

    what: str
    measured: str
    expected: str
    agrees: bool


def body_alignment(bundle: Bundle, unit: str) -> list[Agreement]:
    """Seating plane, size, and each terminal's foot on its land; empty while the sheet is not complete."""

    def show(mm: float) -> str:
        return format_length(mm, unit)

    try:
        return list(_agreements(bundle, measure_of_body(bundle.sheet, bundle.body), show))
    except EiderError:
        return []


def _agreements(bundle: Bundle, measure: ModelMeasure, show: Show) -> Iterator[Agreement]:
    """A model and composed solids are compared with the generated body in size, that one against the sheet."""
    seat, top = measure.seating, measure.bounds[1][2]
    yield Agreement("Seating plane at zero", show(seat), show(0.0), abs(seat) <= OF_MODEL)
    if bundle.body.model is not None or bundle.body.composed:
        yield from _beside_generated(bundle, measure, show)
    elif "A" in (dims := family_of(bundle.sheet.family).dims(bundle.sheet)):
        expected = dims["A"].upper
        yield Agreement("Height as in the package sheet", show(top), show(expected), abs(top - expected) <= OF_MODEL)
    yield from _of_terminals(bundle, measure, show)


def _beside_generated(bundle: Bundle, measure: ModelMeasure, show: Show) -> Iterator[Agreement]:
    (x0, y0, _), (x1, y1, top) = measure.bounds
    try:
        low, high = measure_body(body_solids(bundle.sheet)).bounds
    except EiderError:
        return
    sizes = (("Extent in x", x1 - x0, high[0] - low[0]), ("Extent in y", y1 - y0, high[1] - low[1]))
    for what, size, generated in (*sizes, ("Height", top, high[2])):
        yield Agreement(f"{what} as generated", show(size), show(generated), abs(size - generated) <= 0.1 * generated)


def _of_terminals(bundle: Bundle, measure: ModelMeasure, show: Show) -> Iterator[Agreement]:
    """Balls are larger than their lands: of them it is the middle that must agree."""
    pattern = bundle.footprint.pattern
    if pattern is None:
        return
    orientation = orientation_in(pattern)
    for terminal in measure.terminals:
        foot = orientation.box(terminal.box)
        mine = [pad for pad in pattern.pads if pad.number == terminal.number]
        nearest = {terminal.number: min(mine, key=lambda pad: _apart(foot, pad.box))} if mine else {}
        yield _of_terminal(terminal.number, foot, nearest, show, is_ball=foot[0] == foot[2])
    if not measure.terminals and not bundle.body.model and not bundle.body.composed:
        yield Agreement("Terminals", "none", "none", True)
        return
    numbers = {pad.number for pad in pattern.pads} - {""}
    for number in sorted(numbers - {terminal.number for terminal in measure.terminals}, key=len):
        yield Agreement(f"Terminal {number} on its land", "not found", "on the land", False)


def _apart(foot: Box, land: Box) -> float:
    """How far the middles of two boxes are apart (mm)."""
    return math.dist(*(((x0 + x1) / 2, (y0 + y1) / 2) for x0, y0, x1, y1 in (foot, land)))


def _of_terminal(number: str, foot: Box, pads: dict[str, Pad], show: Show, *, is_ball: bool) -> Agreement:
    pad = pads.get(number)
    if pad is None:
        return Agreement(f"Terminal {number} on its land", "no land", "on the land", False)
    land = pad.box
    if is_ball:
        off = max(abs(foot[k] + foot[k + 2] - land[k] - land[k + 2]) / 2 for k in (0, 1))
        return Agreement(f"Terminal {number} off its land by", show(off), show(0.0), off <= OF_MODEL)
    inside = inside_by(foot, land)
    return Agreement(f"Terminal {number} inside its land by", show(inside), f"≥ {show(0.0)}", inside >= -NOISE)
