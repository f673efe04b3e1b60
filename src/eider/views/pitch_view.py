"""The pitch decision: each row of pads at the datasheet's pitch and at another, with the error over the row."""

from collections.abc import Sequence

import msgspec
import numpy as np

from eider.checks import PartUnderCheck
from eider.checks.pad_rows import CheckedRow, checked_rows
from eider.errors import InputError
from eider.geometry.lengths import parse_length
from eider.lands.pitch_decision import PitchDecision, nearest_on_grid
from eider.model.wording import counted

# The grids (mm) on which boards are drawn: 50, 25 and 5 mil, and 0.05 mm.
GRIDS = {"50 mil grid": 1.27, "25 mil grid": 0.635, "5 mil grid": 0.127, "0.05 mm grid": 0.05}
# A row whose distances differ by more than this (mm) has no one pitch.
EVEN = 1e-4
NO_ROWS = "No row of pads at one pitch; the lands may not be computed yet."


class PitchRow(msgspec.Struct, frozen=True):
    """A row of pads, from `first` to `last`, at a pitch with a name."""

    first: str
    last: str
    grid: str
    decision: PitchDecision

    @property
    def verdict(self) -> str:
        """Whether the row can be laid so, in words."""
        return "no error" if self.decision.most_ways is None else "fits" if self.decision.fits else "does not fit"

    @property
    def reach(self) -> str:
        """How many ways a row laid so can have, in words."""
        most = self.decision.most_ways
        return "any" if most is None else f"up to {most}" if most > 1 else "none"


class PitchView(msgspec.Struct, frozen=True):
    """Rows at their own pitch and at others; without rows, why there are none."""

    summary: str
    rows: tuple[PitchRow, ...] = ()


def pitch_view(view: PartUnderCheck, chosen: str = "") -> PitchView:
    """Every row of pads at the pitch of the datasheet, at a chosen one, and at the nearest on the usual grids.

    Raises:
        InputError: the chosen pitch is not a length above zero.
    """
    other = _length(chosen)
    found: dict[tuple[int, float, float], PitchRow] = {}
    rows: list[PitchRow] = []
    for row in checked_rows(view):
        count, given = _pitch(row)
        first, last = (row.pads[0].number, row.pads[-1].number) if row.pads else ("", "")
        key = (count, round(given, 6), round(row.spare, 6))
        if given <= 0 or key in found:
            continue
        choices = {"datasheet": given} | ({"chosen": other} if other else {})
        choices |= {name: nearest_on_grid(given, grid) for name, grid in GRIDS.items()}
        made = [PitchRow(first, last, name, _decision(row, count, given, at)) for name, at in choices.items()]
        found[key] = made[0]
        rows += made
    if not rows:
        return PitchView(NO_ROWS)
    asked = [row for row in rows if row.grid == ("chosen" if other else "datasheet")]
    worst = max(asked, key=lambda row: abs(row.decision.over_row) - row.decision.margin)
    return PitchView(_summary(worst), tuple(rows))


def _decision(row: CheckedRow, count: int, given: float, at: float) -> PitchDecision:
    return PitchDecision(count, given, at, max(0.0, row.spare))


def _pitch(row: CheckedRow) -> tuple[int, float]:
    """How many pads are behind each other, and at what pitch (mm); 0 where there is no one pitch."""
    places: Sequence[float] = np.unique(np.round(row.at, 6)).tolist()
    steps = np.diff(places)
    if len(places) < 3 or np.ptp(steps) > EVEN:
        return len(places), 0.0
    return len(places), float(np.median(steps))


def _length(text: str) -> float | None:
    if not text.strip():
        return None
    value = parse_length(text)
    if value <= 0:
        raise InputError(f"{text}: a pitch is more than 0 mm")
    return value


def _summary(row: PitchRow) -> str:
    found = row.decision
    return (
        f"Pads {row.first} to {row.last}: off by {abs(found.over_row):.3f} mm over {counted(found.count, 'way')}, "
        f"at most {found.margin:.3f} mm"
    )
