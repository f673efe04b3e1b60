"""Terminals under the body in rows and columns: lettering, missing and staggered positions; balls and flat lands."""

import math
from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.geometry.rounding import tidy
from eider.geometry.shapes import rounded_rectangle
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
from eider.packages.forms.gullwing import corner_mark, marked_block

# Of the height of a body, what its laminate takes up; and how much smaller its moulding is, as a share of its width.
CARRIER, MOULDING_INSET = 0.3, 0.02
# Rows are lettered without I, O, Q, S, X and Z: A … Y, then AA, AB …
ROW_LETTERS = "ABCDEFGHJKLMNPRTUVWY"
_LETTERS_IN_ORDER = (*ROW_LETTERS, *(a + b for a in ROW_LETTERS for b in ROW_LETTERS))
MASK_DEFINED = "mask_defined"
OTHER, CORNERS = "other_size", "corners"
INNER_ROWS, INNER_COLUMNS, INNER_FIRST = "inner_rows", "inner_columns", "inner_first"
FIELDS = (
    FamilyField(key="rows", title="rows", kind="count"),
    FamilyField(key="columns", title="columns", kind="count"),
    FamilyField(key="staggered", title="staggered", kind="flag"),
    FamilyField(key="missing", title="empty positions", kind="numbers"),
    FamilyField(
        key=OTHER,
        title="of another size",
        kind="numbers",
        help="Positions whose terminals have the size b2, such as A1, A8; “corners” are the four of the grid.",
    ),
    FamilyField(
        key=INNER_ROWS,
        title="inner rows",
        kind="count",
        help="The inner field, in the middle of the grid, has the pitch e2.",
    ),
    FamilyField(key=INNER_COLUMNS, title="inner columns", kind="count"),
    FamilyField(
        key=INNER_FIRST,
        title="first inner position",
        kind="numbers",
        help="The name of its upper left position, such as N1; the others count on from it.",
    ),
)
MASK_DEFINED_FIELD = FamilyField(
    key=MASK_DEFINED,
    title="mask-defined",
    kind="flag",
    help="The opening of the mask is as large as the land would be, and the copper reaches under the mask.",
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
    Letter(
        key="e2",
        meaning="pitch of the inner field",
        view="top",
        reference="e",
        typical=(0.4, 2.5),
        optional=True,
        by_name=True,
    ),
    Letter(
        key="b2",
        meaning="size where it is another",
        view="top",
        reference="b",
        typical=(0.5, 3.0),
        optional=True,
        by_name=True,
    ),
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


def row_index(letters: str) -> int | None:
    """The row, counted from 0, that letters name; None where no row is called so."""
    return _LETTERS_IN_ORDER.index(letters) if letters in _LETTERS_IN_ORDER else None


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
    """Every terminal, A1 upper left, numbers to the right; empty and, in a staggered grid, every other left out.

    Those of an inner field follow.
    """
    outer = _positions(grid_size(sheet), pitches(dims), frozenset(sheet.missing), sheet.staggered)
    return (*outer, *_inner_positions(sheet, dims)) if sheet.option(INNER_ROWS) else outer


def _inner_positions(sheet: PackageSheet, dims: Dims) -> tuple[Position, ...]:
    """The positions of a field in the middle, at a pitch of its own, whose names count on from its first."""
    rows, columns, named = (sheet.option(key) for key in (INNER_ROWS, INNER_COLUMNS, INNER_FIRST))
    first = named[0] if isinstance(named, tuple) and len(named) == 1 else ""
    letters = first.rstrip("0123456789")
    digits = first[len(letters) :]
    if not (isinstance(rows, int) and isinstance(columns, int) and columns):
        raise SheetError("the inner field has rows and no columns; enter the inner columns", INNER_COLUMNS)
    start = row_index(letters)
    if start is None or not digits:
        raise SheetError("the inner field has no name of its first position; enter one such as N1", INNER_FIRST)
    count, pitch = int(digits), dims["e2"].middle
    return tuple(
        Position(
            f"{row_letter(start + r)}{count + c}",
            tidy((c - (columns - 1) / 2) * pitch),
            tidy(((rows - 1) / 2 - r) * pitch),
        )
        for r in range(rows)
        for c in range(columns)
    )


class Terminals(NamedTuple):
    """Terminals of one size: what they are called, where they stand, and how large they are across and along."""

    group: str
    places: tuple[Position, ...]
    width: Limits
    height: Limits


def terminals_by_size(sheet: PackageSheet, dims: Dims, size: str) -> tuple[Terminals, ...]:
    """The terminals, those apart whose size is another.

    Raises:
        SheetError: a position of another size is none of the grid.
    """
    places = positions(sheet, dims)
    other = _other_numbers(sheet, places)
    height = dims["L"] if "L" in dims else dims[size]
    plain = Terminals("grid", tuple(p for p in places if p.number not in other), dims[size], height)
    if not other:
        return (plain,)
    others = tuple(p for p in places if p.number in other)
    return plain, Terminals("other size", others, dims["b2"], dims["L2"] if "L2" in dims else dims["b2"])


def _other_numbers(sheet: PackageSheet, places: Sequence[Position]) -> frozenset[str]:
    listed = sheet.option(OTHER)
    named = set(listed) if isinstance(listed, tuple) else set()
    if CORNERS in named:
        rows, columns = grid_size(sheet)
        named |= {f"{row_letter(r)}{c}" for r in (0, rows - 1) for c in (1, columns)} - set(sheet.missing)
    named.discard(CORNERS)
    if unknown := sorted(named - {p.number for p in places}):
        raise SheetError(f"{unknown[0]} is not a position of the grid; correct those of another size", OTHER)
    return frozenset(named)


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
    yield from _inner_field(sheet, dims, size)
    count = len(positions(sheet, dims))
    if count != sheet.pins:
        message = f"the grid has {count} positions that are not empty, the package {sheet.pins} pins"
        yield Implausible(("rows", "columns"), message, str(count), str(sheet.pins))


def _inner_field(sheet: PackageSheet, dims: Dims, size: str) -> Iterator[Implausible]:
    """Names of an inner field are its own, and its terminals stand clear of those around it."""
    if not sheet.option(INNER_ROWS):
        return
    outer = _positions(grid_size(sheet), pitches(dims), frozenset(sheet.missing), sheet.staggered)
    inner = _inner_positions(sheet, dims)
    if doubled := sorted({p.number for p in outer} & {p.number for p in inner}):
        message = f"the inner field has positions of the outer grid's names: {', '.join(doubled[:5])}"
        yield Implausible((INNER_FIRST,), message, f"{len(doubled)} names", "none")
    apart = min((max(abs(a.x - b.x), abs(a.y - b.y)) for a in outer for b in inner), default=math.inf)
    if apart <= dims[size].upper:
        message = "terminals of the inner field touch those of the outer grid: correct the empty positions or e2"
        yield Implausible(("e2",), message, f"{apart:g} mm", f"> {dims[size].upper:g} mm")


def terminals(sheet: PackageSheet, dims: Dims, size: str, *, square: bool = False) -> tuple[Terminal, ...]:
    """The terminals from above."""
    found = []
    for group in terminals_by_size(sheet, dims, size):
        w, h = group.width.middle / 2, group.height.middle / 2
        boxes = ((p.number, (p.x - w, p.y - h, p.x + w, p.y + h)) for p in group.places)
        found += [Terminal(number, box, box, round=not square and w == h) for number, box in boxes]
    return tuple(found)


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
    body, body_max = bodies(dims)
    grids = tuple(
        BallGrid(
            group=group,
            numbers=tuple(p.number for p in places),
            x=np.array([p.x for p in places]),
            y=np.array([p.y for p in places]),
            size=width,
            height=None if height is width else height,
            kind=kind,
            square=square,
            mask_defined=sheet.option(MASK_DEFINED) is True,
            pitch=min(pitches(dims)),
        )
        for group, places, width, height in terminals_by_size(sheet, dims, size)
        if places
    )
    placed = positions(sheet, dims)
    first = placed[0].number if placed else "A1"
    return LandRecipe(grids=grids, body=body, body_max=body_max, first_pin=first, goals="ball-grid")


def top_view(sheet: PackageSheet, dims: Dims, size: str, *, square: bool = False) -> View:
    """The grid as seen through the body."""
    body, _ = bodies(dims)
    x0, y0, x1, y1 = body
    places = positions(sheet, dims)
    across = dims[size].middle
    shapes = [
        rounded_rectangle(p.x, p.y, w, h, 0.0 if square or w != h else w / 2)
        for group in terminals_by_size(sheet, dims, size)
        for w, h in ((group.width.middle, group.height.middle),)
        for p in group.places
    ]
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
    dimensions += _sizes_shown(sheet, dims, size)
    return View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", shape) for shape in shapes),
            ViewShape("mark", corner_mark(body, 0.04, 0.5).outline()),
        ),
        tuple(dimensions),
    )


def _sizes_shown(sheet: PackageSheet, dims: Dims, size: str) -> Iterator[ViewDimension]:
    """Where the lengths of some grids alone are shown: of rectangles, of another size, of an inner field."""
    plain, *others = terminals_by_size(sheet, dims, size)
    if "L" in dims and plain.places:
        p, half = plain.places[0], dims["L"].middle / 2
        yield ViewDimension("L", (p.x, p.y - half), (p.x, p.y + half), "left", 2)
    for other in others:
        p, w, h = other.places[-1], other.width.middle / 2, other.height.middle / 2
        yield ViewDimension("b2", (p.x - w, p.y), (p.x + w, p.y), "bottom", 2)
        if "L2" in dims:
            yield ViewDimension("L2", (p.x, p.y - h), (p.x, p.y + h), "right", 2)
    if sheet.option(INNER_ROWS):
        first, pitch = _inner_positions(sheet, dims)[0], dims["e2"].middle
        yield ViewDimension("e2", (first.x, first.y), (first.x + pitch, first.y), "bottom", 3)


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
