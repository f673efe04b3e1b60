"""Views of invented packages with the lengths that are written at them, drawn without any of Eider's code.

A view is outlines in mm (y up) and dimensions: letter, axis, from where to where, and on which side the line stands.
"""

import random
from dataclasses import dataclass, field

Point = tuple[float, float]


@dataclass
class Dimension:
    """A length of a view: `axis` is x or y, `cross` where its extension lines begin, `side` +1 above or right, else -1.

    `row` counts outwards from 1.
    """

    letter: str
    axis: str
    start: float
    stop: float
    cross: tuple[float, float]
    side: int
    row: int = 1


@dataclass
class PackageView:
    """Outlines, the box around them, and the lengths."""

    outlines: list[list[Point]]
    dimensions: list[Dimension]
    circles: list[tuple[float, float, float]] = field(default_factory=list)
    centre_lines: bool = False

    def box(self) -> tuple[float, float, float, float]:
        """The box around the outlines."""
        xs, ys = zip(*(p for outline in self.outlines for p in outline), strict=True)
        return min(xs), min(ys), max(xs), max(ys)


# Views, lengths by the standard's letters, and how many terminals there are besides a pad in the middle.
Drawn = tuple[list[PackageView], dict[str, float], int]


def rectangle(x0: float, y0: float, x1: float, y1: float) -> list[Point]:
    """A closed rectangle."""
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)]


def dual_gull_wing(chance: random.Random) -> Drawn:
    """Leads on the left and right, seen from above and from the end."""
    rows = chance.choice((3, 4, 5, 7, 8))
    e = chance.choice((0.65, 0.8, 1.27))
    values = {"e": e, "b": round(e * chance.uniform(0.3, 0.45), 2), "L": round(chance.uniform(0.45, 0.8), 2)}
    values["D"] = round((rows - 1) * e + chance.uniform(0.9, 1.6), 2)
    values["E1"] = round(chance.uniform(3.0, 6.0), 2)
    values["E"] = round(values["E1"] + chance.uniform(1.6, 2.4), 2)
    values["A"], values["A1"] = round(chance.uniform(1.0, 2.0), 2), round(chance.uniform(0.1, 0.25), 2)
    d, w, s, b = values["D"] / 2, values["E1"] / 2, values["E"] / 2, values["b"] / 2
    ys = [(rows - 1) * e / 2 - i * e for i in range(rows)]
    top = [rectangle(-w, -d, w, d)]
    for y in ys:
        top += [rectangle(-s, y - b, -w, y + b), rectangle(w, y - b, s, y + b)]
    dims = [
        Dimension("E", "x", -s, s, (ys[0], ys[0]), 1, 2),
        Dimension("E1", "x", -w, w, (d, d), 1, 1),
        Dimension("D", "y", -d, d, (w, w), 1, 2),
        Dimension("e", "y", ys[1], ys[0], (-s, -s), -1, 1),
        Dimension("b", "y", ys[-1] - b, ys[-1] + b, (s, s), 1, 1),
    ]
    a, a1, t, foot = values["A"], values["A1"], 0.15, values["L"]
    end = [rectangle(-w, a1, w, a)]
    for sign in (-1, 1):
        end.append([(sign * x, y) for x, y in (
            (w, a / 2 + t), (s - foot + t, a / 2 + t), (s - foot + t, t), (s, t), (s, 0.0), (s - foot, 0.0),
            (s - foot, a / 2), (w, a / 2), (w, a / 2 + t))])  # fmt: skip
    side = [
        Dimension("A", "y", 0.0, a, (s, w), 1, 2),
        Dimension("A1", "y", 0.0, a1, (-s, -w), -1, 1),
        Dimension("L", "x", s - foot, s, (0.0, 0.0), -1, 1),
    ]
    circles = [(-w + 0.4, d - 0.4, 0.15)]
    return [PackageView(top, dims, circles, True), PackageView(end, side)], values, 2 * rows


def quad_no_lead(chance: random.Random) -> Drawn:
    """Terminals on four sides and a pad in the middle, seen from below and from the side."""
    each, e = chance.choice((4, 5, 6)), chance.choice((0.5, 0.65))
    values = {"e": e, "b": round(e * 0.5, 2), "L": round(chance.uniform(0.35, 0.5), 2)}
    values["D"] = round((each - 1) * e + chance.uniform(1.3, 1.8), 2)
    values["E"] = round(values["D"] + chance.choice((0.0, 1.0)), 2)
    values["D2"], values["E2"] = round(values["D"] * 0.6, 2), round(values["E"] * 0.58, 2)
    values["A"], values["A1"] = round(chance.uniform(0.7, 0.95), 2), 0.05
    x, y, b, length = values["D"] / 2, values["E"] / 2, values["b"] / 2, values["L"]
    places = [(each - 1) * e / 2 - i * e for i in range(each)]
    below = [rectangle(-x, -y, x, y)]
    below.append(rectangle(-values["D2"] / 2, -values["E2"] / 2, values["D2"] / 2, values["E2"] / 2))
    for at in places:
        below += [rectangle(-x, at - b, -x + length, at + b), rectangle(x - length, at - b, x, at + b)]
        below += [rectangle(at - b, -y, at + b, -y + length), rectangle(at - b, y - length, at + b, y)]
    dims = [
        Dimension("D", "x", -x, x, (y, y), 1, 2),
        Dimension("E", "y", -y, y, (x, x), 1, 2),
        Dimension("D2", "x", -values["D2"] / 2, values["D2"] / 2, (-values["E2"] / 2, -values["E2"] / 2), -1, 2),
        Dimension("E2", "y", -values["E2"] / 2, values["E2"] / 2, (-values["D2"] / 2, -values["D2"] / 2), -1, 2),
        Dimension("e", "y", places[1], places[0], (-x, -x), -1, 1),
        Dimension("b", "x", places[-1] - b, places[-1] + b, (-y, -y), -1, 1),
        Dimension("L", "x", x - length, x, (places[0] + b, places[0] + b), 1, 1),
    ]
    a, a1 = values["A"], values["A1"]
    side = [rectangle(-x, a1, x, a), [(-x, 0.0), (-x + length, 0.0), (-x + length, a1), (-x, a1), (-x, 0.0)]]
    side.append([(x, 0.0), (x - length, 0.0), (x - length, a1), (x, a1), (x, 0.0)])
    heights = [Dimension("A", "y", 0.0, a, (x, x), 1, 2), Dimension("A1", "y", 0.0, a1, (-x, -x), -1, 1)]
    return [PackageView(below, dims), PackageView(side, heights)], values, 4 * each


def chip(chance: random.Random) -> Drawn:
    """Two end terminals, seen from above and from the side."""
    values = {"D": round(chance.uniform(1.6, 4.5), 2)}
    values["E"] = round(values["D"] * chance.uniform(0.45, 0.7), 2)
    values["L"], values["A"] = round(values["D"] * 0.2, 2), round(values["E"] * 0.7, 2)
    x, y, foot = values["D"] / 2, values["E"] / 2, values["L"]
    top = [rectangle(-x, -y, x, y), rectangle(-x, -y, -x + foot, y), rectangle(x - foot, -y, x, y)]
    dims = [
        Dimension("D", "x", -x, x, (y, y), 1, 1),
        Dimension("E", "y", -y, y, (x, x), 1, 1),
        Dimension("L", "x", -x, -x + foot, (-y, -y), -1, 1),
    ]
    side = [rectangle(-x, 0.0, x, values["A"]), rectangle(-x, 0.0, -x + foot, values["A"])]
    height = Dimension("A", "y", 0.0, values["A"], (x, x), 1, 1)
    return [PackageView(top, dims), PackageView(side, [height])], values, 2


def quad_gull_wing(chance: random.Random) -> Drawn:
    """Leads on four sides, seen from above and from the side."""
    each, e = chance.choice((8, 11, 12)), chance.choice((0.5, 0.65, 0.8))
    values = {"e": e, "b": round(e * chance.uniform(0.35, 0.45), 2), "L": round(chance.uniform(0.45, 0.75), 2)}
    body = round((each - 1) * e + chance.uniform(1.2, 1.6), 1)
    values |= {"D1": body, "E1": body, "D": round(body + 2.0, 2), "E": round(body + 2.0, 2)}
    values["A"], values["A1"] = round(chance.uniform(1.2, 1.6), 2), 0.1
    w, s, b, a, a1 = body / 2, values["D"] / 2, values["b"] / 2, values["A"], values["A1"]
    places = [(each - 1) * e / 2 - i * e for i in range(each)]
    top = [rectangle(-w, -w, w, w)]
    for at in places:
        top += [rectangle(-s, at - b, -w, at + b), rectangle(w, at - b, s, at + b)]
        top += [rectangle(at - b, -s, at + b, -w), rectangle(at - b, w, at + b, s)]
    dims = [
        Dimension("D", "x", -s, s, (places[0] + b, places[0] + b), 1, 3),
        Dimension("D1", "x", -w, w, (w, w), 1, 2),
        Dimension("E", "y", -s, s, (places[0] + b, places[0] + b), 1, 3),
        Dimension("E1", "y", -w, w, (w, w), 1, 2),
        Dimension("e", "y", places[1], places[0], (-s, -s), -1, 1),
        Dimension("b", "x", places[-1] - b, places[-1] + b, (-s, -s), -1, 1),
    ]
    side = [rectangle(-w, a1, w, a)]
    for sign in (-1, 1):
        side.append([(sign * x, y) for x, y in (
            (w, a / 2), (s - values["L"], 0.15), (s, 0.15), (s, 0.0), (s - values["L"], 0.0), (w, a / 2 - 0.15),
            (w, a / 2))])  # fmt: skip
    heights = [
        Dimension("A", "y", 0.0, a, (s, w), 1, 2),
        Dimension("A1", "y", 0.0, a1, (-s, -w), -1, 1),
        Dimension("L", "x", s - values["L"], s, (0.0, 0.0), -1, 1),
    ]
    return [PackageView(top, dims), PackageView(side, heights)], values, 4 * each


# The order counts: which family a seed takes follows from it. The last is drawn in whole datasheets alone.
FAMILIES = {"gullwing-dual": dual_gull_wing, "no-lead-quad": quad_no_lead, "chip": chip}
