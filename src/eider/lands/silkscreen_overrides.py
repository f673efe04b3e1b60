"""Recorded changes of what surrounds the lands: marks, lines, texts, an own body outline, keep-outs; lengths in mm."""

from collections.abc import Iterator, Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.geometry.expressions import evaluate_expression, evaluate_points
from eider.geometry.plane import Outline, circle
from eider.geometry.rounding import NOISE, tidy
from eider.geometry.shapes import cut_line, grow, is_area, keep_out
from eider.lands.silkscreen_courtyard import near_lines
from eider.model.footprint import SilkscreenOverride
from eider.model.pattern import KeepOut, Level, Pad, PatternStroke, PatternText
from eider.packages.family import LandRecipe
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import Rulebook

LAYERS = ("silkscreen", "assembly")
KEPT_OUT = ("copper", "vias", "parts")
# A mark of one place is a dot of this diameter, drawn as a ring of the line's width.
DOT = 0.3
# The reference text of the assembly drawing (section 7 of the rules): its height lies between these.
LEAST_TEXT, MOST_TEXT = 0.5, 1.2
REFERENCE = "REF"
ROUND = 48


class OverrideError(InputError):
    """An override of silkscreen, outline or keep-out that cannot be used; the message says which."""


class Dressed(msgspec.Struct, frozen=True):
    """What surrounds the lands."""

    silkscreen: tuple[PatternStroke, ...]
    assembly: tuple[PatternStroke, ...]
    texts: tuple[PatternText, ...]
    keep_outs: tuple[KeepOut, ...]


def reference_text(recipe: LandRecipe) -> PatternText | None:
    """The reference designator in the middle of the assembly outline, as high as fits in; None where none does."""
    x0, y0, x1, y1 = recipe.body
    height = min(MOST_TEXT, 0.5 * (y1 - y0), 0.35 * (x1 - x0))
    if height < LEAST_TEXT:
        return None
    return PatternText(REFERENCE, tidy((x0 + x1) / 2), tidy((y0 + y1) / 2), tidy(round(height, 2)), "assembly")


def post_keep_outs(pads: Sequence[Pad], rulebook: Rulebook) -> tuple[KeepOut, ...]:
    """Copper keeps clear of holes without copper (rulebook: posts, keep_out)."""
    return tuple(
        KeepOut(circle(*pad.hole_centre, pad.hole.reach + rulebook.posts.keep_out, ROUND), "copper")
        for pad in pads
        if pad.hole and not pad.plated
    )


def with_overrides(
    dressed: Dressed,
    changes: Sequence[SilkscreenOverride],
    pads: Sequence[Pad],
    names: Mapping[str, float],
    level: Level,
    rulebook: Rulebook,
) -> Dressed:
    """What surrounds the lands, with every active change applied in order; `names` are letters of the sheet in mm.

    Raises:
        OverrideError: a place, length or word of a change cannot be used.
    """
    for row, change in enumerate(changes, start=1):
        if change.active:
            try:
                dressed = _changed(dressed, change, pads, names, level, rulebook)
            except InputError as fault:
                raise OverrideError(f"silkscreen, row {row} ({change.what}): {fault}") from fault
    return dressed


def _changed(
    dressed: Dressed,
    change: SilkscreenOverride,
    pads: Sequence[Pad],
    names: Mapping[str, float],
    level: Level,
    rulebook: Rulebook,
) -> Dressed:
    if change.layer and change.layer not in LAYERS:
        raise InputError(f"unknown layer “{change.layer}”; choose {' or '.join(LAYERS)}")
    places = tuple((tidy(x), tidy(y)) for x, y in evaluate_points(change.points, names))
    lines = rulebook.lines
    typical = lines.assembly if change.layer == "assembly" else lines.silkscreen["ABC".index(level)]
    width = evaluate_expression(change.width, names, "mm") if change.width.strip() else typical
    if width <= 0:
        raise InputError(f"width {width:g} mm. Enter a width greater than zero.")
    replace = msgspec.structs.replace
    if change.what == "hide":
        return _without(dressed, change)
    if change.what == "text":
        return replace(dressed, texts=(*dressed.texts, _text(change, places, names)))
    if change.what == "keep-out":
        return replace(dressed, keep_outs=(*dressed.keep_outs, _keep_out(change, places)))
    if change.what == "outline":
        return _with_outline(dressed, change, places, pads, width, rulebook)
    role = "mark" if change.what == "mark" else "line"
    drawn = _dot(places[0]) if change.what == "mark" and len(places) == 1 else places
    if len(drawn) < 2:
        raise InputError("a line needs two places or more, such as “-2,1 2,1”")
    if change.layer == "assembly":
        return replace(dressed, assembly=(*dressed.assembly, PatternStroke(drawn, width, role)))
    return replace(dressed, silkscreen=(*dressed.silkscreen, *_inked(drawn, width, role, pads, rulebook)))


def _dot(at: tuple[float, float]) -> Outline:
    ring = circle(*at, DOT / 2, 16)
    return (*ring, ring[0])


def _without(dressed: Dressed, change: SilkscreenOverride) -> Dressed:
    def kept(layer: str, strokes: tuple[PatternStroke, ...]) -> tuple[PatternStroke, ...]:
        if change.layer not in ("", layer):
            return strokes
        return tuple(s for s in strokes if change.text.strip() and s.role != change.text.strip())

    texts = tuple(t for t in dressed.texts if change.text.strip() or change.layer not in ("", t.layer))
    return msgspec.structs.replace(
        dressed,
        silkscreen=kept("silkscreen", dressed.silkscreen),
        assembly=kept("assembly", dressed.assembly),
        texts=texts,
    )


def _text(change: SilkscreenOverride, places: Outline, names: Mapping[str, float]) -> PatternText:
    if len(places) != 1 or not change.text.strip():
        raise InputError("a text needs what it says, and one place: its middle")
    height = evaluate_expression(change.width, names, "mm") if change.width.strip() else MOST_TEXT
    layer = "assembly" if change.layer == "assembly" else "silkscreen"
    return PatternText(change.text.strip(), *places[0], height, layer)  # type: ignore[arg-type]


def _keep_out(change: SilkscreenOverride, places: Outline) -> KeepOut:
    if change.text not in KEPT_OUT:
        raise InputError(f"choose what is kept out: {', '.join(KEPT_OUT)}")
    if not is_area(places):
        raise InputError("a keep-out is an area: enter three points or more that do not cross")
    return KeepOut(places, change.text)  # type: ignore[arg-type]


def _with_outline(
    dressed: Dressed, change: SilkscreenOverride, places: Outline, pads: Sequence[Pad], width: float, rulebook: Rulebook
) -> Dressed:
    """An own body outline in place of the box: as it is on the assembly drawing, outside of it in ink."""
    if not is_area(places):
        raise InputError("an outline is an area: three places or more that do not cross")
    replace = msgspec.structs.replace
    if change.layer != "silkscreen":
        others = tuple(s for s in dressed.assembly if s.role != "body")
        own = PatternStroke((*places, places[0]), rulebook.lines.assembly, "body")
        dressed = replace(dressed, assembly=(own, *others))
    if change.layer != "assembly":
        ring = grow(places, width / 2 + rulebook.clearances.silkscreen_to_body)
        others = tuple(s for s in dressed.silkscreen if s.role != "body")
        inked = tuple(_inked((*ring, ring[0]), width, "body", pads, rulebook))
        dressed = replace(dressed, silkscreen=(*inked, *others))
    return dressed


def _inked(line: Outline, width: float, role: str, pads: Sequence[Pad], rulebook: Rulebook) -> Iterator[PatternStroke]:
    """A silkscreen line, cut where it would come too near to mask openings."""
    clearance = rulebook.clearances.silkscreen_to_mask + width / 2 - NOISE
    openings = [pad_outline(o) for pad in near_lines(pads, [line], clearance) for o in pad.mask]
    for piece in cut_line(line, keep_out(openings, clearance), rulebook.clearances.shortest_silkscreen):
        yield PatternStroke(piece, width, role)
