"""Further columns of a pin table, by the template of a category: length in the package, bank, swap group, remark."""

from collections.abc import Sequence
from typing import NamedTuple

import msgspec

from eider.facts.categories import spelling_key
from eider.model.library import FactField
from eider.model.symbol import Pin

replace = msgspec.structs.replace
# Before the name of such a column where fields of a pin are named.
MORE = "more:"


class FittedPins(NamedTuple):
    """Pins with the columns of a template alone, under its names; `left_out` are those that it does not have."""

    pins: tuple[Pin, ...]
    left_out: tuple[str, ...]


def column_text(pin: Pin, field: str) -> str:
    """The text of a field of a pin, or of a further column named with `MORE` before it."""
    return pin.more.get(field.removeprefix(MORE), "") if field.startswith(MORE) else str(getattr(pin, field))


def with_column(pin: Pin, field: str, text: str) -> Pin:
    """A pin with another text in such a field; an empty one leaves a further column out."""
    if not field.startswith(MORE):
        return replace(pin, **{field: text})
    name = field.removeprefix(MORE)
    return replace(pin, more={key: value for key, value in {**pin.more, name: text.strip()}.items() if value})


def left_out_words(pins: Sequence[Pin], columns: Sequence[FactField]) -> list[str]:
    """Which columns of pins from elsewhere are left out, in words; nothing where all are wanted."""
    left_out = fit_columns(pins, columns).left_out
    return [f"left out, as the category has no such column: {', '.join(left_out)}"] if left_out else []


def fit_columns(pins: Sequence[Pin], columns: Sequence[FactField]) -> FittedPins:
    """Columns that came with pins from elsewhere under the names of a template; what it does not have is left out."""
    names = {spelling_key(word): column.name for column in columns for word in (column.name, *column.also)}
    left_out: dict[str, None] = {}
    made = []
    for pin in pins:
        more: dict[str, str] = {}
        for heading, text in pin.more.items():
            name = names.get(spelling_key(heading))
            if name is None:
                left_out |= {heading: None}
            else:
                more.setdefault(name, text)
        made.append(replace(pin, more=more) if pin.more else pin)
    return FittedPins(tuple(made), tuple(left_out))
