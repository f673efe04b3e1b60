"""Addresses of what a part holds: each names a document of the part, a field in it, and an element of that field.

They are parsed once from text and printed once; in between they are values. In JSON they stand as text.
"""

from collections.abc import Callable, Mapping
from typing import Any, ClassVar, NoReturn, cast

from eider.errors import InputError


class Address:
    """The address of a value; equal where type and element are. The text is the one in files and on the command line.

    `document` and `field` are those of the whole type; what else names the value are the properties of each type.
    """

    __slots__ = ("_key",)
    _key: tuple[object, ...]
    document: ClassVar[str] = ""
    field: ClassVar[str] = ""

    def __init__(self, *element: object) -> None:
        # Thousands are made and compared for each drawing.
        object.__setattr__(self, "_key", (type(self), *element))

    @property
    def element(self) -> tuple[object, ...]:
        """What tells the value from others of its kind."""
        return self._key[1:]

    def __setattr__(self, name: str, _value: object) -> NoReturn:
        raise AttributeError(f"an address does not change: {name}")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Address) and self._key == other._key

    def __hash__(self) -> int:
        return hash(self._key)

    def __reduce__(self) -> tuple[Callable[..., Any], tuple[object, ...]]:
        return type(self), self.element

    def __str__(self) -> str:
        return ".".join(str(piece) for piece in (self.document, self.field, *self.element) if piece != "")

    def __repr__(self) -> str:
        return f"{type(self).__name__}({', '.join(map(repr, self.element))})"


class DimensionAddress(Address):
    """A length of the package sheet by the standard's letter: `sheet.dims.E`."""

    __slots__ = ()
    document, field = "sheet", "dims"

    def __init__(self, letter: str) -> None:
        super().__init__(letter)

    @property
    def letter(self) -> str:
        """The standard's letter."""
        return str(self._key[1])


class PadAddress(Address):
    """A pad, or a via, by its number: `lands.pads.3`."""

    __slots__ = ()
    document, field = "lands", "pads"

    def __init__(self, number: str) -> None:
        super().__init__(number)

    @property
    def number(self) -> str:
        """The number."""
        return str(self._key[1])


class ManufacturerLengthAddress(Address):
    """A length of the manufacturer's land pattern by its group and key: `lands.suggested.row 1.Z`."""

    __slots__ = ()
    document, field = "lands", "suggested"

    def __init__(self, group: str, key: str) -> None:
        super().__init__(group, key)

    @property
    def group(self) -> str:
        """The group of lands."""
        return str(self._key[1])

    @property
    def key(self) -> str:
        """The key."""
        return str(self._key[2])


class KeptDistanceAddress(Address):
    """A kept distance by its key: `lands.distances.pad 1 left – pad 8 right`."""

    __slots__ = ()
    document, field = "lands", "distances"

    def __init__(self, key: str) -> None:
        super().__init__(key)

    @property
    def key(self) -> str:
        """The key."""
        return str(self._key[1])


class PinAddress(Address):
    """A pin of the pin table by its number, or one cell of its row: `symbol.pins.5`, `symbol.pins.5.name`."""

    __slots__ = ()
    document, field = "symbol", "pins"

    def __init__(self, number: str, cell: str = "") -> None:
        super().__init__(number, cell)

    @property
    def number(self) -> str:
        """The number."""
        return str(self._key[1])

    @property
    def cell(self) -> str:
        """The cell of the row; empty for the whole row."""
        return str(self._key[2])

    @property
    def row(self) -> "PinAddress":
        """The whole row of the pin."""
        return PinAddress(self.number)


class FactAddress(Address):
    """A fact by its name: `facts.Manufacturer`."""

    __slots__ = ()
    document = "facts"

    def __init__(self, name: str) -> None:
        super().__init__(name)

    @property
    def name(self) -> str:
        """The name."""
        return str(self._key[1])


class OutlineStepAddress(Address):
    """A step of an outline that is being edited, from 0: `outline.steps.2`."""

    __slots__ = ()
    document, field = "outline", "steps"

    def __init__(self, index: int) -> None:
        super().__init__(index)

    @property
    def index(self) -> int:
        """The index, from 0."""
        return cast(int, self._key[1])


class LineAddress(Address):
    """A line of a file that was read, from 1: `line 12`."""

    __slots__ = ()
    document = "line"

    def __init__(self, number: int) -> None:
        super().__init__(number)

    @property
    def number(self) -> int:
        """The number."""
        return cast(int, self._key[1])

    def __str__(self) -> str:
        return f"line {self.number}"


class FieldAddress(Address):
    """A field of a document, or all of it: `sheet.pins`, `lands.courtyard`, `symbol`, `source`."""

    __slots__ = ()

    def __init__(self, of: str, name: str = "") -> None:
        super().__init__(of, name)

    @property
    def of(self) -> str:
        """The document."""
        return str(self._key[1])

    @property
    def name(self) -> str:
        """The name."""
        return str(self._key[2])


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
DOCUMENTS = ("sheet", "lands", "symbol", "match", "part", "body", "source")


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
            f"“{text}” is not an address; expected one such as sheet.dims.E, lands.pads.3 or facts.Manufacturer"
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
