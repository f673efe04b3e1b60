"""Terminals under the body in rows and columns: lettering, missing and staggered positions; balls and flat lands."""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from eider.geometry.rounding import tidy
from eider.geometry.shapes import Box, box_outline, rounded_rectangle
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    BallGrid,
    Dims,
    FamilyField,
    Implausible,
    LandRecipe,
    Letter,
    SheetError,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.gullwing import corner_mark, marked_block

# Of the height of a body, what its laminate takes up; and how much smaller its moulding is, as a share of its width.
CARRIER, MOULDING_INSET = 0.3, 0.02
# Rows are lettered without I, O, Q, S, X and Z: A … Y, then AA, AB …
ROW_LETTERS = "ABCDEFGHJKLMNPRTUVWY"
FIELDS = (
    FamilyField(key="rows", title="rows", kind="count"),
    FamilyField(key="columns", title="columns", kind="count"),
    FamilyField(key="staggered", title="staggered", kind="flag"),
    FamilyField(key="missing", title="empty positions", kind="numbers"),
)
LETTERS = (
    Letter(key="D", meaning="body across", view="top", also=("A", "X")),
    Letter(key="E", meaning="body along", view="top", reference="D", typical=(0.3, 3.0), also=("B", "Y")),
    Letter(
        key="e",
        meaning="pitch",
        view="top",
        reference="D",
        typical=(0.01, 0.5),
        optional=True,
        pictured=True,
        also=("P",),
    ),
    Letter(key="eD", meaning="pitch across", view="top", reference="D", typical=(0.01, 0.5), optional=True),
    Letter(key="eE", meaning="pitch along", view="top", reference="E", typical=(0.01, 0.5), optional=True),
)


class Position(NamedTuple):
    """A terminal of the grid: number and place (mm)."""

    number: str
    x: float
    y: float


def row_letter(index: int) -> str:
    """The letters of a row counted from 0."""
    count = len(ROW_LETTERS)
    return (ROW_LETTERS[index // count - 1] if index >= count else "") + ROW_LETTERS[index % count]


def position_count(rows: int, columns: int, *, staggered: bool) -> int:
    """How many positions a grid has; a staggered one leaves out every other."""
    return (rows * columns + 1) // 2 if staggered else rows * columns


def grid_size(sheet: PackageSheet) -> tuple[int, int]:
    """Rows and columns: as the sheet says, else a full square of its pins.

    Raises:
        SheetError: the pins fill no square, and the sheet does not say how they stand.
    """
    if sheet.rows and sheet.columns:
        return sheet.rows, sheet.columns
    side = round((sheet.pins + len(sheet.missing)) ** 0.5)
    if side * side != sheet.pins + len(sheet.missing):
        raise SheetError(f"{sheet.pins} pins fill no square: enter rows and columns of the grid", "rows")
    return side, side


def pitches(dims: Dims) -> tuple[float, float]:
    """The pitch across and along (mm)."""
    return (dims["eD"] if "eD" in dims else dims["e"]).middle, (dims["eE"] if "eE" in dims else dims["e"]).middle


def positions(sheet: PackageSheet, dims: Dims) -> tuple[Position, ...]:
    """Every terminal, A1 upper left, numbers to the right; empty and, in a staggered grid, every other left out."""
    return _positions(grid_size(sheet), pitches(dims), frozenset(sheet.missing), sheet.staggered)


# Terminals, lands, name, drawing and body of one state all ask for the same positions.
@lru_cache(maxsize=8)
def _positions(
    size: tuple[int, int], pitch: tuple[float, float], missing: frozenset[str], staggered: bool
) -> tuple[Position, ...]:
    (rows, columns), (across, along) = size, pitch
    names = [row_letter(r) for r in range(rows)]
    xs = [tidy((c - (columns - 1) / 2) * across) for c in range(columns)]
    ys = [tidy(((rows - 1) / 2 - r) * along) for r in range(rows)]
    return tuple(
        Position(number, xs[c], ys[r])
        for r in range(rows)
        for c in range(columns)
        if not (staggered and (r + c) % 2) and (number := f"{names[r]}{c + 1}") not in missing
    )


def plausibility(sheet: PackageSheet, dims: Dims, size: str) -> Iterator[Implausible]:
    """A grid fits its body, its terminals do not touch, and it has as many as the sheet says."""
    rows, columns = grid_size(sheet)
    across, along = pitches(dims)
    for letter, count, pitch in (("D", columns, across), ("E", rows, along)):
        reach = (count - 1) * pitch + dims[size].lower
        if reach > dims[letter].upper:
            message = f"{count} positions at the pitch {pitch:g} do not fit along the body {letter}"
            yield Implausible((letter,), message, f"{reach:g} mm", f"≤ {dims[letter].upper:g} mm")
    nearest = min(across, along)
    if sheet.staggered:
        nearest = min(2 * nearest, (across**2 + along**2) ** 0.5)
    if dims[size].upper >= nearest:
        message = f"{size} reaches from one position to the next: they would touch"
        yield Implausible((size, "e"), message, f"{dims[size].upper:g} mm", f"< {nearest:g} mm")
    count = len(positions(sheet, dims))
    if count != sheet.pins:
        message = f"the grid has {count} positions that are not empty, the package {sheet.pins} pins"
        yield Implausible(("rows", "columns"), message, str(count), str(sheet.pins))


def terminals(sheet: PackageSheet, dims: Dims, size: str, *, square: bool = False) -> tuple[Terminal, ...]:
    """The terminals from above."""
    half = dims[size].middle / 2
    boxes = ((p.number, (p.x - half, p.y - half, p.x + half, p.y + half)) for p in positions(sheet, dims))
    return tuple(Terminal(number, box, box, round=not square) for number, box in boxes)


def bodies(dims: Dims) -> tuple[Box, Box]:
    """The body at nominal size and at its largest."""
    (x, y), (u, v) = ((dims["D"].middle / 2, dims["E"].middle / 2), (dims["D"].upper / 2, dims["E"].upper / 2))
    return (-x, -y, x, y), (-u, -v, u, v)


def recipe(
    sheet: PackageSheet,
    dims: Dims,
    size: str,
    kind: Literal["collapsing", "non-collapsing", "flat"],
    *,
    square: bool = False,
) -> LandRecipe:
    """The lands of a grid."""
    places = positions(sheet, dims)
    body, body_max = bodies(dims)
    grid = BallGrid(
        group="grid",
        numbers=tuple(p.number for p in places),
        x=np.array([p.x for p in places]),
        y=np.array([p.y for p in places]),
        size=dims[size],
        kind=kind,
        square=square,
        pitch=min(pitches(dims)),
    )
    first = places[0].number if places else "A1"
    return LandRecipe(grids=(grid,), body=body, body_max=body_max, first_pin=first, goals="ball-grid")


def top_view(sheet: PackageSheet, dims: Dims, size: str, *, square: bool = False) -> View:
    """The grid as seen through the body."""
    body, _ = bodies(dims)
    x0, y0, x1, y1 = body
    places = positions(sheet, dims)
    across = dims[size].middle
    shapes = [rounded_rectangle(p.x, p.y, across, across, 0.0 if square else across / 2) for p in places]
    first = places[0]
    dimensions = [
        ViewDimension("D", (x0, y1), (x1, y1), "top"),
        ViewDimension("E", (x1, y0), (x1, y1), "right"),
        ViewDimension(size, (first.x - across / 2, first.y), (first.x + across / 2, first.y), "top", 2),
    ]
    pitch_x, pitch_y = pitches(dims)
    if "e" in dims and "eE" not in dims:
        dimensions.append(ViewDimension("e", (x0, first.y - pitch_y), (x0, first.y), "left"))
    if "eE" in dims:
        dimensions.append(ViewDimension("eE", (x0, first.y - pitch_y), (x0, first.y), "left"))
    if "eD" in dims:
        dimensions.append(ViewDimension("eD", (first.x, y0), (first.x + pitch_x, y0), "bottom"))
    return View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", shape) for shape in shapes),
            ViewShape("mark", corner_mark(body, 0.04, 0.5).outline()),
        ),
        tuple(dimensions),
    )


def side_view(dims: Dims, shapes: Sequence[ViewShape], low: float) -> View:
    """The grid from the side: the body above its terminals."""
    (x0, _, x1, _), _ = bodies(dims)
    height = dims["A"].upper
    dimensions = [ViewDimension("A", (x0, 0), (x0, height), "left", 2)]
    if low > 0:
        dimensions.append(ViewDimension("A1", (x0, 0), (x0, low), "left"))
    return View("side", (*shapes, ViewShape("body", box_outline((x0, low, x1, height)))), tuple(dimensions))


def carried_body(dims: Dims, box: Box) -> tuple[Solid, ...]:
    """A laminate as large as the package, and on it the moulding with the mark of A1."""
    low, top = dims["A1"].middle, dims["A"].upper
    carrier = low + CARRIER * (top - low)
    x0, y0, x1, y1 = box
    inset = MOULDING_INSET * min(x1 - x0, y1 - y0)
    moulding = (x0 + inset, y0 + inset, x1 - inset, y1 - inset)
    laminate = Solid("laminate", "laminate", Prism(box_outline(box), low, carrier))
    return (laminate, *marked_block(carrier, top, moulding, corner_mark(moulding, 0.04, 0.5), is_sawn=True))
