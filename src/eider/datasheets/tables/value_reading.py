"""The text of a cell or of a dimension on a drawing to a length: what datasheets write, and what to doubt in it."""

import re
from functools import lru_cache

import msgspec

from eider.geometry.expressions import MM_PER_UNIT, NUMBER, UNIT, UNIT_SPELLINGS
from eider.geometry.lengths import LengthError, parse_limits
from eider.geometry.limits import Limits

_DASHES = re.compile("[\u2010-\u2015\u2212\u00ad]")
EMPTY = frozenset({"", "-", "–", "—", "−", "--", "---", "––", "——", "－", "ー", "n/a", "na", "...", "…", "*", "."})
_TIMES = re.compile(r"^\s*(\d+)\s*[x×X]\s*(?=[\d.(∅Øø])")
# A count before a dimension, as in `6-0.30`: no range goes down.
_COUNTED = re.compile(rf"^(\d{{1,2}}|\d{{3}}(?!\s*-\s*\.))\s*-\s*(?=({NUMBER}))")
# Two sums in one text, or a tolerance at a sum: nobody can tell what is meant.
_SUM = re.compile(rf"{NUMBER}\s*[*/]\s*{NUMBER}|{NUMBER}\s*[-+]\s*{NUMBER}\s*±|{NUMBER}\s+{NUMBER}")
_LEADERS = re.compile(r"(?:\s*\.){3,}\s*")
# A remark at a number, glued to it or in brackets: `0.95BSC`, `1.270 (BSC)`.
_REMARKS = "bsc|basic|ref|reference|typ|typical|nom|nominal|max|min"
_GLUED = re.compile(rf"(?<=[\d)])\s*[\[(]?\s*({_REMARKS})\b\.?(?:\s*[\])])?", re.IGNORECASE)
_TO = re.compile(r"(?<=\d)\s*to\s*(?=[\d.])", re.I)
# A value and in brackets the same in another unit: `1.39(0.055)`, `5.80-6.20 [0.228-0.244]`.
# The same with a remark behind it that is of both: `.050 (1.27) BSC`.
_REMARKED_BRACKETS = re.compile(r"^([\d.,]+)\s*[\[(]([\d.,\s]+)[\])]\s*(BSC|basic|REF|typ|max|min)\.?$", re.IGNORECASE)
_IN_BRACKETS = re.compile(r"^([^\[(]*\d)\s*[\[(]\s*([^\])]*\d[^\])]*?)\s*[\])]$")
_DIAMETER = re.compile(r"^\s*(?:[∅Øø⌀]|[Rr](?=[\d.]))\s*")
_FOOTNOTE = re.compile(r"(?:\s*[\[(](?:note\s*)?\d{1,2}[\])]|\s*[*†‡]+)$", re.IGNORECASE)
_BRACKETED = re.compile(rf"^[\[(]\s*({NUMBER}(?:\s*{UNIT})?)\s*[\])]$")
_BASIC = re.compile(r"\b(?:bsc|basic|ref|reference)\b\.?", re.IGNORECASE)
_TYPICAL = re.compile(r"\b(?:typ|typical|nom|nominal)\b\.?", re.IGNORECASE)
_LIMIT_WORD = re.compile(r"\b(min|max)(?:imum)?\b\.?", re.IGNORECASE)
_RANGE_SIGN = re.compile(r"(?<=[\d)])\s*[~～]\s*(?=[\d.])")
_UNEVEN = re.compile(rf"^({NUMBER})\s*\+\s*({NUMBER})\s*[/ ]?\s*-\s*({NUMBER})$")
_UNEVEN_DOWN = re.compile(rf"^({NUMBER})\s*-\s*({NUMBER})\s*[/ ]?\s*\+\s*({NUMBER})$")
_SLASH = re.compile(rf"^({NUMBER})\s*/\s*({NUMBER})\s*({UNIT})?$")
# Thousandths of an inch without the dot before them.
_FAINT_DOT = re.compile(r"(?<![.,\d])(\d{3})(?![.,\d])")
# The abbreviation of the inch is a word of its own in brackets, or behind the name of a limit, as in “Min in”.
_SHORT_INCH = re.compile(r"[\[(]\s*in\.?\s*[\])]|^\W*(?:min|nom|typ|max)[a-z]*\W+in\.?\W*$", re.IGNORECASE)
_PLAIN = re.compile(rf"^{NUMBER}$")
# `1,000` can be one or a thousand; `0,650` cannot.
_THOUSAND = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?!\d)")


_PLAIN_SIGNS = {
    0x2212: "-", 0x2009: " ", 0x202F: " ", 0x00A0: " ", 0x2010: "-", 0x2011: "-", 0x00B1: "±", 0x02DC: "~", 0x223C: "~",
    0x25E6: "°",
}  # fmt: skip


# How a note begins that says that another unit gives the same length.
AGREES = "agrees with "


class ReadValue(msgspec.Struct, frozen=True):
    """A length as it was read: `text` is fit for a number field, `limits` are in mm.

    `notes` say what was left aside, `doubt` what a person must look at; a text that is not a length has no limits.
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


def number_pair(text: str) -> tuple[str, str] | None:
    """The two numbers that a text is, as limits over or beside each other in a cell; None for any other text."""
    words = text.split()
    return (words[0], words[1]) if len(words) == 2 and all(map(is_number, words)) else None


@lru_cache(8192)
def with_hyphens(text: str) -> str:
    """A text whose dashes of all kinds are hyphens: names are written with any of them."""
    return _DASHES.sub("-", text)


def cleaned(text: str) -> str:
    """Signs as a number field takes them: minus, dashes, narrow spaces; dots that lead to a value are left out."""
    text = text.translate(_PLAIN_SIGNS)
    text = re.sub(r"\+\s*/?\s*-(?=\s*[\d.])", "±", text) if "+/-" in text or "+ / -" in text else text
    return " ".join(_LEADERS.sub(" ", text).split()) if "..." in text or ". ." in text else " ".join(text.split())


@lru_cache(4096)
def read_value(text: str, unit: str = "mm") -> ReadValue:
    """Read one text as a length in `unit` (where it names none itself)."""
    notes: list[str] = []
    body = _without_marks(cleaned(text), notes)
    if "°" in body:
        return ReadValue(body, None, tuple(notes), "an angle, no length")
    if (pair := _IN_BRACKETS.match(body)) and not _GLUED.search(body):
        return _with_second_unit(pair[1].strip(), pair[2].strip(), unit, notes)
    if pair := _REMARKED_BRACKETS.match(body):
        return _with_second_unit(f"{pair[1].strip()} {pair[3]}", f"{pair[2].strip()} {pair[3]}", unit, notes)
    doubt = "the comma may part decimals or thousands" if _THOUSAND.search(body) else ""
    body = _TO.sub("–", _GLUED.sub(r" \1", body))
    remark = _BASIC.search(body)
    body = _TYPICAL.sub("nom", _BASIC.sub("", body)).strip()
    body = _LIMIT_WORD.sub(lambda m: m[1].lower(), _RANGE_SIGN.sub("–", body))
    body, doubt = _rewritten(body, doubt)
    if _SUM.search(body):
        return ReadValue(cleaned(text), None, tuple(notes), "not read as one length: it holds several numbers")
    try:
        limits = parse_limits(body, unit=unit)
    except LengthError:
        return ReadValue(cleaned(text), None, tuple(notes), "not read as a length")
    if remark and limits.is_exact:
        body = f"{_in_unit(body, unit)} {'BSC' if remark[0].lower().startswith('b') else 'REF'}"
    return ReadValue(_in_unit(body, unit), limits, tuple(notes), doubt)


def _without_marks(body: str, notes: list[str]) -> str:
    """A value without footnote, count, sign of a diameter or radius, and brackets of a reference; these are noted."""
    if match := _FOOTNOTE.search(body):
        notes.append(f"footnote {match[0].strip()} left aside")
        body = body[: match.start()].strip()
    body = _without_count(body, notes)
    if match := _DIAMETER.match(body):
        notes.append("radius" if match[0].strip() in "Rr" else "diameter")
        body = body[match.end() :]
    if match := _BRACKETED.match(body):
        notes.append("reference")
        body = match[1]
    return body


def _without_count(body: str, notes: list[str]) -> str:
    """A dimension without the count before it: `6X 0.3`, `6-0.30 ±0.03`."""
    match = _TIMES.match(body)
    if match is None and (counted := _COUNTED.match(body)):
        is_count = number(counted[2]) < float(counted[1]) and "." in counted[2].replace(",", ".")
        match = counted if is_count else None
    if match is None:
        return body
    notes.append(f"{match[1]} times")
    return body[match.end() :]


def _with_second_unit(first: str, second: str, unit: str, notes: list[str]) -> ReadValue:
    """A value with the same in brackets in another unit: whichever way round they agree tells which is which.

    Of the two the one in millimetres is taken, as of two columns. Scans lose the dot before a part of an inch: where
    the length agrees with it, it was there.
    """
    others = [name for name in ("in", "mm", "mil") if name != unit]
    value = read_value(first, unit)
    for one, other in ((unit, others[0]), (unit, others[1]), ("in", "mm")):
        value, beside = read_value(first, one), read_value(second, other)
        if value.limits is not None and beside.limits is not None and _agree(value, first, one, beside, second, other):
            taken, held = (beside, value) if other == "mm" else (value, beside)
            return msgspec.structs.replace(taken, notes=(*notes, *taken.notes, f"{AGREES}{held.text}"))
    dotted = _FAINT_DOT.sub(r".\1", first)
    if dotted != first:
        mended = _with_second_unit(dotted, second, unit, notes)
        if mended.limits is not None and not mended.doubt:
            return mended
    if value.limits is None:
        return ReadValue(f"{first} ({second})", None, tuple(notes), "not read as a length")
    plain = read_value(first, unit)
    doubt = f"“{second}” in brackets beside it is not the same length in another unit"
    return msgspec.structs.replace(plain, notes=(*notes, *plain.notes), doubt=plain.doubt or doubt)


def _agree(value: ReadValue, first: str, one: str, beside: ReadValue, second: str, other: str) -> bool:
    """Whether two readings are one length within the rounding of both."""
    allowed = 0.51 * (last_place(first) * MM_PER_UNIT[one] + last_place(second) * MM_PER_UNIT[other]) + 1e-6
    for name in ("min", "nom", "max"):
        a, b = getattr(value.limits, name), getattr(beside.limits, name)
        if (a is None) != (b is None) or (a is not None and b is not None and abs(a - b) > allowed):
            return False
    return True


def last_place(text: str) -> float:
    """The last place to which the numbers of a text are given."""
    decimals = [len(n.replace(",", ".").partition(".")[2]) for n in re.findall(NUMBER, text)]
    return 10.0 ** -min(decimals, default=0)


def _rewritten(body: str, doubt: str) -> tuple[str, str]:
    if match := _UNEVEN.match(body):
        return f"{match[1]} +{match[2]}/-{match[3]}", doubt
    if match := _UNEVEN_DOWN.match(body):
        return f"{match[1]} +{match[3]}/-{match[2]}", doubt
    if match := _SLASH.match(body):
        low, high = sorted((match[1], match[2]), key=number)
        return (
            f"{low}–{high} {match[3] or ''}".strip(),
            doubt or "two numbers with a stroke between them: taken as limits",
        )
    return body, doubt


def number(text: str) -> float:
    """The value of one plain number, with point or comma."""
    return float(text.replace(",", "."))


def _in_unit(body: str, unit: str) -> str:
    """The text with its unit, where that is not mm and the text does not name one."""
    # The “in” of “min” is no unit.
    has_unit = re.search(rf"(?<![A-Za-z]){UNIT}", body)
    return body if unit == "mm" or has_unit else f"{body} {unit}"


def compose(low: str, nom: str, high: str, unit: str = "mm", remark: str = "") -> str:
    """One text of the texts of min, nom and max; each may be empty."""
    if nom and not low and not high:
        return f"{_in_unit(nom, unit)} {remark}".strip()
    if low and high and not nom:
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
