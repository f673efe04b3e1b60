"""Lays the dimensions of a drawing at a scale: extension lines, arrows, letter and value, none over another.

A dimension has its side and row; where its label would run into what is there already, the label moves to the
other end of its line, or the whole dimension a row further out. One that finds no room at all, as happens when a
drawing is made very small, is left out rather than drawn over the others.
"""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple

from eider.drawings.primitives import Area, DimensionLine, Disc, Drawing, Line, Plain, Text
from eider.geometry.plane import Box, Point, bounds, join_boxes

# All in points (1/72 inch on paper, a logical pixel on screen).
ROW = 23.0
FIRST_ROW = 17.0
ARROW, ARROW_HALF = 7.0, 2.2
OVERSHOOT, START_GAP = 3.0, 3.0
TEXT = 8.4
LETTER_RADIUS = 9.0
LABEL_GAP = 4.0
# Lines and labels keep so far from each other.
CLEAR = 1.0
# Average advance of a character as a share of the height of capitals.
ADVANCE = 0.88
# How many rows further out a dimension may move, and how many lines above or below the drawing its label.
MOST_ROWS, MOST_LINES = 6, 3
# How often a dimension that found no room is let choose first.
MOST_TURNS = 4


class LabelPlace(NamedTuple):
    """Where a dimension could stand: rows further out than its own, and where its label is.

    The label is `inside` its line, `after` or `before` the line's ends, beside it (`level`), or so many lines `above`
    or `below` the drawing (of upright dimensions).
    """

    further: int
    label: str
    lines: int = 0


class LaidDimension(NamedTuple):
    """A dimension as plain primitives, with the boxes of its label and of its lines."""

    items: tuple[Plain, ...]
    label: Box
    lines: tuple[Box, ...]


def lay_dimensions(drawing: Drawing, unit: float) -> tuple[LaidDimension, ...]:
    """All dimensions of a drawing, in the order in which they are given; `unit` is mm per point of annotation."""
    return _laid(tuple(p for p in drawing.primitives if isinstance(p, DimensionLine)), drawing.box, unit)


# A view that fits its drawing lays it at the scale it found, then once more to show it.
@lru_cache(maxsize=8)
def _laid(dimensions: tuple[DimensionLine, ...], box: Box, unit: float) -> tuple[LaidDimension, ...]:
    shown = [d for d in dimensions if not (d.optional and not fits(d, unit))]
    distances = _distances(shown)
    # Nearer rows first; lines that hold their label before those whose label must find a place.
    order = sorted(range(len(shown)), key=lambda i: (distances[i], not fits(shown[i], unit), i))
    first: list[int] = []
    placed = _placed(order, shown, distances, box, unit)
    for _ in range(MOST_TURNS):
        stuck = next(
            (i for i, made in placed.items() if made is None and not shown[i].optional and i not in first), None
        )
        if stuck is None:
            break
        # What finds no free spot chooses first; the others make way for it.
        first.insert(0, stuck)
        placed = _placed([*first, *(i for i in order if i not in first)], shown, distances, box, unit)
    return tuple(made for _, made in sorted(placed.items()) if made is not None)


def _placed(
    order: Sequence[int], shown: Sequence[DimensionLine], distances: Sequence[int], box: Box, unit: float
) -> dict[int, LaidDimension | None]:
    """Each dimension at the first spot that is free of those before it; None where there is none."""
    labels: list[Box] = []
    lines: list[Box] = []
    placed: dict[int, LaidDimension | None] = {}
    for index in order:
        free = placed[index] = _first_free(shown[index], box, unit, distances[index], labels, lines)
        if free is not None:
            labels.append(free.label)
            lines += free.lines
    return placed


def _first_free(
    item: DimensionLine, box: Box, unit: float, row: int, labels: Sequence[Box], lines: Sequence[Box]
) -> LaidDimension | None:
    """The dimension at its first spot that keeps clear of what stands already."""
    clear = CLEAR * unit
    for further in range(MOST_ROWS):
        # These only get longer with each row: what is in their way now stays in their way.
        if any(_meets(primitive_box(x), labels, clear) for x in _extension_lines(item, box, unit, row + further)):
            return None
        for candidate in _places(item, unit, further):
            made = _lay(item, box, unit, row, candidate)
            if _is_free(made, labels, lines, clear):
                return made
    return None


def _distances(dimensions: Sequence[DimensionLine]) -> list[int]:
    """How many rows out each begins: the rows of a side that are used, without gaps."""
    used: dict[str, list[int]] = {}
    for d in dimensions:
        used.setdefault(d.side, []).append(d.row)
    ranks = {side: {row: rank for rank, row in enumerate(sorted(set(rows)))} for side, rows in used.items()}
    return [ranks[d.side][d.row] for d in dimensions]


def _places(dimension: DimensionLine, unit: float, further: int) -> Iterator[LabelPlace]:
    """Where a dimension could stand so many rows further out, best first."""
    if fits(dimension, unit):
        yield LabelPlace(further, "inside")
    if dimension.side in ("left", "right"):
        yield LabelPlace(further, "level")
        for lines in range(1, MOST_LINES + 1):
            yield LabelPlace(further, "above", lines)
            yield LabelPlace(further, "below", lines)
    else:
        yield LabelPlace(further, "after")
        yield LabelPlace(further, "before")


def _is_free(made: LaidDimension, labels: Sequence[Box], lines: Sequence[Box], clear: float) -> bool:
    """Whether a dimension keeps clear of what stands already: its label of all, its lines of labels."""
    if _meets(made.label, labels, clear) or _meets(made.label, lines, clear):
        return False
    return not any(_meets(line, labels, clear) for line in made.lines)


def _meets(box: Box, others: Sequence[Box], clear: float) -> bool:
    x0, y0, x1, y1 = box[0] - clear, box[1] - clear, box[2] + clear, box[3] + clear
    return any(x0 < b[2] and b[0] < x1 and y0 < b[3] and b[1] < y1 for b in others)


def fits(item: DimensionLine, unit: float) -> bool:
    """Whether the label finds room between the arrows."""
    along = 1 if item.side in ("left", "right") else 0
    return abs(item.a[along] - item.b[along]) > (_label_width(item) + 2 * ARROW + 3 * LABEL_GAP) * unit


def _label_width(item: DimensionLine) -> float:
    """Points that letter and value take side by side."""
    text = len(item.text) * TEXT * ADVANCE
    return (2 * LETTER_RADIUS + LABEL_GAP if item.letter else 0.0) + text


def _line_at(item: DimensionLine, box: Box, unit: float, row: int) -> tuple[float, float]:
    """Where the dimension line of a row lies across its direction (mm), and the sign of the way outwards."""
    sign = 1.0 if item.side in ("top", "right") else -1.0
    edge = {"top": box[3], "bottom": box[1], "left": box[0], "right": box[2]}[item.side]
    return edge + sign * (FIRST_ROW + row * ROW) * unit, sign


def _extension_lines(item: DimensionLine, box: Box, unit: float, row: int) -> list[Plain]:
    """The lines from what is measured to just beyond the dimension line."""
    line_at, sign = _line_at(item, box, unit, row)
    far, near = line_at + sign * OVERSHOOT * unit, sign * START_GAP * unit
    upright = item.side in ("left", "right")
    ends = [((x + near, y), (far, y)) if upright else ((x, y + near), (x, far)) for x, y in sorted((item.a, item.b))]
    return [Line(line, f"{item.role} extension", item.address) for line in ends]


def _lay(item: DimensionLine, box: Box, unit: float, row: int, candidate: LabelPlace) -> LaidDimension:
    """Extension lines, dimension line with arrows, label; upright ones are worked out with x and y exchanged."""
    upright = item.side in ("left", "right")
    line_at, sign = _line_at(item, box, unit, row + candidate.further)

    def place(u: float, v: float) -> Point:
        return (v, u) if upright else (u, v)

    u0, u1 = sorted(point[1 if upright else 0] for point in (item.a, item.b))
    lines = _extension_lines(item, box, unit, row + candidate.further)
    outward = u1 - u0 < 2.6 * ARROW * unit
    reach = 2 * ARROW * unit if outward else 0.0
    width = _label_width(item) * unit
    middle = (u0 + u1) / 2
    gap = width / 2 + LABEL_GAP * unit
    pieces = [(u0, middle - gap), (middle + gap, u1)] if candidate.label == "inside" else [(u0 - reach, u1 + reach)]
    lines += [Line((place(a, line_at), place(b, line_at)), item.role, item.address) for a, b in pieces]
    for tip, towards in ((u0, 1.0), (u1, -1.0)):
        base, half = tip + (-towards if outward else towards) * ARROW * unit, ARROW_HALF * unit
        outline = (place(tip, line_at), place(base, line_at + half), place(base, line_at - half))
        lines.append(Area(outline, f"{item.role} arrow", item.address))
    at, leader = _label_place(item, box, unit, candidate, (u0, u1, line_at, reach, width, sign))
    lines += leader
    label = tuple(_label(item, at, unit, 90.0 if upright and candidate.label == "inside" else 0.0))
    return LaidDimension(
        (*lines, *label), join_boxes([primitive_box(x) for x in label]), tuple(primitive_box(x) for x in lines)
    )


def _label_place(
    item: DimensionLine,
    box: Box,
    unit: float,
    candidate: LabelPlace,
    line: tuple[float, float, float, float, float, float],
) -> tuple[Point, list[Plain]]:
    """Where the label begins, and the line that leads to it where it stands apart."""
    u0, u1, line_at, reach, width, sign = line
    middle, gap = (u0 + u1) / 2, LABEL_GAP * unit
    beyond = max(reach, ARROW * unit) + gap
    if item.side in ("top", "bottom"):
        starts = {"inside": middle - width / 2, "after": u1 + beyond, "before": u0 - beyond - width}
        return (starts[candidate.label], line_at), []
    if candidate.label == "inside":
        return (line_at, middle - width / 2), []
    level, end = middle, middle
    if candidate.label in ("above", "below"):
        away = candidate.lines * 2.2 * LETTER_RADIUS * unit
        level = max(box[3], u1) + away if candidate.label == "above" else min(box[1], u0) - away
        end = u1 if candidate.label == "above" else u0
    left = line_at + (gap if sign > 0 else -gap - width)
    leader: list[Plain] = []
    if level != middle:
        leader.append(Line(((line_at, end), (line_at, level)), item.role, item.address))
    return (left, level), leader


def _label(item: DimensionLine, start: Point, unit: float, angle: float = 0.0) -> Iterator[Plain]:
    """The letter in its circle, then the value, beginning at a point; upright ones read from the right."""

    def along(by: float) -> Point:
        return (start[0], start[1] + by) if angle else (start[0] + by, start[1])

    text_at = 0.0
    if item.letter:
        radius = LETTER_RADIUS * unit
        height = TEXT * (1.0 if len(item.letter) < 2 else 0.85) * unit
        yield Disc(along(radius), radius, f"{item.role} letter", item.address)
        yield Text(along(radius), item.letter, height, f"{item.role} letter text", item.address)
        text_at = 2 * radius + LABEL_GAP * unit
    if item.text:
        yield Text(along(text_at), item.text, TEXT * unit, f"{item.role} text", item.address, "left", angle=angle)


def primitive_box(item: Plain) -> Box:
    """The box around a plain primitive (mm)."""
    if isinstance(item, Line):
        return bounds(item.points)
    if isinstance(item, Area):
        return bounds(item.outline)
    if isinstance(item, Disc):
        (x, y), r = item.centre, item.radius
        return x - r, y - r, x + r, y + r
    return text_box(item)


def text_box(item: Text) -> Box:
    """The box that a text with a height in mm takes up, estimated without a font."""
    x, y = item.at
    width = len(item.text) * item.height * ADVANCE
    left = {"left": 0.0, "middle": -width / 2, "right": -width}[item.horizontal]
    low = {"bottom": 0.0, "middle": -item.height / 2, "top": -item.height}[item.vertical]
    if item.angle == 90.0:
        return x - low - item.height, y + left, x - low, y + left + width
    return x + left, y + low, x + left + width, y + low + item.height
