"""The land pattern as a dimensioned drawing, package outline and leads ghosted over it."""

from collections.abc import Iterator, Sequence

import msgspec

from eider.drawings.primitives import Area, Dimension, Disc, Drawing, Line, Primitive, Text, unit_note
from eider.geometry.lengths import format_length
from eider.geometry.shapes import bounds, box_outline, join_boxes, rotated, rounded_rectangle
from eider.lands.pads import pad_outline
from eider.model.pattern import Derivation, Pad, Pattern
from eider.packages.family import Terminal

LAYERS = ("copper", "mask", "paste", "silkscreen", "assembly", "courtyard", "package", "dimensions")


# Pad numbers are not drawn higher than this (mm), however large the pad.
LARGEST_NUMBER = 0.9


class LandOptions(msgspec.Struct, frozen=True):
    """What of a land pattern is shown: layers by name, the unit of its dimensions, pads that are lit."""

    layers: frozenset[str] = frozenset(LAYERS) - {"assembly"}
    unit: str = "mm"
    lit: frozenset[str] = frozenset()


def pattern_drawing(
    pattern: Pattern, terminals: Sequence[Terminal] = (), options: LandOptions | None = None
) -> Drawing:
    """The drawing of a pattern; `terminals` are ghosted over it at nominal size."""
    options = options or LandOptions()
    painted: dict[str, list[Primitive]] = {
        "copper": [
            *(item for pad in pattern.pads for item in _copper(pad)),
            *(Disc((via.x, via.y), via.drill / 2, "hole", f"lands.pads.{via.number}") for via in pattern.vias),
        ],
        "mask": [Line((*o, o[0]), "mask", _place(pad)) for pad in pattern.pads for o in pad.mask],
        "package": [Area(box_outline(t.whole), "ghost", f"lands.pads.{t.number}") for t in terminals],
        "paste": [Line((*o, o[0]), "paste", _place(pad)) for pad in pattern.pads for o in pad.paste],
        "courtyard": [Line((*pattern.courtyard, pattern.courtyard[0]), "courtyard", "lands.courtyard")]
        if pattern.courtyard
        else [],
        "silkscreen": [Line(s.points, "silkscreen", width=s.width) for s in pattern.silkscreen if s.points],
        "assembly": [Line(s.points, "assembly") for s in pattern.assembly],
        "dimensions": [*_dimensions(pattern, options.unit), unit_note(options.unit)],
    }
    body = [Area(s.points[:-1], "ghost body") for s in pattern.assembly] if "package" in options.layers else []
    order = ("copper", "mask", "package", "paste", "courtyard", "silkscreen", "assembly", "dimensions")
    numbers = [
        Text((p.x, p.y), p.number, _number_height(p), "copper text", _place(p)) for p in pattern.pads if p.plated
    ]
    shown = [item for layer in order if layer in options.layers for item in painted[layer]]
    lit = [
        Line((*pad_outline(p), pad_outline(p)[0]), "lit", _place(p)) for p in pattern.pads if p.number in options.lit
    ]
    return Drawing((*body, *shown, *(numbers if "copper" in options.layers else ()), *lit), _box(pattern))


def _place(pad: Pad) -> str:
    return f"lands.pads.{pad.number}"


def _number_height(pad: Pad) -> float:
    fitting = min(0.45 * min(pad.width, pad.height), 0.7 * max(pad.width, pad.height) / max(len(pad.number), 1))
    return min(fitting, LARGEST_NUMBER)


def _copper(pad: Pad) -> Iterator[Primitive]:
    if pad.plated:
        yield Area(pad_outline(pad), "copper", _place(pad))
    if pad.hole is None:
        return
    role = "hole" if pad.plated else "hole bare"
    width, height = pad.hole.width, pad.hole.height
    if width == height:
        yield Disc((pad.x, pad.y), width / 2, role, _place(pad))
    else:
        slot = rounded_rectangle(pad.x, pad.y, width, height, min(width, height) / 2)
        yield Area(rotated(slot, pad.rotation, (pad.x, pad.y)), role, _place(pad))
    if not pad.plated:
        # A hole without copper bears a cross at its centre.
        arm = 0.7 * min(width, height) / 2
        yield Line(((pad.x - arm, pad.y), (pad.x + arm, pad.y)), "hole bare", _place(pad))
        yield Line(((pad.x, pad.y - arm), (pad.x, pad.y + arm)), "hole bare", _place(pad))


def _box(pattern: Pattern) -> tuple[float, float, float, float]:
    boxes = [pad.box for pad in pattern.pads]
    if pattern.courtyard:
        boxes.append(bounds(pattern.courtyard))
    return join_boxes(boxes)


def _dimensions(pattern: Pattern, unit: str) -> Iterator[Dimension]:
    """What an assembler needs to check the pattern: Z, G, C, X, Y, pitch, and the courtyard's size."""
    by_number = {pad.number: pad for pad in pattern.pads}
    for index, group in enumerate(pattern.derivation):
        pads = [by_number[number] for number in group.numbers if number in by_number]
        if len(pads) >= 2 or len(group.numbers) == 1:
            yield from _group_dimensions(group, pads, unit, across_x=index == 0 or len(group.numbers) == 1)
    for size in pattern.sizes:
        pads = [by_number[number] for number in size.numbers if number in by_number]
        if pads:
            yield from _size_dimensions(pads, unit, is_alone=not pattern.derivation)
    if pattern.courtyard:
        x0, y0, x1, y1 = bounds(pattern.courtyard)
        rows = 1 if len(pattern.derivation) < 2 else 2
        place = "lands.courtyard"
        yield Dimension(
            (x0, y0),
            (x1, y0),
            "bottom",
            "",
            f"courtyard {format_length(x1 - x0, unit, with_unit=False)}",
            rows + 1,
            place=place,
            optional=True,
        )
        yield Dimension(
            (x0, y0),
            (x0, y1),
            "left",
            "",
            f"courtyard {format_length(y1 - y0, unit, with_unit=False)}",
            3 if any(len(size.numbers) > 2 for size in pattern.sizes) else 2,
            place=place,
            optional=True,
        )


def _size_dimensions(pads: Sequence[Pad], unit: str, *, is_alone: bool) -> Iterator[Dimension]:
    """Lands that follow from no joint: their size and, where there are several, pitch and extent of their field."""

    def show(mm: float) -> str:
        return format_length(mm, unit, with_unit=False)

    first = pads[-1] if len(pads) > 1 else pads[0]
    place = f"lands.pads.{first.number}"
    x0, y0, x1, y1 = first.box
    row = 1 if is_alone else 4
    yield Dimension((x0, y0), (x1, y0), "bottom", "", show(x1 - x0), row, place=place)
    if abs((y1 - y0) - (x1 - x0)) > 1e-9:
        yield Dimension((x1, y0), (x1, y1), "right", "", show(y1 - y0), row, place=place)
    for axis, side in ((0, "top"), (1, "left")):
        places = sorted({(p.x, p.y)[axis] for p in pads})
        if len(places) < 2:
            continue
        at = max(p.y for p in pads) if axis == 0 else min(p.x for p in pads)
        ends = [(v, at) if axis == 0 else (at, v) for v in (places[0], places[1], places[-1])]
        yield Dimension(ends[0], ends[1], side, "e", show(places[1] - places[0]), 1, place=place)  # type: ignore[arg-type]
        if len(places) > 2:
            yield Dimension(ends[0], ends[2], side, "", show(places[-1] - places[0]), 2, place=place)  # type: ignore[arg-type]


def _group_dimensions(group: Derivation, pads: Sequence[Pad], unit: str, *, across_x: bool) -> Iterator[Dimension]:
    """Dimensions of two opposing rows; the first group is measured across x, a second one across y."""

    def show(mm: float) -> str:
        return format_length(mm, unit, with_unit=False)

    first, last = pads[0], pads[-1]
    place = f"lands.pads.{first.number}"
    if not across_x:
        x = min(p.x for p in pads)
        yield Dimension((x, group.Z / 2), (x, -group.Z / 2), "right", "Z", show(group.Z), 3, place=place)
        yield Dimension((x, group.G / 2), (x, -group.G / 2), "right", "G", show(group.G), 2, place=place)
        return
    x0, _y0, x1, y1 = first.box
    centre = (group.Z + group.G) / 2
    if len({pad.x > 0 for pad in pads}) == 1:
        # Lands on one side alone: the other side's ends are told by its own group.
        low = min(p.box[1] for p in pads)
        yield Dimension((-group.Z / 2, y1), (group.Z / 2, y1), "top", "Z", show(group.Z), 2, place=place)
        yield Dimension((x0, low), (x1, low), "bottom", "Y", show(x1 - x0), 1, place=place)
        yield Dimension(
            (last.box[2], last.box[1]), (last.box[2], last.box[3]), "right", "X", show(group.X), 1, place=place
        )
        return
    yield Dimension((-group.G / 2, y1), (group.G / 2, y1), "top", "G", show(group.G), 1, place=place)
    yield Dimension((-group.Z / 2, y1), (group.Z / 2, y1), "top", "Z", show(group.Z), 2, place=place)
    low = min(p.box[1] for p in pads)
    yield Dimension((-centre / 2, low), (centre / 2, low), "bottom", "C", show(centre), 1, place=place)
    right = last.box
    yield Dimension((right[2], right[1]), (right[2], right[3]), "right", "X", show(group.X), 1, place=place)
    if len(pads) > 2 and pads[1].x == first.x:
        pitch = abs(pads[1].y - first.y)
        yield Dimension((x0, first.y), (x0, pads[1].y), "left", "e", show(pitch), 1, place=place)
