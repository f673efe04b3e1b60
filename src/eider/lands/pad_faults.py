"""What is often wrong with lands from elsewhere: all at one place, mirrored, in another unit; and what corrects it."""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple, cast

import msgspec
import shapely

from eider.geometry.plane import Outline
from eider.geometry.rounding import tidy
from eider.lands.pads import share_side
from eider.lands.pattern_reading import read_pattern
from eider.lands.shape_gaps import shape_gaps
from eider.model.pattern import Opening, Pad
from eider.model.wording import counted, named

replace = msgspec.structs.replace
PadCorrection = Literal["mil", "inch", "mm", "mirror", "spread"]
CORRECTIONS: dict[PadCorrection, str] = {
    "mil": "Read lengths as mil",
    "inch": "Read lengths as inches",
    "mm": "Read lengths as mm",
    "mirror": "Mirror left to right",
    "spread": "Spread the pads in a row",
}
# What a length is multiplied by where it was read in mm but meant in mil or inches, or in mil but meant in mm.
FACTORS: dict[PadCorrection, float] = {"mil": 0.0254, "inch": 25.4, "mm": 1 / 0.0254}
# Pitches of packages (mm), and how near a pitch must come to one to be it.
PITCHES = (0.3, 0.35, 0.4, 0.5, 0.635, 0.65, 0.75, 0.8, 0.95, 1.0, 1.25, 1.27, 1.5, 1.905, 2.0, 2.3, 2.5, 2.54, 3.5,
           3.81, 3.96, 5.0, 5.08, 7.5, 7.62)  # fmt: skip
LIKE_PITCH = 0.01
# No package has a pitch above or below (mm).
LARGEST_PITCH, SMALLEST_PITCH = 16.0, 0.25
SAME_PLACE = 0.001
MOST_TOLD = 6


class PadFault(NamedTuple):
    """Something that is wrong with lands, in words, and what may correction it."""

    words: str
    corrections: tuple[PadCorrection, ...]


def pad_faults(pads: Sequence[Pad]) -> tuple[PadFault, ...]:
    """What is wrong with lands by themselves; what a package needs is not known here."""
    lands = [pad for pad in pads if pad.plated]
    if len(lands) < 2:
        return ()
    if all(math.dist((pad.x, pad.y), (lands[0].x, lands[0].y)) < SAME_PLACE for pad in lands):
        return (PadFault(f"all {len(lands)} pads lie at one place, {lands[0].x:g}, {lands[0].y:g}", ("spread",)),)
    found = [fault for fault in (_wrong_unit(lands), _mirrored(lands), _overlapping(lands)) if fault is not None]
    return tuple(found)


def _wrong_unit(pads: Sequence[Pad]) -> PadFault | None:
    """A pitch that no package has, and that is a usual one in another unit."""
    pitch = _pitch(pads)
    if SMALLEST_PITCH <= pitch <= LARGEST_PITCH:
        return None
    fitting = tuple(correction for correction, factor in FACTORS.items() if _is_usual(pitch * factor))
    if not fitting:
        return None
    meant = " or ".join(f"{pitch * FACTORS[correction]:.3g} mm" for correction in fitting)
    return PadFault(
        f"the pads are {pitch:g} mm apart, a pitch that no package has; in another unit it is {meant}", fitting
    )


def _pitch(pads: Sequence[Pad]) -> float:
    """The smallest distance of two pads' middles."""
    places = shapely.points([(pad.x, pad.y) for pad in pads])
    # The nearest of the others: the tree tells each point, without itself, whose place may be another's too.
    _first, distances = shapely.STRtree(places).query_nearest(places, exclusive=True, return_distance=True)
    apart = [distance for distance in distances.tolist() if distance > SAME_PLACE]
    return min(apart, default=0.0)


def _is_usual(pitch: float) -> bool:
    return any(abs(pitch - usual) < LIKE_PITCH * usual for usual in PITCHES)


def _mirrored(pads: Sequence[Pad]) -> PadFault | None:
    """Pins of two rows or four sides that are counted clockwise: seen from above they go the other way round."""
    if read_pattern(pads).form not in ("two rows", "four sides"):
        return None
    places = {int(pad.number): (pad.x, pad.y) for pad in pads if pad.number.isdecimal()}
    count = len(places)
    if count < 6 or sorted(places) != list(range(1, count + 1)):
        return None
    ring = [places[number] for number in range(1, count + 1)]
    area = sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(ring, ring[1:] + ring[:1], strict=True)) / 2
    xs, ys = [x for x, _y in ring], [y for _x, y in ring]
    box = (max(xs) - min(xs)) * (max(ys) - min(ys))
    # Rows that are counted to and fro, as of connectors, enclose next to nothing.
    if area > -0.5 * box:
        return None
    return PadFault("the pins are counted clockwise: the lands are mirrored, or seen from below", ("mirror",))


def _overlapping(pads: Sequence[Pad]) -> PadFault | None:
    gaps = shape_gaps(list(pads), 0.0)
    pairs = [
        (pads[first].number, pads[second].number)
        for first, second in zip(gaps.first.tolist(), gaps.second.tolist(), strict=True)
        if pads[first].number != pads[second].number and share_side(pads[first], pads[second])
    ]
    if not pairs:
        return None
    found = {number or "without a number" for pair in pairs for number in pair}
    numbers = sorted(found, key=lambda number: (len(number), number))
    if len(numbers) <= MOST_TOLD:
        return PadFault(f"{named('pad', numbers)} overlap", ())
    told = f"pads {', '.join(numbers[:MOST_TOLD])} and {counted(len(numbers) - MOST_TOLD, 'other')}"
    return PadFault(f"{told} overlap", ())


def corrected_pads(pads: Sequence[Pad], correction: PadCorrection) -> tuple[Pad, ...]:
    """The pads after a correction, their openings and holes with them."""
    if correction == "mirror":
        return tuple(_mirror(pad) for pad in pads)
    if correction == "spread":
        return _spread(pads)
    return tuple(_scaled(pad, FACTORS[correction]) for pad in pads)


def _scaled(pad: Pad, factor: float) -> Pad:
    made = cast(Pad, _scaled_form(pad, factor))
    hole = pad.hole
    if hole is not None:
        hole = replace(hole, **{name: tidy(getattr(hole, name) * factor) for name in ("width", "height", "x", "y")})
    openings = {what: tuple(_scaled_form(o, factor) for o in getattr(pad, what)) for what in ("mask", "paste")}
    return replace(made, hole=hole, **openings)


def _scaled_form(form: Pad | Opening, factor: float) -> Pad | Opening:
    lengths = {name: tidy(getattr(form, name) * factor) for name in ("x", "y", "width", "height", "corner_radius")}
    outline = tuple((tidy(x * factor), tidy(y * factor)) for x, y in form.outline)
    return replace(form, **lengths, outline=outline)


def _mirror(pad: Pad) -> Pad:
    hole = pad.hole
    if hole is not None and hole.x:
        hole = replace(hole, x=-hole.x)
    openings = {what: tuple(_mirrored_form(o) for o in getattr(pad, what)) for what in ("mask", "paste")}
    return replace(cast(Pad, _mirrored_form(pad)), hole=hole, **openings)


def _mirrored_form(form: Pad | Opening) -> Pad | Opening:
    outline: Outline = tuple((-x + 0.0, y) for x, y in reversed(form.outline))
    return replace(form, x=-form.x + 0.0, rotation=tidy(-form.rotation % 360), outline=outline)


def _spread(pads: Sequence[Pad]) -> tuple[Pad, ...]:
    """The pads side by side along x, a pad's width apart: each can be seen, and moved to where it belongs."""
    made, x = [], 0.0
    for pad in pads:
        width = pad.box[2] - pad.box[0]
        made.append(_moved(pad, x + width / 2 - pad.x, -pad.y))
        x += 2 * width
    middle = (x - (pads[-1].box[2] - pads[-1].box[0])) / 2 if pads else 0.0
    return tuple(_moved(pad, -middle, 0.0) for pad in made)


def _moved(pad: Pad, dx: float, dy: float) -> Pad:
    def at(opening: Opening) -> Opening:
        return replace(opening, x=tidy(opening.x + dx), y=tidy(opening.y + dy))

    openings = {what: tuple(at(opening) for opening in getattr(pad, what)) for what in ("mask", "paste")}
    return replace(pad, x=tidy(pad.x + dx), y=tidy(pad.y + dy), **openings)
