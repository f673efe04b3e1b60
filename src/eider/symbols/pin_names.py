"""What a pin's name says: active low, alternative functions, the likely electrical type, its place in a bus."""

import re

import msgspec

from eider.symbols.conventions import conventions

# A bar is written in texts as a combining overline behind each letter.
OVERLINE = "\u0305"
_FRONT = re.compile(r"^[/~!\\](?=\w)")
_BEHIND = re.compile(r"(?<=\w)(#|\*|_N|_n)$")
_BUS = re.compile(r"^(?P<stem>.*?[A-Za-z_])\[?(?P<index>\d+)\]?$")
_ONE_NAME = re.compile(r"[A-Za-z0-9+.]+/[A-Za-z0-9+.]+")
_ALTERNATIVES = re.compile(r"(?<=[\w#*])\s*/\s*(?=[\w/~!])")


class NameReading(msgspec.Struct, frozen=True):
    """A name without its mark of active low, the mark that was found (or empty), and alternative functions."""

    name: str
    mark: str = ""
    alternatives: tuple[str, ...] = ()

    @property
    def active_low(self) -> bool:
        """Whether a mark of active low was found."""
        return bool(self.mark)


class TypeGuess(msgspec.Struct, frozen=True):
    """A type proposed from a name, and how sure that is (0 to 1)."""

    type: str
    confidence: float


# Names of the pins that thermal pads and tabs belong to, in small letters.
THERMAL_NAMES = frozenset(
    {"ep", "epad", "pad", "thermal pad", "exposed pad", "tab", "heat sink", "heatsink", "gnd_pad"}
)


def read_name(text: str) -> NameReading:
    """Recognise active low in the notations of datasheets, and split alternative functions.

    Taken as marks are a bar, one of / ~ ! in front, # * _N behind; a leading n and a trailing _B only where a usual
    active-low control remains. `NC`, `nom` and `N1` are none; `NRST` is what the pin is called. A bar over one of two
    names, as in `WP/IO2`, says nothing of the pin as a whole.
    """
    pieces = _ALTERNATIVES.split(text.strip())
    # `PC14/XI` and `E/D` are what the pin is called; lists of functions are longer, or spaced.
    first, *alternatives = [text.strip()] if len(pieces) == 2 and _ONE_NAME.fullmatch(text.strip()) else pieces
    name, mark = _without_mark(first)
    return NameReading(name, mark, tuple(alternatives))


def _without_mark(name: str) -> tuple[str, str]:
    if OVERLINE in name:
        return without_bars(name), "" if is_partly_barred(name) else "bar"
    if match := _FRONT.match(name):
        return name[1:], match[0]
    if match := _BEHIND.search(name):
        return name[: match.start()], match[0]
    if name[:1] == "n" and _is_control(name[1:]):
        return name[1:], name[0]
    if name.endswith("_B") and _is_control(name[:-2]):
        return name[:-2], "_B"
    return name, ""


def without_bars(name: str) -> str:
    """A name without the bars over its letters."""
    return name.replace(OVERLINE, "")


def is_partly_barred(name: str) -> bool:
    """Whether a bar is over one of several names that a stroke parts: `WP/IO2` with a bar over `WP`."""
    bare = without_bars(name)
    return OVERLINE in name and "/" in bare and name.count(OVERLINE) < len(bare)


def _is_control(name: str) -> bool:
    return name.rstrip("0123456789") in conventions().active_low.controls


def guess_type(name: str) -> TypeGuess | None:
    """The type that a bare name usually has; None where nothing speaks for one."""
    for rule in conventions().types:
        if rule.fits(name):
            return TypeGuess(rule.type, rule.confidence)
    return None


def is_ground(name: str) -> bool:
    """Whether a supply pin of this name is a ground or a negative supply."""
    return any(rule.ground and rule.fits(name) for rule in conventions().types)


def read_type(word: str) -> str | None:
    """The electrical type that a word of a pin table stands for; None where it is not known."""
    wanted = word.strip().lower()
    return next((kind for kind, words in conventions().words.items() if wanted in words), None)


def bus_key(name: str) -> tuple[str, int]:
    """Stem and index of a bus member, so that D2 is before D10; index −1 for a plain name."""
    match = _BUS.match(name)
    return (match["stem"], int(match["index"])) if match else (name, -1)


def bank_of(name: str) -> str:
    """The number of the bank that a name tells (`IO_L3P_15`, `VCCO_34`, `B2_IO7`); empty where it tells none."""
    for pattern in conventions().banks.patterns:
        if match := re.fullmatch(pattern, name, re.IGNORECASE):
            return match[1]
    return ""


def natural_key(text: str) -> tuple[tuple[int, int, str], ...]:
    """Sorts numbers inside texts by value: 2 before 10, A2 before A10, A before AA."""
    pieces = re.findall(r"\d+|\D+", text)
    return tuple((0, int(p), "") if p.isdecimal() else (1, len(p), p) for p in pieces)
