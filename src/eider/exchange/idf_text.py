"""IDF 3.0: outlines of components with their heights, written and read; lengths in mm."""

import math
import shlex
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from eider import __version__
from eider.errors import InputError
from eider.exchange.json_files import plain_number, within_a_metre
from eider.geometry.arcs import arc_points
from eider.geometry.plane import Outline, Point
from eider.geometry.rounding import plain_digits, tidy

UNITS = {"MM": 1.0, "THOU": 0.0254}
SECTIONS = (".ELECTRICAL", ".MECHANICAL")
MOST_OUTLINES, MOST_POINTS = 100_000, 5_000
# Chords of arcs.
STEP_DEGREES = 5.0


class IdfComponent(NamedTuple):
    """A component: the name of its geometry, its part number, outline (mm, counter-clockwise) and height."""

    geometry: str
    number: str
    outline: Outline
    height: float
    is_electrical: bool = True


class IdfLibrary(NamedTuple):
    """The components of a library file, and what of it was left out, with its line."""

    components: tuple[IdfComponent, ...]
    log: tuple[str, ...]


def idf_text(components: Sequence[IdfComponent]) -> str:
    """A library file of components; the same for the same components."""
    lines = [".HEADER", f'LIBRARY_FILE 3.0 "Eider {__version__}" 1980/01/01.00:00:00 1', ".END_HEADER"]
    for component in components:
        lines += [
            ".ELECTRICAL",
            f"{_quoted(component.geometry)} {_quoted(component.number)} MM {plain_digits(component.height)}",
            *(f"0 {plain_digits(x)} {plain_digits(y)} 0" for x, y in (*component.outline, component.outline[0])),
            ".END_ELECTRICAL",
        ]
    return "\n".join(lines) + "\n"


def _quoted(text: str) -> str:
    return '"' + text.replace('"', "'").replace("\n", " ") + '"'


def read_idf(text: str) -> IdfLibrary:
    """The components of a library file.

    Raises:
        InputError: it is not an IDF file, a board or panel file, or of another version than 2 and 3.
    """
    lines = [(number, line.strip()) for number, line in enumerate(text.splitlines(), start=1)]
    kept = iter([(number, line) for number, line in lines if line and not line.startswith("#")])
    _require_library(kept)
    components, log = list[IdfComponent](), list[str]()
    for number, line in kept:
        keyword = line.upper()
        if keyword in SECTIONS:
            section = list(_section(kept, keyword))
            try:
                components.append(_component(section, is_electrical=keyword == ".ELECTRICAL"))
            except InputError as fault:
                log.append(f"line {number}: {fault}; left out")
        elif keyword.startswith(".") and not keyword.startswith(".END"):
            log.append(f"line {number}: the section {line[:30]} is not read")
        if len(components) > MOST_OUTLINES:
            raise InputError(f"more than {MOST_OUTLINES:,} components")
    return IdfLibrary(tuple(components), tuple(log))


def _require_library(lines: Iterator[tuple[int, str]]) -> None:
    if next(lines, (0, ""))[1].upper() != ".HEADER":
        raise InputError("it is not an IDF file: it does not begin with .HEADER")
    words = next(lines, (0, ""))[1].split()
    kind, version = (words[0].upper() if words else ""), (words[1] if len(words) > 1 else "")
    if kind in ("BOARD_FILE", "PANEL_FILE"):
        raise InputError("it is an IDF board, which says where parts stand; the outlines are in its library file")
    if kind != "LIBRARY_FILE" or not version.startswith(("2", "3")):
        raise InputError(f"it is IDF of the kind {kind or 'that it does not name'}, version {version or 'unknown'}")


def _section(lines: Iterator[tuple[int, str]], keyword: str) -> Iterator[str]:
    end = keyword.replace(".", ".END_", 1)
    for _number, line in lines:
        if line.upper() == end:
            return
        yield line
    raise InputError(f"the file ends within {keyword}: it may be cut off")


def _component(lines: Sequence[str], *, is_electrical: bool) -> IdfComponent:
    try:
        head = shlex.split(lines[0]) if lines else []
    except ValueError as fault:
        raise InputError(f"{lines[0][:60]}: {fault}") from fault
    if len(head) < 4 or head[2].upper() not in UNITS:
        raise InputError("a component needs its name, part number, unit (MM or THOU) and height")
    scale = UNITS[head[2].upper()]
    height = within_a_metre(plain_number(head[3], "a height") * scale, "a height")
    loops: dict[str, list[tuple[Point, float]]] = {}
    for line in lines[1:]:
        words = line.split()
        if words and words[0].upper() == "PROP":
            continue
        if len(words) < 4:
            raise InputError(f"“{line[:40]}” is no point of an outline")
        x, y = (within_a_metre(plain_number(word, "a place") * scale, "a place") for word in words[1:3])
        loops.setdefault(words[0], []).append(((x, y), plain_number(words[3], "an angle")))
        if len(loops[words[0]]) > MOST_POINTS:
            raise InputError(f"an outline of more than {MOST_POINTS:,} points")
    outline = _outline(loops.get("0", []))
    return IdfComponent(head[0], head[1], outline, height, is_electrical)


def _outline(points: Sequence[tuple[Point, float]]) -> Outline:
    """The points of a loop: each with the angle of the arc that leads to it, 360 for a circle about the one before."""
    made: list[Point] = []
    for (x, y), angle in points:
        if not made or angle == 0:
            made.append((x, y))
        elif abs(angle) >= 360:
            made = [(x, y), *arc_points((x, y), (x, y), made[-1], clockwise=False, step=STEP_DEGREES)]
        else:
            made += _arc(made[-1], (x, y), angle)
    while len(made) > 1 and math.dist(made[0], made[-1]) < 1e-6:
        made.pop()
    if len(made) < 3:
        raise InputError("an outline of fewer than three points")
    return tuple(made)


def _arc(start: Point, end: Point, degrees: float) -> list[Point]:
    """The places behind the start of an arc of so many degrees, counter-clockwise above zero."""
    half = math.radians(degrees) / 2
    if start == end or math.isclose(math.sin(half), 0.0):
        return [end]
    # The middle lies off the chord by half of it over the tangent of half the angle, left of its way.
    off = 1 / math.tan(half) / 2
    x = tidy((start[0] + end[0]) / 2 - (end[1] - start[1]) * off)
    y = tidy((start[1] + end[1]) / 2 + (end[0] - start[0]) * off)
    return arc_points(start, end, (x, y), clockwise=degrees < 0, step=STEP_DEGREES)
