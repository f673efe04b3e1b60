"""Straight lines of a page, across and up: what tables are ruled with."""

from collections.abc import Iterable, Iterator, Sequence

import msgspec

from eider.datasheets.pages.page_frame import ordered, turned
from eider.datasheets.pages.page_paths import PathPiece
from eider.geometry.plane import Box, Point

# Points: shorter pieces belong to letters and hatching; thicker bars are areas. A line rises by so many at most, or by
# this share of its length.
SHORTEST, THICKEST, ASKEW, SLOPE = 4.0, 2.6, 0.6, 0.02
# Areas of more points are letters and pictures.
MOST_CORNERS = 24
# A dot or dash is of so few points; so many of them with gaps no wider than this (points) are a line.
DOT_POINTS, FEWEST_DOTS, WIDEST_GAP = 6, 8, 3.0
# Points: two pieces of one line are no farther apart across it, and along it.
NEAR, TOUCHING = 0.7, 2.0


class Ruling(msgspec.Struct, frozen=True):
    """A line from `start` to `stop` (points, start below stop) at `at`: its y where it runs across, else its x."""

    across: bool
    at: float
    start: float
    stop: float

    @property
    def box(self) -> Box:
        """Its ends as a box without height or width."""
        if self.across:
            return self.start, self.at, self.stop, self.at
        return self.at, self.start, self.at, self.stop


def from_box(box: Box) -> Ruling | None:
    """The ruling that a thin box is; None where it is none."""
    x0, y0, x1, y1 = box
    if y1 - y0 <= THICKEST and x1 - x0 >= SHORTEST:
        return Ruling(True, (y0 + y1) / 2, x0, x1)
    if x1 - x0 <= THICKEST and y1 - y0 >= SHORTEST:
        return Ruling(False, (x0 + x1) / 2, y0, y1)
    return None


def turned_ruling(ruling: Ruling, quarters: int) -> Ruling:
    """A ruling turned with its page; see `frame.turned`."""
    return from_box(turned(ruling.box, quarters)) or ruling


def read_rulings(paths: Iterable[PathPiece]) -> tuple[Ruling, ...]:
    """The rulings among what is drawn on a page; pieces of one line are joined, dots and dashes too."""
    found: list[Ruling] = []
    dots: list[Box] = []
    for path in paths:
        if path.is_stroked:
            for run in _drawn_on(path.straight()):
                found.extend(_run_of_lines(run))
        elif path.is_filled:
            found.extend(_thin_area(path.points))
        box = path.box
        if len(path.points) <= DOT_POINTS and max(box[2] - box[0], box[3] - box[1]) < SHORTEST:
            dots.append(box)
    return join_pieces([*found, *_dotted(dots)])


def _dotted(dots: Sequence[Box]) -> Iterator[Ruling]:
    """The lines that dots and short dashes make: rows of them at one level, evenly near to each other."""
    for across in (True, False):
        start, stop, low, high = (0, 2, 1, 3) if across else (1, 3, 0, 2)
        levels: dict[int, list[Box]] = {}
        for dot in dots:
            if dot[high] - dot[low] <= THICKEST:
                levels.setdefault(round((dot[low] + dot[high]) / NEAR), []).append(dot)
        for row in levels.values():
            for run in _runs_of_dots(sorted(row, key=lambda dot: dot[start]), start, stop):
                at = sum(dot[low] + dot[high] for dot in run) / (2 * len(run))
                yield Ruling(across, at, run[0][start], run[-1][stop])


def _runs_of_dots(row: Sequence[Box], start: int, stop: int) -> Iterator[list[Box]]:
    run: list[Box] = []
    for dot in row:
        if run and dot[start] - run[-1][stop] > WIDEST_GAP:
            yield from [run] if len(run) >= FEWEST_DOTS else []
            run = []
        run.append(dot)
    yield from [run] if len(run) >= FEWEST_DOTS else []


def read_areas(paths: Iterable[PathPiece]) -> tuple[Box, ...]:
    """The boxes of what is filled on a page and is not a ruling, such as lands, leads and arrows."""
    filled = (path.box for path in paths if path.is_filled and not path.is_stroked and len(path.points) <= MOST_CORNERS)
    return tuple(box for box in filled if from_box(box) is None)


def _drawn_on(lines: Iterable[tuple[Point, Point]]) -> Iterator[list[tuple[Point, Point]]]:
    """The lines of a path, each run of which is drawn without lifting the pen."""
    run: list[tuple[Point, Point]] = []
    for line in lines:
        if run and run[-1][1] != line[0]:
            yield run
            run = []
        run.append(line)
    yield from [run] if run else []


def _run_of_lines(run: Sequence[tuple[Point, Point]]) -> Iterator[Ruling]:
    """The rulings of lines that follow each other: one of a line that wavers, as if drawn by hand, else each."""
    ends = [point for line in run for point in line]
    box = min(x for x, _y in ends), min(y for _x, y in ends), max(x for x, _y in ends), max(y for _x, y in ends)
    wavering = from_box(box) if len(run) > 1 and run[0][0] != run[-1][1] else None
    if wavering is not None:
        yield wavering
        return
    for a, b in run:
        yield from _straight(a, b)


def _straight(a: Point, b: Point) -> Iterator[Ruling]:
    wide, high = abs(a[0] - b[0]), abs(a[1] - b[1])
    if min(wide, high) <= max(ASKEW, SLOPE * max(wide, high)):
        ruling = from_box(ordered(*a, *b))
        if ruling:
            yield ruling


def _thin_area(outline: Sequence[Point]) -> Iterator[Ruling]:
    """Many programs draw their lines as thin filled boxes."""
    if 4 <= len(outline) <= 6:
        xs, ys = [p[0] for p in outline], [p[1] for p in outline]
        ruling = from_box((min(xs), min(ys), max(xs), max(ys)))
        if ruling:
            yield ruling


def join_pieces(rulings: list[Ruling]) -> tuple[Ruling, ...]:
    """Pieces that lie on one line and touch become one ruling, in the order of their place."""
    found: list[Ruling] = []
    levels: dict[tuple[bool, int], list[int]] = {}
    for ruling in sorted(rulings, key=lambda r: (r.across, r.start, r.at)):
        level = round(ruling.at / NEAR)
        near = [index for shift in (0, -1, 1) for index in levels.get((ruling.across, level + shift), ())]
        joining = next((i for i in reversed(near) if _continues(found[i], ruling)), None)
        if joining is None:
            levels.setdefault((ruling.across, level), []).append(len(found))
            found.append(ruling)
        else:
            last = found[joining]
            found[joining] = Ruling(last.across, last.at, last.start, max(last.stop, ruling.stop))
    return tuple(sorted(found, key=lambda r: (r.across, round(r.at / NEAR), r.start)))


def _continues(last: Ruling, ruling: Ruling) -> bool:
    return abs(last.at - ruling.at) <= NEAR and ruling.start <= last.stop + TOUCHING
