"""Balloons: the numbered marks of findings, set on the drawing where the thing they speak of stands."""

from collections.abc import Iterator, Sequence

from eider.drawings.primitives import Area, Balloon, DimensionLine, Disc, Drawing, Line, Primitive, Text
from eider.geometry.shapes import Point
from eider.model.address import Address
from eider.model.finding import Finding


def with_balloons(drawing: Drawing, findings: Sequence[Finding]) -> Drawing:
    """The drawing with a balloon for every finding whose place it shows; numbers count the findings from 1."""
    anchors: dict[Address, Point] = {}
    for item in drawing.primitives:
        address = getattr(item, "address", None)
        if address is not None and address not in anchors:
            anchors[address] = _anchor(item)
    return drawing.with_extra(_balloons(drawing, anchors, findings))


def _balloons(drawing: Drawing, anchors: dict[Address, Point], findings: Sequence[Finding]) -> Iterator[Balloon]:
    taken: dict[Point, int] = {}
    width = drawing.box[2] - drawing.box[0]
    for number, finding in enumerate(findings, start=1):
        at = anchors.get(finding.address)
        if at is None:
            continue
        again = taken.get(at, 0)
        taken[at] = again + 1
        yield Balloon((at[0] + again * 0.08 * width, at[1]), number, finding.severity, finding.address)


def _anchor(item: Primitive) -> Point:
    """The point of a primitive at which its balloon starts: its upper right."""
    if isinstance(item, Line):
        points = item.points
    elif isinstance(item, Area):
        points = item.outline
    elif isinstance(item, DimensionLine):
        return ((item.a[0] + item.b[0]) / 2, (item.a[1] + item.b[1]) / 2)
    elif isinstance(item, Disc):
        return item.centre
    elif isinstance(item, Text | Balloon):
        return item.at
    else:
        return (0.0, 0.0)
    return max(x for x, _ in points), max(y for _, y in points)
