"""Connectors with feet on the board in two rows: headers, sockets, mezzanine rows, edge-card sockets.

Feet of one row of pins may point to both sides in turn; tails of two rows may be staggered. Shields, hold-downs and
cable sides come as pads by hand, locating posts as posts from the middle of the field.
"""

from collections.abc import Iterator, Sequence

from eider.geometry.plane import box_outline
from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Cylinder, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
    Implausible,
    LandRecipe,
    Letter,
    Terminal,
    View,
    ViewShape,
)
from eider.packages.forms import dual, gullwing, leaded
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, larger, row_fits

ROW, ZIGZAG, AROUND = "row", "zigzag", "around"
ONE_ROW, STAGGERED = "one_row", "staggered"
THICK = 0.2


def _pin_fault(pins: int) -> str:
    return "" if pins >= 2 else "two rows of feet need 2 pins or more"


def _numbers(sheet: PackageSheet) -> tuple[Sequence[str], Sequence[str]]:
    """Numbers at the left and at the right by position, from the top down; empty where none stands."""
    if sheet.left or sheet.right:
        return sheet.left, sheet.right
    if sheet.option(ONE_ROW) is True:
        # One row of pins, whose feet point to the left and to the right in turn.
        sides = [["" if (i + odd) % 2 else str(i + 1) for i in range(sheet.pins)] for odd in (0, 1)]
        return sides[0], sides[1]
    longer, shorter = (sheet.pins + 1) // 2, sheet.pins // 2
    if sheet.numbering == ZIGZAG:
        return [str(2 * i + 1) for i in range(longer)], [str(2 * i + 2) for i in range(shorter)]
    right = [str(longer + i + 1) for i in range(shorter)]
    return [str(i + 1) for i in range(longer)], right[::-1] if sheet.numbering == AROUND else right


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    pitch = dims["e"].middle
    left, right = _numbers(sheet)
    # A staggered row is moved by a quarter of the pitch up and the other down, so that their field keeps its middle.
    shift = pitch / 4 if sheet.staggered else 0.0
    count = max(len(left), len(right))
    rows = [
        tuple(
            dual.Numbered(number, ((count - 1) / 2 - i) * pitch + up)
            for i, number in enumerate(numbers)
            if number and number not in sheet.missing
        )
        for numbers, up in ((left, shift), (right, -shift))
    ]
    neighbour = 2 * pitch if sheet.option(ONE_ROW) is True else pitch
    return dual.Dual(rows[0], rows[1][::-1], dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"], neighbour)


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "e", "b", "neighbouring feet would touch")
    yield from feet_apart(dims, "E", "L")
    rows = _dual(sheet, dims)
    yield from row_fits(dims, "D", [at for _, at in (*rows.left, *rows.right)], fills=False)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return dual.flat_terminals(_dual(sheet, dims), min(_inner(dims), dims["E1"].middle / 2))


def _inner(dims: Dims) -> float:
    """Where feet end inside (mm from the middle): under the body of those that reach there."""
    return dims["E"].middle / 2 - dims["L"].middle


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows, shown = _dual(sheet, dims), dual.Shown()
    mark = gullwing.corner_mark(rows.body, 0.15, 0.8).outline()
    plain = rows._replace(pitch=dims["e"].middle)
    top = dual.top_view(plain, _terminals(sheet, dims), shown, (mark,))
    holes = tuple(
        ViewShape("mark", rounded_rectangle(p.x, p.y, p.diameter, p.height or p.diameter, p.diameter / 2))
        for p in sheet.posts
    )
    tip = dims["E"].middle / 2
    profile = box_outline((min(_inner(dims), dims["E1"].middle / 2), 0.0, tip, dims["c"].middle))
    return View(top.name, (*top.shapes, *holes), top.dimensions), dual.side_view(rows, dims, profile, shown)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows, height, thick = _dual(sheet, dims), dims["A"].upper, dims["c"].middle
    tip, half = dims["E"].middle / 2, dims["b"].middle / 2
    foot = box_outline((min(_inner(dims), dims["E1"].middle / 2) - gullwing.INTO_BODY, -half, tip, half))
    posts = (
        Solid(
            f"post {index}",
            "housing",
            Cylinder(0.0, 0.0, post.diameter / 2, -leaded.THROUGH / 2, thick),
            (SolidPlacement(x=post.x, y=post.y),),
        )
        for index, post in enumerate(sheet.posts, start=1)
    )
    return (
        dual.block("body", "housing", rows.body, thick, height),
        dual.terminal_solid(rows, foot, thick, "lead"),
        *posts,
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    recipe = dual.dual_recipe(rows, (dual.opposed(rows, "gullwing", {"pitch": rows.pitch}),))
    first = rows.left[0].number if rows.left else rows.right[-1].number if rows.right else ""
    return LandRecipe(rows=recipe.rows, posts=sheet.posts, body=recipe.body, body_max=recipe.body_max, first_pin=first)


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """As a header's, with S for surface mount: pins, lead width, pitch, body length, span and height."""
    size = "X".join(hundredths(dims[key].middle) for key in ("D", "E")) + f"X{hundredths(dims['A'].upper)}"
    pins = sheet.pins - len(sheet.missing)
    return f"HDRS{pins}W{hundredths(dims['b'].middle)}P{hundredths(dims['e'].middle)}_{size}"


FAMILY = Family(
    key="surface-header",
    title="Surface-mount header",
    group="Connectors",
    summary="headers, mezzanine rows, edge-card sockets",
    letters=(
        Letter(key="E", meaning="span over the feet, tip to tip", view="top", also=("H", "W")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.2, 3.0), also=("B", "A")),
        Letter(key="D", meaning="body length along the rows", view="top", reference="E", typical=(0.1, 40.0),
               also=("A", "L")),
        Letter(key="e", meaning="pitch of one row", view="top", reference="E", typical=(0.03, 1.5), also=("P", "p")),
        Letter(key="b", meaning="foot width", view="top", reference="e", typical=(0.1, 0.8), also=("W", "w")),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.03, 0.45), also=("K", "G")),
        Letter(key="c", meaning="foot thickness", view="side", assumed=THICK, reference="b", typical=(0.1, 2.0),
               also=("t", "T")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.05, 6.0), also=("H",)),
    ),
    fields=(
        FamilyField(key="numbering", title="numbered", kind="choice", choices=(ROW, ZIGZAG, AROUND)),
        FamilyField(key=ONE_ROW, title="one row of pins", kind="flag",
                    help="Feet point to the left and to the right in turn; the pitch is that of the pins."),
        FamilyField(key=STAGGERED, title="staggered tails", kind="flag",
                    help="The feet of one row stand half a pitch further than those of the other."),
        FamilyField(key="missing", title="missing pins", kind="numbers"),
        FamilyField(key="left", title="numbers at the left", kind="numbers"),
        FamilyField(key="right", title="numbers at the right", kind="numbers"),
    ),
    default_pins=10,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
