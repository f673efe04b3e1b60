"""Balloons: the numbered marks of findings, set on the drawing where the things they speak of stand."""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence

from eider.drawings.primitives import Area, Balloon, DimensionLine, Disc, Drawing, Line, Primitive, Text
from eider.geometry.plane import Point
from eider.model.address import Address
from eider.model.finding import Finding


def with_balloons(
    drawing: Drawing, findings: Sequence[Finding], wanted: Callable[[Finding], bool] = lambda _finding: True
) -> Drawing:
    """The drawing with a balloon at everything that a wanted finding speaks of; numbers count all findings from 1."""
    places = {address for f in findings if wanted(f) for address in (f.address, *f.also)}
    if not places:
        return drawing
    anchors: dict[Address, Point] = {}
    for item in drawing.primitives:
        address = getattr(item, "address", None)
        if address is not None and address in places and address not in anchors:
            anchors[address] = _anchor(item)
    return drawing.with_extra(_balloons(anchors, findings, wanted))


def _balloons(
    anchors: dict[Address, Point], findings: Sequence[Finding], wanted: Callable[[Finding], bool]
) -> Iterator[Balloon]:
    taken: Counter[Point] = Counter()
    for number, finding in enumerate(findings, start=1):
        for address in (finding.address, *finding.also) if wanted(finding) else ():
            at = anchors.get(address)
            if at is not None:
                yield Balloon(at, number, finding.severity, address, taken[at])
                taken[at] += 1


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
