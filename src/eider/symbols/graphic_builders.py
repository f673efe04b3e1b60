"""Graphics in any number: connectors of n ways in rows, transformers with windings and taps, gates with n inputs."""

import re
from collections.abc import Callable, Mapping
from typing import Literal

import msgspec

Form = Literal["iec", "ieee"]
# More ways, inputs or taps than this are a slip of the finger.
MOST_WAYS, MOST_ROWS, MOST_INPUTS, MOST_TAPS = 400, 8, 32, 12


class GraphicEntry(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A graphic as the table has it; fields that are None come from the other form, which documents the texts."""

    title: str = ""
    base: str | None = None
    pins: tuple[str, ...] = ()
    lines: tuple[str, ...] | None = None
    areas: tuple[str, ...] | None = None
    solids: tuple[str, ...] | None = None
    circles: tuple[str, ...] | None = None
    arcs: tuple[str, ...] | None = None
    dots: tuple[str, ...] | None = None
    texts: tuple[str, ...] | None = None
    marks: tuple[str, ...] | None = None
    ieee: "GraphicEntry | None" = None


# What the other form may say otherwise.
OVERRIDES = ("base", "lines", "areas", "solids", "circles", "arcs", "dots", "texts", "marks")

_ROWS = re.compile(r"(?P<rows>\d+)x(?P<ways>\d+)(?P<key>-key)?(?P<shield>-shield)?")
_WINDINGS = re.compile(r"\d+(,\d+)*\|\d+(,\d+)*")


def build(key: str, form: Form) -> GraphicEntry | None:
    """What a key with numbers stands for; None where no builder knows it.

    `connector-pins/1x5`, `connector-sockets/2x10-key-shield`: rows and ways. `transformer/1|0,0`: windings on the left
    and on the right, each by its number of taps. `and/3`, `nor/8`: gates by their inputs. `resistors/4`: single
    resistors, `resistors-common/8` with one end in common.
    """
    name, slash, rest = key.partition("/")
    builder = _BUILDERS.get(name)
    return builder(name, rest, form) if slash and builder else None


def _connector(name: str, text: str, _form: Form) -> GraphicEntry | None:
    """Rows in pairs that face each other; further pairs below. A key is a notch in the outline's upper edge."""
    match = _ROWS.fullmatch(text)
    if match is None or not 1 <= int(match["rows"]) <= MOST_ROWS or not 1 <= int(match["ways"]) <= MOST_WAYS:
        return None
    rows, ways = int(match["rows"]), int(match["ways"])
    half = 1 if rows == 1 else 2
    top = (ways - 1) // 2
    pins, lines, solids, arcs = [], [], [], []
    for way in range(ways):
        for row in range(rows):
            side, y = (-1 if row % 2 == 0 else 1), top - way - row // 2 * (ways + 1)
            x = side * (half + 1)
            pins.append(f"{x},{y} {way * rows + row + 1}")
            if name == "connector-pins":
                lines.append(f"{x},{y} {side * (half - 0.3):g},{y}")
                solids.append(_bar(side * (half - 0.3), side * (half - 0.9), y))
            else:
                lines.append(f"{x},{y} {side * (half - 0.35):g},{y}")
                arcs.append(f"{side * (half - 0.6):g},{y} 0.25 {-90 if side > 0 else 90} {90 if side > 0 else 270}")
    lowest = top - ways + 1 - (rows - 1) // 2 * (ways + 1)
    low, high = lowest - 0.7, top + 0.7
    if match["shield"]:
        pins.append(f"0,{lowest - 2} S")
        lines.append(f"0,{lowest - 2} 0,{low:g}")
    notch = f"0.3,{high:g} 0.3,{high - 0.35:g} -0.3,{high - 0.35:g} -0.3,{high:g} " if match["key"] else ""
    area = f"{-half},{low:g} {half},{low:g} {half},{high:g} {notch}{-half},{high:g}"
    title = f"connector, {ways * rows} {'pins' if name == 'connector-pins' else 'sockets'}"
    return GraphicEntry(
        title=title, pins=tuple(pins), lines=tuple(lines), solids=tuple(solids), arcs=tuple(arcs), areas=(area,)
    )


def _bar(a: float, b: float, y: float) -> str:
    return f"{a:g},{y - 0.12:g} {b:g},{y - 0.12:g} {b:g},{y + 0.12:g} {a:g},{y + 0.12:g}"


def _transformer(_name: str, text: str, _form: Form) -> GraphicEntry | None:
    if not _WINDINGS.fullmatch(text):
        return None
    sides = [[int(taps) for taps in side.split(",")] for side in text.split("|")]
    if max(taps for side in sides for taps in side) > MOST_TAPS:
        return None
    heights = [sum(2 * (taps + 1) for taps in side) + 2 * (len(side) - 1) for side in sides]
    top = (max(heights) + 2) // 4 * 2
    pins: list[str] = []
    lines: list[str] = []
    arcs: list[str] = []
    dots: list[str] = []
    for index, (side, height) in enumerate(zip(sides, heights, strict=True)):
        sign = -1 if index == 0 else 1
        y = top - (max(heights) - height) // 4 * 2
        before = len(pins)
        for taps in side:
            _winding(sign, y, taps, (pins, lines, arcs, dots))
            y -= 2 * (taps + 1) + 2
        if sign > 0:
            # Numbers run down the left and up the right, as on the package.
            pins[before:] = pins[before:][::-1]
    low = top - max(heights)
    lines += [f"{x},{low} {x},{top}" for x in (-0.1, 0.1)]
    numbered = tuple(f"{place} {i}" for i, place in enumerate(pins, start=1))
    title = f"transformer, {sum(map(len, sides))} windings"
    return GraphicEntry(title=title, pins=numbered, lines=tuple(lines), arcs=tuple(arcs), dots=tuple(dots))


def _winding(sign: int, y: int, taps: int, into: tuple[list[str], list[str], list[str], list[str]]) -> None:
    """One winding from y down: four half circles between each two of its ends and taps."""
    pins, lines, arcs, dots = into
    for step in range(taps + 2):
        at = y - 2 * step
        pins.append(f"{2 * sign},{at}")
        lines.append(f"{2 * sign},{at} {0.6 * sign:g},{at}")
    for turn in range(4 * (taps + 1)):
        middle = y - 0.25 - 0.5 * turn
        start, stop = (-90, 90) if sign < 0 else (90, 270)
        arcs.append(f"{0.6 * sign:g},{middle:g} 0.25 {start} {stop}")
    dots.append(f"{sign},{y - 0.4:g} 0.12")


def _gate(name: str, text: str, form: Form) -> GraphicEntry | None:
    if not text.isdecimal() or not 2 <= int(text) <= MOST_INPUTS:
        return None
    count = int(text)
    top = (count - 1) // 2 + (count - 1) % 2
    # With an even number of inputs the output is between two of them, on the grid above the middle gap.
    places = [top - i - (1 if count % 2 == 0 and i >= count // 2 else 0) for i in range(count)]
    high, low = max(top + 1, 2), min(places[-1] - 1, -2)
    pins = [f"-3,{y} {chr(ord('A') + i) if count <= 16 else i + 1}" for i, y in enumerate(places)]
    lines = [f"-3,{y} -1.5,{y}" for y in places]
    edge = 1.6 if form == "ieee" else 1.5
    drawn = _body_of_gate(name, form, high, low)
    marks = (f"negation {edge},0",) if name in ("nand", "nor", "xnor") else ()
    return msgspec.structs.replace(
        drawn,
        title=f"{name.upper()} gate, {count} inputs",
        pins=(*pins, "3,0 Y"),
        lines=(*lines, f"{edge},0 3,0", *(drawn.lines or ())),
        marks=marks,
    )


def _body_of_gate(name: str, form: Form, high: int, low: int) -> GraphicEntry:
    sign = {"and": "&", "nand": "&", "or": "≥1", "nor": "≥1", "xor": "=1", "xnor": "=1"}[name]
    if form == "iec":
        area = f"-1.5,{low} 1.5,{low} 1.5,{high} -1.5,{high}"
        return GraphicEntry(areas=(area,), texts=(f"0,{high - 0.8:g} {sign}",))
    if name in ("and", "nand"):
        shape = (
            "-1.5,-1.6 0,-1.6 0.42,-1.55 0.8,-1.39 1.13,-1.13 1.39,-0.8 1.55,-0.42 1.6,0 1.55,0.42 1.39,0.8 "
            "1.13,1.13 0.8,1.39 0.42,1.55 0,1.6 -1.5,1.6"
        )
    else:
        shape = (
            "-1.5,-1.6 -0.4,-1.6 0.3,-1.4 0.9,-0.9 1.6,0 0.9,0.9 0.3,1.4 -0.4,1.6 -1.5,1.6 -1.2,1 -1.05,0.4 "
            "-1.05,-0.4 -1.2,-1"
        )
    lines = [f"-1.5,{low} -1.5,-1.6", f"-1.5,1.6 -1.5,{high}"]
    if name in ("xor", "xnor"):
        lines.append("-1.8,-1.6 -1.5,-1 -1.35,-0.4 -1.35,0.4 -1.5,1 -1.8,1.6")
    return GraphicEntry(areas=(shape,), lines=tuple(lines))


def _heights(text: str) -> list[int]:
    """Of so many resistors above each other, about the middle; none where the text is not a number of them."""
    if not text.isdecimal() or not 2 <= int(text) <= MOST_WAYS:
        return []
    top = (int(text) - 1) // 2
    return [2 * (top - i) for i in range(int(text))]


def _strokes(heights: list[int]) -> list[str]:
    """The lines from both ends of each resistor to its pins."""
    return [line for y in heights for line in (f"-2,{y} -1.2,{y}", f"1.2,{y} 2,{y}")]


def _boxes(heights: list[int]) -> list[str]:
    return [f"-1.2,{y - 0.4:g} 1.2,{y - 0.4:g} 1.2,{y + 0.4:g} -1.2,{y + 0.4:g}" for y in heights]


def _resistors(_name: str, text: str, _form: Form) -> GraphicEntry | None:
    heights = _heights(text)
    if not heights:
        return None
    count = len(heights)
    pins = [f"-2,{y} {i + 1}" for i, y in enumerate(heights)]
    # Numbers run down the left and up the right, as on the package.
    pins += [f"2,{y} {2 * count - i}" for i, y in enumerate(heights)][::-1]
    return GraphicEntry(
        title=f"resistors, {count}", pins=tuple(pins), lines=tuple(_strokes(heights)), areas=tuple(_boxes(heights))
    )


def _resistors_common(_name: str, text: str, _form: Form) -> GraphicEntry | None:
    """Resistors that have one end in common, which is pin 1."""
    heights = _heights(text)
    if not heights:
        return None
    count = len(heights)
    pins = [f"-3,{heights[0]} 1", *(f"2,{y} {i + 2}" for i, y in enumerate(heights))]
    lines = [*_strokes(heights), f"-3,{heights[0]} -2,{heights[0]}", f"-2,{heights[0]} -2,{heights[-1]}"]
    dots = tuple(f"-2,{y} 0.12" for y in heights[:-1])
    title = f"resistors, {count} with a common end"
    return GraphicEntry(title=title, pins=tuple(pins), lines=tuple(lines), areas=tuple(_boxes(heights)), dots=dots)


_BUILDERS: Mapping[str, Callable[[str, str, Form], GraphicEntry | None]] = {
    "connector-pins": _connector, "connector-sockets": _connector, "transformer": _transformer, "resistors": _resistors,
    "resistors-common": _resistors_common,
    **dict.fromkeys(("and", "nand", "or", "nor", "xor", "xnor"), _gate),
}  # fmt: skip
