"""The land pattern as a dimensioned drawing, package outline and leads ghosted over it."""

from collections.abc import Iterator, Sequence

import msgspec

from eider.drawings.primitives import Area, Dimension, Disc, Drawing, Line, Primitive, Text, unit_note
from eider.geometry.lengths import format_length
from eider.geometry.shapes import bounds, box_outline, join_boxes
from eider.lands.pads import pad_outline
from eider.model.pattern import Derivation, Pad, Pattern
from eider.packages.family import Terminal

LAYERS = ("copper", "mask", "paste", "silkscreen", "assembly", "courtyard", "package", "dimensions")


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
        "copper": [item for pad in pattern.pads for item in _copper(pad)],
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
    numbers = [Text((p.x, p.y), p.number, _number_height(p), "copper text", _place(p)) for p in pattern.pads]
    shown = [item for layer in order if layer in options.layers for item in painted[layer]]
    lit = [
        Line((*pad_outline(p), pad_outline(p)[0]), "lit", _place(p)) for p in pattern.pads if p.number in options.lit
    ]
    return Drawing((*body, *shown, *(numbers if "copper" in options.layers else ()), *lit), _box(pattern))


def _place(pad: Pad) -> str:
    return f"lands.pads.{pad.number}"


def _number_height(pad: Pad) -> float:
    return min(0.45 * min(pad.width, pad.height), 0.7 * max(pad.width, pad.height) / max(len(pad.number), 1))


def _copper(pad: Pad) -> Iterator[Primitive]:
    yield Area(pad_outline(pad), "copper", _place(pad))
    if pad.hole:
        yield Disc((pad.x, pad.y), pad.hole.width / 2, "hole", _place(pad))


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
        if len(pads) >= 2:
            yield from _group_dimensions(group, pads, unit, across_x=index == 0)
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
            2,
            place=place,
            optional=True,
        )


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
    x0, _y0, _x1, y1 = first.box
    centre = (group.Z + group.G) / 2
    yield Dimension((-group.G / 2, y1), (group.G / 2, y1), "top", "G", show(group.G), 1, place=place)
    yield Dimension((-group.Z / 2, y1), (group.Z / 2, y1), "top", "Z", show(group.Z), 2, place=place)
    low = min(p.box[1] for p in pads)
    yield Dimension((-centre / 2, low), (centre / 2, low), "bottom", "C", show(centre), 1, place=place)
    right = last.box
    yield Dimension((right[2], right[1]), (right[2], right[3]), "right", "X", show(group.X), 1, place=place)
    if len(pads) > 2 and pads[1].x == first.x:
        pitch = abs(pads[1].y - first.y)
        yield Dimension((x0, first.y), (x0, pads[1].y), "left", "e", show(pitch), 1, place=place)
