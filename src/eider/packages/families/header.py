"""Pins in rows and columns: headers, sockets, terminal blocks, wire-to-board connectors, with posts."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet, Post
from eider.packages.family import (
    Dims,
    Family,
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
from eider.packages.forms import dual, leaded
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger

FIRST_PIN = "first_pin"
# Where pin 1 stands, and in which direction that corner lies.
CORNERS = {
    "upper left": (-1.0, 1.0),
    "lower left": (-1.0, -1.0),
    "lower right": (1.0, -1.0),
    "upper right": (1.0, 1.0),
}
PRESS_FIT = "press_fit"
NUMBERINGS = ("row", "zigzag", "around")
# Distances of the body from pin 1, and the sides that they tell.
BODY = ("left", "right", "above", "below")
HEIGHT = 8.5
# Wall of a housing as a share of the pitch; its floor and how far pins reach up, as shares of its height.
WALL, FLOOR, PIN_SHARE = 0.2, 0.3, 0.85
Places = list[tuple[str, float, float]]


def _pin_fault(pins: int) -> str:
    return "" if pins >= 1 else "a header has pins"


def _size(sheet: PackageSheet) -> tuple[int, int]:
    """Rows and columns; one row where the sheet does not say."""
    rows = sheet.rows or 1
    # Positions without a pin: those that are missing, or empty in a list of the sheet's own numbers.
    empty = sum(not number for number in sheet.left) if sheet.left else len(sheet.missing)
    columns = sheet.columns or (sheet.pins + empty) // rows
    if columns < 1 or rows * columns - empty != sheet.pins or len(sheet.left) not in (0, rows * columns):
        less = f" less {empty}" if empty else ""
        raise SheetError(f"{rows} × {columns}{less} are not {sheet.pins} pins; correct rows or columns", "rows")
    return rows, columns


def _number(row: int, column: int, rows: int, columns: int, numbering: str) -> int:
    """`row`: along each row in turn; `zigzag`: down each column in turn; `around`: every second row comes back."""
    if numbering == "zigzag":
        return column * rows + row + 1
    if numbering == "around" and row % 2:
        column = columns - 1 - column
    return row * columns + column + 1


def _pitches(sheet: PackageSheet, dims: Dims) -> tuple[float, float]:
    rows, _ = _size(sheet)
    return dims["e"].middle, (dims["e1"] if "e1" in dims else dims["e"]).middle if rows > 1 else 0.0


def _places(sheet: PackageSheet, dims: Dims) -> Places:
    """Pins about the middle of their field, pin 1 in its corner; in the order of their numbers."""
    rows, columns = _size(sheet)
    across, along = _pitches(sheet, dims)
    sx, sy = _corner(sheet)
    # Tails that are in and out of the row in turn keep the row's own middle.
    out = dims["stagger"].middle / 2 if "stagger" in dims else 0.0
    found = [
        (
            _number(r, c, rows, columns, sheet.numbering),
            sx * ((columns - 1) / 2 - c) * across,
            sy * (((rows - 1) / 2 - r) * along + (out if c % 2 == 0 else -out)),
        )
        for r in range(rows)
        for c in range(columns)
    ]
    placed = [(str(n), x, y) for n, x, y in sorted(found)]
    if sheet.left:
        # Numbers of the sheet's own, position by position; an empty one has no pin.
        return [(own, x, y) for own, (_, x, y) in zip(sheet.left, placed, strict=False) if own]
    return [(n, x, y) for n, x, y in placed if n not in sheet.missing]


def _first(sheet: PackageSheet, dims: Dims) -> tuple[float, float]:
    """The place of pin 1, from which body and posts are measured."""
    x, y = _reach(sheet, dims)
    sx, sy = _corner(sheet)
    return sx * x, sy * y


def _reach(sheet: PackageSheet, dims: Dims) -> tuple[float, float]:
    """How far the outermost pins stand from the middle of the field, in x and in y (mm)."""
    rows, columns = _size(sheet)
    across, along = _pitches(sheet, dims)
    return (columns - 1) / 2 * across, (rows - 1) / 2 * along


def _corner(sheet: PackageSheet) -> tuple[float, float]:
    """The direction of the corner in which pin 1 stands."""
    return CORNERS.get(str(sheet.option(FIRST_PIN) or ""), CORNERS["upper left"])


def _body(sheet: PackageSheet, dims: Dims, *, largest: bool = False) -> Box:
    """The body by its distances from pin 1; half a pitch beyond the pins where one is not given."""
    x, y = _first(sheet, dims)
    half = dims["e"].middle / 2
    reach_x, reach_y = _reach(sheet, dims)
    typical_value = {
        "left": half + reach_x + x,
        "right": half + reach_x - x,
        "above": half + reach_y - y,
        "below": half + reach_y + y,
    }
    left, right, above, below = (
        (dims[key].upper if largest else dims[key].middle) if key in dims else typical_value[key] for key in BODY
    )
    return x - left, y - below, x + right, y + above


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "e", "b", "neighbouring pins would touch")
    x0, _, x1, _ = _body(sheet, dims)
    outside = [n for n, x, _ in _places(sheet, dims) if not x0 <= x <= x1]
    if outside:
        message = f"pins {', '.join(outside[:5])} stand beyond the ends of the body"
        yield Implausible(("left", "right"), message, f"{len(outside)} pins", "none")


def _thick(dims: Dims) -> Limits:
    """Thickness of a pin: square where c is not given."""
    return dims["c"] if "c" in dims else dims["b"]


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(sheet, dims), dims["b"].middle, _thick(dims).middle)


def _posts(sheet: PackageSheet, dims: Dims) -> tuple[Post, ...]:
    """Posts about the middle of the pins, not from pin 1 as in the sheet."""
    x, y = _first(sheet, dims)
    return tuple(Post(p.x + x, p.y + y, p.diameter, p.height) for p in sheet.posts)


def _lengths(sheet: PackageSheet, dims: Dims) -> Iterator[ViewDimension]:
    """What is shown from above."""
    x0, y0, x1, y1 = _body(sheet, dims)
    x, y = _first(sheet, dims)
    across, along = _pitches(sheet, dims)
    half = dims["b"].middle / 2
    sx, sy = _corner(sheet)
    yield ViewDimension("e", (x, y0), (x - sx * across, y0), "bottom")
    yield ViewDimension("b", (x - half, y), (x + half, y), "top")
    if "e1" in dims:
        yield ViewDimension("e1", (x, y - sy * along), (x, y), "left")
    if "hole" in dims:
        hole = dims["hole"].middle / 2
        yield ViewDimension("hole", (x - hole, y), (x + hole, y), "bottom", 2)
    if "stagger" in dims:
        yield ViewDimension("stagger", (x, y - dims["stagger"].middle), (x, y), "right", 3)
    if "c" in dims:
        thick = dims["c"].middle / 2
        yield ViewDimension("c", (x, y - thick), (x, y + thick), "left", 2)
    found = {
        "left": ViewDimension("left", (x0, y1), (x, y1), "top", 2),
        "right": ViewDimension("right", (x, y1), (x1, y1), "top", 3),
        "above": ViewDimension("above", (x1, y), (x1, y1), "right"),
        "below": ViewDimension("below", (x1, y0), (x1, y), "right", 2),
    }
    yield from (found[key] for key in BODY if key in dims)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, _, x1, _ = body = _body(sheet, dims)
    half, height = dims["b"].middle / 2, dims["A"].upper
    posts = _posts(sheet, dims)
    holes = [rounded_rectangle(p.x, p.y, p.diameter, p.height or p.diameter, p.diameter / 2) for p in posts]
    top = View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", dual.box_of(t)) for t in _terminals(sheet, dims)),
            *(ViewShape("mark", hole) for hole in holes),
        ),
        tuple(_lengths(sheet, dims)),
    )
    legs = [(px - half, -leaded.THROUGH, px + half, 0.0) for _, px, _ in _places(sheet, dims)]
    side = View(
        "side",
        (
            *(ViewShape("terminal", box_outline(leg)) for leg in legs),
            ViewShape("body", box_outline((x0, 0, x1, height))),
        ),
        (ViewDimension("A", (x0, 0), (x0, height), "left"),),
    )
    return top, side


def _well(sheet: PackageSheet, dims: Dims) -> tuple[Prism, ...]:
    """The opening for the mate round the contacts: from above, or in front where the body lies beside its pins.

    A body without room for walls round its contacts has none.
    """
    x0, y0, x1, y1 = _body(sheet, dims)
    height, wall = dims["A"].upper, WALL * dims["e"].middle
    xs, ys = zip(*((x, y) for _, x, y in _places(sheet, dims)), strict=True)
    clear = _thick(dims).middle / 2
    if y0 <= min(ys) and max(ys) <= y1:
        inside = (x0 + wall, y0 + wall, x1 - wall, y1 - wall)
        has_room = inside[0] < min(xs) - clear and max(xs) + clear < inside[2]
        has_room = has_room and inside[1] < min(ys) - clear and max(ys) + clear < inside[3]
        return (Prism(box_outline(inside), FLOOR * height, 2 * height),) if has_room else ()
    if height <= 2 * wall:
        return ()
    depth = (1 - FLOOR) * (y1 - y0)
    front = (y0 - wall, y0 + depth) if y1 < min(ys) + clear else (y1 - depth, y1 + wall)
    return (Prism(box_outline((x0 + wall, front[0], x1 - wall, front[1])), wall, height - wall),)


def _mark(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    """A triangle on top of the housing's edge that points to pin 1."""
    x0, y0, x1, y1 = _body(sheet, dims)
    size, height = 0.8 * WALL * dims["e"].middle, dims["A"].upper
    x = min(max(_first(sheet, dims)[0], x0 + size), x1 - size)
    _, up = _corner(sheet)
    edge = y1 if up > 0 else y0
    points = ((x - size / 2, edge), (x, edge - up * size), (x + size / 2, edge))
    return (Solid("pin 1 mark", "marking", Prism(points, height, height + 0.01)),) if y1 - y0 > size else ()


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    height = dims["A"].upper
    body = dual.block("body", "housing", _body(sheet, dims), 0.0, height)
    solids = [
        replace(body, cuts=_well(sheet, dims)),
        *_mark(sheet, dims),
        leaded.flat_leads(_places(sheet, dims), dims["b"].middle, _thick(dims).middle, PIN_SHARE * height),
    ]
    for index, post in enumerate(_posts(sheet, dims), start=1):
        pin = Cylinder(0.0, 0.0, post.diameter / 2, -leaded.THROUGH / 2, 0.1)
        solids.append(Solid(f"post {index}", "housing", pin, (SolidPlacement(x=post.x, y=post.y),)))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    places = _places(sheet, dims)
    group = replace(
        leaded.leads(places, dims["b"], _thick(dims), dims["e"].middle),
        hole=sheet.limits("hole"),
        press_fit=sheet.option(PRESS_FIT) is True,
    )
    body, body_max = _body(sheet, dims), _body(sheet, dims, largest=True)
    return LandRecipe(
        leads=(group,),
        posts=_posts(sheet, dims),
        body=body,
        body_max=body_max,
        first_pin=places[0][0],
        corner=_corner(sheet),
        goals="through-hole",
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7251: HDRV, pins, W pin, P pitch, rows and columns, length, width, height."""
    rows, columns = _size(sheet)
    x0, y0, x1, y1 = _body(sheet, dims)
    size = "X".join(hundredths(v) for v in (x1 - x0, y1 - y0, dims["A"].upper))
    pitch = f"W{hundredths(dims['b'].middle)}P{hundredths(dims['e'].middle)}"
    return f"HDRV{sheet.pins}{pitch}_{rows}X{columns}_{size}"


def _distance(key: str, meaning: str, typical: tuple[float, float]) -> Letter:
    """How far the body reaches from pin 1 to one side; negative where it begins beyond it."""
    return Letter(key=key, meaning=meaning, view="top", reference="e", typical=typical, optional=True, signed=True)


FAMILY = Family(
    key="header",
    title="Header, terminal block",
    group="Connectors",
    summary="pins in rows, posts, numbering",
    letters=(
        Letter(key="e", meaning="pitch", view="top", also=("P", "p")),
        Letter(key="e1", meaning="pitch of the rows", view="top", reference="e", typical=(0.3, 5.0), optional=True),
        Letter(key="b", meaning="pin width", view="top", reference="e", typical=(0.05, 0.8), also=("W", "w")),
        Letter(
            key="c",
            meaning="pin thickness",
            view="top",
            reference="b",
            typical=(0.1, 2.0),
            optional=True,
            also=("C", "t"),
        ),
        Letter(
            key="left",
            meaning="body left of pin 1",
            view="top",
            reference="e",
            typical=(0.0, 9.0),
            optional=True,
            signed=True,
        ),
        Letter(
            key="right",
            meaning="body right of it",
            view="top",
            reference="e",
            typical=(0.0, 90.0),
            optional=True,
            signed=True,
        ),
        Letter(
            key="above",
            meaning="body above it",
            view="top",
            reference="e",
            typical=(-5.0, 20.0),
            optional=True,
            signed=True,
        ),
        Letter(
            key="below",
            meaning="body below it",
            view="top",
            reference="e",
            typical=(-5.0, 20.0),
            optional=True,
            signed=True,
        ),
        Letter(
            key="hole",
            meaning="finished hole, where the sheet gives it",
            view="top",
            reference="b",
            typical=(0.5, 3.0),
            optional=True,
            by_name=True,
        ),
        Letter(
            key="stagger",
            meaning="every second tail further across",
            view="top",
            reference="e",
            typical=(0.1, 3.0),
            optional=True,
            by_name=True,
        ),
        Letter(key="A", meaning="height", view="side", assumed=HEIGHT, reference="e", typical=(0.3, 15.0), also=("H",)),
    ),
    fields=(
        FamilyField(key="rows", title="rows", kind="count"),
        FamilyField(key="columns", title="columns", kind="count"),
        FamilyField(key="numbering", title="numbered", kind="choice", choices=NUMBERINGS),
        FamilyField(key=FIRST_PIN, title="pin 1 stands", kind="choice", choices=tuple(CORNERS)),
        FamilyField(
            key=PRESS_FIT,
            title="press-fit",
            kind="flag",
            help="The pins are pressed into holes that are smaller than they are; the sheet gives the finished hole.",
        ),
        FamilyField(key="missing", title="missing pins", kind="numbers"),
        FamilyField(key="left", title="own numbers", kind="numbers"),
    ),
    default_pins=4,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
