"""The outline of a body as its land pattern tells it."""

from eider.geometry.plane import Outline, box_outline, join_boxes
from eider.model.pattern import Pattern


def body_outline(pattern: Pattern) -> Outline:
    """The outline of the body as the assembly drawing has it; else the box around the lands."""
    closed = (
        s.points for s in pattern.assembly if s.role == "body" and len(s.points) > 3 and s.points[0] == s.points[-1]
    )
    found = next(closed, None)
    return found[:-1] if found else box_outline(join_boxes([pad.box for pad in pattern.pads]))
