"""The text of a cell or of a dimension on a drawing to a length: what datasheets write, and what to doubt in it."""

import re
from functools import lru_cache

import msgspec

from eider.geometry.expressions import MM_PER_UNIT, NUMBER, UNIT, UNIT_SPELLINGS
from eider.geometry.lengths import LengthError, parse_limits
from eider.geometry.limits import Limits

EMPTY = frozenset({"", "-", "–", "—", "−", "--", "---", "––", "——", "n/a", "na", "...", "…", "*", "."})
_TIMES = re.compile(r"^\s*(\d+)\s*[x×X]\s*(?=[\d.(∅Øø])")
_DIAMETER = re.compile(r"^\s*(?:[∅Øø⌀]|[Rr](?=[\d.]))\s*")
_FOOTNOTE = re.compile(r"(?:\s*[\[(](?:note\s*)?\d{1,2}[\])]|\s*[*†‡]+)$", re.IGNORECASE)
_BRACKETED = re.compile(rf"^[\[(]\s*({NUMBER}(?:\s*{UNIT})?)\s*[\])]$")
_BASIC = re.compile(r"\b(?:bsc|basic|ref|reference)\b\.?", re.IGNORECASE)
_TYPICAL = re.compile(r"\b(?:typ|typical|nom|nominal)\b\.?", re.IGNORECASE)
_LIMIT_WORD = re.compile(r"\b(min|max)(?:imum)?\b\.?", re.IGNORECASE)
_RANGE_SIGN = re.compile(r"(?<=[\d)])\s*[~～]\s*(?=[\d.])")
_UNEVEN = re.compile(rf"^({NUMBER})\s*\+\s*({NUMBER})\s*[/ ]?\s*-\s*({NUMBER})$")
_UNEVEN_DOWN = re.compile(rf"^({NUMBER})\s*-\s*({NUMBER})\s*[/ ]?\s*\+\s*({NUMBER})$")
_SLASH = re.compile(rf"^({NUMBER})\s*/\s*({NUMBER})$")
_SHORT_INCH = re.compile(r"[\[(]\s*in\.?\s*[\])]", re.IGNORECASE)
_PLAIN = re.compile(rf"^{NUMBER}$")
# `1,000` can be one or a thousand; `0,650` cannot.
_THOUSAND = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?!\d)")


class ReadValue(msgspec.Struct, frozen=True):
    """A length as it was read: `text` is fit for a number field, `limits` are in mm.

    `notes` say what was left aside, `doubt` what a person must look at; a text that is no length has no limits.
    """

    text: str
    limits: Limits | None = None
    notes: tuple[str, ...] = ()
    doubt: str = ""


def is_empty(text: str) -> bool:
    """Whether a cell says that there is no value."""
    return text.strip().lower() in EMPTY


def is_number(text: str) -> bool:
    """Whether a text is one plain number."""
    return bool(_PLAIN.match(text.strip()))


def cleaned(text: str) -> str:
    """Signs as a number field takes them: minus, dashes, narrow spaces, decimal points between spaces."""
    text = text.translate({0x2212: "-", 0x2009: " ", 0x202F: " ", 0x00A0: " ", 0x2010: "-", 0x2011: "-", 0x00B1: "±"})
    text = re.sub(r"\+\s*/?\s*-(?=\s*[\d.])", "±", text) if "+/-" in text or "+ / -" in text else text
    return " ".join(text.split())


@lru_cache(4096)
def read_value(text: str, unit: str = "mm") -> ReadValue:
    """Read one text as a length in `unit` (where it names none itself)."""
    body, notes = cleaned(text), []
    if match := _FOOTNOTE.search(body):
        notes.append(f"footnote {match[0].strip()} left aside")
        body = body[: match.start()].strip()
    if match := _TIMES.match(body):
        notes.append(f"{match[1]} times")
        body = body[match.end() :]
    if match := _DIAMETER.match(body):
        notes.append("radius" if match[0].strip() in "Rr" else "diameter")
        body = body[match.end() :]
    if match := _BRACKETED.match(body):
        notes.append("reference")
        body = match[1]
    if "°" in body:
        return ReadValue(body, None, tuple(notes), "an angle, no length")
    doubt = ""
    if _THOUSAND.search(body):
        doubt = "the comma may part decimals or thousands"
    remark = _BASIC.search(body)
    body = _TYPICAL.sub("nom", _BASIC.sub("", body)).strip()
    body = _LIMIT_WORD.sub(lambda m: m[1].lower(), _RANGE_SIGN.sub("–", body))
    body, doubt = _rewritten(body, doubt)
    try:
        limits = parse_limits(body, unit=unit)
    except LengthError:
        return ReadValue(cleaned(text), None, tuple(notes), "not read as a length")
    if remark and limits.is_exact:
        body = f"{body} {'BSC' if remark[0].lower().startswith('b') else 'REF'}"
    return ReadValue(_in_unit(body, unit), limits, tuple(notes), doubt)


def _rewritten(body: str, doubt: str) -> tuple[str, str]:
    if match := _UNEVEN.match(body):
        return f"{match[1]} +{match[2]}/-{match[3]}", doubt
    if match := _UNEVEN_DOWN.match(body):
        return f"{match[1]} +{match[3]}/-{match[2]}", doubt
    if match := _SLASH.match(body):
        low, high = sorted((match[1], match[2]), key=number)
        return f"{low}–{high}", doubt or "two numbers with a stroke between them: taken as limits"
    return body, doubt


def number(text: str) -> float:
    """The value of one plain number, with point or comma."""
    return float(text.replace(",", "."))


def _in_unit(body: str, unit: str) -> str:
    """The text with its unit, where that is not mm and the text does not name one."""
    return body if unit == "mm" or re.search(rf"{UNIT}", body) else f"{body} {unit}"


def compose(low: str, nom: str, high: str, unit: str = "mm", remark: str = "") -> str:
    """One text of the texts of min, nom and max; each may be empty."""
    if nom and not low and not high:
        body = f"{nom} {remark}".strip()
    elif low and high and not nom:
        body = f"{low}–{high}"
    else:
        body = " ".join(f"{word} {value}" for word, value in (("min", low), ("nom", nom), ("max", high)) if value)
    return _in_unit(body, unit) if body else ""


def unit_of(text: str) -> str:
    """The unit that a heading or caption names: mm, mil, in, um; empty where it names none or several."""
    words = re.findall(r"[a-zµμ\"″]+", text.lower())
    # “Dimensions in mm” names one unit, not two.
    named = [
        word for word in words if word in UNIT_WORDS and (word != "in" or len(words) == 1 or _SHORT_INCH.search(text))
    ]
    found = {UNIT_WORDS[word] for word in named}
    return found.pop() if len(found) == 1 else ""


UNIT_WORDS = {
    **{spelling: unit for spelling, unit in UNIT_SPELLINGS.items() if unit in MM_PER_UNIT},
    "millimetre": "mm", "millimetres": "mm", "millimeter": "mm", "millimeters": "mm",
    "inches": "in", "mils": "mil", "micron": "um", "microns": "um",
}  # fmt: skip
