"""The catalogue protocol, version 1: what is asked, and what a service answers. See docs/format/catalogue.md."""

from collections.abc import Mapping
from decimal import Decimal, InvalidOperation
from typing import Any, Literal

import msgspec

from eider.facts.categories import spelling_key

# The standings of a part, from the best to the worst.
LIFECYCLES = ("active", "not recommended", "end of life", "obsolete")
# So many parts are on one page, and so many can be asked for by their exact numbers.
MOST_ON_PAGE = 100
# A price above it is a slip.
HIGHEST_PRICE = 10**9


class Price(msgspec.Struct, frozen=True):
    """A price for one piece from a quantity on; `each` is a decimal number as text."""

    quantity: int
    each: str

    @property
    def amount(self) -> Decimal | None:
        """The price as a number; None where the text is not an amount of money."""
        try:
            amount = Decimal(self.each)
        except InvalidOperation:
            return None
        return amount if amount.is_finite() and 0 <= amount <= HIGHEST_PRICE else None


class SupplierOffer(msgspec.Struct, frozen=True):
    """What one supplier has of a part in one packing.

    Attributes:
        number: the supplier's own.
        stock: pieces that are there now.
        currency: of the prices (ISO 4217).
        minimum: the smallest quantity that is sold; `multiple`: what quantities are multiples of.
        packing: *reel*, *cut tape*, *tray*, *tube*, *bag*.
        lead_weeks: until more come; None where that is not known.
    """

    supplier: str
    number: str
    stock: int
    currency: str
    prices: tuple[Price, ...] = ()
    minimum: int = 1
    multiple: int = 1
    packing: str = ""
    lead_weeks: int | None = None


class CatalogueEntry(msgspec.Struct, frozen=True):
    """One part as the catalogue knows it; `datasheet` and `step` are links, which Eider does not follow by itself."""

    part_number: str
    manufacturer: str
    description: str = ""
    facts: dict[str, str] = {}
    offers: tuple[SupplierOffer, ...] = ()
    category: str = ""
    lifecycle: str = ""
    datasheet: str = ""
    step: str = ""

    @property
    def key(self) -> tuple[str, str]:
        """By what two answers are known to speak of one part: manufacturer and number, however they are spelled."""
        return spelling_key(self.manufacturer), spelling_key(self.part_number)


class Supplier(msgspec.Struct, frozen=True):
    """A supplier, its country (ISO 3166), and the currencies (ISO 4217) it sells in."""

    name: str
    country: str
    currencies: tuple[str, ...]


class CatalogueCategory(msgspec.Struct, frozen=True):
    """A class of parts: how many there are, and the facts that they can be chosen by with their commonest values."""

    key: str
    title: str
    parts: int
    facts: dict[str, tuple[str, ...]] = {}


class PartPage(msgspec.Struct, frozen=True):
    """One page of the parts that were found; an empty one where nothing is known."""

    parts: tuple[CatalogueEntry, ...]
    total: int
    page: int = 1
    pages: int = 1


class SupplierList(msgspec.Struct, frozen=True):
    """All suppliers of a service."""

    suppliers: tuple[Supplier, ...]


class CategoryList(msgspec.Struct, frozen=True):
    """All categories of a service."""

    categories: tuple[CatalogueCategory, ...]


class Problem(msgspec.Struct, frozen=True):
    """Why a request was refused, in words."""

    message: str


class Endpoint(msgspec.Struct, frozen=True):
    """One thing that can be asked: its path, its parameters with what each means, and the kind of its answer."""

    path: str
    title: str
    parameters: Mapping[str, str]
    answer: type[PartPage] | type[SupplierList] | type[CategoryList]


SUPPLIERS = Endpoint("/v1/suppliers", "The suppliers of this service", {}, SupplierList)
CATEGORIES = Endpoint("/v1/categories", "The categories of parts, and the facts to choose by", {}, CategoryList)
PARTS = Endpoint(
    "/v1/parts",
    "Parts that fit everything that is asked",
    {
        "number": "a manufacturer part number or the beginning or a piece of it",
        "words": "words and values, all of which a part has, in any order",
        "category": "the key of a category",
        "fact": "NAME=VALUE, a fact that a part has; may be given several times",
        "supplier": "a supplier that sells it; may be given several times, and then one of them",
        "currency": "prices in this currency (ISO 4217)",
        "in_stock": "1 for parts that a supplier has now",
        "quantity": "a quantity that can be bought: the minimum is not above it",
        "exact": "a whole manufacturer part number; may be given up to 100 times",
        "page": "the page of the answer, from 1",
        "size": "parts on a page, up to 100",
    },
    PartPage,
)
ALTERNATES = Endpoint(
    "/v1/alternates",
    "Parts that a supplier would send in place of one",
    {"manufacturer": "of the part", "number": "its manufacturer part number, whole"},
    PartPage,
)
ENDPOINTS = (SUPPLIERS, CATEGORIES, PARTS, ALTERNATES)
Trouble = Literal["none", "slow", "failing", "hanging", "lying", "huge"]


class PartQuery(msgspec.Struct, frozen=True, kw_only=True):
    """What is asked of `PARTS`; empty fields ask for nothing."""

    number: str = ""
    words: str = ""
    category: str = ""
    facts: tuple[tuple[str, str], ...] = ()
    suppliers: tuple[str, ...] = ()
    currency: str = ""
    in_stock: bool = False
    quantity: int = 0
    exact: tuple[str, ...] = ()
    page: int = 1
    size: int = 20

    @property
    def is_empty(self) -> bool:
        """Whether no part is described: neither number, words, category nor facts."""
        return not (self.number or self.words or self.category or self.facts or self.exact)

    def narrowed(self, **changes: Any) -> "PartQuery":
        """The same with other fields."""
        return msgspec.structs.replace(self, **changes)

    def parameters(self) -> list[tuple[str, str]]:
        """The query of the request, those that ask for something alone."""
        made = [
            ("number", self.number),
            ("words", self.words),
            ("category", self.category),
            *(("fact", f"{name}={value}") for name, value in self.facts),
            *(("supplier", name) for name in self.suppliers),
            ("currency", self.currency),
            ("in_stock", "1" if self.in_stock else ""),
            ("quantity", str(self.quantity) if self.quantity else ""),
            *(("exact", number) for number in self.exact),
            ("page", str(self.page) if self.page != 1 else ""),
            ("size", str(self.size)),
        ]
        return [(name, value) for name, value in made if value]
