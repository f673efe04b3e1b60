"""Suggested lands of the packages of package_views with the lengths written at them, drawn without any of Eider's code.

The forms in which rows are given: Z outside, G gap, C centre to centre, Y length and X width of a land.
"""

import random
from dataclasses import dataclass, field

from package_views import Dimension, PackageView, rectangle

FORMS = (("Z", "G"), ("C", "Y"), ("G", "Y"), ("Z", "Y"), ("Z", "G", "Y"), ("C", "Y", "Z"))


@dataclass
class LandRows:
    """Two opposing rows: along which axis they lie apart, and their lengths in mm."""

    axis: str
    Z: float
    G: float
    X: float
    form: tuple[str, ...]

    def length(self, letter: str) -> float:
        """One of Z, G, C, Y, X."""
        known = {"Z": self.Z, "G": self.G, "X": self.X, "C": (self.Z + self.G) / 2, "Y": (self.Z - self.G) / 2}
        return round(known[letter], 3)


@dataclass
class LandPattern:
    """A drawn pattern: its view, the rows, the middle land (width, height), the package's family, pins and lengths."""

    family: str
    pins: int
    package: dict[str, float]
    rows: list[LandRows]
    view: PackageView
    middle: tuple[float, float] | None = None
    texts: dict[str, str] = field(default_factory=dict)


def step(value: float) -> float:
    """To the nearest 0.05."""
    return round(round(value / 0.05) * 0.05, 2)


def _between(letter: str, rows: LandRows) -> tuple[float, float]:
    """From where to where a length of rows goes, along their axis."""
    z, g, c = rows.Z / 2, rows.G / 2, (rows.Z + rows.G) / 4
    return {"Z": (-z, z), "G": (-g, g), "C": (-c, c), "Y": (g, z)}[letter]


def dual(chance: random.Random, package: dict[str, float], pins: int) -> LandPattern:
    """Lands on the left and right."""
    each, e, span, foot = pins // 2, package["e"], package["E"], package["L"]
    z, g, x = step(span + chance.uniform(0.5, 0.8)), step(span - 2 * foot - chance.uniform(0.5, 0.8)), step(e * 0.55)
    rows = LandRows("x", z, g, x, chance.choice(FORMS))
    ys = [(each - 1) * e / 2 - i * e for i in range(each)]
    pads = [rectangle(s * g / 2, y - x / 2, s * z / 2, y + x / 2) for s in (-1, 1) for y in ys]
    dims, level = [], 1
    for letter in sorted(rows.form, key="YGCZ".index):
        low, high = _between(letter, rows)
        at = ys[0] + (x / 2 if letter != "C" else 0)
        side, row = (-1, 1) if letter == "Y" else (1, level)
        y = ys[-1] - x / 2 if letter == "Y" else at
        dims.append(Dimension(letter, "x", low, high, (y, y), side, row))
        level += letter != "Y"
    dims.append(Dimension("X", "y", ys[-1] - x / 2, ys[-1] + x / 2, (z / 2, z / 2), 1, 1))
    at = chance.choice((0.0, x / 2))
    dims.append(Dimension("e", "y", ys[1] + at, ys[0] + at, (-z / 2, -z / 2), -1, 1))
    if each > 3 and chance.random() < 0.4:
        dims.append(Dimension("n", "y", ys[-1], ys[0], (z / 2, z / 2), 1, 2))
    return LandPattern("gullwing-dual", pins, package, [rows], PackageView(pads, dims))


def quad(chance: random.Random, package: dict[str, float], pins: int) -> LandPattern:
    """Lands on four sides and one in the middle."""
    each, e, foot, wide, high = pins // 4, package["e"], package["L"], package["D"], package["E"]
    x = step(e * 0.55)
    # The lands of two sides stay clear of each other.
    y = min(step(foot + 0.35), step((step(min(wide, high) + 0.6) - (each - 1) * e - x) / 2 - 0.15))
    form = chance.choice(FORMS[:4])
    rows = [LandRows(axis, step(size + 0.6), round(step(size + 0.6) - 2 * y, 2), x, form)
            for axis, size in (("x", wide), ("y", high))]  # fmt: skip
    middle = (min(step(package["D2"] + 0.05), step(rows[0].G - 0.4)), min(step(package["E2"]), step(rows[1].G - 0.4)))
    places = [(each - 1) * e / 2 - i * e for i in range(each)]
    pads = [rectangle(s * rows[0].G / 2, p - x / 2, s * rows[0].Z / 2, p + x / 2) for s in (-1, 1) for p in places]
    pads += [rectangle(p - x / 2, s * rows[1].G / 2, p + x / 2, s * rows[1].Z / 2) for s in (-1, 1) for p in places]
    pads.append(rectangle(-middle[0] / 2, -middle[1] / 2, middle[0] / 2, middle[1] / 2))
    dims = []
    for row in rows:
        for order, letter in enumerate(sorted(set(form) - {"Y"}, key="GCZ".index)):
            low, stop = _between(letter, row)
            cross = places[0] + x / 2 if row.axis == "x" else places[-1] - x / 2
            side = 1 if row.axis == "x" else -1
            dims.append(Dimension(letter + row.axis, row.axis, low, stop, (cross, cross), side, order + 1))
    if "Y" in form:
        low, stop = _between("Y", rows[0])
        dims.append(Dimension("Y", "x", low, stop, (places[-1] - x / 2,) * 2, -1, 1))
    out = rows[0].Z / 2
    dims.append(Dimension("X", "y", places[0] - x / 2, places[0] + x / 2, (out, out), 1, 1))
    dims.append(Dimension("e", "y", places[2], places[1], (out, out), 1, 2))
    dims.append(Dimension("W", "x", -middle[0] / 2, middle[0] / 2, (-middle[1] / 2,) * 2, -1, 3))
    dims.append(Dimension("H", "y", -middle[1] / 2, middle[1] / 2, (middle[0] / 2,) * 2, 1, 3))
    return LandPattern("no-lead-quad", pins, package, rows, PackageView(pads, dims), middle)


def pair(chance: random.Random, package: dict[str, float], pins: int) -> LandPattern:
    """Two lands for a chip."""
    long, wide = package["D"], package["E"]
    rows = LandRows("x", step(long + 0.7), step(long * 0.5), step(wide), chance.choice(FORMS))
    pads = [rectangle(s * rows.G / 2, -rows.X / 2, s * rows.Z / 2, rows.X / 2) for s in (-1, 1)]
    dims, level = [], 1
    for letter in sorted(rows.form, key="YGCZ".index):
        low, high = _between(letter, rows)
        side, row = (-1, 1) if letter == "Y" else (1, level)
        dims.append(Dimension(letter, "x", low, high, (side * rows.X / 2,) * 2, side, row))
        level += letter != "Y"
    dims.append(Dimension("X", "y", -rows.X / 2, rows.X / 2, (rows.Z / 2,) * 2, 1, 1))
    return LandPattern("chip", pins, package, [rows], PackageView(pads, dims))


PATTERNS = {"gullwing-dual": dual, "no-lead-quad": quad, "chip": pair}
