"""What package a land pattern from elsewhere is for, read from its pads alone: rows, pitch, Z, G, X, and families."""

import itertools
import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

from eider.geometry.rounding import tidy
from eider.model.pattern import Pad
from eider.model.wording import counted

PatternForm = Literal["two ends", "one row", "two rows", "four sides", "grid", "irregular"]
Axis = Literal["x", "y"]
_AXES: tuple[Axis, ...] = ("x", "y")
# Pads are in one row where their middles differ by less (mm), and are of one size likewise.
IN_ROW = 0.05
# A pad so many times as large as the usual one, in the middle, is a thermal land.
THERMAL = 2.5
# The packages that a form of lands is made for (families by their keys), on the surface and through the board.
_FAMILIES: dict[tuple[PatternForm, bool], tuple[str, ...]] = {
    ("two ends", False): ("chip", "moulded", "cylinder", "flat-lead", "can", "gullwing-diode"),
    ("two ends", True): ("axial", "radial"),
    ("one row", True): ("single-in-line", "header", "tab-through-hole"),
    ("one row", False): ("surface-header",),
    ("two rows", False): ("gullwing-dual", "no-lead-dual", "j-lead-dual", "chip-array", "castellated", "butt-lead"),
    ("two rows", True): ("dual-in-line", "header"),
    ("four sides", False): ("gullwing-quad", "no-lead-quad", "j-lead-quad", "castellated"),
    ("grid", False): ("ball-grid", "land-grid"),
    ("grid", True): ("header",),
}


class LandRows(NamedTuple):
    """Two opposing rows, or one: the axis across them, their numbers, pitch along the row, and Z, G, X (mm).

    Of one row Z, G and pitch of a single pad are 0.
    """

    axis: Axis
    numbers: tuple[str, ...]
    pitch: float
    outer: float
    inner: float
    width: float


class PatternReading(NamedTuple):
    """What a pattern is: its form, rows, thermal pad, and the families that are laid so, likeliest first."""

    form: PatternForm
    through_hole: bool
    rows: tuple[LandRows, ...]
    thermal: str
    pins: int
    families: tuple[str, ...]

    @property
    def words(self) -> str:
        """It in words, with its lengths."""
        told = [f"{counted(self.pins, 'pin')} in {_FORM_WORDS[self.form]}"]
        told += [_row_words(row) for row in self.rows]
        if self.thermal:
            told.append(f"thermal land {self.thermal}")
        if self.families:
            told.append(f"laid as for {', '.join(self.families)}")
        return "; ".join(told)


_FORM_WORDS: dict[PatternForm, str] = {
    "two ends": "two ends",
    "one row": "one row",
    "two rows": "two rows",
    "four sides": "four sides",
    "grid": "a grid",
    "irregular": "no rows of one pitch",
}


def _row_words(row: LandRows) -> str:
    pitch = f"pitch {_mm(row.pitch)}, " if row.pitch else ""
    across = f"Z {_mm(row.outer)}, G {_mm(row.inner)}, " if row.outer else ""
    return f"{pitch}{across}X {_mm(row.width)} mm along {'y' if row.axis == 'x' else 'x'}"


def _mm(value: float) -> str:
    """To a micrometre: what is less comes from another unit."""
    return f"{round(value, 3):g}"


def read_pattern(pads: Sequence[Pad]) -> PatternReading:
    """What a pattern is; pads without a number and holes without copper say nothing of the package."""
    named = [pad for pad in pads if pad.number and pad.plated]
    thermal = _thermal(named)
    leads = [pad for pad in named if pad.number != thermal]
    pins = len({pad.number for pad in named})
    drilled = bool(leads) and all(pad.hole is not None for pad in leads)
    form, rows = _form_of(leads)
    families = _FAMILIES.get((form, drilled), ())
    if form == "two rows" and not drilled and _are_unequal(leads):
        families = ("transistor", "tab", *families)
    if thermal:
        # Of packages with a thermal land, those without leads are the usual ones.
        families = tuple(sorted(families, key=lambda key: not key.startswith("no-lead")))
        families = tuple(key for key in families if not key.startswith(("j-lead", "chip", "moulded", "cylinder")))
    return PatternReading(form, drilled, rows, thermal, pins, families)


def _thermal(pads: Sequence[Pad]) -> str:
    """The number of a pad that is much larger than the others and lies among them; empty where none does."""
    if len(pads) < 3:
        return ""
    sizes = sorted(pad.width * pad.height for pad in pads)
    usual = sizes[len(sizes) // 2]
    largest = max(pads, key=lambda pad: pad.width * pad.height)
    others = [pad for pad in pads if pad.number != largest.number]
    if not others or largest.width * largest.height < THERMAL * usual:
        return ""
    x, y = (sum(getattr(pad, axis) for pad in others) / len(others) for axis in "xy")
    reach = max(largest.width, largest.height) / 4
    return largest.number if math.dist((largest.x, largest.y), (x, y)) < reach else ""


def _form_of(leads: Sequence[Pad]) -> tuple[PatternForm, tuple[LandRows, ...]]:
    if len(leads) < 2:
        return "irregular", ()
    columns, lines = _clusters([pad.x for pad in leads]), _clusters([pad.y for pad in leads])
    if len(leads) == 2:
        axis: Axis = "x" if len(columns) == 2 and (len(lines) == 1 or _far(leads, "x") >= _far(leads, "y")) else "y"
        return "two ends", (_opposed(leads, axis),)
    if len(columns) == 1 or len(lines) == 1:
        return "one row", (_opposed(leads, "x" if len(columns) == 1 else "y"),)
    ways: tuple[tuple[Axis, list[float]], ...] = (("x", columns), ("y", lines))
    for axis, groups in ways:
        if len(groups) == 2 and _is_regular(leads, axis):
            return "two rows", (_opposed(leads, axis),)
    if (sides := _four_sides(leads)) is not None:
        return "four sides", sides
    if len(columns) > 2 and len(lines) > 2 and _is_grid(leads, len(columns) * len(lines)):
        return "grid", (_opposed(leads, "x"), _opposed(leads, "y"))
    return "irregular", ()


def _far(pads: Sequence[Pad], axis: Axis) -> float:
    values = [getattr(pad, axis) for pad in pads]
    return float(max(values) - min(values))


def _are_unequal(leads: Sequence[Pad]) -> bool:
    """Whether one of two rows has fewer pads than the other."""
    rows = [_rows_across(leads, axis) for axis in _AXES if len(_clusters([getattr(p, axis) for p in leads])) == 2]
    return any(len(first) != len(second) for first, second in rows)


def _clusters(values: Sequence[float]) -> list[float]:
    """The places at which values stand together."""
    found: list[float] = []
    for value in sorted(values):
        if not found or value - found[-1] > IN_ROW:
            found.append(value)
    return found


def _steps(pads: Sequence[Pad], along: Axis) -> list[float]:
    """From each pad of a row to the next."""
    places = sorted(getattr(pad, along) for pad in pads)
    return [tidy(b - a) for a, b in itertools.pairwise(places)]


def _rows_across(pads: Sequence[Pad], axis: Axis) -> tuple[list[Pad], list[Pad]]:
    middle = (max(getattr(p, axis) for p in pads) + min(getattr(p, axis) for p in pads)) / 2
    return [p for p in pads if getattr(p, axis) < middle], [p for p in pads if getattr(p, axis) >= middle]


def _pitch(pads: Sequence[Pad], along: Axis) -> float:
    """The smallest step along the rows; 0 where no row has two pads."""
    steps = [step for row in _rows_across(pads, "x" if along == "y" else "y") for step in _steps(row, along)]
    return min((step for step in steps if step > IN_ROW), default=0.0)


def _is_regular(pads: Sequence[Pad], axis: Axis) -> bool:
    """Whether all steps along two rows are whole multiples of the pitch."""
    along: Axis = "y" if axis == "x" else "x"
    pitch = _pitch(pads, along)
    steps = [step for row in _rows_across(pads, axis) for step in _steps(row, along)]
    return pitch > 0 and all(abs(step / pitch - round(step / pitch)) * pitch < IN_ROW for step in steps)


def _opposed(pads: Sequence[Pad], axis: Axis) -> LandRows:
    low, high = (0, 2) if axis == "x" else (1, 3)
    along: Axis = "y" if axis == "x" else "x"
    first, second = _rows_across(pads, axis)
    widths = sorted((p.box[3] - p.box[1]) if axis == "x" else (p.box[2] - p.box[0]) for p in pads)
    numbers = tuple(pad.number for pad in pads)
    pitch, width = _pitch(pads, along), tidy(widths[len(widths) // 2])
    if not first or _far(pads, axis) < IN_ROW:
        return LandRows(axis, numbers, pitch, 0.0, 0.0, width)
    outer = max(p.box[high] for p in second) - min(p.box[low] for p in first)
    inner = min(p.box[low] for p in second) - max(p.box[high] for p in first)
    return LandRows(axis, numbers, pitch, tidy(outer), tidy(inner), width)


def _four_sides(leads: Sequence[Pad]) -> tuple[LandRows, ...] | None:
    """Rows at the left and right, and at the top and bottom; None where pads stand elsewhere too."""
    x0, x1 = min(p.x for p in leads), max(p.x for p in leads)
    y0, y1 = min(p.y for p in leads), max(p.y for p in leads)
    upright = [p for p in leads if min(p.x - x0, x1 - p.x) < IN_ROW]
    lying = [p for p in leads if min(p.y - y0, y1 - p.y) < IN_ROW]
    if len(upright) + len(lying) != len(leads) or len(leads) < 8 or min(len(upright), len(lying)) < 4:
        return None
    if not _is_regular(upright, "x") or not _is_regular(lying, "y"):
        return None
    return _opposed(upright, "x"), _opposed(lying, "y")


def _is_grid(leads: Sequence[Pad], places: int) -> bool:
    """Whether all pads are alike and fill most places of a grid."""
    first = leads[0]
    alike = all(abs(p.width - first.width) < IN_ROW and abs(p.height - first.height) < IN_ROW for p in leads)
    return alike and len(leads) >= places / 4
