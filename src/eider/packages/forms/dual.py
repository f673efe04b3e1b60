"""Packages with terminals on two opposing sides, left and right: what the families of that kind share."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, box_outline
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    LandRecipe,
    OpposedRows,
    Plate,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)


class Numbered(NamedTuple):
    """A terminal's number, and its place along its row (mm)."""

    number: str
    at: float


class Dual(NamedTuple):
    """Two rows of terminals beside a body: the left one from the top down, the right one from the bottom up.

    `span` is measured over the terminals, `width` and `length` of the body across and along the rows.
    """

    left: tuple[Numbered, ...]
    right: tuple[Numbered, ...]
    span: Limits
    width: Limits
    length: Limits
    foot: Limits
    lead: Limits
    pitch: float

    @property
    def body(self) -> Box:
        """The body at nominal size."""
        x, y = self.width.middle / 2, self.length.middle / 2
        return -x, -y, x, y

    @property
    def body_max(self) -> Box:
        """The body at its largest."""
        x, y = self.width.upper / 2, self.length.upper / 2
        return -x, -y, x, y


class Shown(NamedTuple):
    """The letters under which a family shows its lengths; an empty one is not shown."""

    span: str = "E"
    width: str = "E1"
    length: str = "D"
    pitch: str = "e"
    lead: str = "b"
    foot: str = "L"


def two_rows(sheet: PackageSheet, pitch: float) -> tuple[tuple[Numbered, ...], tuple[Numbered, ...]]:
    """Number and y of each terminal: down the left side, up the right side; missing numbers are left out.

    A sheet that names its own numbers by position, from the top down, has them there; an empty one has no terminal.
    """
    if sheet.left or sheet.right:
        left, right = _by_position(sheet.left, pitch), _by_position(sheet.right, pitch)[::-1]
    else:
        count = sheet.pins // 2
        left = _by_position([str(i + 1) for i in range(count)], pitch)
        right = _by_position([str(2 * count - i) for i in range(count)], pitch)[::-1]
    return tuple(p for p in left if p.number not in sheet.missing), tuple(
        p for p in right if p.number not in sheet.missing
    )


def positions(sheet: PackageSheet) -> int:
    """How many positions the longer row has, empty ones counted."""
    return max(len(sheet.left), len(sheet.right)) or sheet.pins // 2


def _by_position(numbers: Sequence[str], pitch: float) -> list[Numbered]:
    middle = (len(numbers) - 1) / 2
    return [Numbered(number, (middle - i) * pitch) for i, number in enumerate(numbers) if number]


def flat_terminals(dual: Dual, inner: float | None = None) -> tuple[Terminal, ...]:
    """Terminals seen from above; each reaches from its tip to `inner` (half of a distance, mm), or to the body."""
    tip, half = dual.span.middle / 2, dual.lead.middle / 2
    heel = tip - dual.foot.middle
    edge = dual.width.middle / 2 if inner is None else inner
    return (
        *(Terminal(n, (-tip, y - half, -heel, y + half), (-tip, y - half, -edge, y + half)) for n, y in dual.left),
        *(Terminal(n, (heel, y - half, tip, y + half), (edge, y - half, tip, y + half)) for n, y in dual.right),
    )


def terminal_solid(dual: Dual, shape: Outline, thick: float, name: str = "terminal") -> Solid:
    """A flat terminal of the right side as a prism from the board up, with all its instances."""
    return Solid(name, "tin", Prism(shape, 0.0, thick), lead_places(dual))


def lead_places(dual: Dual) -> tuple[SolidPlacement, ...]:
    """Where a lead that points to +x stands, for both rows."""
    return (*(SolidPlacement(y=y, turn=180.0) for _, y in dual.left), *(SolidPlacement(y=y) for _, y in dual.right))


def flat_foot(dual: Dual) -> Outline:
    """A foot of the right side about the row's own line."""
    tip, half = dual.span.middle / 2, dual.lead.middle / 2
    return box_outline((tip - dual.foot.middle, -half, tip, half))


def top_view(dual: Dual, terminals: Sequence[Terminal], shown: Shown, marks: Sequence[Outline] = ()) -> View:
    """The package from above, with its lengths."""
    x0, y0, x1, y1 = dual.body
    tip, lead = dual.span.middle / 2, dual.lead.middle
    first = dual.left[0].at if dual.left else 0.0
    last = dual.right[0].at if dual.right else 0.0
    leads = tuple(ViewShape("terminal", box_outline(t.whole)) for t in terminals)
    dimensions = (
        ViewDimension(shown.width, (x0, y1), (x1, y1), "top"),
        ViewDimension(shown.span, (-tip, first), (tip, first), "top", 2 if shown.width else 1),
        ViewDimension(shown.length, (x1, y0), (x1, y1), "right", 2 if shown.lead else 1),
        ViewDimension(shown.pitch, (-tip, first - dual.pitch), (-tip, first), "left"),
        ViewDimension(shown.lead, (tip, last - lead / 2), (tip, last + lead / 2), "right"),
    )
    shapes = (*leads, ViewShape("body", box_outline(dual.body)), *(ViewShape("mark", mark) for mark in marks))
    return View("top", shapes, tuple(d for d in dimensions if d.letter))


def under_body(view: View) -> View:
    """The same view with the terminals drawn over the body, as seen through it: they lie under it."""
    body = [s for s in view.shapes if s.role == "body"]
    others = [s for s in view.shapes if s.role != "body"]
    return View(view.name, (*body, *others), view.dimensions)


def side_view(dual: Dual, dims: Dims, profile: Outline, shown: Shown, low: float = 0.0) -> View:
    """The package from the side, looking along the rows: the right terminal's profile and its mirror image."""
    x0, _, x1, _ = dual.body
    height = dims["A"].upper
    tip, foot = dual.span.middle / 2, dual.foot.middle
    dimensions = [ViewDimension("A", (x0, 0), (x0, height), "left", 2)]
    if "A1" in dims:
        dimensions.append(ViewDimension("A1", (x0, 0), (x0, dims["A1"].middle), "left"))
    if shown.foot:
        dimensions.append(ViewDimension(shown.foot, (tip - foot, 0), (tip, 0), "bottom"))
    if "c" in dims:
        dimensions.append(ViewDimension("c", (tip, 0), (tip, dims["c"].middle), "right"))
    return View(
        "side",
        (
            ViewShape("terminal", profile),
            ViewShape("terminal", tuple((-x, z) for x, z in profile)),
            ViewShape("body", box_outline((x0, low, x1, height))),
        ),
        tuple(dimensions),
    )


def opposed(
    dual: Dual, goals: str, measures: dict[str, float], group: str = "row 1 and row 2", gap: Limits | None = None
) -> OpposedRows:
    """Both rows for the solder-joint equations."""
    return OpposedRows(
        group=group,
        axis="x",
        length=dual.span,
        foot=dual.foot,
        width=dual.lead,
        gap=gap,
        first=tuple(n for n, _ in dual.left),
        second=tuple(n for n, _ in dual.right),
        at_first=np.array([at for _, at in dual.left]),
        at_second=np.array([at for _, at in dual.right]),
        goals=goals,
        measures=measures,
        pitch=dual.pitch,
    )


def dual_recipe(
    dual: Dual, rows: tuple[OpposedRows, ...], *, plates: tuple[Plate, ...] = (), polarised: bool = True
) -> LandRecipe:
    """Lands from rows, with the body round the origin; the mark is at the first terminal of the left row."""
    first = dual.left[0].number if dual.left else ""
    return LandRecipe(
        rows=rows, plates=plates, body=dual.body, body_max=dual.body_max, first_pin=first, polarised=polarised
    )


def box_of(terminal: Terminal) -> Outline:
    """The whole of a terminal from above."""
    return box_outline(terminal.whole)


def block(name: str, material: str, box: Box, low: float, high: float) -> Solid:
    """A plain block from `low` to `high` (mm)."""
    return Solid(name, material, Prism(box_outline(box), low, high))


def even_rows(pins: int) -> str:
    """Why a number of pins cannot be in two even rows; empty where it can."""
    return "" if pins >= 4 and pins % 2 == 0 else "two even rows need an even number of pins, 4 or more"
