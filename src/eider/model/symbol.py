"""A symbol: a pin table with its arrangement, and the drawing that follows from them."""

from typing import Literal

import msgspec

from eider.geometry.plane import Box
from eider.model.evidence import Evidence
from eider.model.item_ref import ItemId

SYMBOL_FORMAT = "eider-symbol/1"
PIN_TYPES = (
    "input", "output", "bidirectional", "tri-state", "passive", "power input", "power output",
    "open collector", "open emitter", "free", "not connected", "undecided",
)  # fmt: skip
# What is drawn at a pin besides its line (IEC 60617-12, IEEE 91): at the edge of the body, or beside the name.
PIN_SHAPES = ("", "clock", "schmitt", "analogue", "tri-state", "open low", "open high")
# Connection grids that are in use (mm).
GRIDS = (2.54, 1.27, 2.5)
Arrangement = Literal["number", "function"]
Side = Literal["left", "right", "top", "bottom"]
# What a custom graphic is made of, one of these in each row.
STROKES = ("pin", "line", "area", "solid", "circle", "dot", "arc", "text")


class Pin(msgspec.Struct, frozen=True, gc=False, omit_defaults=True):
    """One row of the pin table.

    `assumed` says that the type was guessed from the name and nobody has confirmed it yet. `evidence` is that of
    number and name together; `former` as in a Dimension, `former_text` being both with a space between. `unit` is
    the label of the unit that it is in (empty: the first). `shape` is one of `PIN_SHAPES`. `shown` is drawn in
    place of the name: one of the alternative functions, or what the user shortened it to. `more` are further columns,
    such as the length inside the package or the swap group, by the names of the category's template.
    """

    number: str
    name: str = ""
    type: str = "undecided"
    active_low: bool = False
    group: str = ""
    description: str = ""
    alternatives: tuple[str, ...] = ()
    assumed: bool = False
    evidence: Evidence | None = None
    former_text: str = ""
    former: Evidence | None = None
    unit: str = ""
    shape: str = ""
    shown: str = ""
    more: dict[str, str] = {}

    @property
    def drawn(self) -> str:
        """What is written at the pin."""
        return self.shown or self.name

    @property
    def text(self) -> str:
        """Number and name: what its evidence speaks of."""
        return f"{self.number} {self.name}"


class PlacedPin(msgspec.Struct, frozen=True, gc=False, omit_defaults=True):
    """A pin on the symbol: its connection end in mm, and the side of the body on which it stands.

    Pins of one name that are stacked are at one place.
    """

    number: str
    name: str
    type: str
    x: float
    y: float
    side: Side
    active_low: bool = False
    shape: str = ""
    shown: str = ""

    @property
    def drawn(self) -> str:
        """What is written at the pin."""
        return self.shown or self.name


class PinMove(msgspec.Struct, frozen=True, omit_defaults=True):
    """One pin that the user put somewhere else, in one of the two arrangements.

    It stands on `side` right behind pin `after` (empty: first, from the top or from the left); `apart` leaves a gap
    between it and its neighbours.
    """

    pin: str
    arrangement: Arrangement
    side: Side
    after: str = ""
    apart: bool = False


class GraphicStroke(msgspec.Struct, frozen=True, omit_defaults=True):
    """One row of a custom graphic: what it is, its places in grids (`x,y x,y …`, each a sum), and a pin's name or text.

    A circle or dot is a place and a radius, an arc a place, a radius and two angles in degrees.
    """

    kind: str
    points: str
    text: str = ""


class CustomGraphic(msgspec.Struct, frozen=True, omit_defaults=True):
    """A graphic drawn for one symbol: named lengths in grids, each a sum that may use those before it, and rows."""

    lengths: dict[str, str] = {}
    strokes: tuple[GraphicStroke, ...] = ()


class SymbolUnit(msgspec.Struct, frozen=True, omit_defaults=True):
    """One part of a symbol that can be placed on its own: pins and the body box around them (mm).

    `graphic` names a standard graphic that is drawn in place of the box. `name` is its label where there are several;
    units with the same `swap` can be exchanged for each other. `unconnected` are the pins that are listed, not drawn.
    """

    pins: tuple[PlacedPin, ...]
    body: Box
    graphic: str = ""
    name: str = ""
    swap: str = ""
    unconnected: tuple[str, ...] = ()


class SymbolMeasures(msgspec.Struct, frozen=True, omit_defaults=True):
    """How a library's symbols are drawn (IPC-2612-1 and common practice): lengths in mm, the standard's form.

    `grid` is that of the connection ends, `pin_grids` the length of a pin in grids, `text` and `number_text` the
    heights of names and of pin numbers. `active_low` is drawn as a bar over the name, as a circle or as the wedge of
    IEC; supplies and passive pins of one name are listed or stacked; not-connected pins are shown or only listed.
    """

    grid: float = 2.54
    pin_grids: int = 2
    text: float = 1.27
    number_text: float = 0.95
    form: Literal["iec", "ieee"] = "iec"
    filled: bool = True
    active_low: Literal["bar", "circle", "wedge"] = "bar"
    same_names: Literal["listed", "stacked"] = "listed"
    unconnected: Literal["shown", "listed"] = "shown"

    def __post_init__(self) -> None:
        if self.grid not in GRIDS:
            raise ValueError(f"a symbol's grid is one of {', '.join(map(str, GRIDS))} mm, not {self.grid}")
        if not 1 <= self.pin_grids <= 3 or not 1.0 <= self.text <= 2.54 or not 0.5 <= self.number_text <= 2.54:
            raise ValueError("pins are 1 to 3 grids long, names 1.0 to 2.54 mm and numbers 0.5 to 2.54 mm high")


class Symbol(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe (pins, arrangement, moves, reference letter, graphic, measures) and result (units).

    By number the pins stand on two sides, or on four as round a quad package. `custom` is drawn where `graphic` is
    `custom`.
    """

    format: str = SYMBOL_FORMAT
    id: ItemId
    name: str
    reference: str = "U"
    arrangement: Arrangement = "function"
    sides: Literal[2, 4] = 2
    moves: tuple[PinMove, ...] = ()
    graphic: str = ""
    custom: CustomGraphic | None = None
    measures: SymbolMeasures = SymbolMeasures()
    pins: tuple[Pin, ...] = ()
    units: tuple[SymbolUnit, ...] = ()
