"""What a drawing is made of: straight strokes, and the marks at the ends of dimension lines."""

import math
from collections.abc import Iterable, Iterator, Sequence
from typing import Literal

import msgspec

from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.ruling_lines import Ruling
from eider.geometry.plane import Box, Point

# Points: an arrow is no longer than this and at least so slender; a dot is no larger.
LONGEST_ARROW, LEAST_SLENDER, LARGEST_DOT = 14.0, 1.15, 5.0
# A stroke this far from upright over its length is oblique; shorter ones say nothing.
ASKEW, SHORTEST = 0.5, 0.3
# A bar thinner than this (points) is a line that its program fills.
THICKEST = 1.6
# Ends this near (points) to each other are one.
SAME_POINT = 0.6
# Arrows of strokes are paths of so few points; more strokes at one point are no arrow.
MOST_ARROW_POINTS, MOST_AT_A_POINT = 4, 4
# With more slanting strokes than this a drawing is hatched, and nobody can tell ticks from them.
MOST_OBLIQUE = 2_000
# An outline drawing has no more strokes and end marks.
MOST_STROKES, MOST_ENDS = 4_000, 600
# An oblique tick leans so many degrees and is so long (points).
TICK_LEAN, TICK_LENGTH = (30.0, 60.0), (2.5, 10.0)

Way = Literal["left", "right", "up", "down", ""]
OPPOSITE: dict[Way, Way] = {"left": "right", "right": "left", "up": "down", "down": "up", "": ""}


class EndMark(msgspec.Struct, frozen=True, gc=False):
    """The mark at an end of a dimension line: where its tip is and which way it points (a tick and a dot: nowhere)."""

    tip: Point
    way: Way
    length: float


class DrawingMarks(msgspec.Struct, frozen=True):
    """The strokes and end marks of a drawing, and the boxes of its closed shapes."""

    strokes: tuple[Ruling, ...]
    ends: tuple[EndMark, ...]
    areas: tuple[Box, ...]

    @property
    def is_too_much(self) -> bool:
        """Whether this is a picture or many drawings: pairing all ends with all strokes would take minutes."""
        return len(self.strokes) > MOST_STROKES or len(self.ends) > MOST_ENDS


def read_marks(paths: Iterable[PathPiece]) -> DrawingMarks:
    """The marks of the paths of a drawing."""
    strokes: list[Ruling] = []
    ends: list[EndMark] = []
    oblique: list[tuple[Point, Point]] = []
    areas: list[Box] = []
    for path in paths:
        mark = _filled_mark(path) if path.is_filled else None
        if mark is not None:
            ends.append(mark)
        elif path.is_filled and not path.is_stroked:
            bars = list(_thin_bar(path))
            strokes += bars
            areas += [] if bars or _is_small(path.box) else [path.box]
        else:
            areas += [path.box] if _is_shape(path) else []
            for a, b in path.straight():
                stroke = _stroke(a, b)
                if stroke is not None:
                    strokes.append(stroke)
                elif len(path.points) <= MOST_ARROW_POINTS and math.dist(a, b) <= LONGEST_ARROW:
                    oblique.append((a, b))
    if len(oblique) <= MOST_OBLIQUE:
        ends += [*_open_arrows(oblique, strokes), *_ticks(oblique)]
    return DrawingMarks(tuple(strokes), tuple(_distinct(ends)), tuple(areas))


def _stroke(a: Point, b: Point) -> Ruling | None:
    if abs(a[1] - b[1]) <= ASKEW and abs(a[0] - b[0]) >= SHORTEST and abs(a[0] - b[0]) > 4 * abs(a[1] - b[1]):
        return Ruling(True, (a[1] + b[1]) / 2, min(a[0], b[0]), max(a[0], b[0]))
    if abs(a[0] - b[0]) <= ASKEW and abs(a[1] - b[1]) >= SHORTEST and abs(a[1] - b[1]) > 4 * abs(a[0] - b[0]):
        return Ruling(False, (a[0] + b[0]) / 2, min(a[1], b[1]), max(a[1], b[1]))
    return None


def _thin_bar(path: PathPiece) -> Iterator[Ruling]:
    x0, y0, x1, y1 = path.box
    if len(path.points) <= 6 and y1 - y0 <= THICKEST < x1 - x0:
        yield Ruling(True, (y0 + y1) / 2, x0, x1)
    elif len(path.points) <= 6 and x1 - x0 <= THICKEST < y1 - y0:
        yield Ruling(False, (x0 + x1) / 2, y0, y1)


def _filled_mark(path: PathPiece) -> EndMark | None:
    """The arrow or dot that a small filled area is."""
    x0, y0, x1, y1 = path.box
    if not _is_small(path.box):
        return None
    corners = _corners(path)
    if "c" in path.kinds and len(corners) >= 4:
        is_round = abs((x1 - x0) - (y1 - y0)) < 0.2 * max(x1 - x0, 0.1)
        return EndMark(((x0 + x1) / 2, (y0 + y1) / 2), "", x1 - x0) if is_round and x1 - x0 <= LARGEST_DOT else None
    if len(corners) not in (3, 4):
        return None
    tip = min(corners, key=lambda corner: _angle(corner, corners))
    rest = [corner for corner in corners if corner != tip]
    back = sorted(rest, key=lambda corner: -math.dist(corner, tip))[:2]
    middle = (back[0][0] + back[1][0]) / 2, (back[0][1] + back[1][1]) / 2
    length, width = math.dist(tip, middle), math.dist(*back)
    way = _way(middle, tip)
    return EndMark(tip, way, length) if way and length >= LEAST_SLENDER * width else None


def _is_shape(path: PathPiece) -> bool:
    """Whether a path goes round a shape with corners; the circle round a letter has none."""
    is_closed = path.is_closed or math.dist(path.points[0], path.points[-1]) < SAME_POINT
    return is_closed and "l" in path.kinds and len(path.points) > MOST_ARROW_POINTS


def _is_small(box: Box) -> bool:
    """Whether an area is as small as an arrow, such as that of a leader, which points any way."""
    return max(box[2] - box[0], box[3] - box[1]) <= LONGEST_ARROW


def _corners(path: PathPiece) -> list[Point]:
    """The points of a piece, each once."""
    found: list[Point] = []
    for point in path.points:
        if all(math.dist(point, other) > 0.05 for other in found):
            found.append(point)
    return found


def _angle(corner: Point, corners: Sequence[Point]) -> float:
    """The angle at a corner between its farthest neighbours, in radians."""
    others = sorted((c for c in corners if c != corner), key=lambda c: -math.dist(c, corner))[:2]
    first, second = (math.atan2(o[1] - corner[1], o[0] - corner[0]) for o in others)
    turn = abs(first - second) % (2 * math.pi)
    return min(turn, 2 * math.pi - turn)


def _way(start: Point, tip: Point) -> Way:
    """Which of the four ways a mark points; empty for an oblique one."""
    dx, dy = tip[0] - start[0], tip[1] - start[1]
    if abs(dx) > 4 * abs(dy):
        return "right" if dx > 0 else "left"
    if abs(dy) > 4 * abs(dx):
        return "up" if dy > 0 else "down"
    return ""


def _open_arrows(oblique: Sequence[tuple[Point, Point]], strokes: Sequence[Ruling]) -> Iterator[EndMark]:
    """Two slanting strokes that meet at the end of a line."""
    ends = {place for s in strokes for end in _ends_of(s) for place in _places_near(end)}
    meeting: dict[Point, list[tuple[Point, Point]]] = {}
    for a, b in oblique:
        for tip, back in ((a, b), (b, a)):
            for other_tip, far in meeting.get(_rough(tip), ())[:MOST_AT_A_POINT]:
                middle = (back[0] + far[0]) / 2, (back[1] + far[1]) / 2
                way, length = _way(middle, tip), math.dist(middle, tip)
                is_met = math.dist(tip, other_tip) < SAME_POINT and _rough(tip) in ends
                if is_met and way and length >= LEAST_SLENDER * math.dist(back, far):
                    yield EndMark(tip, way, length)
            for place in _places_near(tip):
                meeting.setdefault(place, []).append((tip, back))


def _places_near(point: Point) -> Iterator[Point]:
    """The rough place of a point and those around it."""
    x, y = _rough(point)
    yield from ((x + dx, y + dy) for dx in (-1.0, 0.0, 1.0) for dy in (-1.0, 0.0, 1.0))


def _rough(point: Point) -> Point:
    """A place in steps as large as ends that are one may lie apart."""
    return float(round(point[0] / SAME_POINT)), float(round(point[1] / SAME_POINT))


def _ends_of(stroke: Ruling) -> tuple[Point, Point]:
    if stroke.across:
        return (stroke.start, stroke.at), (stroke.stop, stroke.at)
    return (stroke.at, stroke.start), (stroke.at, stroke.stop)


def _ticks(oblique: Sequence[tuple[Point, Point]]) -> Iterator[EndMark]:
    for a, b in oblique:
        lean = abs(math.degrees(math.atan2(abs(b[1] - a[1]), abs(b[0] - a[0]))))
        if TICK_LEAN[0] <= lean <= TICK_LEAN[1] and TICK_LENGTH[0] <= math.dist(a, b) <= TICK_LENGTH[1]:
            yield EndMark(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), "", 0.0)


def _distinct(ends: Sequence[EndMark]) -> list[EndMark]:
    """Each mark once: one that is both filled and stroked is drawn twice by some programs."""
    found: list[EndMark] = []
    seen: set[tuple[Point, Way]] = set()
    for end in ends:
        if (_rough(end.tip), end.way) not in seen:
            found.append(end)
            seen |= {(place, end.way) for place in _places_near(end.tip)}
    return found
