"""Whether the pads of a pattern lie as the package does, or are turned, mirrored or numbered clockwise."""

from collections import Counter
from collections.abc import Callable, Sequence

import msgspec
import numpy as np

from eider.model.pattern import Pad
from eider.packages.family import FloatArray, Terminal

# Another way explains a pattern only where pads lie nearer their terminals than by this share of how far they do now.
CLEARLY = 0.5
# Pads that lie nearer than this (mm) lie where they should.
NEAR = 0.05


class PatternLie(msgspec.Struct, frozen=True):
    """How pads would have to be laid to meet their terminals: mirrored left to right, then turned (degrees).

    `error` is how far they then lie off, `was` how far they do as they are (mm, the root of the mean square).
    """

    mirrored: bool
    turn: int
    error: float
    was: float


def pattern_lie(pads: Sequence[Pad], terminals: Sequence[Terminal]) -> PatternLie | None:
    """The turn or mirroring that takes the pads to their terminals; None where they lie as they should, or none does.

    Pads and terminals are told by their numbers; a number of several pads, or of several terminals, tells nothing.
    """
    counts, places = Counter(pad.number for pad in pads), Counter(terminal.number for terminal in terminals)
    feet = {t.number: ((t.foot[0] + t.foot[2]) / 2, (t.foot[1] + t.foot[3]) / 2) for t in terminals}
    known = [pad for pad in pads if counts[pad.number] == 1 and places[pad.number] == 1]
    if len(known) < 2:
        return None
    have = np.array([(pad.x, pad.y) for pad in known])
    want = np.array([feet[pad.number] for pad in known])
    # A pattern that is shifted as a whole is told by its origin.
    have, want = have - have.mean(axis=0), want - want.mean(axis=0)
    return _best_lie(lambda turn, mirrored: _apart(_laid(have, turn, mirrored=mirrored), want))


def _best_lie(error: Callable[[int, bool], float]) -> PatternLie | None:
    """The turn and mirroring with the least error; None where none is clearly better."""
    was = error(0, False)
    ways = ((mirrored, turn) for mirrored in (False, True) for turn in (0, 90, 180, 270))
    best = min(
        (PatternLie(mirrored, turn, error(turn, mirrored), was) for mirrored, turn in ways),
        key=lambda lie: (round(lie.error, 6), lie.mirrored, lie.turn),
    )
    is_as_it_is = not best.mirrored and best.turn == 0
    # Pads reach farther out than feet: the best way has an error, too.
    return None if is_as_it_is or was < NEAR or best.error > CLEARLY * was else best


def shared_lie(pads: Sequence[Pad], wanted: Sequence[Pad]) -> PatternLie | None:
    """As `pattern_lie`, where several pads share a number, as the legs of a shell do: by the nearest of each number."""
    if len(pads) < 2 or sorted(pad.number for pad in pads) != sorted(land.number for land in wanted):
        return None
    numbers = sorted({pad.number for pad in pads})
    have, want = (
        [np.array([(pad.x, pad.y) for pad in side if pad.number == number]) for number in numbers]
        for side in (pads, wanted)
    )
    middles = [np.concatenate(side).mean(axis=0) for side in (have, want)]
    have, want = ([places - middle for places in side] for side, middle in zip((have, want), middles, strict=True))

    def error(turn: int, mirrored: bool) -> float:
        laid = [_laid(places, turn, mirrored=mirrored) for places in have]
        far = [
            np.hypot(*(a[:, None] - b[None]).transpose(2, 0, 1)).min(axis=1) for a, b in zip(laid, want, strict=True)
        ]
        return float(np.sqrt((np.concatenate(far) ** 2).mean()))

    return _best_lie(error)


def lie_words(lie: PatternLie, count: int) -> str:
    """What is wrong with a pattern, in words, and how to put it right."""
    if not lie.mirrored:
        return f"The pattern is rotated by {(360 - lie.turn) % 360}°: pin 1 is on the other side."
    if count == 2:
        return "Pads 1 and 2 are exchanged: pin 1 is on the other side."
    turned = f" and rotated by {lie.turn}°" if lie.turn else ""
    return f"The pattern is mirrored{turned}: its numbers run clockwise, and pin 1 is on the other side."


def _laid(places: FloatArray, turn: int, *, mirrored: bool) -> FloatArray:
    laid = places * (-1.0, 1.0) if mirrored else places
    for _ in range(turn // 90):
        laid = np.column_stack([-laid[:, 1], laid[:, 0]])
    return np.asarray(laid)


def _apart(a: FloatArray, b: FloatArray) -> float:
    return float(np.sqrt(((a - b) ** 2).sum(axis=1).mean()))
