"""The protocol: `GET /v1/parts?number=…` gives entries as JSON. See docs/format/catalogue.md."""

import msgspec


class Price(msgspec.Struct, frozen=True):
    """A price for one piece from a quantity on."""

    quantity: int
    each: str


class SupplierOffer(msgspec.Struct, frozen=True):
    """What one supplier has: its own number, pieces in stock, currency (ISO 4217) and price breaks."""

    supplier: str
    number: str
    stock: int
    currency: str
    prices: tuple[Price, ...] = ()


class CatalogueEntry(msgspec.Struct, frozen=True):
    """One part as the catalogue knows it."""

    part_number: str
    manufacturer: str
    description: str = ""
    facts: dict[str, str] = {}
    offers: tuple[SupplierOffer, ...] = ()


class Answer(msgspec.Struct, frozen=True):
    """The answer to a look-up; an empty list where nothing is known."""

    parts: tuple[CatalogueEntry, ...]
