"""The one question that tells apart meanings of a datasheet's letters for which equally much speaks."""

from collections.abc import Mapping, Sequence

import msgspec

from eider.geometry.lengths import format_limits
from eider.packages.family import Family
from eider.packages.letters.letter_proposals import DatasheetLetter, Proposal

# Proposals whose scores are this near to the best are told apart by a person.
NEAR_SCORE = 1.0
LEFT_OUT = "none of these"


class LetterAnswer(msgspec.Struct, frozen=True):
    """An answer: the standard's letter, empty for none, and what it is called."""

    standard: str
    words: str


class LetterQuestion(msgspec.Struct, frozen=True):
    """What a letter of the sheet means, where it can be several things; the answers with the likeliest first."""

    letter: str
    text: str
    answers: tuple[LetterAnswer, ...]


def fitting(proposals: Sequence[Proposal], answered: Mapping[str, str]) -> tuple[Proposal, ...]:
    """The proposals that agree with the answers so far; an empty answer leaves the letter out."""
    return tuple(p for p in proposals if all(p.letters.get(own, "") == key for own, key in answered.items()))


def deciding_question(
    family: Family, proposals: Sequence[Proposal], rows: Sequence[DatasheetLetter]
) -> LetterQuestion | None:
    """The question whose answer leaves fewest of the likely proposals; None where the first is clearly the best."""
    if not proposals:
        return None
    first = proposals[0]
    near = [p for p in proposals if first.score - p.score < NEAR_SCORE and len(p.missing) <= len(first.missing)]
    limits = {row.letter: row.limits for row in rows}
    meanings = {own: list(dict.fromkeys(p.letters.get(own, "") for p in near)) for own in limits}
    open_letters = [own for own, keys in meanings.items() if len(keys) > 1]
    if not open_letters:
        return None
    # Of letters that tell as many apart the longest length is the easiest to see in a drawing.
    asked = max(open_letters, key=lambda own: (len(meanings[own]), limits[own].middle))
    answers = tuple(LetterAnswer(key, _meaning(family, key)) for key in meanings[asked])
    words = [f"the {answer.words}{',' if ',' in answer.words else ''}" for answer in answers if answer.standard]
    choices = " or ".join(words).rstrip(",")
    value = format_limits(limits[asked], "mm")
    return LetterQuestion(asked, f"Is {asked} ({value}) {choices}?", answers)


def _meaning(family: Family, key: str) -> str:
    letter = family.letter(key)
    return letter.meaning if letter else LEFT_OUT
