"""The datasheet's pinout figure compared with the part: the name of each number, and where it stands."""

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from eider.geometry.plane import Box
from eider.model.part import PinoutFigure
from eider.model.symbol import Pin
from eider.packages.family import FloatArray, Terminal

# Fewer pins than these tell no direction from an exchanged pair.
FEWEST = 4
_POSITION = re.compile(r"([A-Z]+)(\d+)")


class Renumbering(NamedTuple):
    """A whole numbering taken for another: what happened, in words, and for each number which one it was taken for."""

    words: str
    taken_for: Mapping[str, str]


Agrees = Callable[[str, str], bool]


def renumberings(numbers: Sequence[str]) -> Iterator[Renumbering]:
    """The ways in which these numbers are mistaken as a whole, the usual ones first; each takes every number once."""
    if len(numbers) < FEWEST:
        return
    if all(number.isdecimal() for number in numbers):
        yield from _of_rows(sorted(numbers, key=int))
    elif all(_POSITION.fullmatch(number) for number in numbers):
        yield from _of_grid(numbers)


def _of_rows(ordered: Sequence[str]) -> Iterator[Renumbering]:
    count, half = len(ordered), len(ordered) // 2
    if count % 2 == 0:
        down = [*ordered[:half], *reversed(ordered[half:])]
        yield _way("down both sides instead of round the package", ordered, down)
    yield _way("clockwise", ordered, [ordered[0], *reversed(ordered[1:])])
    yield _way("mirrored, as seen from below or from the mating side", ordered, list(reversed(ordered)))
    if count % 2 == 0:
        pairs = [ordered[i ^ 1] for i in range(count)]
        yield _way("with the two rows exchanged, as on the mating half", ordered, pairs)
    for by in range(1, count):
        shifted = [*ordered[by:], *ordered[:by]]
        yield _way(f"starting at pin {shifted[0]}", ordered, shifted)


def _of_grid(numbers: Sequence[str]) -> Iterator[Renumbering]:
    places = {number: match.groups() for number in numbers if (match := _POSITION.fullmatch(number))}
    letters = sorted({row for row, _ in places.values()}, key=lambda row: (len(row), row))
    columns = sorted({int(column) for _, column in places.values()})
    at = {number: (letters.index(row), columns.index(int(column))) for number, (row, column) in places.items()}
    number_at = {place: number for number, place in at.items()}
    rows, across = len(letters), len(columns)
    ways: tuple[tuple[str, Callable[[int, int], tuple[int, int]]], ...] = (
        ("with rows and columns exchanged", lambda i, j: (j, i)),
        ("mirrored, as seen from below", lambda i, j: (i, across - 1 - j)),
        ("from the last row up", lambda i, j: (rows - 1 - i, j)),
        ("rotated by 180°", lambda i, j: (rows - 1 - i, across - 1 - j)),
    )
    for words, way in ways:
        taken = {number: number_at.get(way(*place), "") for number, place in at.items()}
        if all(taken.values()):
            yield Renumbering(words, taken)


def _way(words: str, ordered: Sequence[str], taken: Sequence[str]) -> Renumbering:
    return Renumbering(words, dict(zip(ordered, taken, strict=True)))


def explain(numbers: Sequence[str], agrees: Agrees) -> Renumbering | None:
    """The mistake that explains how two accounts of the same pins differ.

    `agrees` says whether the first account's pin of one number is the second's of another. None where no mistake of
    the numbering as a whole makes all of them agree.
    """
    return next((way for way in renumberings(numbers) if all(agrees(a, b) for a, b in way.taken_for.items())), None)


def exchanged_pairs(numbers: Sequence[str], agrees: Agrees) -> tuple[tuple[str, str], ...]:
    """The pairs of numbers of which each agrees with the other's and not with its own."""
    wrong = [number for number in numbers if not agrees(number, number)]
    found: list[tuple[str, str]] = []
    taken: set[str] = set()
    for index, one in enumerate(wrong):
        other = next((o for o in wrong[index + 1 :] if o not in taken and agrees(one, o) and agrees(o, one)), None)
        if one not in taken and other is not None:
            found.append((one, other))
            taken |= {one, other}
    return tuple(found)


# Middles of numbers that are nearer than this share of the text's height are in one row or column.
IN_LINE = 0.7
# Middles of terminals that are nearer than this (mm) do.
TERMINALS_IN_LINE = 0.02
# Numbers of a figure run as the terminals do where their places go together by so much.
ALIKE = 0.9
_NO_LETTER = re.compile(r"[^A-Z0-9+-]")

Place = tuple[int, int]


class Difference(NamedTuple):
    """How two accounts of the pins differ: pairs that are exchanged, or a whole numbering; and what is left."""

    pairs: tuple[tuple[str, str], ...]
    whole: Renumbering | None
    left: tuple[str, ...]


def same_name(name: str) -> str:
    """What is left of a name of how it is printed: letters, figures, plus and minus."""
    return _NO_LETTER.sub("", name.upper().replace("−", "-").replace("–", "-"))


def names_of(pin: Pin) -> frozenset[str]:
    """All that a figure may print for a pin: its name, what is shown of it, its other functions, each piece of them.

    A name that is active low is printed with a bar, or with a letter for it.
    """
    texts = [pin.name, pin.shown, *pin.alternatives, "/".join((pin.name, *pin.alternatives))]
    if pin.active_low and pin.name:
        texts += [f"n{pin.name}", f"{pin.name}n", f"{pin.name}_B"]
    pieces = [piece for text in texts for piece in text.split("/")]
    return frozenset(filter(None, (same_name(text) for text in (*texts, *pieces))))


def name_differences(symbol: Sequence[Pin], figure: PinoutFigure) -> Difference:
    """How the names in the figure differ from those of the symbol, for the numbers that both have."""
    pins = {pin.number: names_of(pin) for pin in symbol}
    drawn = {pin.number: printed_names(pin.name) for pin in figure.pins}
    numbers = [number for number in pins if pins[number] and drawn.get(number)]

    def agrees(one: str, other: str) -> bool:
        return bool(pins[one] & drawn[other])

    return _difference(numbers, agrees)


def printed_names(name: str) -> frozenset[str]:
    """What a figure prints at a pin as `names_of` tells it: the whole of it and each piece between strokes."""
    return frozenset(filter(None, (same_name(piece) for piece in (name, *name.split("/")))))


def _difference(numbers: Sequence[str], agrees: Agrees) -> Difference:
    wrong = [number for number in numbers if not agrees(number, number)]
    if not wrong:
        return Difference((), None, ())
    pairs = exchanged_pairs(numbers, agrees)
    left = tuple(number for number in wrong if not any(number in pair for pair in pairs))
    # One or two pairs are a slip of the hand; more of them, or a ring, may be one mistake of the whole.
    whole = explain(numbers, agrees) if len(pairs) > 1 or left else None
    return Difference((), whole, ()) if whole else Difference(pairs, None, left)


def place_differences(terminals: Sequence[Terminal], figure: PinoutFigure) -> Difference | None:
    """How the pins of the figure stand otherwise than the terminals do; a figure that is turned is not otherwise.

    None where the two cannot be laid upon each other: pins are missing in the figure, or its rows and columns are not
    those of the package.
    """
    ours = _terminal_places(terminals, {pin.number for pin in figure.pins})
    drawn = _figure_places(figure)
    if ours is None:
        return None
    ways = [found for quarters in range(4) if (found := _laid_upon(ours, _turned(drawn, quarters))) is not None]
    # The way that leaves least to be explained; of those that are alike the one that is turned least.
    return min(ways, key=lambda d: (len(d.left), 2 if d.whole else len(d.pairs)), default=None)


def _laid_upon(ours: Mapping[str, Place], drawn: Mapping[str, Place]) -> Difference | None:
    number_at = {place: number for number, place in ours.items()}
    taken = {number: number_at.get(place) for number, place in drawn.items() if number in ours}
    if None in taken.values() or len(taken) != len(ours):
        return None
    return _difference(list(ours), lambda one, other: taken[one] == other)


def _terminal_places(terminals: Sequence[Terminal], known: set[str]) -> Mapping[str, Place] | None:
    """Row and column of each terminal that the figure has; None where it lacks one that has neighbours in a row."""
    middles = {t.number: ((t.whole[0] + t.whole[2]) / 2, (t.whole[1] + t.whole[3]) / 2) for t in terminals}
    if len(middles) != len(terminals):
        return None
    # A thermal pad in the middle is often not numbered in a figure.
    lacking = [number for number in middles if number not in known]
    if len(lacking) > 1 or len(middles) - len(lacking) < 2:
        return None
    return _ranked({number: at for number, at in middles.items() if number in known}, TERMINALS_IN_LINE)


def _figure_places(figure: PinoutFigure) -> Mapping[str, Place]:
    sign = 1.0 if figure.seen == "above" else -1.0
    return _ranked({pin.number: (sign * pin.x, pin.y) for pin in figure.pins}, IN_LINE * figure.size)


def _ranked(middles: Mapping[str, tuple[float, float]], near: float) -> Mapping[str, Place]:
    across = _ranks([x for x, _ in middles.values()], near)
    along = _ranks([y for _, y in middles.values()], near)
    return {number: (i, j) for number, i, j in zip(middles, across, along, strict=True)}


def _ranks(values: Sequence[float], near: float) -> list[int]:
    """For each value which of the lines it is in, from the lowest."""
    order = sorted(range(len(values)), key=lambda i: values[i])
    ranks, rank = [0] * len(values), 0
    for before, at in pairwise(order):
        rank += values[at] - values[before] > near
        ranks[at] = rank
    return ranks


def _turned(places: Mapping[str, Place], quarters: int) -> Mapping[str, Place]:
    for _ in range(quarters):
        top = max((j for _, j in places.values()), default=0)
        places = {number: (top - j, i) for number, (i, j) in places.items()}
    return places


def figure_on_package(terminals: Sequence[Terminal], figure: PinoutFigure) -> Box | None:
    """Where the figure's box lies (mm) once its numbers are laid upon the terminals, each axis by its own scale.

    As the figure shows the package: one that is seen from below lies upon the package as seen from below. None where
    its numbers do not run the way that the terminals do, as in a figure that is turned.
    """
    sign = 1.0 if figure.seen == "above" else -1.0
    middles = {t.number: (sign * (t.whole[0] + t.whole[2]) / 2, (t.whole[1] + t.whole[3]) / 2) for t in terminals}
    known = [pin for pin in figure.pins if pin.number in middles]
    lines = []
    for axis in (0, 1):
        have = np.array([(pin.x, pin.y)[axis] for pin in known])
        want = np.array([middles[pin.number][axis] for pin in known])
        lines.append(_line(have, want))
    slopes = [line.slope for line in lines if line.slope > 0]
    if not slopes or any(line.slope < 0 for line in lines):
        return None
    # Along an axis on which all of them are in one line the scale of the other holds.
    (by_x, x), (by_y, y) = ((line.slope or slopes[0], line) for line in lines)
    x0, y0, x1, y1 = figure.box
    left, right = (by_x * (at - x.have) + x.want for at in (x0, x1))
    low, high = (by_y * (at - y.have) + y.want for at in (y0, y1))
    return left, low, right, high


class _Line(NamedTuple):
    """The scale (mm per point) that takes places of a figure to those of the package, and the middles of both.

    The slope is 0 where all are in one line, -1 where they do not run together.
    """

    slope: float
    have: float
    want: float


def _line(have: FloatArray, want: FloatArray) -> _Line:
    if len(have) == 0:
        return _Line(0.0, 0.0, 0.0)
    slope = 0.0
    if np.ptp(have) > 1.0 and np.ptp(want) > TERMINALS_IN_LINE:
        together = np.corrcoef(have, want)[0, 1] > ALIKE
        slope = float(np.polyfit(have, want, 1)[0]) if together else -1.0
    return _Line(slope, float(have.mean()), float(want.mean()))
