"""Whole land patterns worked out a second time, from the text of the rules alone: nothing of Eider is used here.

A pattern is a sorted list of (number, x, y, width, height) in mm. Goals and holes are typed from the standards
(IPC-7351B, IPC-7352, IPC-2222) as the domain notes give them, not read from the rulebook.
"""

import math
import re

Pads = list[tuple[str, float, float, float, float]]
# Toe, heel and side for A, B, C, and the step to which lands are rounded.
GOALS = {
    "gull-wing": ((0.55, 0.35, 0.15), (0.45, 0.35, 0.25), (0.05, 0.03, 0.01), 0.05),
    "fine gull-wing": ((0.55, 0.35, 0.15), (0.45, 0.35, 0.25), (0.01, -0.02, -0.04), 0.05),
    "J-lead": ((0.55, 0.35, 0.15), (0.10, 0.00, -0.10), (0.05, 0.03, 0.01), 0.05),
    "chip": ((0.55, 0.35, 0.15), (0.00, 0.00, 0.00), (0.05, 0.00, -0.05), 0.05),
    "MELF": ((0.60, 0.40, 0.20), (0.20, 0.10, 0.02), (0.10, 0.05, 0.01), 0.05),
    "castellated": ((0.65, 0.55, 0.45), (0.25, 0.15, 0.05), (0.05, -0.05, -0.15), 0.05),
    "array": ((0.55, 0.45, 0.35), (-0.05, -0.07, -0.10), (-0.05, -0.07, -0.10), 0.05),
    "no-lead": ((0.40, 0.30, 0.20), (0.00, 0.00, 0.00), (-0.04, -0.04, -0.04), 0.05),
    "pulled back": ((0.05, 0.00, -0.05), (0.05, 0.00, -0.05), (0.05, 0.00, -0.05), 0.05),
    "can": ((0.70, 0.50, 0.30), (0.00, -0.10, -0.20), (0.50, 0.40, 0.30), 0.05),
    "moulded": ((0.80, 0.50, 0.20), (0.25, 0.15, 0.07), (0.01, -0.05, -0.10), 0.05),
    "flat lead": ((0.30, 0.20, 0.10), (0.00, 0.00, 0.00), (0.05, 0.00, -0.05), 0.05),
    "butt lead": ((1.00, 0.80, 0.60), (1.00, 0.80, 0.60), (0.30, 0.20, 0.10), 0.05),
}
BALLS = {0.45: 0.35}
HOLE, LAND = (0.25, 0.20, 0.15), (0.60, 0.50, 0.40)
PLAY = (0.70, 0.70, 0.60)


class Size:
    """A length read from a text such as `5.8–6.2`, `0.8±0.1`, `max 1.75` or `1.27`."""

    def __init__(self, text: str) -> None:
        numbers = [float(piece) for piece in re.findall(r"\d+(?:\.\d+)?", text)]
        if "±" in text:
            self.low, self.high = numbers[0] - numbers[1], numbers[0] + numbers[1]
        else:
            self.low, self.high = numbers[0], numbers[-1]

    @property
    def middle(self) -> float:
        return (self.low + self.high) / 2

    def less(self, by: float) -> "Size":
        made = Size("0")
        made.low, made.high = self.low - by, self.high - by
        return made


def rounded(value: float, step: float) -> float:
    """To the nearest step; what lies in the middle goes up, as it does on paper."""
    return math.floor(value / step + 0.5 + 1e-9) * step


def up(value: float, step: float = 0.05) -> float:
    return math.ceil(value / step - 1e-9) * step


def row_lands(length: Size, foot: Size, width: Size, goals: str, level: int) -> tuple[float, float, float]:
    """Z, G and X by the solder-joint equations, rounded."""
    toe, heel, side, step = GOALS[goals][0][level], GOALS[goals][1][level], GOALS[goals][2][level], GOALS[goals][3]
    c_l, c_t, c_w = (size.high - size.low for size in (length, foot, width))
    shift = 0.10**2 + 0.05**2
    c_s = math.sqrt(c_l**2 + 2 * c_t**2)
    s_max = length.high - 2 * foot.low - (c_l + 2 * c_t - c_s) / 2
    z = length.low + 2 * toe + math.sqrt(c_l**2 + shift)
    g = s_max - 2 * heel - math.sqrt(c_s**2 + shift)
    x = width.low + 2 * side + math.sqrt(c_w**2 + shift)
    return rounded(z, step), rounded(g, step), rounded(x, step)


def facing(first: list, second: list, lands: tuple[float, float, float], axis: str = "x") -> Pads:
    """Lands of two rows: (number, place along the row); the first lies left, or on top."""
    z, g, x = lands
    middle, length = (z + g) / 4, (z - g) / 2
    made = []
    for row, sign in ((first, -1), (second, 1)):
        for number, at in row:
            if axis == "x":
                made.append((number, sign * middle, at, length, x))
            else:
                made.append((number, at, -sign * middle, x, length))
    return made


def down(count: int, pitch: float, first: int = 1) -> list:
    """Numbers from the top down."""
    return [(str(first + i), ((count - 1) / 2 - i) * pitch) for i in range(count)]


def counter_clockwise(pins: int, pitch: float) -> tuple[list, list]:
    """Down the left, up the right."""
    half = pins // 2
    return down(half, pitch), [(n, -at) for n, at in down(half, pitch, half + 1)]


def four_sides(pins: int, pitch: float, before: int = 0) -> dict[str, list]:
    """Left down, bottom to the right, right up, top to the left; numbers begin `before` places earlier."""
    quarter = pins // 4

    def number(index: int) -> str:
        return str((index + before) % pins + 1)

    at = [((quarter - 1) / 2 - i) * pitch for i in range(quarter)]
    return {
        "left": [(number(i), at[i]) for i in range(quarter)],
        "bottom": [(number(quarter + i), -at[i]) for i in range(quarter)],
        "right": [(number(2 * quarter + i), -at[i]) for i in range(quarter)],
        "top": [(number(3 * quarter + i), at[i]) for i in range(quarter)],
    }


def on_four_sides(sides: dict[str, list], across: tuple, along: tuple) -> Pads:
    return facing(sides["left"], sides["right"], across) + facing(sides["top"], sides["bottom"], along, "y")


def through(places: list, section: Size, thick: Size | None, level: int) -> Pads:
    """Round lands of leads: the hole takes the diagonal of a flat lead, a slot where that would play too much."""
    large, small = section.high, section.low
    if thick is not None:
        large, small = math.hypot(section.high, thick.high), math.hypot(section.low, thick.low)
    hole = up(large + HOLE[level])
    sizes = (hole, hole)
    if thick is not None and hole > small + PLAY[level] + 1e-9:
        sizes = (up(section.high + HOLE[level]), up(thick.high + HOLE[level]))
    width, height = (up(size + 2 * 0.05 + LAND[level]) for size in sizes)
    return [(number, x, y, width, height) for number, x, y in places]


def in_line(count: int, pitch: float) -> list:
    return [(str(i + 1), (i - (count - 1) / 2) * pitch, 0.0) for i in range(count)]


def plate(number: str, width: Size, height: Size) -> Pads:
    return [(number, 0.0, 0.0, rounded(width.middle, 0.05), rounded(height.middle, 0.05))]


def two_ends(s: dict, length: str, foot: str, width: str, goals: str, level: int) -> Pads:
    return facing([("1", 0.0)], [("2", 0.0)], row_lands(s[length], s[foot], s[width], goals, level))


def _transistor(s: dict, _pins: int, level: int) -> Pads:
    pitch = s["e"].middle
    lands = row_lands(s["E"], s["L"], s["b"], "gull-wing", level)
    return facing([("1", pitch), ("2", -pitch)], [("3", 0.0)], lands)


def _quad(s: dict, pins: int, level: int, goals: str, before: int = 0) -> Pads:
    sides = four_sides(pins, s["e"].middle, before)
    across, along = (row_lands(s[span], s["L"], s["b"], goals, level) for span in ("D", "E"))
    return on_four_sides(sides, across, along)


def _dual(s: dict, pins: int, level: int, goals: str, foot: str = "L") -> Pads:
    return facing(*counter_clockwise(pins, s["e"].middle), row_lands(s["E"], s[foot], s["b"], goals, level))


def _castellated(s: dict, pins: int, level: int) -> Pads:
    return facing(*counter_clockwise(pins, s["e"].middle), row_lands(s["D"], s["L"], s["b"], "array", level))


def _tab(s: dict, _pins: int, level: int) -> Pads:
    pitch = s["e"].middle
    leads = facing([("1", pitch), ("3", -pitch)], [], row_lands(s["H"], s["L"], s["b"], "gull-wing", level))
    # The inner end of the tab's land follows from the tab's length: its heel goal is none.
    z, _, x = row_lands(s["H"], s["D2"], s["E2"], "gull-wing", level)
    c_l, c_t = (size.high - size.low for size in (s["H"], s["D2"]))
    c_s = math.sqrt(c_l**2 + 2 * c_t**2)
    s_max = s["H"].high - 2 * s["D2"].low - (c_l + 2 * c_t - c_s) / 2
    return leads + facing([], [("2", 0.0)], (z, rounded(s_max - math.sqrt(c_s**2 + 0.0125), 0.05), x))


def _grid(s: dict, pins: int, land: float) -> Pads:
    side, pitch = math.isqrt(pins), s["e"].middle
    letters = "ABCDEFGHJKLMNPRTUVWY"
    middle = (side - 1) / 2
    return [
        (f"{letters[r]}{c + 1}", (c - middle) * pitch, (middle - r) * pitch, land, land)
        for r in range(side)
        for c in range(side)
    ]


def _dual_in_line(s: dict, pins: int, level: int) -> Pads:
    left, right = counter_clockwise(pins, s["e"].middle)
    # Leads are in the middle between the rows' inner and outer faces: the span is that of their middles.
    x = s["E"].middle / 2
    places = [(n, -x, y) for n, y in left] + [(n, x, y) for n, y in right]
    return through(places, s["b"], s["c"], level)


def _dual_row(s: dict, pins: int, level: int) -> Pads:
    inner = (pins // 4 - 1) // 2
    outer = pins // 4 - inner
    made: Pads = []
    for letter, count, back, goals in (("A", outer, 0.0, "no-lead"), ("B", inner, 2 * s["eR"].middle, "pulled back")):
        sides = four_sides(4 * count, s["e"].middle)
        across, along = (row_lands(s[span].less(back), s["L"], s["b"], goals, level) for span in ("D", "E"))
        made += [(letter + number, *rest) for number, *rest in on_four_sides(sides, across, along)]
    return made + plate(str(pins + 1), s["D2"], s["E2"])


def _coaxial(s: dict, level: int) -> Pads:
    half = s["e"].middle / 2
    legs = [("2", x, y) for x in (-half, half) for y in (-half, half)]
    return through([("1", 0.0, 0.0)], s["d"], None, level) + through(legs, s["b"], s["b"], level)


def _jumper(s: dict, pins: int) -> Pads:
    pitch = s["L"].middle + s["g"].middle
    return [(n, x, y, s["L"].middle, s["b"].middle) for n, x, y in in_line(pins, pitch)]


def _surface_header(s: dict, pins: int, level: int) -> Pads:
    half = pins // 2
    left, right = down(half, s["e"].middle), down(half, s["e"].middle, half + 1)
    return facing(left, right, row_lands(s["E"], s["L"], s["b"], "gull-wing", level))


ORACLES = {
    "chip": lambda s, _n, v: two_ends(s, "D", "L", "E", "chip", v),
    "cylinder": lambda s, _n, v: two_ends(s, "D", "L", "E", "MELF", v),
    "moulded": lambda s, _n, v: two_ends(s, "D", "L", "b", "moulded", v),
    "flat-lead": lambda s, _n, v: two_ends(s, "E", "L", "b", "flat lead", v),
    "gullwing-diode": lambda s, _n, v: two_ends(s, "E", "L", "b", "gull-wing", v),
    "can": lambda s, _n, v: two_ends(s, "E3", "L", "b", "can", v),
    "gullwing-dual": lambda s, n, v: _dual(s, n, v, "gull-wing"),
    "j-lead-dual": lambda s, n, v: _dual(s, n, v, "J-lead"),
    "chip-array": lambda s, n, v: _dual(s, n, v, "array"),
    "butt-lead": lambda s, n, v: _dual(s, n, v, "butt lead", "c"),
    "no-lead-dual": lambda s, n, v: _dual(s, n, v, "no-lead") + plate("11", s["E2"], s["D2"]),
    "gullwing-quad": lambda s, n, v: _quad(s, n, v, "gull-wing"),
    "no-lead-quad": lambda s, n, v: _quad(s, n, v, "no-lead") + plate("25", s["D2"], s["E2"]),
    # Pin 1 of a leaded carrier is in the middle of the top.
    "j-lead-quad": lambda s, n, v: _quad(s, n, v, "J-lead", before=3),
    "dual-row-no-lead": _dual_row,
    "transistor": _transistor,
    "castellated": _castellated,
    "tab": _tab,
    "surface-header": _surface_header,
    "ball-grid": lambda s, n, _v: _grid(s, n, BALLS[s["b"].middle]),
    "land-grid": lambda s, n, _v: _grid(s, n, s["b"].middle),
    "dual-in-line": _dual_in_line,
    "single-in-line": lambda s, n, v: through(in_line(n, s["e"].middle), s["b"], s["c"], v),
    "header": lambda s, n, v: through(in_line(n, s["e"].middle), s["b"], s["b"], v),
    "axial": lambda s, _n, v: through(in_line(2, s["span"].middle), s["d"], None, v),
    "radial": lambda s, _n, v: through(in_line(2, s["span"].middle), s["d"], None, v),
    "tab-through-hole": lambda s, n, v: through(in_line(n, s["e"].middle), s["b"], s["c"], v),
    "coaxial-socket": lambda s, _n, v: _coaxial(s, v),
    "mounting-hole": lambda s, _n, _v: [("1", 0.0, 0.0, s["D"].middle, s["D"].middle)],
    "fiducial": lambda s, _n, _v: [("1", 0.0, 0.0, s["d"].middle, s["d"].middle)],
    "test-point": lambda s, _n, _v: [("1", 0.0, 0.0, s["D"].middle, s["D"].middle)],
    "solder-jumper": lambda s, n, _v: _jumper(s, n),
    "edge-contacts": lambda s, n, _v: [
        (number, x, y, s["b"].middle, s["L"].middle) for number, x, y in in_line(n, s["e"].middle)
    ],
}


def worked_pads(family: str, pins: int, texts: dict[str, str], level: str) -> Pads:
    """The lands of a package whose lengths are given as texts, at a level, sorted."""
    sizes = {letter: Size(text) for letter, text in texts.items()}
    return sorted(ORACLES[family](sizes, pins, "ABC".index(level)))
