"""Places of a land pattern by name, so that a distance can be kept: “pad 1 left”, “hole 3 centre”, “body top”.

A named place is found again after the pattern was made again, wherever it stands then.
"""

import math
from collections.abc import Iterator, Sequence

import msgspec
import shapely

from eider.errors import InputError
from eider.geometry.lengths import parse_limits
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, Point, bounds, box_outline
from eider.lands.pads import hole_outline
from eider.model.footprint import KeptDistance
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad, Pattern
from eider.packages.family import Terminal
from eider.packages.pads.pad_shapes import pad_outline

# Things that are one of each in a pattern; the others are followed by a number.
SINGLE = ("body", "courtyard", "origin")
# Where in the box around a thing a place stands, as shares of its width and height.
SIDES: dict[str, Point] = {
    "centre": (0.5, 0.5), "left": (0.0, 0.5), "right": (1.0, 0.5), "top": (0.5, 1.0), "bottom": (0.5, 0.0),
    "upper left": (0.0, 1.0), "upper right": (1.0, 1.0), "lower left": (0.0, 0.0), "lower right": (1.0, 0.0),
}  # fmt: skip
SAME = 1e-6


class AnchorError(InputError):
    """A place that a pattern does not have, or a name that names none."""


class Surroundings(msgspec.Struct, frozen=True):
    """What places are looked for in: a pattern, the terminals on it, and the body at nominal size."""

    pattern: Pattern
    terminals: Sequence[Terminal] = ()
    body: Box | None = None


def thing_outline(around: Surroundings, thing: str) -> Outline:
    """The outline of a thing (mm): `pad 1`, `hole 1`, `mask 1`, `paste 1`, `lead 1`, `body`, `courtyard`, `origin`.

    Raises:
        AnchorError: there is no such thing.
    """
    kind, _, number = thing.partition(" ")
    found: Outline = ()
    if kind == "origin":
        found = ((0.0, 0.0),)
    elif kind == "body" and around.body:
        found = box_outline(around.body)
    elif kind == "courtyard":
        found = around.pattern.courtyard
    elif kind == "lead":
        found = next((box_outline(t.whole) for t in around.terminals if t.number == number), ())
    else:
        pad = next((pad for pad in around.pattern.pads if pad.number == number), None)
        found = next(_parts(pad, kind), ()) if pad else ()
    if not found:
        raise AnchorError(f"there is no {thing} in the land pattern")
    return found


def _parts(pad: Pad, kind: str) -> Iterator[Outline]:
    if kind == "pad":
        yield pad_outline(pad)
    elif kind == "hole" and pad.hole:
        yield box_outline(bounds(hole_outline(pad)))
    elif kind in ("mask", "paste"):
        yield from (pad_outline(opening) for opening in (pad.mask if kind == "mask" else pad.paste))


def split_anchor(anchor: str) -> tuple[str, str]:
    """Thing and side of a place: “pad 1 upper left” is (“pad 1”, “upper left”).

    Raises:
        AnchorError: it is not a name of a place.
    """
    words = anchor.split()
    length = 1 if words and words[0] in SINGLE else 2
    thing, side = " ".join(words[:length]), " ".join(words[length:]) or "centre"
    if len(words) < length or not (side in SIDES or _corner(side)):
        raise AnchorError(f"“{anchor}” names no point; enter one such as “pad 1 left”, “hole 2 centre”, “body top”")
    return thing, side


def _corner(side: str) -> int:
    """The number of a corner, from 1; 0 where it is none."""
    word, _, number = side.partition(" ")
    return int(number) if word == "corner" and number.isdecimal() else 0


def anchor_point(around: Surroundings, anchor: str) -> Point:
    """Where a place is in the pattern (mm).

    Raises:
        AnchorError: the pattern has no such place.
    """
    thing, side = split_anchor(anchor)
    outline = thing_outline(around, thing)
    if number := _corner(side):
        if number > len(outline):
            raise AnchorError(f"{thing} has {len(outline)} corners, not {number}")
        return outline[number - 1]
    x0, y0, x1, y1 = bounds(outline)
    across, up = SIDES[side]
    return x0 + across * (x1 - x0), y0 + up * (y1 - y0)


def name_anchor(around: Surroundings, thing: str, at: Point) -> str:
    """The name of a point of a thing: a side or corner of the box around it, else the number of its corner.

    Raises:
        AnchorError: the point is none of these, so that it would not be found again.
    """
    outline = thing_outline(around, thing)
    x0, y0, x1, y1 = bounds(outline)
    for side, (across, up) in SIDES.items():
        if math.dist((x0 + across * (x1 - x0), y0 + up * (y1 - y0)), at) < SAME:
            return f"{thing} {side}"
    for number, corner in enumerate(outline, start=1):
        if math.dist(corner, at) < SAME:
            return f"{thing} corner {number}"
    for side, off in (("left", at[0] - x0), ("right", at[0] - x1), ("bottom", at[1] - y0), ("top", at[1] - y1)):
        if abs(off) < SAME:
            return f"{thing} {side}"
    raise AnchorError(f"this place of {thing} cannot be found again; hold on to a centre, corner or outer side")


def distance_of(around: Surroundings, kept: KeptDistance) -> float:
    """What a kept distance is (mm), never below zero.

    Raises:
        AnchorError: one of its ends no longer exists.
    """
    if kept.along == "edge to edge":
        first, second = (thing_outline(around, split_anchor(anchor)[0]) for anchor in (kept.first, kept.second))
        return float(
            shapely.distance(*(shapely.Polygon(o) if len(o) > 2 else shapely.Point(o) for o in (first, second)))
        )
    (ax, ay), (bx, by) = (anchor_point(around, anchor) for anchor in (kept.first, kept.second))
    return {"x": abs(bx - ax), "y": abs(by - ay)}.get(kept.along, math.hypot(bx - ax, by - ay))


def wanted(sheet: PackageSheet, kept: KeptDistance) -> Limits:
    """What a kept distance shall be (mm): its sum worked out again with the sheet's letters.

    Raises:
        LengthError: it cannot be read.
    """
    names = {letter: d.limits.middle for letter, d in sheet.dims.items() if d.limits}
    return parse_limits(kept.shall.text, names, sheet.units)
