"""The pitch of terminals that a drawing shows without writing it: how far apart they are drawn."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing
from eider.datasheets.pages.page_frame import holds
from eider.geometry.plane import Box
from eider.packages.letters.drawing_witness import SMALL, DrawnAxis

# Points: terminals whose sides differ by less are alike; middles nearer than this are of one row.
ALIKE, SAME_ROW = 0.8, 1.0
# At least so many terminals are drawn alike: two on each of two sides.
FEWEST_TERMINALS = 4
# A terminal is no longer than this share of the view that shows it.
LARGEST = 1.5 * SMALL


class DrawnPitch(NamedTuple):
    """How far terminals lie apart along an axis, and how far they reach over all (PDF points), in which view."""

    view: int
    axis: DrawnAxis
    pitch: float
    overall: float


def drawn_pitches(drawing: OutlineDrawing) -> Iterator[DrawnPitch]:
    """The pitches along both axes of each view that shows terminals alike, evenly spaced, as boxes."""
    for index, view in enumerate(drawing.views):
        within = [box for box in drawing.shapes if holds(view.box, box) and box != view.box]
        wide, high = view.box[2] - view.box[0], view.box[3] - view.box[1]
        small = [box for box in within if box[2] - box[0] < LARGEST * wide and box[3] - box[1] < LARGEST * high]
        alike = _most_alike(small)
        if len(alike) < FEWEST_TERMINALS:
            continue
        axes: tuple[tuple[DrawnAxis, int], ...] = (("horizontal", 0), ("vertical", 1))
        for axis, side in axes:
            pitch = _even_step([(box[side] + box[side + 2]) / 2 for box in alike])
            if pitch:
                overall = max(box[side + 2] for box in alike) - min(box[side] for box in alike)
                yield DrawnPitch(index, axis, pitch, overall)


def points_of(length: DrawnLength) -> float:
    """How long the line of a length is drawn (PDF points)."""
    return length.span.stop - length.span.start


def _most_alike(boxes: Sequence[Box]) -> list[Box]:
    """The largest set of boxes of one size."""
    sets = [[other for other in boxes if _is_alike(box, other)] for box in boxes]
    return max(sets, key=len, default=[])


def _is_alike(a: Box, b: Box) -> bool:
    return abs((a[2] - a[0]) - (b[2] - b[0])) < ALIKE and abs((a[3] - a[1]) - (b[3] - b[1])) < ALIKE


def _even_step(middles: Sequence[float]) -> float:
    """The step between rows of middles; zero where there is one row, or the steps differ."""
    rows: list[float] = []
    for middle in sorted(middles):
        if not rows or middle - rows[-1] > SAME_ROW:
            rows.append(middle)
    steps = [b - a for a, b in pairwise(rows)]
    return sum(steps) / len(steps) if steps and max(steps) - min(steps) <= 2 * SAME_ROW else 0.0
