"""A part: what ties symbol, footprint, body and facts together."""

import msgspec

from eider.model.doubt import Doubt
from eider.model.evidence import Evidence
from eider.model.intake import ArrivalNote
from eider.model.item_ref import ItemId, Ref, Sha256

PART_FORMAT = "eider-part/1"


class DatasheetLink(msgspec.Struct, frozen=True, omit_defaults=True):
    """A document of the part, kept in the library under its SHA-256."""

    sha256: Sha256
    name: str
    pages: int = 0


class Waiver(msgspec.Struct, frozen=True):
    """A finding accepted by a named person with a reason; `key` is the finding's key, so that it lapses on change."""

    check: str
    key: str
    reason: str
    by: str
    at: str


class Fact(msgspec.Struct, frozen=True, omit_defaults=True):
    """The value of one parameter, and where it came from; `former` as in a Dimension."""

    value: str
    evidence: Evidence | None = None
    former_text: str = ""
    former: Evidence | None = None


class FigurePin(msgspec.Struct, frozen=True):
    """A pin as a figure shows it: number, name, and the middle of its number in PDF points."""

    number: str
    name: str
    x: float
    y: float


# From where a pinout figure shows the package.
SEEN_FROM = ("above", "below", "mating side")


class PinoutFigure(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """The pinout figure of a datasheet: where it stands, its pins, and how high its text is (PDF points).

    `document` is the SHA-256 of the datasheet, `page` counts from 1, `box` is x0, y0, x1, y1; `seen` is one of
    `SEEN_FROM`.
    """

    document: str
    page: int
    box: tuple[float, float, float, float]
    pins: tuple[FigurePin, ...]
    size: float
    seen: str = "above"


class Release(msgspec.Struct, frozen=True):
    """One release of an item: revision counted from 1, who, when (ISO 8601, UTC), and the note."""

    revision: int
    note: str
    by: str
    at: str


class Withdrawal(msgspec.Struct, frozen=True, omit_defaults=True):
    """Why a part shall not be used any more, who says so and when (ISO 8601, UTC), and what to use in its place."""

    reason: str
    by: str
    at: str
    successor: Ref | None = None


class Part(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """A part of the library.

    `match` holds only what differs from number to number: pin number to the pads that belong to it. `mechanical` are
    pads that belong to no pin, `internal` pins that have no pad, both said to be so. `pinout` is the datasheet's own
    figure, against which number, name and place of each pin are held. `origin` is the part that this
    one, or its package, was begun from. `arrivals` tell what came from elsewhere, the oldest first. `to_confirm` are
    the doubts of a draft that nobody has looked at yet.
    """

    format: str = PART_FORMAT
    id: ItemId
    name: str
    category: str = ""
    description: str = ""
    package: Ref
    symbol: Ref
    footprint: Ref
    body: Ref
    match: dict[str, tuple[str, ...]] = {}
    mechanical: tuple[str, ...] = ()
    internal: tuple[str, ...] = ()
    pinout: PinoutFigure | None = None
    facts: dict[str, Fact] = {}
    datasheets: tuple[DatasheetLink, ...] = ()
    waivers: tuple[Waiver, ...] = ()
    release: Release | None = None
    withdrawn: Withdrawal | None = None
    origin: Ref | None = None
    arrivals: tuple[ArrivalNote, ...] = ()
    to_confirm: tuple[Doubt, ...] = ()
