"""What was learned of the datasheets of one house: its marks, and what people confirmed or corrected in its sheets."""

from typing import Literal

import msgspec

# What a rule is about: the meaning of one of the sheet's letters, what is written at a name that is active low, or a
# reading of a kind that was looked at and found right.
RuleKind = Literal["letter", "active low", "reading"]


class HouseRule(msgspec.Struct, frozen=True, omit_defaults=True):
    """One thing that was learned, from which sheet, by whom and when (ISO 8601, UTC).

    Attributes:
        kind: what it is about.
        key: of a letter the family and the letter (`gullwing-dual K`), of active low what is written at the name
            (`_L`), of a reading what it was and why it was doubted, without its numbers.
        value: of a letter the standard's letter that it means; of a reading what it was in words.
        sheet: the file name of the datasheet from which it was learned.
        seen: whether a person has looked at its first use in another sheet.
        active: whether it is used.
    """

    kind: RuleKind
    key: str
    value: str
    sheet: str
    by: str
    at: str
    seen: bool = False
    active: bool = True


class House(msgspec.Struct, frozen=True):
    """The marks by which the datasheets of a house are told, and what was learned of them."""

    marks: tuple[str, ...]
    rules: tuple[HouseRule, ...] = ()
