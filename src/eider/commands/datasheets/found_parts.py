"""A part of the library made of what a file from elsewhere has of it: a draft, with where each value came from."""

from collections.abc import Iterator, Mapping, Sequence

import msgspec

from eider.commands.lands.footprint_edits import adjust_pad, set_silkscreen_overrides
from eider.commands.parts.body_edits import compose
from eider.commands.parts.new_parts import new_part
from eider.commands.pins.symbol_edits import set_custom_graphic
from eider.evidence.evidence_changes import utc_now
from eider.exchange.found_parts import FoundPart
from eider.geometry.plane import Outline, bounds
from eider.geometry.rounding import plain_digits, tidy
from eider.model.body import ComposedSolid
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.footprint import Adjustment, SilkscreenOverride
from eider.model.intake import IntakeMap
from eider.model.library import LibrarySettings
from eider.model.outline import OutlineSpec, PadSpec, Step
from eider.model.part import Fact
from eider.model.pattern import Opening, Pad, PatternStroke
from eider.model.symbol import CustomGraphic, GraphicStroke, Pin
from eider.model.wording import counted
from eider.symbols.custom_graphic import MOST_STROKES, custom_graphic_faults
from eider.symbols.graphics import graphic_pins

replace = msgspec.structs.replace
# A body without a height is as high as this (mm), and said to be so.
GUESSED_HEIGHT = 1.0


def with_drawings(bundle: Bundle, found: FoundPart, doubts: list[str], *, keep: bool) -> Bundle:
    """The part with the lines round its lands: its own, where they are to be kept, else those of the rulebook."""
    own = [("silkscreen", found.silkscreen), ("assembly", found.assembly)]
    if not keep:
        told = [f"{counted(len(strokes), 'line')} of {layer}" for layer, strokes in own if strokes]
        if told:
            doubts.append(f"{' and '.join(told)} left out: the rulebook makes them again")
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


BY_HAND = "custom"
# Openings and lands that differ by less (mm) are of one form.
SAME = 0.0005


class DraftOfFound(msgspec.Struct, frozen=True):
    """The draft, and what of the file it cannot hold or had to guess."""

    bundle: Bundle
    doubts: tuple[str, ...]


def draft_of_found(
    found: FoundPart, category: str, settings: LibrarySettings, who: str, mapping: IntakeMap | None = None
) -> DraftOfFound:
    """Make a draft of what a file has of a part; lands become pads by hand, unless there is a package sheet.

    `mapping` says whether its drawings are kept, and under which licence it may be used.

    Raises:
        InputError: it has no name, or the library has no such category.
    """
    if found.bundle is not None:
        return DraftOfFound(found.bundle, ())
    mapping = mapping or IntakeMap()
    whence = f"{found.source}; licence: {mapping.licence}" if mapping.licence else found.source
    evidence = Evidence(EvidenceKind.ELSEWHERE, text=whence, by=who, at=utc_now())
    made, doubts = new_part(found.name, category, settings), list[str]()
    if found.pins:
        pins = tuple(replace(pin, evidence=evidence) for pin in found.pins)
        graphic = made.symbol.graphic if _fits(made.symbol.graphic, pins) else ""
        made = replace(made, symbol=replace(made.symbol, pins=pins, graphic=graphic))
    if found.sheet is not None:
        made = replace(made, sheet=replace(found.sheet, id=made.sheet.id))
    elif found.pads:
        specs, outlines, told = pads_by_hand(found.pads)
        numbers = {pad.number for pad in found.pads if pad.number and pad.plated}
        pins_count = max(len(numbers), 1)
        sheet = replace(made.sheet, family=BY_HAND, kind="", pins=pins_count, pads=specs, outlines=outlines)
        made, doubts = replace(made, sheet=sheet), [*doubts, *told]
    elif found.outline or found.graphic:
        made = replace(made, sheet=replace(made.sheet, family=BY_HAND, kind="", pins=1))
    made = with_graphic(made, found, doubts)
    made = with_drawings(made, found, doubts, keep=mapping.drawings == "kept")
    made = with_outlined_body(made, found, doubts)
    facts = {name: Fact(value, evidence) for name, value in found.facts.items()}
    part = replace(made.part, facts=facts, description=found.description)
    return DraftOfFound(replace(made, part=part), tuple(doubts))


def _fits(graphic: str, pins: Sequence[object]) -> bool:
    return bool(graphic) and len(graphic_pins(graphic)) == len(pins)


def pads_by_hand(pads: Sequence[Pad]) -> tuple[tuple[PadSpec, ...], dict[str, OutlineSpec], tuple[str, ...]]:
    """Pads as rows of pads by hand with their copper outlines, and what such a row cannot hold."""
    specs, outlines, told = [], dict[str, OutlineSpec](), []
    shapes: dict[Outline, str] = {}
    for pad in pads:
        name = ""
        if pad.shape == "outline":
            name = shapes.setdefault(pad.outline, f"shape {len(shapes) + 1}")
            outlines[name] = _outline_spec(pad.outline)
        openings, lost = _openings(pad)
        told += [f"pad {pad.number or 'without a number'}: {words}" for words in lost]
        specs.append(_spec(pad, name, openings))
    return tuple(specs), outlines, tuple(told)


def _spec(pad: Pad, outline: str, openings: Mapping[str, str]) -> PadSpec:
    hole = pad.hole
    made = PadSpec(
        number=pad.number,
        x=plain_digits(pad.x),
        y=plain_digits(pad.y),
        width="" if outline else plain_digits(pad.width),
        height="" if outline else plain_digits(pad.height),
        rotation=plain_digits(pad.rotation) if pad.rotation else "",
        shape="rectangle" if outline else pad.shape,
        corner_radius=plain_digits(pad.corner_radius) if pad.corner_radius else "",
        outline=outline,
        plated=pad.plated,
        layers=pad.layers,
        **openings,
    )
    if hole is None:
        return made
    return replace(
        made,
        hole=plain_digits(hole.width),
        slot=plain_digits(hole.height) if hole.height != hole.width else "",
        hole_x=plain_digits(hole.x) if hole.x else "",
        hole_y=plain_digits(hole.y) if hole.y else "",
    )


def _outline_spec(outline: Outline) -> OutlineSpec:
    steps = []
    for (x0, y0), (x1, y1) in zip(outline, (*outline[1:], outline[0]), strict=True):
        if (x0, y0) != (x1, y1):
            steps.append(Step("by", plain_digits(x1 - x0), plain_digits(y1 - y0)))
    return OutlineSpec(plain_digits(outline[0][0]), plain_digits(outline[0][1]), tuple(steps))


def _openings(pad: Pad) -> tuple[dict[str, str], list[str]]:
    """Openings of mask and stencil as expansions of the land; others are reported and left to the rulebook."""
    found, lost = {}, []
    for what, openings in (("mask", pad.mask), ("paste", pad.paste)):
        grown = {_growth(pad, opening) for opening in openings}
        if len(openings) == 1 and None not in grown:
            found[what] = plain_digits(next(iter(grown)) or 0.0)
        elif openings:
            lost.append(f"the openings of {what} are no even expansion; the rulebook's are taken in their place")
    return found, lost


def _growth(pad: Pad, opening: Opening) -> float | None:
    """By how much an opening is larger than its land on every side; None where it has another form."""
    is_there = abs(opening.x - pad.x) < SAME and abs(opening.y - pad.y) < SAME and opening.shape == pad.shape
    wider, higher = (opening.width - pad.width) / 2, (opening.height - pad.height) / 2
    turned = abs((opening.rotation - pad.rotation) % 180) > SAME
    return tidy(wider) if is_there and not turned and abs(wider - higher) < SAME and pad.shape != "outline" else None


def missing_words(found: FoundPart, *, has_package: bool = False) -> Iterator[str]:
    """What a part from elsewhere lacks, and what will be made in its place.

    With `has_package` the package sheet of another part holds for it.
    """
    if found.bundle is not None:
        return
    if not found.pins:
        yield "no pins: type them, or capture them from the datasheet"
    elif nameless := [pin.number for pin in found.pins if not pin.name]:
        yield f"{len(nameless)} pins without names: {', '.join(nameless[:8])}"
    if not found.pads and found.sheet is None:
        yield "no lands and no package sheet"
    elif found.pads and found.sheet is None and not has_package:
        yield "no package sheet: the lands become pads by hand, and their joints cannot be shown yet"
    if found.outline and not found.model and found.sheet is None:
        yield "no model of the body: its outline and height make one"
    elif not found.model and not has_package:
        yield "no body: a box is made once there is a package sheet"
    if not found.datasheet:
        yield "no datasheet"


# What of a pad an adjustment can set, and what is compared to a micrometre.
_LENGTHS = ("x", "y", "width", "height", "rotation", "corner_radius")


def adjusted_to(bundle: Bundle, pads: Sequence[Pad], source: str) -> DraftOfFound:
    """A part whose lands follow from its package sheet, with adjustments for what lands from elsewhere differ in.

    Pads that only one side has are no adjustment: they are told.
    """
    pattern = bundle.footprint.pattern
    there = {pad.number: pad for pad in pattern.pads} if pattern else {}
    wanted = {pad.number: pad for pad in pads}
    doubts = [f"pad {number} is not in {source}; it stays" for number in there.keys() - wanted.keys()]
    doubts += [f"pad {number} of {source} is not of this package; left out" for number in wanted.keys() - there.keys()]
    made = bundle
    for number, pad in wanted.items():
        if number not in there:
            continue
        old = there[number]
        changes = {
            what: plain_digits(getattr(pad, what))
            for what in _LENGTHS
            if abs(getattr(pad, what) - getattr(old, what)) > SAME
        }
        if pad.shape != old.shape and pad.shape == "outline":
            doubts.append(f"pad {number} has an outline in {source}, which is not an adjustment; its form stays")
        elif pad.shape != old.shape:
            changes["shape"] = pad.shape
        for what, value in changes.items():
            made = adjust_pad(made, Adjustment(number, what, value, why=f"from elsewhere: {source}"))
    return DraftOfFound(made, tuple(sorted(doubts)))
