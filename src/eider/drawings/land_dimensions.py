"""Which lengths of a land pattern are dimensioned: what an assembler needs to check the pattern from the drawing."""

from collections.abc import Iterator, Sequence

from msgspec.structs import replace

from eider.drawings.primitives import DimensionLine, Edge
from eider.geometry.lengths import format_length
from eider.geometry.plane import Point, bounds, join_boxes
from eider.geometry.rounding import NOISE
from eider.model.address import FieldAddress, PadAddress
from eider.model.pattern import Derivation, Pad, Pattern

# Around a pattern that is measured across x; where it is measured across y, the sides go round by a quarter.
ACROSS_X: tuple[Edge, Edge, Edge, Edge] = ("top", "bottom", "left", "right")
ACROSS_Y: tuple[Edge, Edge, Edge, Edge] = ("right", "left", "top", "bottom")


def land_dimensions(pattern: Pattern, unit: str) -> Iterator[DimensionLine]:
    """Z, G, C, X, Y and pitch of each group, sizes of other lands, the courtyard's size."""
    by_number = {pad.number: pad for pad in pattern.pads}
    first_axis = None
    for group in pattern.derivation:
        pads = [by_number[number] for number in group.numbers if number in by_number]
        if len(pads) < 2 and len(group.numbers) != 1:
            continue
        axis = _axis(pads, group)
        if first_axis is None or (axis == first_axis and len(group.numbers) == 1):
            yield from _rows(group, pads, axis, unit, is_further=first_axis is not None)
        else:
            # Of rows one behind the other the outer ones have to be shown.
            is_inner = any(other.G > group.Z for other in pattern.derivation)
            yield from (replace(line, optional=line.optional or is_inner) for line in _spans(group, pads, axis, unit))
        first_axis = axis if first_axis is None else first_axis
    for size in pattern.sizes:
        pads = [by_number[number] for number in size.numbers if number in by_number]
        if pads:
            yield from _sizes(pads, unit, 1 if not pattern.derivation else 4)
    yield from _manual_pad_dimensions(pattern, unit)
    yield from _courtyard(pattern, unit)


def _show(mm: float, unit: str) -> str:
    return format_length(mm, unit, with_unit=False)


def _axis(pads: Sequence[Pad], group: Derivation) -> int:
    """Across which axis a group is measured (0 is x): all its pads lie as far out as the centres of its lands."""
    out = (group.Z + group.G) / 4
    off = [sum(abs(abs((pad.x, pad.y)[axis]) - out) for pad in pads) for axis in (0, 1)]
    return 0 if off[0] <= off[1] else 1


def _at(axis: int, across: float, along: float) -> Point:
    """A point by its place across the rows and along them."""
    return (across, along) if axis == 0 else (along, across)


def _along(pad: Pad, axis: int) -> tuple[float, float, float]:
    """Where a pad lies along its row: its lower end, its middle, its upper end."""
    box = pad.box
    k = 1 - axis
    return box[k], (box[k] + box[k + 2]) / 2, box[k + 2]


def _rows(group: Derivation, pads: Sequence[Pad], axis: int, unit: str, *, is_further: bool) -> Iterator[DimensionLine]:
    """All dimensions of two opposing rows, or of one; Z and G outermost, then pitch and width."""
    over, under, before, beyond = ACROSS_X if axis == 0 else ACROSS_Y
    address = PadAddress(pads[0].number)
    top = max(_along(pad, axis)[2] for pad in pads)
    low = min(_along(pad, axis)[0] for pad in pads)
    sides = {(pad.x, pad.y)[axis] > 0 for pad in pads}

    def span(letter: str, length: float, side: Edge, row: int, at: float) -> DimensionLine:
        ends = (_at(axis, -length / 2, at), _at(axis, length / 2, at))
        return DimensionLine(*ends, side, letter, _show(length, unit), row, address=address)

    box = pads[-1].box
    outer = (box[axis + 2], box[axis])[0 if axis == 0 else 1]
    ends = (_at(axis, outer, _along(pads[-1], axis)[0]), _at(axis, outer, _along(pads[-1], axis)[2]))
    width = DimensionLine(*ends, beyond, "X", _show(group.X, unit), 2 if is_further else 1, address=address)
    if len(sides) == 1:
        # Lands on one side alone: the other side's ends are told by its own group.
        first = pads[0].box
        yield span("Z", group.Z, over, 3 if is_further else 2, top)
        ends = (_at(axis, first[axis], low), _at(axis, first[axis + 2], low))
        yield DimensionLine(*ends, under, "Y", _show(first[axis + 2] - first[axis], unit), 1, address=address)
        yield width
        return
    yield span("G", group.G, over, 1, top)
    yield span("Z", group.Z, over, 2, top)
    yield span("C", (group.Z + group.G) / 2, under, 1, low)
    yield width
    same_row = len(pads) > 2 and abs((pads[0].x, pads[0].y)[axis] - (pads[1].x, pads[1].y)[axis]) < NOISE
    if same_row:
        a, b = (_along(pad, axis)[1] for pad in pads[:2])
        edge = pads[0].box[axis] if axis == 0 else pads[0].box[3]
        yield DimensionLine(
            _at(axis, edge, a), _at(axis, edge, b), before, "e", _show(abs(b - a), unit), 1, address=address
        )


def _spans(group: Derivation, pads: Sequence[Pad], axis: int, unit: str) -> Iterator[DimensionLine]:
    """Z and G of a second pair of rows, beside those of the first."""
    side: Edge = "right" if axis == 1 else "top"
    address = PadAddress(pads[0].number)
    at = (min if axis == 1 else max)((pad.x, pad.y)[1 - axis] for pad in pads)
    for letter, length, row in (("Z", group.Z, 3), ("G", group.G, 2)):
        ends = (_at(axis, length / 2, at), _at(axis, -length / 2, at))
        yield DimensionLine(*ends, side, letter, _show(length, unit), row, address=address)


def _manual_pad_dimensions(pattern: Pattern, unit: str) -> Iterator[DimensionLine]:
    """Pads that follow from no rule: size, pitch and extent of those that are alike, group by group further out."""
    told = {number for group in pattern.derivation for number in group.numbers}
    told |= {number for size in pattern.sizes for number in size.numbers}
    alike: dict[tuple[object, ...], list[Pad]] = {}
    for pad in pattern.pads:
        if pad.number not in told:
            # What is mirrored is as large, and its points are others.
            alike.setdefault((pad.width, pad.height, pad.shape, len(pad.outline)), []).append(pad)
    first = next(iter(alike.values()), [])
    for index, pads in enumerate(alike.values()):
        row = 1 + 3 * index
        yield from _sizes(pads, unit, row, along=row)
        if index:
            yield from _between(first[0], pads[0], unit, row + 2)


def _between(a: Pad, b: Pad, unit: str, row: int) -> Iterator[DimensionLine]:
    """From the middle of one pad to that of another, along each axis in which they lie apart."""
    sides: tuple[tuple[int, Edge], ...] = ((0, "top"), (1, "left"))
    for axis, side in sides:
        apart = abs((a.x, a.y)[axis] - (b.x, b.y)[axis])
        if apart > NOISE:
            yield DimensionLine((a.x, a.y), (b.x, b.y), side, "", _show(apart, unit), row, address=PadAddress(b.number))


def _sizes(pads: Sequence[Pad], unit: str, row: int, along: int = 1) -> Iterator[DimensionLine]:
    """Lands that follow from no joint: their size and, where there are several, pitch and extent of their field.

    Sizes stand from `row` on, pitch and extent from `along` on.
    """
    first = pads[-1] if len(pads) > 1 else pads[0]
    address = PadAddress(first.number)
    x0, y0, x1, y1 = first.box
    yield DimensionLine((x0, y0), (x1, y0), "bottom", "", _show(x1 - x0, unit), row, address=address)
    if abs((y1 - y0) - (x1 - x0)) > NOISE:
        yield DimensionLine((x1, y0), (x1, y1), "right", "", _show(y1 - y0, unit), row, address=address)
    whole = join_boxes([pad.box for pad in pads])
    sides: tuple[tuple[int, Edge, float], ...] = ((0, "top", whole[3]), (1, "left", whole[0]))
    for axis, side, at in sides:
        places = sorted({(pad.x, pad.y)[axis] for pad in pads})
        if len(places) < 2:
            continue
        near, next_one, last = (_at(axis, v, at) for v in (places[0], places[1], places[-1]))
        letter = "e" if len(places) > 2 else ""
        yield DimensionLine(near, next_one, side, letter, _show(places[1] - places[0], unit), along, address=address)
        if len(places) > 2:
            yield DimensionLine(near, last, side, "", _show(places[-1] - places[0], unit), along + 1, address=address)


def _courtyard(pattern: Pattern, unit: str) -> Iterator[DimensionLine]:
    """Width and height of the courtyard, outermost, where there is room for the words."""
    if not pattern.courtyard:
        return
    x0, y0, x1, y1 = bounds(pattern.courtyard)
    address = FieldAddress("lands", "courtyard")
    ways: tuple[tuple[Point, Point, Edge, float], ...] = (
        ((x0, y0), (x1, y0), "bottom", x1 - x0),
        ((x0, y0), (x0, y1), "left", y1 - y0),
    )
    for a, b, side, size in ways:
        words = f"courtyard {_show(size, unit)}"
        yield DimensionLine(a, b, side, "", words, 20, address=address, optional=True)
