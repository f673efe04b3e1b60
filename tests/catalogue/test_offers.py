"""What a quantity costs, worked by hand from the price breaks."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from catalogue.catalogue_entries import entry, offer
from eider.catalogue.offers import OfferChoice, best_quote, quote, stock_of
from eider.catalogue.protocol import Price

BREAKS = ((1, "4.10"), (100, "3.22"), (1000, "2.50"))


@pytest.mark.parametrize(
    ("quantity", "minimum", "multiple", "ordered", "each", "cost"),
    [
        (1, 1, 1, 1, "4.10", "4.10"),
        (99, 1, 1, 99, "4.10", "405.90"),
        (100, 1, 1, 100, "3.22", "322.00"),
        (101, 1, 50, 150, "3.22", "483.00"),
        (3, 500, 500, 500, "3.22", "1610.00"),
        (999, 1, 10, 1000, "2.50", "2500.00"),
    ],
)
def test_a_quantity_is_priced_by_its_break(
    quantity: int, minimum: int, multiple: int, ordered: int, each: str, cost: str
) -> None:
    found = quote(offer("Farewell", 5, *BREAKS, minimum=minimum, multiple=multiple), quantity)
    assert found is not None
    assert (found.ordered, found.each, found.cost) == (ordered, Decimal(each), Decimal(cost))


def test_the_cheapest_who_has_enough_is_first_and_else_the_cheapest() -> None:
    part = entry("X", offer("Kelp", 3, (1, "0.10")), offer("Farewell", 50, (1, "0.20")))
    few, many = best_quote(part, OfferChoice(), 3), best_quote(part, OfferChoice(), 10)
    huge = best_quote(part, OfferChoice(), 100)
    assert few and many and huge
    assert [q.offer.supplier for q in (few, many, huge)] == ["Kelp", "Farewell", "Kelp"]


def test_offers_of_other_suppliers_currencies_or_without_stock_do_not_count() -> None:
    part = entry("X", offer("Kelp", 0, (1, "0.10")), offer("Farewell", 50, (1, "0.20"), currency="USD"))
    assert best_quote(part, OfferChoice(("Guillemot",)), 1) is None
    assert best_quote(part, OfferChoice(currency="NOK"), 1) is None
    found = best_quote(part, OfferChoice(in_stock=True), 1)
    assert found and found.offer.supplier == "Farewell"


def test_one_stock_that_is_sold_in_two_currencies_counts_once() -> None:
    part = entry("X", offer("Kelp", 7, (1, "1")), offer("Kelp", 7, (1, "1.1"), currency="USD"), offer("Farewell", 2))
    assert stock_of(part) == 9
    assert stock_of(part, ("Farewell",)) == 2


@pytest.mark.parametrize("text", ["", "dear", "NaN", "-1", "Infinity", "1e999999", "1,5"])
def test_a_price_that_is_no_amount_is_none(text: str) -> None:
    assert Price(1, text).amount is None
    assert quote(offer("Kelp", 1, (1, text)), 1) is None


@given(st.integers(-5, 10**7), st.integers(-5, 10**6), st.integers(-5, 10**4))
def test_what_is_ordered_is_enough_and_in_multiples(quantity: int, minimum: int, multiple: int) -> None:
    found = quote(offer("Kelp", 1, (1, "0.01"), minimum=minimum, multiple=multiple), quantity)
    assert found is not None
    assert found.ordered >= max(quantity, minimum, 1)
    assert found.ordered % max(multiple, 1) == 0
    assert found.ordered < max(quantity, minimum, 1) + max(multiple, 1)
