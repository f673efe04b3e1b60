"""The views of an outline drawing: what is left of it without dimension lines, in groups that hang together."""

from collections.abc import Collection

import msgspec
import numpy as np

from eider.datasheets.drawing_marks import DrawingMarks
from eider.datasheets.page_frame import are_near, holds, joined
from eider.datasheets.ruling_lines import Ruling
from eider.geometry.shapes import Box

# Outlines nearer than this (points) belong to one view; smaller groups are signs, dashes and frames of letters.
TOGETHER, SMALLEST = 3.0, 14.0
# Strokes whose end is this near (points) meet.
MEETS = 0.8


class DrawnView(msgspec.Struct, frozen=True):
    """One view of a package: the box round its outlines in PDF points."""

    box: Box

    def along(self, axis: str) -> tuple[float, float]:
        """From where to where it reaches along an axis, `horizontal` or `vertical`."""
        x0, y0, x1, y1 = self.box
        return (x0, x1) if axis == "horizontal" else (y0, y1)


def views_of(marks: DrawingMarks, used: Collection[Ruling]) -> tuple[DrawnView, ...]:
    """The views among the strokes that no dimension uses, the largest first."""
    boxes = _without_loose([stroke.box for stroke in marks.strokes if stroke not in used])
    boxes += [area for area in marks.areas if _is_shape(area, marks)]
    groups: list[Box] = []
    for box in sorted(boxes, key=lambda b: b[0]):
        near = [group for group in groups if are_near(group, box, TOGETHER)]
        groups = [group for group in groups if group not in near]
        groups.append(joined(box, *near))
    groups = _merged(groups)
    large = [g for g in groups if max(g[2] - g[0], g[3] - g[1]) >= SMALLEST and min(g[2] - g[0], g[3] - g[1]) > 2]
    return tuple(DrawnView(box) for box in sorted(large, key=lambda g: -(g[2] - g[0]) * (g[3] - g[1])))


def _is_shape(area: Box, marks: DrawingMarks) -> bool:
    """Whether a filled area is of the package: what lies behind the dimensions as well is the paper."""
    behind = sum(holds(area, (*end.tip, *end.tip)) for end in marks.ends)
    return min(area[2] - area[0], area[3] - area[1]) > MEETS and behind <= 0.5 * len(marks.ends)


def _without_loose(boxes: list[Box]) -> list[Box]:
    """The strokes that meet others at their ends: centre lines meet none, and of their dashes one where it ends."""
    if not boxes:
        return []
    lines = np.array(boxes)
    low, high = lines[:, :2] - MEETS, lines[:, 2:] + MEETS
    met = np.zeros(len(lines), dtype=int)
    for ends in (lines[:, :2], lines[:, 2:]):
        inside = (ends[:, None] >= low[None]).all(axis=2) & (ends[:, None] <= high[None]).all(axis=2)
        met += inside.sum(axis=1) > 1  # each end is within its own stroke
    loose = [box for box, count in zip(boxes, met.tolist(), strict=True) if count == 0]
    return [
        box
        for box, count in zip(boxes, met.tolist(), strict=True)
        if count == 2 or (count == 1 and sum(_in_line(box, other) for other in loose) < 2)
    ]


def _in_line(a: Box, b: Box) -> bool:
    """Whether two strokes lie on one line, as the dashes of a centre line do."""
    return max(a[2], b[2]) - min(a[0], b[0]) < MEETS or max(a[3], b[3]) - min(a[1], b[1]) < MEETS


def _merged(groups: list[Box]) -> list[Box]:
    """Groups whose boxes touch made one, until none do."""
    while True:
        for index, group in enumerate(groups):
            near = [other for other in groups[index + 1 :] if are_near(group, other, TOGETHER)]
            if near:
                groups = [g for g in groups if g not in near and g != group]
                groups.append(joined(group, *near))
                break
        else:
            return groups
