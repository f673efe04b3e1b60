"""Parts with two terminals, at the left and at the right, lying on the board: what the families of that kind share."""

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, LandRecipe, OpposedRows, Terminal, View, ViewDimension, ViewShape
from eider.packages.forms.dual import Dual, Numbered, block

# Kinds in which the two ends are not alike; pin 1 (cathode, plus) lies left.
POLAR = ("diode", "capacitor polarised", "led")
# The band is above the body by so little (mm): seen, not measured.
BAND = 0.01


def one_each(pins: int) -> str:
    """Why a number of pins is impossible; empty where there are two."""
    return "" if pins == 2 else "such a part has 2 terminals"


def ends(span: Limits, width: Limits, length: Limits, foot: Limits, lead: Limits) -> Dual:
    """Pin 1 left, pin 2 right; `span` over the terminals, `width` and `length` of the body along x and y."""
    return Dual((Numbered("1", 0.0),), (Numbered("2", 0.0),), span, width, length, foot, lead, 0.0)


def pair(part: Dual, goals: str, measures: dict[str, float], gap: Limits | None = None) -> OpposedRows:
    """Both terminals for the solder-joint equations."""
    return OpposedRows(
        group="terminal 1 and terminal 2",
        axis="x",
        length=part.span,
        foot=part.foot,
        width=part.lead,
        gap=gap,
        first=("1",),
        second=("2",),
        at_first=np.zeros(1),
        at_second=np.zeros(1),
        goals=goals,
        measures=measures,
    )


def recipe(part: Dual, rows: OpposedRows, *, polarised: bool) -> LandRecipe:
    """Lands with the body round the origin."""
    return LandRecipe(rows=(rows,), body=part.body, body_max=part.body_max, first_pin="1", polarised=polarised)


def is_polar(sheet: PackageSheet) -> bool:
    """Whether the two ends of a part are not alike."""
    return sheet.kind in POLAR


def cathode_band(body: Box, share: float = 0.12) -> Box:
    """The band on a body at its left end that tells cathode or plus."""
    x0, y0, x1, y1 = body
    at = x0 + 0.12 * (x1 - x0)
    return at, y0, at + share * (x1 - x0), y1


def band_solid(top: Box, height: float) -> Solid:
    """That band on the top of a body, which lies at a height (mm)."""
    return block("band", "marking", cathode_band(top), height, height + BAND)


def top_view(part: Dual, terminals: tuple[Terminal, ...], letters: dict[str, str], marks: tuple[Box, ...] = ()) -> View:
    """The part from above; `letters` names span, width, length, foot and lead as far as the family shows them."""
    x0, y0, x1, y1 = part.body
    tip, half = part.span.middle / 2, part.lead.middle / 2
    shown = {
        "span": lambda key: ViewDimension(key, (-tip, y1), (tip, y1), "top", 2 if "width" in letters else 1),
        "width": lambda key: ViewDimension(key, (x0, y1), (x1, y1), "top"),
        "length": lambda key: ViewDimension(key, (x1, y0), (x1, y1), "right", 2 if "lead" in letters else 1),
        "lead": lambda key: ViewDimension(key, (tip, -half), (tip, half), "right"),
        "foot": lambda key: ViewDimension(key, (-tip, -half), (-tip + part.foot.middle, -half), "bottom"),
    }
    return View(
        "top",
        (
            *(ViewShape("terminal", box_outline(t.whole)) for t in terminals),
            ViewShape("body", box_outline(part.body)),
            *(ViewShape("mark", box_outline(mark)) for mark in marks),
        ),
        tuple(shown[what](key) for what, key in letters.items()),
    )


def side_view(part: Dual, dims: Dims, thick: float, low: float = 0.0, *, foot: bool = False) -> View:
    """The part from the side: body above `low`, flat terminals of a thickness under or beside it."""
    x0, _, x1, _ = part.body
    tip, inner, height = part.span.middle / 2, part.span.middle / 2 - part.foot.middle, dims["A"].upper
    dimensions = [ViewDimension("A", (x1, 0), (x1, height), "right")]
    if foot:
        dimensions.append(ViewDimension("L", (inner, 0), (tip, 0), "bottom"))
    return View(
        "side",
        (
            ViewShape("body", box_outline((x0, low, x1, height))),
            ViewShape("terminal", box_outline((-tip, 0, -inner, thick))),
            ViewShape("terminal", box_outline((inner, 0, tip, thick))),
        ),
        tuple(dimensions),
    )
