"""What a part from elsewhere is drawn with: its silkscreen, the outline of its body, and the graphic of its symbol."""

from collections.abc import Sequence

import msgspec

from eider.commands.body_edits import compose
from eider.commands.footprint_edits import set_silkscreen_overrides
from eider.commands.symbol_edits import set_custom_graphic
from eider.exchange.found_parts import FoundPart
from eider.geometry.rounding import plain_digits
from eider.geometry.shapes import Outline, bounds
from eider.model.body import ComposedSolid
from eider.model.bundle import Bundle
from eider.model.footprint import SilkscreenOverride
from eider.model.pattern import PatternStroke
from eider.model.symbol import CustomGraphic, GraphicStroke, Pin
from eider.model.wording import counted
from eider.symbols.custom_graphic import MOST_STROKES, custom_graphic_faults

replace = msgspec.structs.replace
# A body without a height is as high as this (mm), and said to be so.
GUESSED_HEIGHT = 1.0


def with_drawings(bundle: Bundle, found: FoundPart, doubts: list[str], *, keep: bool) -> Bundle:
    """The part with the lines round its lands: its own, where they are to be kept, else those of the rulebook."""
    own = [("silkscreen", found.silkscreen), ("assembly", found.assembly)]
    if not keep:
        told = [f"{counted(len(strokes), 'line')} of {layer}" for layer, strokes in own if strokes]
        if told:
            doubts.append(f"{' and '.join(told)} left out: the rulebook makes them anew")
        overrides: list[SilkscreenOverride] = []
    else:
        overrides = [o for layer, strokes in own if strokes for o in _kept_lines(layer, strokes, found.source)]
    if found.outline and found.sheet is None:
        why = f"from elsewhere: {found.source}"
        layer = "assembly" if keep and found.silkscreen else ""
        overrides.insert(0, SilkscreenOverride("outline", _points(found.outline), layer, why=why))
    return set_silkscreen_overrides(bundle, overrides) if overrides else bundle


def _kept_lines(layer: str, strokes: Sequence[PatternStroke], source: str) -> list[SilkscreenOverride]:
    why = f"from elsewhere: {source}"
    hidden = SilkscreenOverride("hide", layer=layer, why=why)
    lines = [
        SilkscreenOverride("line", _points(s.points), layer, width=plain_digits(s.width), why=why) for s in strokes
    ]
    return [hidden, *lines]


def _points(points: Outline) -> str:
    return " ".join(f"{plain_digits(x)},{plain_digits(y)}" for x, y in points)


def with_outlined_body(bundle: Bundle, found: FoundPart, doubts: list[str]) -> Bundle:
    """The part with a body of its outline and height, where it has no package sheet and no model."""
    if not found.outline or found.sheet is not None or found.model:
        return bundle
    x0, y0, x1, y1 = bounds(found.outline)
    middle = (x0 + x1) / 2, (y0 + y1) / 2
    height = found.height or GUESSED_HEIGHT
    if not found.height:
        doubts.append(f"its body has no height in {found.source}; {GUESSED_HEIGHT:g} mm is assumed")
    solid = ComposedSolid(
        name="body",
        shape="prism",
        x=plain_digits(middle[0]),
        y=plain_digits(middle[1]),
        height=plain_digits(height),
        outline=_points(tuple((x - middle[0], y - middle[1]) for x, y in found.outline)),
    )
    return compose(bundle, [solid])


def with_graphic(bundle: Bundle, found: FoundPart, doubts: list[str]) -> Bundle:
    """The part with its symbol's own graphic, its pins in the order of the pin table."""
    if not found.graphic:
        return bundle
    pins = bundle.symbol.pins if found.pins else _pins_of(found.graphic)
    rows = _in_order(found.graphic, pins)
    if rows is None:
        drawn = sum(1 for row in found.graphic if row.kind == "pin")
        doubts.append(f"the symbol's graphic has {counted(drawn, 'pin')}, the part {len(pins)}: a box is drawn")
        return bundle
    if len(rows) > MOST_STROKES:
        doubts.append(f"the symbol's graphic has {len(rows)} rows, more than {MOST_STROKES}: a box is drawn")
        return bundle
    custom = CustomGraphic({}, tuple(rows))
    if faults := custom_graphic_faults(custom):
        doubts.append(f"the symbol's graphic is not kept: {faults[0].message}")
        return bundle
    return set_custom_graphic(replace(bundle, symbol=replace(bundle.symbol, pins=pins)), custom)


def _pins_of(graphic: Sequence[GraphicStroke]) -> tuple[Pin, ...]:
    """The pins that a graphic names: a number is a number, a name gets one in order."""
    names = [row.text for row in graphic if row.kind == "pin"]
    return tuple(
        Pin(name, type="passive") if name.isdecimal() else Pin(str(index), name, type="passive")
        for index, name in enumerate(names, start=1)
    )


def _in_order(graphic: Sequence[GraphicStroke], pins: Sequence[Pin]) -> list[GraphicStroke] | None:
    """The rows with those of pins as the pin table has them; None where they are not the same pins."""
    drawn = [row for row in graphic if row.kind == "pin"]
    if len(drawn) != len(pins):
        return None
    left, ordered = list(drawn), list[GraphicStroke]()
    for pin in pins:
        row = next((row for row in left if row.text in (pin.number, pin.name)), None)
        if row is None:
            return None
        left.remove(row)
        ordered.append(replace(row, text=pin.name or pin.number))
    return [*ordered, *(row for row in graphic if row.kind != "pin")]
