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


class OutlinePart(msgspec.Struct, frozen=True, omit_defaults=True):
    """A simple shape that is united with an outline, or cut out of it: its middle and size, each a sum.

    `shape` is `rectangle`, `circle` (of the diameter `width`) or the name of another outline, moved by (`x`, `y`).
    """

    shape: str
    x: str = "0"
    y: str = "0"
    width: str = ""
    height: str = ""
    cut: bool = False


class OutlineSpec(msgspec.Struct, frozen=True, omit_defaults=True):
    """A named outline: a start, steps, and what is done with the whole.

    `mirror` is `x`, `y` or `both`: the steps give a half or a quarter, which is mirrored at the axis through the origin
    (`x` at the x axis) and joined. `parts` are added or cut out then, in their order; steps may be left out where
    there are any. `corner` is a radius, or a chamfer where `chamfered`.
    """

    start_x: str = "0"
    start_y: str = "0"
    steps: tuple[Step, ...] = ()
    mirror: str = ""
    corner: str = ""
    chamfered: bool = False
    parts: tuple[OutlinePart, ...] = ()


class PadSpec(msgspec.Struct, frozen=True, omit_defaults=True):
    """A pad, or many alike: in a row, a grid or a circle, mirrored or not. Texts are sums; empty ones are not given.

    Attributes:
        number: of the first pad; the number at its end counts on.
        x, y: place of the pad, or the middle of a row, grid or circle.
        count, dx, dy: so many in a row, from each to the next; `rows`, `row_dx`, `row_dy`: so many rows of them.
        radius, start: `count` pads on a circle, the first at so many degrees.
        mirror: `x`, `y` or `both`: the same again at the other side of that axis, numbers going on.
        shape: `chamfered` and `rounded` take `corner_radius`, and `corners` where not all are meant (`ul lr`); of a
            `D` these tell the round end (`right` unless they do).
        outline: the name of the outline that gives the copper, in place of width and height.
        ring: copper round the hole, in place of width and height.
        hole, slot: diameter of a hole, and its height where it is a slot; `plated` or without copper; `hole_x`,
            `hole_y`: its centre from that of the pad.
        mask, paste: expansion of the opening, or `none`; the name of an outline and, if need be, its expansion (`tee
            0.05`); empty as the rulebook says.
        layers: `top`, `bottom` or `all`; a pad of two shapes is two rows with one number.
    """

    number: str = ""
    x: str = "0"
    y: str = "0"
    width: str = ""
    height: str = ""
    rotation: str = ""
    shape: str = "rectangle"
    corner_radius: str = ""
    corners: str = ""
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
    ring: str = ""
    slot: str = ""
    hole_x: str = ""
    hole_y: str = ""
    plated: bool = True
    mask: str = ""
    paste: str = ""
    layers: str = "top"
