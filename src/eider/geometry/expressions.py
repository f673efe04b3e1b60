"""Sums with units and letters: `(E - L)/2 + 0.1`, `12 mil`, `1.27/2 mm`.

A bare number is a plain factor beside `*` and `/`, and a length in the default unit beside `+` and `-` or alone.
"""

import math
import operator
import re
import threading
from collections.abc import Callable, Mapping
from typing import Any

import msgspec
from simpleeval import InvalidExpression, NameNotDefined, SimpleEval

from eider.errors import InputError

MM_PER_UNIT: Mapping[str, float] = {"mm": 1.0, "mil": 0.0254, "in": 25.4, "um": 0.001}
UNIT_SPELLINGS: Mapping[str, str] = {
    "mm": "mm", "mil": "mil", "mils": "mil", "in": "in", "inch": "in", '"': "in", "″": "in",
    "um": "um", "µm": "um", "μm": "um",
}  # fmt: skip

NUMBER = r"(?:\d+(?:[.,]\d+)?|\.\d+)"
UNIT = r"(?:mm|mils?|inch|in|um|µm|μm|\"|″)(?![A-Za-z0-9_])"
# A sum of a sheet is shorter; the time for one grows with its length, and an error repeats so much of it.
LONGEST_SUM, LONGEST_SHOWN = 1000, 120
_TOKEN = re.compile(
    rf"\s*(?:(?P<number>{NUMBER})(?:\s*(?P<unit>{UNIT}))?|(?P<name>[A-Za-z][A-Za-z0-9_]*)|(?P<op>[-+*/()]))"
)
# Python 3.11 counts the depth of a parse once for all threads, and fails when two of them parse at the same time.
_PARSING = threading.Lock()
_PLAIN = re.compile(rf"\s*(?P<number>{NUMBER})(?:\s*(?P<unit>{UNIT}))?\s*")


class LengthError(InputError):
    """A text that cannot be read as a length: where it goes wrong, and what was expected there."""

    def __init__(self, text: str, position: int, expected: str) -> None:
        super().__init__(text, position, expected)
        self.text, self.position, self.expected = text, position, expected

    def __str__(self) -> str:
        found = f"“{self.text[self.position]}”" if self.position < len(self.text) else "the end"
        shown = self.text if len(self.text) <= LONGEST_SHOWN else f"{self.text[:LONGEST_SHOWN]}…"
        return f"cannot read “{shown}”: at character {self.position + 1} found {found}, expected {self.expected}"


class Quantity(msgspec.Struct, frozen=True):
    """A value in millimetres, or a plain factor (`is_length` false); a factor can be the quotient of two lengths."""

    value: float
    is_length: bool
    is_ratio: bool = False


def evaluate_points(text: str, names: Mapping[str, float]) -> tuple[tuple[float, float], ...]:
    """Places `x,y x,y …`, each coordinate a sum without spaces, in mm.

    Raises:
        LengthError: a place or a sum cannot be read.
    """
    found = []
    for piece in text.split():
        x, comma, y = piece.partition(",")
        if not comma:
            raise LengthError(piece, 0, "“x,y” without a space, such as “-2,E/2”")
        found.append((evaluate_expression(x, names, "mm"), evaluate_expression(y, names, "mm")))
    return tuple(found)


def evaluate_expression(text: str, names: Mapping[str, float], unit: str, *, whole: str = "", offset: int = 0) -> float:
    """The value in mm of a sum in `text`; `names` are letters in mm, `unit` is that of bare numbers.

    `whole` and `offset` place `text` inside a longer text, for the position in a LengthError.

    Raises:
        LengthError: a letter is unknown, or the text is not a sum with a finite value; it tells the place.
    """
    whole = whole or text
    if len(text) > LONGEST_SUM:
        raise LengthError(whole, offset, f"a sum of at most {LONGEST_SUM} characters")
    if plain := _PLAIN.fullmatch(text):
        given = UNIT_SPELLINGS[plain["unit"]] if plain["unit"] else unit
        return _finite(_number(plain["number"], whole, offset) * MM_PER_UNIT[given], whole, offset)
    python, columns = _translate(text, whole, offset)
    operators: dict[Any, Callable[..., Quantity]] = _operators(MM_PER_UNIT[unit])
    evaluator = SimpleEval(operators=operators, functions={}, names={})
    evaluator.nodes = {k: v for k, v in evaluator.nodes.items() if k.__name__ in _NODES}
    evaluator.names = {
        **{f"v_{name}": Quantity(value, True) for name, value in names.items()},
        **{f"u_{key}": Quantity(mm, True) for key, mm in MM_PER_UNIT.items()},
        "one": Quantity(1.0, False),
    }
    try:
        with _PARSING:
            tree = evaluator.parse(python)
        result = evaluator.eval(python, previously_parsed=tree)
    except NameNotDefined as fault:
        letter = str(fault.name).removeprefix("v_")
        position = offset + re.search(rf"\b{re.escape(letter)}\b", text).start()  # type: ignore[union-attr]
        known = ", ".join(sorted(names)) or "none here"
        raise LengthError(whole, position, f"a known letter ({known})") from fault
    except SyntaxError as fault:
        column = min(max((fault.offset or 1) - 1, 0), len(columns) - 1)
        raise LengthError(whole, columns[column] + offset, "a number, a letter or a bracket that fits") from fault
    except (InvalidExpression, ArithmeticError, ValueError, RecursionError) as fault:
        raise LengthError(whole, offset, f"a sum that gives a length ({fault})") from fault
    if result.is_ratio:
        raise LengthError(whole, offset, "a length; one length divided by another is a plain number")
    return _finite(result.value if result.is_length else result.value * MM_PER_UNIT[unit], whole, offset)


def _number(text: str, whole: str, offset: int) -> float:
    return _finite(float(text.replace(",", ".")), whole, offset)


def _finite(value: float, whole: str, offset: int) -> float:
    if not math.isfinite(value):
        raise LengthError(whole, offset, "a number with fewer digits")
    return value


_NODES = {"Expr", "BinOp", "UnaryOp", "Name", "Constant"}


def _translate(text: str, whole: str, offset: int) -> tuple[str, list[int]]:
    """Python source of the sum, and for each of its characters the position in `text`."""
    python, columns, position = "", [], 0
    while position < len(text.rstrip()):
        match = _TOKEN.match(text, position)
        if match is None:
            start = position + len(text[position:]) - len(text[position:].lstrip())
            raise LengthError(whole, offset + start, "a number, a letter, + - * / or a bracket")
        kind = match.lastgroup
        if match["number"]:
            number = _number(match["number"], whole, offset + match.start("number"))
            factor = f"u_{UNIT_SPELLINGS[match['unit']]}" if match["unit"] else "one"
            piece, start = f"({number!r}*{factor})", match.start("number")
        elif kind == "name":
            piece, start = f"v_{match['name']}", match.start("name")
        else:
            piece, start = match["op"], match.start("op")
        if piece[0] in "(v" and python.rstrip()[-1:] not in ("", "(", "+", "-", "*", "/"):
            raise LengthError(whole, offset + start, "+ - * or / before it")
        python += piece
        columns += [start] * len(piece)
        position = match.end()
    if not python:
        raise LengthError(whole, offset, "a number")
    return python, [*columns, len(text.rstrip())]


def _operators(mm: float) -> dict[Any, Callable[..., Quantity]]:
    """Arithmetic of quantities, where a bare number beside a length counts as `mm` each."""
    import ast

    def as_length(q: Quantity) -> float:
        if q.is_ratio:
            raise ValueError("a quotient of two lengths is not a length to add")
        return q.value if q.is_length else q.value * mm

    def additive(apply: Callable[[float, float], float]) -> Callable[[Any, Any], Quantity]:
        def combine(a: Any, b: Any) -> Quantity:
            a, b = _as_quantity(a), _as_quantity(b)
            if a.is_length or b.is_length:
                return Quantity(apply(as_length(a), as_length(b)), True)
            return Quantity(apply(a.value, b.value), False, a.is_ratio or b.is_ratio)

        return combine

    return {
        ast.Add: additive(operator.add),
        ast.Sub: additive(operator.sub),
        ast.Mult: _multiply,
        ast.Div: _divide,
        ast.USub: lambda a: msgspec.structs.replace(_as_quantity(a), value=-_as_quantity(a).value),
        ast.UAdd: _as_quantity,
    }


def _as_quantity(value: Any) -> Quantity:
    return value if isinstance(value, Quantity) else Quantity(float(value), False)


def _multiply(a: Any, b: Any) -> Quantity:
    a, b = _as_quantity(a), _as_quantity(b)
    if a.is_length and b.is_length:
        raise ValueError("a length times a length is an area")
    is_length = a.is_length or b.is_length
    return Quantity(a.value * b.value, is_length, not is_length and (a.is_ratio or b.is_ratio))


def _divide(a: Any, b: Any) -> Quantity:
    a, b = _as_quantity(a), _as_quantity(b)
    if b.is_length and not a.is_length:
        raise ValueError("a number divided by a length is not a length")
    is_length = a.is_length and not b.is_length
    return Quantity(a.value / b.value, is_length, not is_length and (b.is_length or a.is_ratio or b.is_ratio))
