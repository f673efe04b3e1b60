"""Rows of a pattern that lie otherwise than the terminals: moved along themselves, on another pitch, at other spans."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np

from eider.geometry.rounding import median
from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip, listed, offset
from eider.packages.family import FloatArray, OpposedRows

# Lengths (mm) below which a row, a pad or a pitch is where it should be: makers round to a hundredth.
MOVED, OFF_PITCH, SPAN_ALIKE = 0.02, 0.02, 0.03
# Of packages whose ends differ another level moves the middle of the lands by no more (mm).
WHOLE_MOVED = 0.03
# A pad that lies beside its terminal by more than this share of the pitch is under the next one; an inner row that is
# so far from half a pitch beside its own, at most, has lost its stagger.
UNDER_NEXT, STAGGER = 0.6, 0.15
# Counter-clockwise is down at the left, to the right at the bottom, up at the right, to the left at the top.
_SENSE = {"left": -1, "bottom": 1, "right": 1, "top": -1}
BACK = "Move each row back along itself."


class _Row(NamedTuple):
    """One row of terminals: its side, numbers, places along the row, by how much its pads lie beside them along it
    (mm), the pitch, and how far inwards the row is."""

    side: str
    numbers: tuple[str, ...]
    at: FloatArray
    along: FloatArray
    pitch: float
    ring: int


def row_slips(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """What is wrong with the places of rows; the pattern as a whole is first laid on the package as well as it goes."""
    rows = list(_rows(compared))
    yield from _whole(compared)
    pitched = [slip for row in rows if (slip := _pitch(row)) is not None]
    yield from pitched
    if pitched:
        return
    moved = [(row, median(row.along.tolist())) for row in rows if len(row.numbers) > 1]
    stagger = [row for row, by in moved if row.ring and abs(abs(by) - row.pitch / 2) < STAGGER * row.pitch]
    if stagger:
        numbers = [number for row in stagger for number in row.numbers]
        message = f"The stagger is lost: pads {listed(numbers)} lie half a pitch beside their terminals."
        yield PatternSlip("stagger lost", message, "Move the inner rows by half a pitch.", tuple(numbers))
    else:
        yield from _moved_rows(moved)
    for row in rows:
        yield from _beside(row)


def _rows(compared: ComparedPattern) -> Iterator[_Row]:
    for group in compared.recipe.rows:
        along = 1 if group.axis == "x" else 0
        for side, numbers, at in _sides(group):
            known = [k for k, number in enumerate(numbers) if number in compared.pairs]
            if known:
                pairs = [compared.pairs[numbers[k]] for k in known]
                offsets = np.array([offset(have, want) for have, want in pairs]) - np.array(compared.shift)
                own = tuple(numbers[k] for k in known)
                yield _Row(side, own, at[known], offsets[:, along], group.pitch, group.ring)


def _sides(group: OpposedRows) -> Iterator[tuple[str, Sequence[str], FloatArray]]:
    first, second = ("left", "right") if group.axis == "x" else ("top", "bottom")
    yield first, group.first, group.at_first
    yield second, group.second, group.at_second


def _whole(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """The pattern as a whole beside the package."""
    dx, dy = compared.shift
    if max(abs(dx), abs(dy)) > WHOLE_MOVED:
        message = f"The whole pattern lies {dx:+.3f} mm in x and {dy:+.3f} mm in y beside the package."
        yield PatternSlip("moved as a whole", message, "Move its origin to the centre of the package.")


def _pitch(row: _Row) -> PatternSlip | None:
    """A row whose pads come to lie farther and farther beside their terminals."""
    if len(row.numbers) < 3 or row.pitch <= 0 or np.ptp(row.at) == 0:
        return None
    slope, start = np.polyfit(row.at, row.along, 1)
    over = float(slope * np.ptp(row.at))
    rest = float(np.abs(row.along - (slope * row.at + start)).max())
    if abs(over) <= OFF_PITCH or rest > 0.1 * abs(over) + 0.005:
        return None
    told = f"Pitch {row.pitch * (1 + slope):.4g} mm in place of {row.pitch:.4g} mm in the row from {row.numbers[0]} to"
    message = f"{told} {row.numbers[-1]}: over the row the lands come to lie {abs(over):.2f} mm off."
    return PatternSlip("pitch", message, f"Lay the row at {row.pitch:.4g} mm.", row.numbers)


def _moved_rows(moved: Sequence[tuple[_Row, float]]) -> Iterator[PatternSlip]:
    """Rows that are moved along themselves: all in the same sense round the package, or some."""
    off = [(row, by) for row, by in moved if abs(by) > MOVED]
    if not off:
        return
    round_about = [_SENSE[row.side] * by for row, by in off]
    if len(off) == len(moved) >= 4 and max(round_about) - min(round_about) < MOVED:
        way = "counter-clockwise" if round_about[0] > 0 else "clockwise"
        message = f"All four sides are moved {way} round the package by {abs(round_about[0]):.3f} mm."
        yield PatternSlip("moved round", message, BACK)
        return
    told = ", ".join(f"{row.side} {by:+.3f} mm" for row, by in off)
    words = "A row is moved along itself" if len(off) == 1 else "Rows are moved along themselves"
    yield PatternSlip("row moved", f"{words}: {told}.", BACK, tuple(n for row, _by in off for n in row.numbers))


def _beside(row: _Row) -> Iterator[PatternSlip]:
    """Single pads that lie beside their own terminal, or under the next one."""
    rest = row.along - median(row.along.tolist())
    for number, by in zip(row.numbers, rest.tolist(), strict=True):
        back = f"Move pad {number} by {-by:+.3f} mm along its row."
        if row.pitch and abs(by) > UNDER_NEXT * row.pitch:
            message = f"Pad {number} lies {abs(by):.3f} mm beside its terminal, under the next one of the row."
            yield PatternSlip("under the next lead", message, back, (number,))
        elif abs(by) > 2 * MOVED:
            message = f"Pad {number} lies {abs(by):.3f} mm beside its terminal along the row."
            yield PatternSlip("pad moved", message, back, (number,))


def span_slips(compared: ComparedPattern) -> Iterator[PatternSlip]:
    """Spans that were taken from other ends of the lands than they were given for."""
    for group in compared.recipe.rows:
        spans = _spans(compared, group)
        if spans is None:
            continue
        (z, c), (wanted_z, wanted_c) = spans
        if wanted_z - wanted_c <= 2 * SPAN_ALIKE:
            continue
        action = f"Lay the rows {wanted_c:.3f} mm apart, centre to centre."
        if abs(c - wanted_z) <= SPAN_ALIKE:
            message = f"{group.group}: the span over the lands, {wanted_z:.3f} mm, was used from centre to centre."
            yield PatternSlip("span between centres", message, action)
        elif abs(z - wanted_c) <= SPAN_ALIKE:
            message = (
                f"{group.group}: the distance between centres, {wanted_c:.3f} mm, was used as the span over the lands."
            )
            yield PatternSlip("span over lands", message, action)


_Span = tuple[float, float]


def _spans(compared: ComparedPattern, group: OpposedRows) -> tuple[_Span, _Span] | None:
    """Over both rows, and from centre to centre, of the pads and of the wanted lands (mm); None without both rows."""
    low, high = (0, 2) if group.axis == "x" else (1, 3)
    rows = [[compared.pairs[n] for n in numbers if n in compared.pairs] for numbers in (group.first, group.second)]
    if not all(rows):
        return None
    found: list[_Span] = []
    for which in (0, 1):
        near, far = ([pair[which].box for pair in row] for row in rows)
        over = max(box[high] for box in (*near, *far)) - min(box[low] for box in (*near, *far))
        middles = [median([(box[low] + box[high]) / 2 for box in row]) for row in (near, far)]
        found.append((over, abs(middles[0] - middles[1])))
    return found[0], found[1]
