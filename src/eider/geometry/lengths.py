"""Reads lengths as datasheets and people write them, and prints them back. The only place that knows units."""

import math
import re
from collections.abc import Mapping

from eider.geometry.expressions import (
    LONGEST_SUM,
    MM_PER_UNIT,
    NUMBER,
    UNIT,
    UNIT_SPELLINGS,
    LengthError,
    evaluate_expression,
)
from eider.geometry.limits import Limits

__all__ = [
    "MM_PER_UNIT",
    "LengthError",
    "Limits",
    "format_length",
    "format_limits",
    "parse_length",
    "parse_limits",
]

# No package, pad or board is larger; a number beyond it is a slip of the finger.
LARGEST_MM = 10_000.0
# Sums of floats are cut to a millionth of a micrometre, so that 0.41 − 0.10 is 0.31.
_NOISE_DECIMALS = 9
# Decimals that are printed at most: 0.1 µm, 0.0025 µm and 0.025 µm, all below any drawing's accuracy.
DECIMALS: Mapping[str, int] = {"mm": 4, "mil": 3, "in": 6, "um": 2}

_LENGTH = rf"{NUMBER}(?:\s*{UNIT})?"
_DASH_RANGE = re.compile(rf"^\s*({_LENGTH})\s*[-–—]\s*({_LENGTH})\s*$")
_DOT_RANGE = re.compile(r"\.\.\.?|…|\bto\b")
_PLUS_MINUS = re.compile(r"±|\+/-|\+-")
_TWO_SIDED = re.compile(rf"\+\s*({_LENGTH})\s*/\s*-\s*({_LENGTH})\s*$")
_TWO_SIDED_DOWN = re.compile(rf"-\s*({_LENGTH})\s*/\s*\+\s*({_LENGTH})\s*$")
_SLASHED = re.compile(rf"^\s*({NUMBER})\s*({UNIT})?\s*/\s*({NUMBER})\s*({UNIT})?(?:\s*/\s*{NUMBER}\s*(?:{UNIT})?)*\s*$")
# Denominators on a scale divided in halves.
_INCH_FRACTIONS = frozenset({2, 4, 8, 16, 32, 64})
_KEYWORD = re.compile(r"\b(min|nom|typ|max)\b\.?|(≤|<=)|(≥|>=)", re.IGNORECASE)
_REMARK = re.compile(r"\b(bsc|basic|ref|reference)\b\.?\s*$", re.IGNORECASE)
_END_UNIT = re.compile(rf"(?<=[\d)\s.])({UNIT})\s*$")
_LIMIT_OF: Mapping[str, str] = {"min": "min", "nom": "nom", "typ": "nom", "max": "max"}


def parse_limits(text: str, names: Mapping[str, float] | None = None, unit: str = "mm") -> Limits:
    """Read a length with or without tolerance; the result is in mm.

    Taken are a number or a sum (`1.27`, `(E - L)/2 + 0.1`), a range (`0.31-0.51`, `0.31..0.51`, `0.31–0.51`,
    `0.31 to 0.51`), a tolerance (`0.41±0.10`, `0.41 +0.10/-0.05`), one or more named limits (`max 1.75`, `0.4 min`,
    `≤ 1.2`), each with mm, mil, in or um after any number or at the end, where it then counts for all.
    Two bare numbers with a dash between them are a range; a difference of two numbers is in brackets. Two lengths
    with a slash between them (`0.51/0.31`) may be two limits or a quotient, and are refused; a number divided by a
    whole one (`1.27/2`) and a fraction of an inch (`3/16 in`) are read.

    Raises:
        LengthError: the text cannot be read; it says at which character, and what was expected.
    """
    if len(text) > 2 * LONGEST_SUM:
        raise LengthError(text, 0, f"a length of at most {2 * LONGEST_SUM} characters")
    reader = _Reader(text, names or {}, unit)
    body = _REMARK.sub("", text)
    keyed = _parse_keywords(body, reader)
    if keyed is not None:
        return keyed
    if match := _DASH_RANGE.match(body):
        return Limits(min=reader.length(*_group(match, 1)), max=reader.length(*_group(match, 2)))
    if match := _DOT_RANGE.search(body):
        return Limits(min=reader.length(body[: match.start()], 0), max=reader.length(body[match.end() :], match.end()))
    if match := _TWO_SIDED.search(body):
        return _around(reader, body[: match.start()], _group(match, 1), _group(match, 2))
    if match := _TWO_SIDED_DOWN.search(body):
        return _around(reader, body[: match.start()], _group(match, 2), _group(match, 1))
    if match := _PLUS_MINUS.search(body):
        tolerance = (body[match.end() :], match.end())
        return _around(reader, body[: match.start()], tolerance, tolerance)
    _refuse_slashed_limits(body, reader.unit)
    return Limits(nom=reader.length(body, 0))


def parse_length(text: str, names: Mapping[str, float] | None = None, unit: str = "mm") -> float:
    """Read one length without tolerance, in mm; of a range the middle is not guessed: it is refused.

    Raises:
        LengthError: the text is not a length, or has a tolerance.
    """
    limits = parse_limits(text, names, unit)
    if limits.nom is None or limits.min is not None or limits.max is not None:
        raise LengthError(text, 0, "one length without tolerance")
    return limits.nom


def format_length(mm: float, unit: str = "mm", *, with_unit: bool = True) -> str:
    """Print a length in the user's unit, without trailing zeros."""
    value = f"{mm / MM_PER_UNIT[unit]:.{DECIMALS[unit]}f}"
    value = value.rstrip("0").rstrip(".")
    value = "0" if value in ("-0", "") else value
    return f"{value} {unit}" if with_unit else value


def format_limits(limits: Limits, unit: str = "mm", *, with_unit: bool = True) -> str:
    """Print a length with its tolerance in a form that `parse_limits` reads back."""
    end = f" {unit}" if with_unit else ""

    def show(value: float) -> str:
        return format_length(value, unit, with_unit=False)

    low, nom, high = limits.min, limits.nom, limits.max
    if low is not None and nom is not None and high is not None:
        up, down = show(high - nom), show(nom - low)
        tolerance = f" ±{up}" if up == down else f" +{up}/-{down}"
        return (
            f"{show(nom)}{tolerance}{end}"
            if low <= nom <= high
            else f"min {show(low)} nom {show(nom)} max {show(high)}{end}"
        )
    if low is not None and high is not None:
        return f"{show(low)}–{show(high)}{end}"
    parts = [("min", low), ("nom", nom), ("max", high)]
    given = [f"{word} {show(value)}" for word, value in parts if value is not None]
    return (show(nom) if nom is not None and len(given) == 1 else " ".join(given)) + end


class _Reader:
    """Evaluates pieces of one text, with the unit that is at its end."""

    def __init__(self, text: str, names: Mapping[str, float], unit: str) -> None:
        self.text, self.names = text, names
        end = _END_UNIT.search(_KEYWORD.sub(lambda m: " " * len(m[0]), _REMARK.sub("", text)))
        self.unit = UNIT_SPELLINGS[end[1]] if end else unit

    def length(self, piece: str, offset: int) -> float:
        stripped = piece.rstrip()
        if (
            (end := _END_UNIT.search(stripped))
            and UNIT_SPELLINGS[end[1]] == self.unit
            and _is_last(piece, offset, self.text)
        ):
            piece = stripped[: end.start()]
        value = evaluate_expression(piece, self.names, self.unit, whole=self.text, offset=offset)
        if not math.isfinite(value) or abs(value) > LARGEST_MM:
            raise LengthError(self.text, offset, f"a length of at most {LARGEST_MM:g} mm")
        return round(value, _NOISE_DECIMALS)


def _refuse_slashed_limits(body: str, unit: str) -> None:
    """Refuse `0.51/0.31`: datasheets print limits so, and a quotient would be a wrong length that nobody sees."""
    match = _SLASHED.match(body)
    if match is None:
        return
    first, second = match[1], match[3]
    has_third = body.count("/") > 1
    if second.isdecimal() and not has_third:
        if first.isdecimal() and unit == "in" and int(second) in _INCH_FRACTIONS:
            return
        is_half = int(second) == 0 or float(first.replace(",", ".")) / int(second) >= 2
        if (match[4] is None or match[2] is None) and (not first.isdecimal() or is_half):
            return
    count = "three lengths" if has_third else "two lengths"
    low, high = sorted((first, second), key=lambda number: float(number.replace(",", ".")))
    expected = (
        f"a dash between limits ({count} with a slash are either limits, such as {low}–{high}, or a quotient, which is "
        f"written in brackets: ({first}/{second}))"
    )
    raise LengthError(body, match.end(2) if match[2] else match.end(1), expected)


def _is_last(piece: str, offset: int, text: str) -> bool:
    rest = _KEYWORD.sub("", _REMARK.sub("", text[offset + len(piece.rstrip()) :]))
    return not rest.strip()


def _group(match: re.Match[str], number: int) -> tuple[str, int]:
    return match[number], match.start(number)


def _around(reader: _Reader, nominal: str, up: tuple[str, int], down: tuple[str, int]) -> Limits:
    nom = reader.length(nominal, 0)
    low, high = nom - reader.length(*down), nom + reader.length(*up)
    return Limits(min=round(low, _NOISE_DECIMALS), nom=nom, max=round(high, _NOISE_DECIMALS))


def _parse_keywords(body: str, reader: _Reader) -> Limits | None:
    """`max 1.75`, `0.4 min`, `min 0.4 nom 0.5 max 0.6`, `≤ 1.2`; None where no such word stands."""
    words = list(_KEYWORD.finditer(body))
    if not words:
        return None
    before = not body[: words[0].start()].strip()
    values: dict[str, float] = {}
    edge = 0
    for index, word in enumerate(words):
        if before:
            start = word.end()
            stop = words[index + 1].start() if index + 1 < len(words) else len(body)
        else:
            start, stop = edge, word.start()
            edge = word.end()
        limit = _LIMIT_OF[word[1].lower()] if word[1] else ("max" if word[2] else "min")
        if limit in values:
            raise LengthError(reader.text, word.start(), f"only one {limit}")
        values[limit] = reader.length(body[start:stop].rstrip(" ,;"), start)
    if not before and body[edge:].strip() and not re.fullmatch(rf"\s*{UNIT}\s*", body[edge:]):
        raise LengthError(reader.text, edge, "min, nom or max after each number")
    return Limits(min=values.get("min"), nom=values.get("nom"), max=values.get("max"))
