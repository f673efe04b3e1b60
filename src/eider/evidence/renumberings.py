"""How the numbers of a package are mistaken as a whole: read down both sides, run clockwise, rows for columns."""

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import NamedTuple

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
    yield _way("the wrong way round, clockwise", ordered, [ordered[0], *reversed(ordered[1:])])
    yield _way("mirrored, as seen from below or from the mating side", ordered, list(reversed(ordered)))
    if count % 2 == 0:
        pairs = [ordered[i ^ 1] for i in range(count)]
        yield _way("with the two rows exchanged, as on the mating half", ordered, pairs)
    for by in range(1, count):
        shifted = [*ordered[by:], *ordered[:by]]
        yield _way(f"beginning at pin {shifted[0]}", ordered, shifted)


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
