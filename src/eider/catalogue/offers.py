"""What a quantity costs: price breaks, smallest quantities, and which offer is the cheapest."""

from collections.abc import Collection, Iterable
from decimal import Decimal
from typing import NamedTuple

from eider.catalogue.protocol import CatalogueEntry, SupplierOffer


class Quote(NamedTuple):
    """What is ordered of an offer for a quantity: at least its minimum, in its multiples; and the price of one."""

    offer: SupplierOffer
    ordered: int
    each: Decimal

    @property
    def cost(self) -> Decimal:
        """Of all that is ordered."""
        return self.ordered * self.each


class OfferChoice(NamedTuple):
    """Which offers count: of some suppliers (all where none is named), in one currency, in stock."""

    suppliers: tuple[str, ...] = ()
    currency: str = ""
    in_stock: bool = False


def quote(offer: SupplierOffer, quantity: int) -> Quote | None:
    """The price of a quantity by the price breaks; None where the offer has no price that can be read."""
    multiple = max(offer.multiple, 1)
    ordered = -(-max(quantity, offer.minimum, 1) // multiple) * multiple
    prices = {price.quantity: price.amount for price in offer.prices}
    reached = [start for start, amount in prices.items() if start <= ordered and amount is not None]
    each = prices[max(reached)] if reached else None
    return None if each is None else Quote(offer, ordered, each)


def fitting_offers(entry: CatalogueEntry, choice: OfferChoice, quantity: int = 0) -> list[SupplierOffer]:
    """The offers that count; with a quantity only those whose minimum is not above it."""
    return [offer for offer in entry.offers if _fits(offer, choice, quantity)]


def _fits(offer: SupplierOffer, choice: OfferChoice, quantity: int) -> bool:
    return (
        (not choice.suppliers or offer.supplier in choice.suppliers)
        and (not choice.currency or offer.currency == choice.currency)
        and (not choice.in_stock or offer.stock >= max(quantity, 1))
        and (not quantity or offer.minimum <= quantity)
    )


def best_quote(entry: CatalogueEntry, choice: OfferChoice, quantity: int) -> Quote | None:
    """The cheapest way to buy a quantity, those who have enough of it first; None where nobody sells it."""
    quotes = [found for offer in fitting_offers(entry, choice) if (found := quote(offer, quantity)) is not None]
    return min(quotes, key=lambda q: (q.offer.stock < q.ordered, q.cost), default=None)


def stock_of(entry: CatalogueEntry, suppliers: Collection[str] = ()) -> int:
    """All pieces that some suppliers have, or all of them; one stock in several packings and currencies counts once."""
    by_supplier: dict[tuple[str, str], int] = {}
    for offer in entry.offers:
        if not suppliers or offer.supplier in suppliers:
            key = offer.supplier, offer.packing
            by_supplier[key] = max(by_supplier.get(key, 0), offer.stock)
    return sum(by_supplier.values())


def price_words(offer: SupplierOffer) -> str:
    """The price breaks in a line: `1: 4.10 EUR, 100: 3.22 EUR`."""
    return ", ".join(f"{price.quantity}: {price.each} {offer.currency}" for price in offer.prices)


def currencies_of(entries: Iterable[CatalogueEntry]) -> tuple[str, ...]:
    """The currencies in which any of some parts is sold."""
    return tuple(sorted({offer.currency for entry in entries for offer in entry.offers}))
