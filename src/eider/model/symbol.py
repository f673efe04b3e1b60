"""A symbol: a pin table with its arrangement, and the drawing that follows from them."""

from typing import Literal

import msgspec

from eider.geometry.shapes import Box
from eider.model.evidence import Evidence

SYMBOL_FORMAT = "eider-symbol/1"
PIN_TYPES = (
    "input", "output", "bidirectional", "tri-state", "passive", "power input", "power output",
    "open collector", "open emitter", "free", "not connected", "undecided",
)  # fmt: skip
# Connection grids that are in use (mm).
GRIDS = (2.54, 1.27, 2.5)
Arrangement = Literal["number", "function"]
Side = Literal["left", "right", "top", "bottom"]


class Pin(msgspec.Struct, frozen=True, omit_defaults=True):
    """One row of the pin table.

    `assumed` says that the type was guessed from the name and nobody has confirmed it yet. `evidence` is that of
    number and name together; `former` as in a Dimension, `former_text` being both with a space between. `unit` is
    the label of the unit that it stands in (empty: the first), `side` the side that the user put it on (empty: as
    arranged).
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
    side: str = ""

    @property
    def text(self) -> str:
        """Number and name: what its evidence speaks of."""
        return f"{self.number} {self.name}"


class PlacedPin(msgspec.Struct, frozen=True):
    """A pin on the symbol: its connection end in mm, and the side of the body on which it stands."""

    number: str
    name: str
    type: str
    x: float
    y: float
    side: Side
    active_low: bool = False


class SymbolUnit(msgspec.Struct, frozen=True, omit_defaults=True):
    """One part of a symbol that can be placed on its own: pins and the body box round them (mm).

    `graphic` names a standard graphic that is drawn in place of the box. `name` is its label where there are several;
    units with the same `swap` can be exchanged for each other.
    """

    pins: tuple[PlacedPin, ...]
    body: Box
    graphic: str = ""
    name: str = ""
    swap: str = ""


class SymbolMeasures(msgspec.Struct, frozen=True, omit_defaults=True):
    """How a library's symbols are drawn (IPC-2612-1 and common practice): lengths in mm, the standard's form.

    `grid` is that of the connection ends, `pin_grids` the length of a pin in grids, `text` the height of names.
    """

    grid: float = 2.54
    pin_grids: int = 2
    text: float = 1.27
    form: Literal["iec", "ieee"] = "iec"

    def __post_init__(self) -> None:
        if self.grid not in GRIDS:
            raise ValueError(f"a symbol's grid is one of {', '.join(map(str, GRIDS))} mm, not {self.grid}")
        if not 1 <= self.pin_grids <= 3 or not 1.0 <= self.text <= 2.54:
            raise ValueError("pins are 1 to 3 grids long, texts 1.0 to 2.54 mm high")


class Symbol(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe (pins, arrangement, reference letter, graphic, measures) and result (units)."""

    format: str = SYMBOL_FORMAT
    id: str
    name: str
    reference: str = "U"
    arrangement: Arrangement = "function"
    graphic: str = ""
    measures: SymbolMeasures = SymbolMeasures()
    pins: tuple[Pin, ...] = ()
    units: tuple[SymbolUnit, ...] = ()
