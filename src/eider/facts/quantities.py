"""Numbers with units and prefixes (SI brochure; IEC 60062 for a prefix in place of the decimal point), and ranges."""

import math
import re
from functools import lru_cache

import msgspec

# Powers of ten by prefix, smallest first; those that values are printed with.
PREFIXES = {"f": -15, "p": -12, "n": -9, "µ": -6, "m": -3, "": 0, "k": 3, "M": 6, "G": 9, "T": 12}
# Other ways in which a prefix is typed. K is not a kelvin where a value takes prefixes.
_TYPED = {"u": "µ", "μ": "µ", "K": "k", "meg": "M", "MEG": "M", "Meg": "M"}
# Units by the ways in which they are written.
_UNITS = {
    "Ω": ("Ω", "\u2126", "ohm", "ohms", "Ohm", "Ohms", "OHM", "R"),
    "F": ("F", "farad", "farads"),
    "H": ("H", "henry", "henries"),
    "V": ("V", "volt", "volts", "VDC", "Vdc", "V DC", "VAC", "Vac", "V AC"),
    "A": ("A", "amp", "amps", "ampere", "amperes"),
    "W": ("W", "watt", "watts"),
    "Hz": ("Hz", "hz", "HZ", "hertz"),
    "°C": ("°C", "degC", "deg C", "℃", "C"),
    "%": ("%", "percent", "pct"),
    "s": ("s", "sec", "second", "seconds"),
    "m": ("m", "metre", "metres", "meter", "meters"),
    "g": ("g", "gram", "grams"),
    "ppm": ("ppm", "PPM"),
    "ppm/°C": ("ppm/°C", "ppm/K", "ppm/C"),
    "dB": ("dB", "db"),
    "lm": ("lm", "lumen"),
    "cd": ("cd", "candela"),
    "J": ("J", "joule", "joules"),
    "C": ("C", "coulomb"),
    "K/W": ("K/W", "°C/W"),
}
# Units that are written without prefixes, whatever their size.
PLAIN_UNITS = frozenset({"", "°C", "%", "ppm", "ppm/°C", "dB", "K/W"})
# In these a bare letter that could be a unit is a prefix in place of the decimal point: 4k7, 4R7, 2n2, 0µ1.
_IN_PLACE = re.compile(r"^([+-]?\d+)(f|p|n|u|µ|μ|m|k|K|M|G|R|V)(\d+)$")
_NUMBER = re.compile(
    r"^([+-]?)((?:\d{1,3}(?:[ \u00a0\u202f']\d{3})+|\d+)(?:[.,]\d+)?(?:[eE][+-]?\d+)?|[.,]\d+)\s*(.*)$"
)
_RANGE = re.compile(r"^(.*?\S)\s*(?:\.\.\.|…|\.\.|\bto\b|\bbis\b|–|—|(?<=[\d\w%°])\s*-\s*(?=[+-]?\d)|~)\s*(.*)$")
_LARGEST = 1e30


class Quantity(msgspec.Struct, frozen=True, order=True):
    """A value in its plain unit: 4.7 kΩ is 4700 Ω."""

    value: float
    unit: str = ""


class QuantityRange(msgspec.Struct, frozen=True):
    """Two values in one unit, the smaller first."""

    low: float
    high: float
    unit: str = ""


def parse_quantity(text: str, unit: str = "") -> Quantity | None:
    """A number with prefix and unit; a bare one is in `unit`. None where the text is not a value of that unit.

    A sign of tolerance or limit before it (±, ≤, max) does not count. Decimal commas and spaces between thousands are
    read; `1,000` could be either and is not.
    """
    text = re.sub(
        r"^(?:±|\+/-|\+-|≤|≥|<=|>=|<|>|max\.?|min\.?|typ\.?|ca\.?|~)\s*", "", text.strip(), flags=re.IGNORECASE
    )
    if match := _IN_PLACE.match(text):
        return _in_place(match, unit)
    match = _NUMBER.match(text)
    if match is None:
        return None
    sign, digits, rest = match.groups()
    number = _number(digits)
    found = _prefix_and_unit(rest.strip(), unit)
    if number is None or found is None:
        return None
    prefix, own = found
    value = _scaled(number, PREFIXES[prefix])
    return None if value is None else Quantity(-value if sign == "-" else value, own)


def _in_place(match: re.Match[str], unit: str) -> Quantity | None:
    whole, letter, part = match.groups()
    prefix = "" if letter in "RV" else _TYPED.get(letter, letter)
    if (letter == "R" and unit not in ("", "Ω")) or (letter == "V" and unit not in ("", "V")):
        return None
    value = _scaled(float(f"{whole}.{part}"), PREFIXES[prefix])
    own = unit or {"R": "Ω", "V": "V"}.get(letter, "")
    return None if value is None else Quantity(value, own)


def _number(digits: str) -> float | None:
    if re.fullmatch(r"\d{1,3}(?:,\d{3})+", digits):
        # Thousands in one country, a decimal in another: nobody can tell.
        return None
    value = float(re.sub(r"[ \u00a0\u202f']", "", digits).replace(",", "."))
    return value if math.isfinite(value) and abs(value) < _LARGEST else None


def _scaled(number: float, power: int) -> float | None:
    # Through text, so that 4.7 k is 4700 and not 4700.000000000001.
    value = float(f"{number!r}e{power}") if "e" not in repr(number) else number * 10.0**power
    return value if math.isfinite(value) and abs(value) < _LARGEST else None


@lru_cache(maxsize=256)
def _written(unit: str) -> tuple[str, ...]:
    """The ways in which a unit is written, the longest first."""
    return tuple(sorted({unit, *_UNITS.get(unit, ())} - {""}, key=len, reverse=True))


def _prefix_and_unit(rest: str, unit: str) -> tuple[str, str] | None:
    """The prefix and the unit that follow a number; the unit has to be `unit` where that is given."""
    if not rest:
        return "", unit
    wanted = (unit,) if unit else tuple(_UNITS)
    for own in wanted:
        for written in _written(own):
            if not rest.endswith(written):
                continue
            prefix = rest[: -len(written)].strip()
            prefix = _TYPED.get(prefix, prefix)
            if prefix in PREFIXES and (not prefix or own not in PLAIN_UNITS):
                return prefix, own
    prefix = _TYPED.get(rest, rest)
    if prefix in PREFIXES and unit not in PLAIN_UNITS:
        return prefix, unit
    if not unit and prefix in PREFIXES:
        return prefix, ""
    return None


def parse_range(text: str, unit: str = "") -> QuantityRange | None:
    """Two values, such as `−40 to 85 °C` or `1.7…3.6 V`; the unit may stand once. None where it is none."""
    text = text.replace("−", "-").strip()
    match = _RANGE.match(text)
    if match is None:
        return None
    last = parse_quantity(match[2], unit)
    first = parse_quantity(match[1], unit or (last.unit if last else ""))
    if first is None or last is None or first.unit != last.unit:
        return None
    return QuantityRange(min(first.value, last.value), max(first.value, last.value), last.unit)


def print_quantity(value: float, unit: str, *, digits: int = 6) -> str:
    """A value with the prefix that leaves one to three digits before the point: 4700 Ω is 4.7 kΩ."""
    if unit in PLAIN_UNITS or value == 0:
        return f"{_digits(value, digits)} {unit}".strip() if unit != "%" else f"{_digits(value, digits)} %"
    prefix = _best_prefix(abs(value))
    return f"{_digits(value / 10.0 ** PREFIXES[prefix], digits)} {prefix}{unit}"


def print_range(found: QuantityRange) -> str:
    """Both ends with the unit once: −40 to 85 °C."""
    if found.unit in PLAIN_UNITS:
        return f"{_digits(found.low)} to {_digits(found.high)} {found.unit}".strip()
    prefix = _best_prefix(max(abs(found.low), abs(found.high)))
    low, high = (_digits(value / 10.0 ** PREFIXES[prefix]) for value in (found.low, found.high))
    return f"{low} to {high} {prefix}{found.unit}"


def print_code(quantity: Quantity) -> str:
    """A value with its prefix in place of the decimal point, as it is marked on parts (IEC 60062): 4.7 kΩ is 4K7."""
    prefix = _best_prefix(abs(quantity.value)) if quantity.value else ""
    letter = {"": {"Ω": "R"}.get(quantity.unit, quantity.unit), "µ": "U"}.get(prefix, prefix.upper())
    whole, _, part = _digits(quantity.value / 10.0 ** PREFIXES[prefix]).partition(".")
    return f"{whole}{letter}{part}"


def _best_prefix(size: float) -> str:
    """The largest prefix whose power is not above the value; rounding may not lead to 1000 of it."""
    best = "f"
    for prefix, power in PREFIXES.items():
        if size >= 10.0**power * (1 - 1e-9):
            best = prefix
    return best


def _digits(value: float, digits: int = 6) -> str:
    text = f"{value:.{digits}g}"
    if "e" in text:
        text = f"{float(text):.15f}".rstrip("0").rstrip(".") if abs(value) < 1 else f"{float(text):.0f}"
    return text


def value_spellings(text: str) -> tuple[str, ...]:
    """A value with its own prefix and the neighbouring ones, as people search for it: 100nF, 0.1uF, 100000pF.

    None for texts that are no values, and for bare numbers, which could be anything.
    """
    found = None if re.fullmatch(r"[\d\s.,+-]*", text) else parse_quantity(text)
    if found is None or found.value == 0 or (found.unit in PLAIN_UNITS and found.unit):
        return ()
    order = list(PREFIXES)
    at = order.index(_best_prefix(abs(found.value)))
    numbers = {prefix: f"{found.value / 10.0 ** PREFIXES[prefix]:.10g}" for prefix in order[max(at - 1, 0) : at + 2]}
    return tuple(f"{number}{'u' if prefix == 'µ' else prefix}{found.unit}" for prefix, number in numbers.items())
