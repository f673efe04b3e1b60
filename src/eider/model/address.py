"""Addresses of what a part holds: each names a document of the part, a field in it, and an element of that field.

They are parsed once from text and printed once; in between they are values. In JSON they stand as text.
"""

from collections.abc import Callable, Mapping
from typing import Any, ClassVar, NoReturn

from eider.errors import InputError


class Address:
    """The address of a value; equal where type and element are. The text is the one in files and on the command line.

    `document` and `field` are those of the whole type; what else names the value are the slots of each type.
    """

    __slots__: ClassVar[tuple[str, ...]] = ()
    document: ClassVar[str] = ""
    field: ClassVar[str] = ""

    def _set(self, **values: object) -> None:
        for slot, value in values.items():
            object.__setattr__(self, slot, value)

    @property
    def element(self) -> tuple[object, ...]:
        """What tells the value from others of its kind."""
        return tuple(getattr(self, slot) for slot in self.__slots__)

    def __setattr__(self, name: str, _value: object) -> NoReturn:
        raise AttributeError(f"an address does not change: {name}")

    def __eq__(self, other: object) -> bool:
        return type(self) is type(other) and self.element == other.element

    def __hash__(self) -> int:
        return hash((type(self), self.element))

    def __reduce__(self) -> tuple[Callable[..., Any], tuple[object, ...]]:
        return type(self), self.element

    def __str__(self) -> str:
        return ".".join(str(piece) for piece in (self.document, self.field, *self.element) if piece != "")

    def __repr__(self) -> str:
        return f"{type(self).__name__}({', '.join(map(repr, self.element))})"


class DimensionAddress(Address):
    """A length of the package sheet by the standard's letter: `sheet.dims.E`."""

    __slots__ = ("letter",)
    letter: str
    document, field = "sheet", "dims"

    def __init__(self, letter: str) -> None:
        self._set(letter=letter)


class PadAddress(Address):
    """A pad, or a via, by its number: `lands.pads.3`."""

    __slots__ = ("number",)
    number: str
    document, field = "lands", "pads"

    def __init__(self, number: str) -> None:
        self._set(number=number)


class ManufacturerLengthAddress(Address):
    """A length of the manufacturer's land pattern by its group and key: `lands.suggested.row 1.Z`."""

    __slots__ = ("group", "key")
    group: str
    key: str
    document, field = "lands", "suggested"

    def __init__(self, group: str, key: str) -> None:
        self._set(group=group, key=key)


class KeptDistanceAddress(Address):
    """A kept distance by its key: `lands.distances.pad 1 left – pad 8 right`."""

    __slots__ = ("key",)
    key: str
    document, field = "lands", "distances"

    def __init__(self, key: str) -> None:
        self._set(key=key)


class PinAddress(Address):
    """A pin of the pin table by its number, or one cell of its row: `symbol.pins.5`, `symbol.pins.5.name`."""

    __slots__ = ("cell", "number")
    number: str
    cell: str
    document, field = "symbol", "pins"

    def __init__(self, number: str, cell: str = "") -> None:
        self._set(number=number, cell=cell)

    @property
    def element(self) -> tuple[object, ...]:
        """The number, then the cell."""
        return (self.number, self.cell)

    @property
    def row(self) -> "PinAddress":
        """The whole row of the pin."""
        return PinAddress(self.number)


class FactAddress(Address):
    """A fact by its name: `facts.Manufacturer`."""

    __slots__ = ("name",)
    name: str
    document = "facts"

    def __init__(self, name: str) -> None:
        self._set(name=name)


class OutlineStepAddress(Address):
    """A step of an outline that is being edited, from 0: `outline.steps.2`."""

    __slots__ = ("index",)
    index: int
    document, field = "outline", "steps"

    def __init__(self, index: int) -> None:
        self._set(index=index)


class LineAddress(Address):
    """A line of a file that was read, from 1: `line 12`."""

    __slots__ = ("number",)
    number: int
    document = "line"

    def __init__(self, number: int) -> None:
        self._set(number=number)

    def __str__(self) -> str:
        return f"line {self.number}"


class FieldAddress(Address):
    """A field of a document, or all of it: `sheet.pins`, `lands.courtyard`, `symbol`, `source`."""

    __slots__ = ("name", "of")
    of: str
    name: str

    def __init__(self, of: str, name: str = "") -> None:
        self._set(of=of, name=name)

    @property
    def element(self) -> tuple[object, ...]:
        """The document, then the field."""
        return (self.of, self.name)


def _pin_address(text: str) -> PinAddress:
    number, dot, cell = text.rpartition(".")
    return PinAddress(number, cell) if dot and cell in PIN_CELLS else PinAddress(text)


def _manufacturer_length(text: str) -> ManufacturerLengthAddress:
    group, _, key = text.rpartition(".")
    return ManufacturerLengthAddress(group, key)


# Cells of a pin's row that have an address of their own.
PIN_CELLS = ("number", "name", "type", "description", "group", "unit")
# What the beginning of a text says of the rest. Longer beginnings come before shorter ones.
_KINDS: Mapping[str, Callable[[str], Address]] = {
    "sheet.dims.": DimensionAddress,
    "lands.pads.": PadAddress,
    "lands.suggested.": _manufacturer_length,
    "lands.distances.": KeptDistanceAddress,
    "symbol.pins.": _pin_address,
    "facts.": FactAddress,
}
_NUMBERED: Mapping[str, Callable[[int], Address]] = {"outline.steps.": OutlineStepAddress, "line ": LineAddress}
DOCUMENTS = ("sheet", "lands", "symbol", "part", "body", "source")


def parse_address(text: str) -> Address:
    """Read an address.

    Raises:
        InputError: the text is none.
    """
    for beginning, make in _KINDS.items():
        if text.startswith(beginning) and text != beginning:
            return make(text.removeprefix(beginning))
    for beginning, numbered in _NUMBERED.items():
        if text.startswith(beginning) and text.removeprefix(beginning).isdecimal():
            return numbered(int(text.removeprefix(beginning)))
    document, _, name = text.partition(".")
    if document not in DOCUMENTS or "." in name:
        raise InputError(
            f"“{text}” is no address; expected one such as sheet.dims.E, lands.pads.3 or facts.Manufacturer"
        )
    return FieldAddress(document, name)


def pad_number(address: Address | None) -> str:
    """The number of the pad that an address names; empty where it names none."""
    return address.number if isinstance(address, PadAddress) else ""


def pin_number(address: Address | None) -> str:
    """The number of the pin that an address names; empty where it names none."""
    return address.number if isinstance(address, PinAddress) else ""


def dimension_letter(address: Address | None) -> str:
    """The letter of the length that an address names; empty where it names none."""
    return address.letter if isinstance(address, DimensionAddress) else ""


def fact_name(address: Address | None) -> str:
    """The name of the fact that an address names; empty where it names none."""
    return address.name if isinstance(address, FactAddress) else ""
