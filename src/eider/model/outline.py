"""Copper of any shape and pads given by hand: as they are typed, every length a sum over the sheet's letters."""

import msgspec

STEPS = ("right", "left", "up", "down", "by", "turn", "arc")


class Step(msgspec.Struct, frozen=True, omit_defaults=True):
    """One step of an outline, relative to the last point.

    `right`, `left`, `up` and `down` go `length`; `by` goes (`length`, `across`) along x and y; `turn` goes `length` at
    `across` degrees counter-clockwise from +x; `arc` goes round a centre that lies `length` to the left of the way so
    far (negative: to the right), by `across` degrees.
    """

    kind: str
    length: str
    across: str = ""


class OutlineSpec(msgspec.Struct, frozen=True, omit_defaults=True):
    """A named outline: a start, steps, and what is done with the whole.

    `mirror` is `x`, `y` or `both`: the steps give a half or a quarter, which is mirrored at the axis through the origin
    (`x` at the x axis) and joined. `corner` is a radius, or a chamfer where `chamfered`.
    """

    start_x: str = "0"
    start_y: str = "0"
    steps: tuple[Step, ...] = ()
    mirror: str = ""
    corner: str = ""
    chamfered: bool = False


class PadSpec(msgspec.Struct, frozen=True, omit_defaults=True):
    """A pad, or many alike: in a row, a grid or a circle, mirrored or not. Texts are sums; empty ones are not given.

    Attributes:
        number: of the first pad; the number at its end counts on.
        x, y: place of the pad, or the middle of a row, grid or circle.
        count, dx, dy: so many in a row, from each to the next; `rows`, `row_dx`, `row_dy`: so many rows of them.
        radius, start: `count` pads on a circle, the first at so many degrees.
        mirror: `x`, `y` or `both`: the same again at the other side of that axis, numbers going on.
        outline: the name of the outline that gives the copper, in place of width and height.
        hole, slot: diameter of a hole, and its height where it is a slot; `plated` or without copper.
        mask, paste: expansion of the opening, or `none`; empty as the rulebook says.
    """

    number: str = ""
    x: str = "0"
    y: str = "0"
    width: str = ""
    height: str = ""
    rotation: str = ""
    shape: str = "rectangle"
    corner_radius: str = ""
    outline: str = ""
    count: str = ""
    dx: str = ""
    dy: str = ""
    rows: str = ""
    row_dx: str = ""
    row_dy: str = ""
    radius: str = ""
    start: str = ""
    mirror: str = ""
    hole: str = ""
    slot: str = ""
    plated: bool = True
    mask: str = ""
    paste: str = ""
    layers: str = "top"
