"""Values of facts by their kind: read, put in order, printed alike however they were typed."""

import datetime as dt
import re
from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import NamedTuple
from urllib.parse import urlsplit

from eider.facts.quantities import parse_quantity, parse_range, print_quantity, print_range
from eider.model.library import FactField, FactKind

YES, NO = ("yes", "y", "true", "1", "x", "✓"), ("no", "n", "false", "0", "–", "-")
# What a fact without a value is typed as: it is filled in, and says that there is nothing to say.
NOTHING = frozenset({"–", "-", "n/a", "none"})
# Dates in their usual forms; those in which day and month could be exchanged are not among them.
_DATES = ("%Y-%m-%d", "%d.%m.%Y", "%Y/%m/%d", "%d %b %Y", "%d %B %Y", "%B %d, %Y", "%b %d, %Y")
# A range without two ends: a least or a most.
_ONE_END = re.compile(r"^\s*(min|max|≤|≥|<=|>=|up to)\.?\s*(.*)$", re.IGNORECASE)


class FactValue(NamedTuple):
    """A value that was read: as the template prints it, and by what it is put in order among others."""

    printed: str
    order: tuple[float, str]


class FactReading(NamedTuple):
    """A value, or what is wrong with its text and which forms are accepted."""

    value: FactValue | None
    fault: str = ""
    accepted: str = ""

    @property
    def printed(self) -> str:
        """The value as it is printed; empty where the text is none."""
        return self.value.printed if self.value else ""


# Parts of a library have the same values over and over.
@lru_cache(maxsize=8192)
def read_fact(field: FactField, text: str) -> FactReading:
    """Read a value as the template has it; one that is empty, or says that there is nothing, is always right."""
    text = text.strip()
    if not text or text.lower() in NOTHING:
        return FactReading(FactValue(text, (float("inf"), text)))
    return _READERS[field.kind](field, text)


def print_fact(field: FactField | None, text: str) -> str:
    """The value in the template's form; as typed if it is not of the right kind or there is no template."""
    return (read_fact(field, text).printed or text.strip()) if field else text.strip()


def fact_order(field: FactField | None, text: str) -> tuple[int, float, str]:
    """By what values are put in order: numbers by their size, then texts by letters, then what is empty."""
    text = text.strip()
    if not text:
        return 2, 0.0, ""
    found = read_fact(field, text).value if field else None
    if found is None:
        quantity = parse_quantity(text)
        return (0, quantity.value, "") if quantity else (1, 0.0, text.casefold())
    number, words = found.order
    return (0, number, words.casefold()) if number != float("inf") else (1, 0.0, words.casefold())


def _text(_field: FactField, text: str) -> FactReading:
    return FactReading(FactValue(text, (float("inf"), text)))


def _number(field: FactField, text: str) -> FactReading:
    found = parse_quantity(text, field.unit)
    if found is None:
        unit = f" with {field.unit} or without" if field.unit else ""
        example = print_quantity(4700.0, field.unit)
        return FactReading(None, f"“{text}” is not a number{unit}", f"such as {example}")
    sign = next((s for s in ("±", "≤", "≥") if text.startswith(s)), "")
    return FactReading(FactValue(sign + print_quantity(found.value, field.unit), (found.value, "")))


def _range(field: FactField, text: str) -> FactReading:
    found = parse_range(text, field.unit)
    if found is not None:
        return FactReading(FactValue(print_range(found), (found.low, "")))
    end = _ONE_END.match(text.replace("−", "-"))
    single = parse_quantity((end[2] if end else text).replace("−", "-"), field.unit)
    if single is None:
        unit = f" {field.unit}" if field.unit else ""
        return FactReading(None, f"“{text}” is not a range", f"such as -40 to 85{unit}, or one value")
    word = (
        {"≤": "max", "<=": "max", "up to": "max", "≥": "min", ">=": "min"}.get(end[1].lower(), end[1].lower())
        if end
        else ""
    )
    printed = print_quantity(single.value, field.unit)
    return FactReading(FactValue(f"{word} {printed}".strip(), (single.value, "")))


def _choice(field: FactField, text: str) -> FactReading:
    wanted = _plain(text)
    for place, choice in enumerate(field.choices):
        if _plain(choice) == wanted:
            return FactReading(FactValue(choice, (float(place), choice)))
    return FactReading(None, f"“{text}” is not one of the choices", ", ".join(field.choices))


def _plain(text: str) -> str:
    return re.sub(r"[\W_]+", "", text).casefold()


def _link(_field: FactField, text: str) -> FactReading:
    try:
        found = urlsplit(text)
    except ValueError:
        found = None
    if found is None or found.scheme not in ("http", "https") or "." not in (found.hostname or "") or " " in text:
        return FactReading(None, f"“{text}” is not a link", "such as https://maker.example/part.pdf")
    return FactReading(FactValue(text, (float("inf"), text)))


def _date(_field: FactField, text: str) -> FactReading:
    for form in _DATES:
        try:
            day = dt.datetime.strptime(text, form).date()
        except ValueError:
            continue
        return FactReading(FactValue(day.isoformat(), (float(day.toordinal()), "")))
    return FactReading(None, f"“{text}” is not a date", "such as 2026-11-28")


def _yes_no(_field: FactField, text: str) -> FactReading:
    word = text.casefold()
    if word in YES or word in NO:
        answer = "yes" if word in YES else "no"
        return FactReading(FactValue(answer, (float(answer == "no"), answer)))
    return FactReading(None, f"“{text}” is neither yes nor no", "yes or no")


_READERS: Mapping[FactKind, Callable[[FactField, str], FactReading]] = {
    "text": _text,
    "number": _number,
    "range": _range,
    "choice": _choice,
    "link": _link,
    "date": _date,
    "yes/no": _yes_no,
}
