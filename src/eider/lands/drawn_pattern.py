"""Suggested lands of a drawing compared with a package: which length each group gets, and what is in doubt."""

import math
from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import combinations
from typing import NamedTuple

from eider.errors import InputError
from eider.geometry.plane import Box, bounds
from eider.lands.drawn_lands import OTHER_AXIS, DrawnDistance, LandAxis, along, middle_along
from eider.lands.land_layout import LaidLands
from eider.lands.manufacturer_pattern import FORMS, SIZE
from eider.model.pattern import Derivation, Pad, SizeDerivation
from eider.model.wording import counted

# How far a drawn land may lie from where the package has it, as a share of half the pattern.
OFF = 0.35
# Lands whose sizes differ by no more than this as drawn (points) are alike; lengths agree within so many mm.
ALIKE, AGREES = 0.6, 0.0125
# A length that differs by more than this share from the scale that the others of its axis have is not trusted.
OFF_SCALE, IN_SCALE = 0.15, 0.04


class ReadDistance(NamedTuple):
    """A length of a drawing: its position among the drawing's lengths (from 0), what it measures, its value (mm)."""

    place: int
    distance: DrawnDistance
    value: float


class DrawnForm(NamedTuple):
    """What a drawing gives for a group of lands: the form, and for each of its lengths the index of the drawing's."""

    group: str
    form: str
    lengths: dict[str, int]


class DrawnPattern(NamedTuple):
    """What was understood of a drawing, and what is in doubt."""

    forms: tuple[DrawnForm, ...]
    doubts: tuple[str, ...]


def pattern_of_drawing(laid: LaidLands, lands: Sequence[Box], distances: Sequence[ReadDistance]) -> DrawnPattern:
    """Which lengths of a drawing give the lands of which group of a package.

    `lands` are boxes in points of the page, y up. A drawing may lie turned by a quarter.

    Raises:
        InputError: there are more or fewer lands than the package has, or they lie otherwise.
    """
    thermal = {number for sized in laid.sizes for number in sized.numbers}
    pads, kept, told = _without_odd_thermal([pad for pad in laid.pads if pad.plated], lands, thermal)
    places = {land: position for position, land in enumerate(kept)}
    placed = _placed(pads, [lands[index] for index in kept], list(_between_centres(distances, places)))
    # Lengths name lands by their place among all of them.
    placed = _Placed({number: kept[land] for number, land in placed.lands.items()}, placed.quarters)
    forms: list[DrawnForm] = []
    off_scale = dict(_off_scale(distances))
    trusted = [read for read in distances if read.place not in off_scale]
    told += [*off_scale.values(), *_of_no_scale(trusted)]
    drawing = _Drawing(lands, trusted, placed.quarters)
    groups: list[Derivation | SizeDerivation] = [*laid.derivation, *laid.sizes]
    for group in groups:
        members = {placed.lands[number] for number in group.numbers if number in placed.lands}
        if not members or (isinstance(group, SizeDerivation) and "hole" in group.values):
            continue
        found, fault = _form(group, members, drawing, pads)
        if found is None:
            found = _form_by_symmetry(group, members, drawing, forms, placed.lands, groups)
        forms += [found] if found else []
        told += [fault] if fault and found is None else []
    return DrawnPattern(tuple(forms), tuple(told))


class _Drawing(NamedTuple):
    """The drawn lands, the lengths that are trusted, and by how many quarters the drawing is turned."""

    lands: Sequence[Box]
    distances: Sequence[ReadDistance]
    quarters: int

    def shape(self, land: int, axis: LandAxis) -> tuple[float, float]:
        """The size of a land along an axis and across it, in mm by the scale of each axis; in points without one."""
        first, second = (along(self.lands[land], a) for a in (axis, OTHER_AXIS[axis]))
        return (first[1] - first[0]) / self.scale(axis), (second[1] - second[0]) / self.scale(OTHER_AXIS[axis])

    def scale(self, axis: LandAxis) -> float:
        """Points for a mm along an axis, or along the other where no length tells it."""
        for own in (axis, OTHER_AXIS[axis]):
            scales = sorted(r.distance.points / r.value for r in self.distances if r.distance.axis == own)
            if scales:
                return scales[len(scales) // 2]
        return 1.0


def _without_odd_thermal(
    pads: list[Pad], lands: Sequence[Box], thermal: Collection[str]
) -> tuple[list[Pad], list[int], list[str]]:
    """Pads, and which drawn lands (from 0), without a thermal land that one of them alone has; what to say of it."""
    whole = list(range(len(lands)))
    if len(pads) == len(lands) + 1 and any(pad.number in thermal for pad in pads):
        told = "the drawing has no land for the thermal pad; the computed one stays"
        return [pad for pad in pads if pad.number not in thermal], whole, [told]
    if len(lands) == len(pads) + 1 and not any(pad.number in thermal for pad in pads):
        largest = max(lands, key=_area)
        x0, y0, x1, y1 = _joined(lands)
        x, y = _middle(largest)
        is_within = abs(x - (x0 + x1) / 2) < OFF * (x1 - x0) / 2 and abs(y - (y0 + y1) / 2) < OFF * (y1 - y0) / 2
        if is_within and _area(largest) > 2 * max(_area(land) for land in lands if land is not largest):
            told = "the drawing has a thermal land, the package no thermal pad: enter its length and width in the sheet"
            return pads, [index for index in whole if lands[index] is not largest], [told]
    return pads, whole, []


def _joined(lands: Sequence[Box]) -> Box:
    return bounds(corner for land in lands for corner in (land[:2], land[2:]))


def _area(land: Box) -> float:
    return (land[2] - land[0]) * (land[3] - land[1])


def _form_by_symmetry(
    group: Derivation | SizeDerivation,
    members: set[int],
    drawing: _Drawing,
    forms: Sequence[DrawnForm],
    lands: Mapping[str, int],
    groups: Sequence[Derivation | SizeDerivation],
) -> DrawnForm | None:
    """The form of a group that is drawn as another one turned by a quarter, or of a square land with one length.

    A sheet gives the lengths of a square pattern once.
    """
    if isinstance(group, SizeDerivation):
        sides = [_size(members, axis, drawing) for axis in OTHER_AXIS]
        given = next((side for side in sides if side is not None), None)
        wide, high = drawing.shape(min(members), "x")
        is_square = abs(wide - high) <= ALIKE / drawing.scale("x")
        return (
            DrawnForm(group.group, SIZE, dict.fromkeys(("width", "height"), given.place))
            if given and is_square
            else None
        )
    own = _extents(drawing, members)
    for form in forms:
        other = next(g for g in groups if g.group == form.group)
        theirs = {lands[number] for number in other.numbers if number in lands}
        if isinstance(other, SizeDerivation) or len(theirs) != len(members):
            continue
        wide, high = _extents(drawing, theirs)
        if abs(own[0] - high) <= 2 * ALIKE and abs(own[1] - wide) <= 2 * ALIKE:
            return DrawnForm(group.group, form.form, form.lengths)
    return None


def _extents(drawing: _Drawing, members: set[int]) -> tuple[float, float]:
    """How far some lands go together, across and up, in points."""
    x0, y0, x1, y1 = _joined([drawing.lands[index] for index in members])
    return x1 - x0, y1 - y0


class _Placed(NamedTuple):
    """Which drawn land is which pad, and by how many quarters the drawing is turned against the package."""

    lands: dict[str, int]
    quarters: int


class _CentreDistance(NamedTuple):
    """A written distance (mm) between the middles of two lands, these by their places among the lands."""

    axis: LandAxis
    first: int
    second: int
    value: float


def _between_centres(distances: Sequence[ReadDistance], places: Mapping[int, int]) -> Iterator[_CentreDistance]:
    for read in distances:
        first, second = (
            min(places.keys() & ends, default=None) for ends in (read.distance.first, read.distance.second)
        )
        if read.distance.kind == "centres" and first is not None and second is not None:
            yield _CentreDistance(read.distance.axis, places[first], places[second], read.value)


def _placed(pads: Sequence[Pad], lands: Sequence[Box], written: Sequence[_CentreDistance]) -> _Placed:
    if len(pads) != len(lands):
        raise InputError(f"the drawing has {counted(len(lands), 'land')}, the package {len(pads)}")
    drawn = _normal([_middle(box) for box in lands])
    tried: list[tuple[float, float, int, dict[str, int]]] = []
    for quarters in range(4):
        wanted = _normal([_turned(_middle(pad.box), quarters) for pad in pads])
        far, chosen = _nearest(wanted, drawn)
        if len(set(chosen)) == len(chosen):
            off = _off_written(written, {land: pad for pad, land in zip(pads, chosen, strict=True)}, quarters)
            tried.append((far, off, quarters, {pad.number: land for pad, land in zip(pads, chosen, strict=True)}))
    # Turned by a half a symmetric pattern is the same, and two by two lands lie alike either way but for their pitch:
    # the drawing lies as the package does, where it can.
    best = min(tried, key=lambda found: (round(found[0], 2), round(found[1], 2), found[2]), default=None)
    if best is None or best[0] > OFF:
        raise InputError("the lands of the drawing do not lie as the package has them")
    return _Placed(best[3], best[2])


def _off_written(written: Sequence[_CentreDistance], pads: Mapping[int, Pad], quarters: int) -> float:
    """By how much (mm) written distances between lands differ from those of the pads that these would be, at least.

    The pitch of rows is the package's own, and so differs by nothing.
    """
    off = []
    for distance in written:
        a, b = (_turned(_middle(pads[land].box), quarters) for land in (distance.first, distance.second))
        side = 0 if distance.axis == "x" else 1
        off.append(abs(abs(a[side] - b[side]) - distance.value))
    return min(off, default=0.0)


def _nearest(wanted: Sequence[tuple[float, float]], drawn: Sequence[tuple[float, float]]) -> tuple[float, list[int]]:
    """For each wanted place the nearest drawn one, and the farthest of these distances."""
    chosen = [min(range(len(drawn)), key=lambda k: math.dist(drawn[k], place)) for place in wanted]
    return max(math.dist(drawn[k], place) for k, place in zip(chosen, wanted, strict=True)), chosen


def _normal(places: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Places about their middle, each axis in halves of its own extent: a drawing need not be to scale."""
    xs, ys = [p[0] for p in places], [p[1] for p in places]
    middle = (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2
    half = [(max(v) - min(v)) / 2 for v in (xs, ys)]
    wide = [h if h > 0.02 * max(half) else math.inf for h in half]
    return [((x - middle[0]) / wide[0], (y - middle[1]) / wide[1]) for x, y in places]


def _middle(box: Box) -> tuple[float, float]:
    return middle_along(box, "x"), middle_along(box, "y")


def _turned(place: tuple[float, float], quarters: int) -> tuple[float, float]:
    x, y = place
    for _ in range(quarters):
        x, y = -y, x
    return x, y


def _off_scale(distances: Sequence[ReadDistance]) -> Iterator[tuple[int, str]]:
    """The lengths that do not fit the scale on which most of their axis agree: misread, or of something else."""
    for axis in ("x", "y"):
        same = [(read, read.distance.points / read.value) for read in distances if read.distance.axis == axis]
        for read, scale in same:
            others = sorted(s for r, s in same if r is not read)
            agreeing = [s for s in others if abs(s / others[len(others) // 2] - 1) <= IN_SCALE]
            if len(agreeing) >= 2 and len(agreeing) >= 0.6 * len(others) and abs(scale / agreeing[0] - 1) > OFF_SCALE:
                yield read.place, f"{read.value:g} mm does not fit the scale of the drawing's other lengths"


def _of_no_scale(distances: Sequence[ReadDistance]) -> Iterator[str]:
    """The axes whose lengths have no common scale."""
    for axis in ("x", "y"):
        same = [read for read in distances if read.distance.axis == axis]
        scales = [read.distance.points / read.value for read in same]
        if scales and max(scales) / min(scales) - 1 > OFF_SCALE:
            lengths = ", ".join(f"{read.value:g}" for read in same)
            yield f"{lengths} mm are drawn on different scales: the drawing is not to scale, or one of them is misread"


def _axis_of(group: Derivation, pads: Sequence[Pad], quarters: int) -> LandAxis:
    """The axis of the drawing along which the two rows of a group lie apart."""
    boxes = [pad.box for pad in pads if pad.number in group.numbers]
    over = {axis: max(along(b, axis)[1] for b in boxes) - min(along(b, axis)[0] for b in boxes) for axis in OTHER_AXIS}
    axis = min(over, key=lambda a: abs(over[a] - group.Z))
    return OTHER_AXIS[axis] if quarters % 2 else axis


def _form(
    group: Derivation | SizeDerivation,
    members: set[int],
    drawing: _Drawing,
    pads: Sequence[Pad],
) -> tuple[DrawnForm | None, str]:
    """The form of a group that the drawing gives whole, and what is wrong with what it gives."""
    if isinstance(group, SizeDerivation):
        sides: tuple[tuple[str, LandAxis], ...] = (("width", "x"), ("height", "y"))
        ways = ((key, OTHER_AXIS[axis] if drawing.quarters % 2 else axis) for key, axis in sides)
        found = {key: read for key, axis in ways if (read := _size(members, axis, drawing)) is not None}
        forms: Mapping[str, tuple[str, ...]] = {SIZE: ("width", "height")}
    else:
        found = _row_lengths(members, _axis_of(group, pads, drawing.quarters), drawing)
        forms = FORMS
    fault = land_length_disagreement({key: read.value for key, read in found.items()})
    if fault:
        return None, f"lands of {group.group}: {fault}"
    for form, keys in forms.items():
        if all(key in found for key in keys):
            return DrawnForm(group.group, form, {key: found[key].place for key in keys}), ""
    missing = f"; the drawing gives {', '.join(sorted(found))}" if found else ""
    return None, f"lands of {group.group}: not all of their lengths could be read{missing}"


def _row_lengths(members: set[int], axis: LandAxis, drawing: _Drawing) -> dict[str, ReadDistance]:
    """Z, G, C, Y and X of two opposing rows, as far as the drawing gives them."""
    found: dict[str, ReadDistance] = {}
    keys = {"outer": "Z", "gap": "G", "centres": "C"}
    lands = drawing.lands
    middle = sum(middle_along(lands[index], axis) for index in members) / len(members)
    for read in drawing.distances:
        d = read.distance
        if d.axis == axis and d.kind in keys and d.first & members and d.second & members:
            # Between lands of the two rows, and not of one.
            low = max(middle_along(lands[i], axis) for i in d.first & members)
            high = min(middle_along(lands[i], axis) for i in d.second & members)
            if low < middle < high:
                found.setdefault(keys[d.kind], read)
    for key, way in (("Y", axis), ("X", OTHER_AXIS[axis])):
        size = _size(members, way, drawing)
        if size is not None:
            found[key] = size
    return found


def _size(members: set[int], axis: LandAxis, drawing: _Drawing) -> ReadDistance | None:
    """The size of a group's lands along an axis: written at one of them, or at others that are drawn alike."""
    sizes = [read for read in drawing.distances if read.distance.kind == "size"]
    for read in sizes:
        if read.distance.axis == axis and read.distance.first & members:
            return read
    shape = drawing.shape(min(members), axis)
    room = [ALIKE / drawing.scale(way) for way in (axis, OTHER_AXIS[axis])]
    for read in sizes:
        for index in read.distance.first - members:
            other = drawing.shape(index, read.distance.axis)
            if all(abs(a - b) <= least for a, b, least in zip(shape, other, room, strict=True)):
                return read
    return None


def land_length_disagreement(values: Mapping[str, float]) -> str:
    """Two ways to the length of a land by Z, G, C and Y (mm) that do not agree; empty where all do."""
    lengths = dict(_ways_to_length(values))
    for (a, first), (b, second) in combinations(lengths.items(), 2):
        if abs(first - second) > AGREES:
            return f"{a} gives lands {first:.3f} mm long, {b} {second:.3f} mm"
    short = next((key for key, length in lengths.items() if length <= 0), None)
    return f"{short} gives lands of no length" if short else ""


def _ways_to_length(values: Mapping[str, float]) -> Iterator[tuple[str, float]]:
    """The length of a land by each pair of lengths that tells it."""
    if "Y" in values:
        yield "Y", values["Y"]
    if {"Z", "G"} <= values.keys():
        yield "Z − G", (values["Z"] - values["G"]) / 2
    if {"Z", "C"} <= values.keys():
        yield "Z − C", values["Z"] - values["C"]
    if {"C", "G"} <= values.keys():
        yield "C − G", values["C"] - values["G"]
