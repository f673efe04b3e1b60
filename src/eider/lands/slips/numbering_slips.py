"""Numbers of a pattern that stand at other places than the package has them, and what makes them do so."""

from collections.abc import Callable, Mapping, Sequence
from itertools import groupby

import numpy as np

from eider.lands.pattern_orientation import PatternLie, pattern_lie, shared_lie
from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip, centres, listed
from eider.model.pattern import Pad

# A pad is at the place of a wanted land that is nearer than this share of the distance to the next one.
AT_PLACE = 0.45
# Lands whose middles differ by less (mm) are in one row.
IN_ROW = 0.05


def numbering_slip(compared: ComparedPattern) -> PatternSlip | None:
    """What makes the numbers stand where they do; None where each stands at its own place."""
    found = _numbers_at_places(compared)
    if found is not None and all(own == wanted for wanted, own in found.items()):
        return None
    lie = pattern_lie(compared.pads, compared.terminals) or shared_lie(compared.pads, compared.wanted)
    ways: tuple[Callable[[], PatternSlip | None], ...] = (
        lambda: _begun_elsewhere(found) if found else None,
        lambda: _off_by_one(compared, found),
        lambda: _by_another_scheme(compared, found) if found else None,
        lambda: _of_lie(compared, lie) if lie is not None else None,
        lambda: _exchanged(found) if found else None,
    )
    return next((slip for way in ways if (slip := way()) is not None), None)


def _numbers_at_places(compared: ComparedPattern) -> dict[str, str] | None:
    """For the number of each wanted land the number of the pad at its place; None where pads stand elsewhere."""
    have, want = compared.pads, compared.wanted
    if len(have) != len(want) or len({pad.number for pad in want}) != len(want):
        return None
    places, wanted = centres(have), centres(want)
    # Where numbers are exchanged they do not tell how far the pattern is moved: its middle does.
    places = places - (places.min(axis=0) + places.max(axis=0)) / 2
    wanted = wanted - (wanted.min(axis=0) + wanted.max(axis=0)) / 2
    far = np.hypot(*(places[:, None, :] - wanted[None, :, :]).transpose(2, 0, 1))
    nearest = far.argmin(axis=0)
    if len(set(nearest.tolist())) != len(want) or far.min(axis=0).max() > AT_PLACE * compared.nearest_gap:
        return None
    return {land.number: have[index].number for land, index in zip(want, nearest.tolist(), strict=True)}


def _begun_elsewhere(found: Mapping[str, str]) -> PatternSlip | None:
    """Numbers that run as they should and begin at another pin."""
    pins = {int(want): int(own) for want, own in found.items() if want.isdecimal() and own.isdecimal()}
    count = len(pins)
    if count < 3 or set(pins) != set(range(1, count + 1)) or set(pins.values()) != set(pins):
        return None
    steps = {(own - want) % count for want, own in pins.items()}
    if len(steps) != 1 or steps == {0}:
        return None
    at = next(want for want, own in pins.items() if own == 1)
    if 2 * next(iter(steps)) == count:
        return PatternSlip(
            "turned",
            "The pattern is rotated by 180°: pin 1 is on the other side.",
            "Turn it by 180°.",
            explains_all=True,
        )
    message = f"Numbering begins at pin {at}: pad 1 lies where pin {at} of the package is."
    action = f"Begin numbering at the pad that is {found['1']} now."
    return PatternSlip("begun elsewhere", message, action, explains_all=True)


def _off_by_one(compared: ComparedPattern, found: Mapping[str, str] | None) -> PatternSlip | None:
    """Numbers that are all one too high or too low, as those counted from 0."""
    own = sorted(int(pad.number) for pad in compared.pads if pad.number.isdecimal())
    want = sorted(int(land.number) for land in compared.wanted if land.number.isdecimal())
    if not own or len(own) != len(want):
        return None
    steps = {a - b for a, b in zip(own, want, strict=True)}
    if steps not in ({1}, {-1}):
        return None
    if found is not None and any(int(o) - int(w) not in steps for w, o in found.items() if (o + w).isdecimal()):
        return None
    message = f"All numbers are off by one: they run from {own[0]} to {own[-1]} in place of {want[0]} to {want[-1]}."
    return PatternSlip("off by one", message, "Number the pads as the package does.", explains_all=True)


def _by_another_scheme(compared: ComparedPattern, found: Mapping[str, str]) -> PatternSlip | None:
    """Two rows numbered along each row, by turns, or round: in another way than the package is."""
    rows = _two_rows(compared.wanted)
    if rows is None:
        return None
    first, second = rows
    count = len(first)
    schemes = {
        "along each row": [*range(1, count + 1), *range(count + 1, 2 * count + 1)],
        "by turns from row to row": [*range(1, 2 * count, 2), *range(2, 2 * count + 1, 2)],
        "round the package": [*range(1, count + 1), *range(2 * count, count, -1)],
    }
    places = [*first, *second]
    ways = {name: dict(zip(places, map(str, numbers), strict=True)) for name, numbers in schemes.items()}
    wanted = next((name for name, way in ways.items() if all(way[place] == place for place in places)), None)
    own = next((name for name, way in ways.items() if all(way[place] == found[place] for place in places)), None)
    if wanted is None or own is None or own == wanted:
        return None
    message = f"The pads are numbered {own}, the pins of the package {wanted}."
    return PatternSlip("numbering scheme", message, f"Number the pads {wanted}.", explains_all=True)


def _two_rows(lands: Sequence[Pad]) -> tuple[list[str], list[str]] | None:
    """The numbers of two rows of as many lands, each in order along it from land 1; None for any other layout."""
    places = {land.number: (land.x, land.y) for land in lands}
    for along in (0, 1):
        ordered = sorted(places, key=lambda number: places[number][1 - along])
        rows = [list(row) for _key, row in groupby(ordered, key=lambda n: round(places[n][1 - along] / IN_ROW))]
        if len(rows) == 2 and len(rows[0]) == len(rows[1]) and len(rows[0]) > 1 and "1" in places:
            begun = next(row for row in rows if "1" in row)
            other = next(row for row in rows if row is not begun)
            begun.sort(key=lambda number: places[number][along])
            is_reversed = begun[-1] == "1"
            other.sort(key=lambda number: places[number][along], reverse=is_reversed)
            return (begun[::-1] if is_reversed else begun), other
    return None


def _of_lie(compared: ComparedPattern, lie: PatternLie) -> PatternSlip:
    """A pattern that is turned, mirrored, or numbered clockwise."""
    if not lie.mirrored:
        turn = (360 - lie.turn) % 360
        message = f"The pattern is rotated by {turn}°: pin 1 is on the other side."
        return PatternSlip("turned", message, f"Turn it by {lie.turn}°.", explains_all=True)
    if len(compared.pads) == 2:
        message = "Pads 1 and 2 are exchanged: pin 1 is on the other side."
        return PatternSlip("pads exchanged", message, "Exchange their numbers.", explains_all=True)
    if _is_first_in_place(compared):
        message = "The pattern is numbered clockwise from pad 1; packages are numbered counter-clockwise."
        return PatternSlip("clockwise", message, "Number the pads counter-clockwise from pad 1.", explains_all=True)
    turned = f" and rotated by {lie.turn}°" if lie.turn else ""
    message = f"The pattern is mirrored{turned}, as seen from below: its numbers run clockwise."
    return PatternSlip(
        "mirrored", message, "Mirror it left to right." if not lie.turn else "Mirror and turn it.", explains_all=True
    )


def _is_first_in_place(compared: ComparedPattern) -> bool:
    first = compared.pairs.get(compared.recipe.first_pin)
    if first is None:
        return False
    (x, y), (u, v) = centres([first[0]])[0], centres([first[1]])[0]
    middle = centres(compared.pads).mean(axis=0) - centres(compared.wanted).mean(axis=0)
    return bool(np.hypot(x - u - middle[0], y - v - middle[1]) < AT_PLACE * compared.nearest_gap)


def _exchanged(found: Mapping[str, str]) -> PatternSlip | None:
    """A few pads that have each other's numbers."""
    wrong = {want: own for want, own in found.items() if own != want}
    if set(wrong) != set(wrong.values()):
        return None
    told = f"Pads {listed(_in_order(wrong))} have each other's numbers."
    return PatternSlip("pads exchanged", told, "Give each pad the number of the pin that stands on it.", tuple(wrong))


def _in_order(numbers: Mapping[str, str]) -> list[str]:
    return sorted(numbers, key=lambda number: (len(number), number))
