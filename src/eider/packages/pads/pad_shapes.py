"""The outlines of lands: plain ones as they lie, corners cut off or rounded one by one, and the D."""

import math
from collections.abc import Collection

from eider.errors import InputError
from eider.geometry.plane import Outline, Point, rectangle, rotated
from eider.geometry.rounding import tidy
from eider.geometry.shapes import grow, rounded_rectangle
from eider.model.pattern import Opening, Pad

# Corners by name, counter-clockwise from the lower left, and the sides that can be the round end of a D.
CORNERS = ("lower left", "lower right", "upper right", "upper left")
SHORT = {"ll": "lower left", "lr": "lower right", "ur": "upper right", "ul": "upper left"}
ENDS: dict[str, int] = {"right": 0, "top": 1, "left": 2, "bottom": 3}
# Straight pieces of a round corner or end are no longer than this many degrees.
STEP = 7.5


def corners_of(text: str) -> tuple[str, ...]:
    """Which corners are meant: `ul ur`, `upper left`, or all of them where nothing is said.

    Raises:
        InputError: a word is not a corner.
    """
    words = text.replace(",", " ").lower()
    for short, long in SHORT.items():
        words = words.replace(long, short)
    found = tuple(SHORT.get(word, "") for word in words.split())
    if not all(found):
        raise InputError(f"“{text}” names no corners; enter such as “ul ur” or “lower left”")
    return found or CORNERS


def cornered(width: float, height: float, size: float, corners: Collection[str], *, round_off: bool) -> Outline:
    """A rectangle about the origin with some corners cut off by `size` on both sides, or rounded by it (mm).

    Raises:
        InputError: the corners leave nothing of a side.
    """
    x, y = width / 2, height / 2
    if not 0 < size <= min(x, y) + 1e-9:
        raise InputError(f"corners of {size:g} mm do not go with a land of {width:g} × {height:g} mm")
    points: list[Point] = []
    for name, (sx, sy) in zip(CORNERS, ((-1, -1), (1, -1), (1, 1), (-1, 1)), strict=True):
        if name not in corners:
            points.append((sx * x, sy * y))
            continue
        start = math.degrees(math.atan2(sy, sx)) - 45.0
        count = math.ceil(90.0 / STEP) if round_off else 1
        turns = [math.radians(start + 90.0 * i / count) for i in range(count + 1)]
        points += [(sx * (x - size) + size * math.cos(a), sy * (y - size) + size * math.sin(a)) for a in turns]
    return tuple((tidy(px), tidy(py)) for px, py in points)


def d_shape(width: float, height: float, end: str) -> Outline:
    """A rectangle about the origin with one end round: half a circle over its whole side (mm).

    Raises:
        InputError: `end` is none of right, top, left, bottom, or the round end is longer than the land.
    """
    if end not in ENDS:
        raise InputError(f"“{end}” is not an end of a D; enter {', '.join(ENDS)}")
    turned = ENDS[end] % 2 == 1
    length, side = (height, width) if turned else (width, height)
    if side / 2 > length + 1e-9:
        raise InputError(f"the round end of a D of {width:g} × {height:g} mm is longer than the land")
    x, r = length / 2, side / 2
    count = math.ceil(180.0 / STEP)
    turns = [math.radians(-90.0 + 180.0 * i / count) for i in range(count + 1)]
    points = [(-x, -r), *((x - r + r * math.cos(a), r * math.sin(a)) for a in turns), (-x, r)]
    for _ in range(ENDS[end]):
        points = [(-py, px) for px, py in points]
    return tuple((tidy(px), tidy(py)) for px, py in points)


def pad_outline(pad: Pad | Opening, expansion: float = 0.0) -> Outline:
    """The outline of a pad's copper or of an opening in the pattern's coordinates, grown by `expansion` mm."""
    if pad.shape == "outline":
        placed = tuple((x + pad.x, y + pad.y) for x, y in rotated(pad.outline, pad.rotation))
        return grow(placed, expansion) if expansion else placed
    width, height = pad.width + 2 * expansion, pad.height + 2 * expansion
    if width <= 0 or height <= 0:
        return ()
    if pad.shape == "rectangle":
        corners = rectangle(pad.x, pad.y, width, height)
    else:
        round_ends = pad.shape in ("oval", "circle")
        radius = min(width, height) / 2 if round_ends else pad.corner_radius + expansion
        corners = rounded_rectangle(pad.x, pad.y, width, height, radius)
    return rotated(corners, pad.rotation, (pad.x, pad.y)) if pad.rotation else corners
