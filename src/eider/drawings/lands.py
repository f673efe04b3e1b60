"""The land pattern as a dimensioned drawing, package outline and leads ghosted over it."""

import math
from collections.abc import Iterator, Sequence

import msgspec

from eider.drawings.dimensioning import text_box
from eider.drawings.hatching import hatching
from eider.drawings.land_dimensions import land_dimensions
from eider.drawings.primitives import Area, Disc, Drawing, Line, Primitive, Text, unit_note
from eider.geometry.shapes import Outline, bounds, box_outline, join_boxes
from eider.lands.pads import has_copper, hole_outline, pad_outline
from eider.model.pattern import Pad, Pattern
from eider.packages.family import Terminal

LAYERS = ("copper", "mask", "paste", "silkscreen", "assembly", "courtyard", "keep-out", "package", "limits", "hatch",
          "dimensions")  # fmt: skip
# What is shown at first: limits are the package at its least and most, hatch the areas as on a drawing in black.
SHOWN = frozenset(LAYERS) - {"assembly", "limits", "hatch"}


# Outlines with more corners than this may be circles; then their points lie equally far out (mm).
ROUND_FROM, SAME = 16, 1e-4
# Pad numbers are not drawn higher than this (mm), however large the pad.
LARGEST_NUMBER = 0.9


class LandOptions(msgspec.Struct, frozen=True):
    """What of a land pattern is shown: layers by name, the unit of its dimensions, pads that are lit.

    `extremes` are the terminals at the least and the most of every length, drawn as outlines.
    """

    layers: frozenset[str] = SHOWN
    unit: str = "mm"
    lit: frozenset[str] = frozenset()
    extremes: tuple[Sequence[Terminal], ...] = ()


def pattern_drawing(
    pattern: Pattern, terminals: Sequence[Terminal] = (), options: LandOptions | None = None
) -> Drawing:
    """The drawing of a pattern; `terminals` are ghosted over it at nominal size."""
    options = options or LandOptions()
    boxes = {pad.box for pad in pattern.pads}
    painted: dict[str, list[Primitive]] = {
        "copper": [
            *(item for pad in pattern.pads for item in _copper(pad)),
            *(Disc((via.x, via.y), via.drill / 2, "hole", f"lands.pads.{via.number}") for via in pattern.vias),
        ],
        "mask": [_opening(pad, o, "mask") for pad in pattern.pads for o in pad.mask],
        "package": [
            Area(box_outline(t.whole), "ghost", f"lands.pads.{t.number}")
            for t in terminals
            # A terminal that is taken to be as its land says nothing of its own.
            if t.whole not in boxes
        ],
        "paste": [_opening(pad, o, "paste") for pad in pattern.pads for o in pad.paste],
        "courtyard": [Line((*pattern.courtyard, pattern.courtyard[0]), "courtyard", "lands.courtyard")]
        if pattern.courtyard
        else [],
        "silkscreen": [
            *(Line(s.points, "silkscreen", width=s.width) for s in pattern.silkscreen if s.points),
            *_texts(pattern, "silkscreen"),
        ],
        "assembly": [*(Line(s.points, "assembly") for s in pattern.assembly), *_texts(pattern, "assembly")],
        "limits": [
            Line((*box_outline(t.whole), box_outline(t.whole)[0]), role, f"lands.pads.{t.number}")
            for role, at in zip(("ghost least", "ghost most"), options.extremes, strict=False)
            for t in at
        ],
        "hatch": list(hatching(pattern)) if "hatch" in options.layers else [],
        "keep-out": [Line((*k.outline, k.outline[0]), "keep-out", "lands.keep-out") for k in pattern.keep_outs],
        "dimensions": [*land_dimensions(pattern, options.unit), unit_note(options.unit)],
    }
    bodies = [Area(s.points[:-1], "ghost body") for s in pattern.assembly if s.role == "body"]
    body = bodies if "package" in options.layers else []
    order = (
        "copper",
        "hatch",
        "mask",
        "package",
        "limits",
        "paste",
        "courtyard",
        "silkscreen",
        "assembly",
        "keep-out",
        "dimensions",
    )
    numbers = [
        Text((p.x, p.y), p.number, _number_height(p), "copper text", _place(p)) for p in pattern.pads if p.plated
    ]
    shown = [item for layer in order if layer in options.layers for item in painted[layer]]
    lit = [
        Line((*pad_outline(p), pad_outline(p)[0]), "lit", _place(p)) for p in pattern.pads if p.number in options.lit
    ]
    return Drawing((*body, *shown, *(numbers if "copper" in options.layers else ()), *lit), _box(pattern))


def _texts(pattern: Pattern, layer: str) -> list[Text]:
    return [Text((t.x, t.y), t.text, t.height, f"{layer} text", angle=t.angle)
            for t in pattern.texts if t.layer == layer]  # fmt: skip


def _place(pad: Pad) -> str:
    return f"lands.pads.{pad.number}"


def _number_height(pad: Pad) -> float:
    fitting = min(0.45 * min(pad.width, pad.height), 0.7 * max(pad.width, pad.height) / max(len(pad.number), 1))
    return min(fitting, LARGEST_NUMBER)


def _opening(pad: Pad, outline: Outline, role: str) -> Line | Disc:
    """An opening; a round one about its pad as a circle, which is painted much faster than its many corners."""
    radii = [math.dist(at, (pad.x, pad.y)) for at in (outline[0], outline[len(outline) // 3])]
    if pad.shape == "circle" and len(outline) > ROUND_FROM and abs(radii[0] - radii[1]) < SAME:
        return Disc((pad.x, pad.y), radii[0], role, _place(pad))
    return Line((*outline, outline[0]), role, _place(pad))


def _copper(pad: Pad) -> Iterator[Primitive]:
    if has_copper(pad):
        role = "copper below" if pad.layers == "bottom" else "copper"
        if pad.shape == "circle":
            yield Disc((pad.x, pad.y), pad.width / 2, role, _place(pad))
        else:
            yield Area(pad_outline(pad), role, _place(pad))
    if pad.hole is None:
        return
    role = "hole" if pad.plated else "hole bare"
    width, height = pad.hole.width, pad.hole.height
    x, y = pad.hole_centre
    if width == height:
        yield Disc((x, y), width / 2, role, _place(pad))
    else:
        yield Area(hole_outline(pad), role, _place(pad))
    if not pad.plated:
        # A hole without copper bears a cross at its centre.
        arm = 0.7 * min(width, height) / 2
        yield Line(((x - arm, y), (x + arm, y)), "hole bare", _place(pad))
        yield Line(((x, y - arm), (x, y + arm)), "hole bare", _place(pad))


def _box(pattern: Pattern) -> tuple[float, float, float, float]:
    boxes = [pad.box for pad in pattern.pads]
    if pattern.courtyard:
        boxes.append(bounds(pattern.courtyard))
    boxes += [text_box(text) for text in _texts(pattern, "silkscreen")]
    boxes += [bounds(stroke.points) for stroke in pattern.silkscreen if stroke.points]
    return join_boxes(boxes)
