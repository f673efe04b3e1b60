"""Meanings of a datasheet's letters, compared with the outline drawing in which the letters are at their lines."""

from collections.abc import Sequence
from itertools import combinations

import msgspec

from eider.geometry.limits import Limits
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Family
from eider.packages.letters.drawing_witness import DISAGREES, DrawnSpan, drawing_agrees
from eider.packages.letters.drawn_lengths import propose_drawn_lengths
from eider.packages.letters.letter_proposals import (
    BEST,
    DatasheetLetter,
    Proposal,
    is_possible,
    letter_fits,
    propose_letters,
)

# So many proposals are compared with a drawing, and so many are completed from it.
CONSIDERED, COMPLETED = 100, 2
# Points for a letter that lies in the drawing as it should, or does not.
AGREES, SPEAKS_AGAINST = 0.5, -3.0
DRAWN_SO, DRAWN_OTHERWISE = "the drawing agrees", "the drawing shows it otherwise"
DRAWN_ALONE = "told by its line in the drawing"


class _Case(msgspec.Struct, frozen=True):
    """What a proposal is compared with."""

    family: Family
    sheet: PackageSheet
    rows: Sequence[DatasheetLetter]
    drawn: Sequence[DrawnSpan]
    limits: dict[str, Limits]

    def agreement(self, letters: dict[str, str]) -> dict[str, int]:
        return drawing_agrees(self.family, self.sheet, self.limits, letters, self.drawn)

    def is_possible(self, letters: dict[str, str]) -> bool:
        return is_possible(self.family, self.sheet, letters, self.rows)


def propose_drawn_letters(
    family: Family, sheet: PackageSheet, rows: Sequence[DatasheetLetter], drawn: Sequence[DrawnSpan]
) -> tuple[Proposal, ...]:
    """What `propose_letters` gives, compared with the letters' lines in a drawing; the same where there are none.

    A proposal under which the lines would lie otherwise comes after others. Rows left over whose line can be but one
    other length's get that meaning, with a doubt.
    """
    if not drawn:
        return propose_letters(family, sheet, rows)
    if all(row.letter.isdecimal() for row in rows):
        # Lengths without letters: their lines are all that tells which they are.
        return propose_drawn_lengths(family, sheet, rows, drawn) or propose_letters(family, sheet, rows)
    case = _Case(family, sheet, rows, drawn, {row.letter: row.limits for row in rows})
    found = [_held_against(case, proposal) for proposal in propose_letters(family, sheet, rows, most=CONSIDERED)]
    found = sorted(found, key=lambda proposal: -proposal.score)[:BEST]
    completed = [made for proposal in found[:COMPLETED] for made in _completed(case, proposal)]
    return (*completed, *found[COMPLETED:])[:BEST]


def _held_against(case: _Case, proposal: Proposal) -> Proposal:
    """A proposal with what the drawing says of it."""
    told = case.agreement(proposal.letters)
    reasons, doubts = dict(proposal.reasons), dict(proposal.doubts)
    for letter, agrees in told.items():
        reasons[letter] = f"{reasons[letter]}; {DRAWN_SO if agrees else DRAWN_OTHERWISE}"
        if not agrees:
            doubts[letter] = DRAWN_OTHERWISE
    score = proposal.score + sum(AGREES if agrees else SPEAKS_AGAINST for agrees in told.values())
    return msgspec.structs.replace(proposal, reasons=reasons, doubts=doubts, score=round(score, 2))


def _completed(case: _Case, proposal: Proposal) -> list[Proposal]:
    """A proposal with those of the rows left over whose lines in the drawing can be but one other length's.

    Where one more can be either of two there are two proposals, between which a question decides.
    """
    best = _drawn_meanings(case, proposal)
    firsts = [key for keys in best.values() for key in keys]
    sure = {own: keys[0] for own, keys in best.items() if len(keys) == 1 and firsts.count(keys[0]) == 1}
    open_rows = [own for own, keys in best.items() if len(keys) == 2 and not set(keys) & set(sure.values())]
    ways = [{**sure, open_rows[0]: key} for key in best[open_rows[0]]] if open_rows else [sure]
    return [_with_meanings(proposal, more) for more in ways]


def _with_meanings(proposal: Proposal, more: dict[str, str]) -> Proposal:
    return msgspec.structs.replace(
        proposal,
        letters={**proposal.letters, **more},
        reasons={**proposal.reasons, **dict.fromkeys(more, DRAWN_SO)},
        doubts={**proposal.doubts, **dict.fromkeys(more, DRAWN_ALONE)},
        missing=tuple(key for key in proposal.missing if key not in more.values()),
        score=round(proposal.score + AGREES * len(more), 2),
    )


def _drawn_meanings(case: _Case, proposal: Proposal) -> dict[str, list[str]]:
    """For rows left over the meanings with which the drawing agrees best, in the order of the family's letters."""
    taken = {key: index for index, row in enumerate(case.rows) if (key := proposal.letters.get(row.letter))}
    lettered = {span.letter for span in case.drawn}
    left = [row for row in case.rows if row.letter not in proposal.letters and row.letter in lettered]
    pairs = [
        (row.letter, letter.key)
        for row in left
        for letter in case.family.letters
        if letter.key not in taken and letter_fits(letter, row.limits, taken, case.rows)
    ]
    wanted: dict[str, dict[str, int]] = {}
    before = case.agreement(proposal.letters) if pairs else {}
    alone = [pair for pair in pairs if not _note_agreement(case, proposal, before, (pair,), wanted)]
    # The sides of a pad in the middle, of which one alone draws nothing.
    sides = [pair for pair in alone if (letter := case.family.letter(pair[1])) is not None and letter.optional]
    for one, other in combinations(sides, 2):
        if one[0] != other[0] and one[1] != other[1]:
            _note_agreement(case, proposal, before, (one, other), wanted)
    return {own: [key for key, n in keys.items() if n == max(keys.values())] for own, keys in wanted.items()}


def _note_agreement(
    case: _Case,
    proposal: Proposal,
    before: dict[str, int],
    more: Sequence[tuple[str, str]],
    wanted: dict[str, dict[str, int]],
) -> bool:
    """Note how far the drawing agrees with further meanings; return whether it says anything of them."""
    tried = {**proposal.letters, **dict(more)}
    told = case.agreement(tried)
    agrees = [told.get(own, DISAGREES) for own, _standard in more]
    is_worse = any(told.get(own, DISAGREES) < how_far for own, how_far in before.items())
    if all(agrees) and not is_worse and case.is_possible(tried):
        for (own, standard), how_far in zip(more, agrees, strict=True):
            wanted.setdefault(own, {})[standard] = how_far
    return all(own in told for own, _standard in more)
