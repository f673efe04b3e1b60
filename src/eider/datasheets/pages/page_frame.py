"""Where a page's own coordinates lie in its picture, and text that runs another way than across the page."""

import msgspec

from eider.geometry.plane import Box, Point


class PageFrame(msgspec.Struct, frozen=True):
    """A page as it is shown: the visible box in PDF points, and by how many quarters it is turned clockwise.

    PDF coordinates have y up; the picture's have their origin at its upper left corner and y down, in points.
    """

    crop: Box
    quarters: int = 0

    @property
    def size(self) -> tuple[float, float]:
        """Width and height of the picture in points."""
        x0, y0, x1, y1 = self.crop
        return (y1 - y0, x1 - x0) if self.quarters % 2 else (x1 - x0, y1 - y0)

    def to_picture(self, x: float, y: float) -> Point:
        """A point of the page in the picture."""
        x0, y0, x1, y1 = self.crop
        return ((x - x0, y1 - y), (y - y0, x - x0), (x1 - x, y - y0), (y1 - y, x1 - x))[self.quarters % 4]

    def to_page(self, u: float, v: float) -> Point:
        """A point of the picture on the page."""
        x0, y0, x1, y1 = self.crop
        return ((x0 + u, y1 - v), (x0 + v, y0 + u), (x1 - u, y0 + v), (x1 - v, y1 - u))[self.quarters % 4]

    def box_to_picture(self, box: Box) -> Box:
        """A box of the page in the picture: left, top, right, bottom."""
        return ordered(*self.to_picture(box[0], box[1]), *self.to_picture(box[2], box[3]))


def ordered(x0: float, y0: float, x1: float, y1: float) -> Box:
    """The box between two corners, whichever they are."""
    return min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)


def turned(box: Box, quarters: int) -> Box:
    """A box turned clockwise about the origin by quarters: text that runs up the page (90°) lies straight after one."""
    x0, y0, x1, y1 = box
    for _ in range(quarters % 4):
        x0, y0, x1, y1 = y0, -x1, y1, -x0
    return ordered(x0, y0, x1, y1)


def joined(*boxes: Box) -> Box:
    """The smallest box around some boxes."""
    return (
        min(b[0] for b in boxes),
        min(b[1] for b in boxes),
        max(b[2] for b in boxes),
        max(b[3] for b in boxes),
    )


def area_in_common(a: Box, b: Box) -> float:
    """The area that two boxes both cover."""
    width, height = min(a[2], b[2]) - max(a[0], b[0]), min(a[3], b[3]) - max(a[1], b[1])
    return width * height if width > 0 and height > 0 else 0.0


def share_covered(a: Box, b: Box) -> float:
    """The share of the smaller box that both cover."""
    least = min((a[2] - a[0]) * (a[3] - a[1]), (b[2] - b[0]) * (b[3] - b[1]))
    return area_in_common(a, b) / least if least > 0 else 0.0


def share_columns(a: Box, b: Box) -> bool:
    """Whether one of two boxes stands above the other, or they overlap: whether some upright line meets both."""
    return a[0] < b[2] and b[0] < a[2]


def are_near(a: Box, b: Box, room: float = 0.0) -> bool:
    """Whether two boxes touch, or lie no farther from each other than `room`."""
    return a[0] <= b[2] + room and b[0] <= a[2] + room and a[1] <= b[3] + room and b[1] <= a[3] + room


def holds(box: Box, inner: Box) -> bool:
    """Whether the middle of a box lies in another."""
    x, y = (inner[0] + inner[2]) / 2, (inner[1] + inner[3]) / 2
    return box[0] <= x <= box[2] and box[1] <= y <= box[3]


def holds_whole(box: Box, inner: Box) -> bool:
    """Whether a box goes round the whole of another, but for a point."""
    return box[0] <= inner[0] + 1 and box[1] <= inner[1] + 1 and box[2] >= inner[2] - 1 and box[3] >= inner[3] - 1


def around(box: Box, margin: float = 4.0, least: float = 60.0) -> Box:
    """A box with a margin, at least so wide (points): what is cut out of a page to show a value."""
    more = max(margin, (least - (box[2] - box[0])) / 2)
    return box[0] - more, box[1] - margin, box[2] + margin + (more - margin), box[3] + margin
