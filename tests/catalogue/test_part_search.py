"""How the stand-in finds parts: numbers, words, values in any spelling, facts, offers, pages."""

import pytest

from catalogue.catalogue_entries import ENTRIES
from eider.catalogue.part_search import PartSearch
from eider.catalogue.protocol import PartQuery

SEARCH = PartSearch(ENTRIES)


def _numbers(**asked: object) -> list[str]:
    return [e.part_number for e in SEARCH.page(PartQuery(**asked)).parts]  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("asked", "found"),
    [
        ({"number": "lyn r1"}, ["LYN-R1-4K7", "XLYN-R1"]),
        ({"words": "4k7"}, ["LYN-R1-4K7", "LYN-R2-4K7", "XLYN-R1"]),
        # A value that is written without its unit is not known to be a resistance.
        ({"words": "4700 ohm 1608"}, ["LYN-R1-4K7"]),
        ({"facts": (("resistance", "4.7k"),)}, ["LYN-R1-4K7", "LYN-R2-4K7", "XLYN-R1"]),
        ({"facts": (("Resistance", "4.7 kΩ"), ("Size", "2012"))}, ["LYN-R2-4K7"]),
        ({"facts": (("Resistance", "4.7 kF"),)}, []),
        ({"category": "capacitor"}, ["LYN-C1"]),
        ({"category": "resistor", "in_stock": True}, ["LYN-R1-4K7", "LYN-R2-4K7", "LYN-R3-10K"]),
        ({"category": "resistor", "suppliers": ("Kelp",), "in_stock": True}, ["LYN-R3-10K"]),
        ({"category": "resistor", "currency": "USD"}, ["LYN-R3-10K"]),
        ({"category": "resistor", "quantity": 100}, ["LYN-R1-4K7", "LYN-R3-10K"]),
        ({"exact": ("lyn-r1-4k7", "LYN-R1")}, ["LYN-R1-4K7"]),
        ({}, []),
        ({"words": "nothing-like-it"}, []),
    ],
)
def test_parts_are_found(asked: dict[str, object], found: list[str]) -> None:
    assert _numbers(**asked) == found


def test_the_offers_that_do_not_fit_are_left_out() -> None:
    (found,) = SEARCH.page(PartQuery(number="LYN-R1-4K7", in_stock=True)).parts
    assert [o.supplier for o in found.offers] == ["Farewell"]


def test_pages_hold_all_parts_once() -> None:
    pages = [SEARCH.page(PartQuery(number="LYN", size=2, page=page)) for page in (1, 2, 3, 4)]
    assert [(p.total, p.pages, len(p.parts)) for p in pages] == [(5, 3, 2), (5, 3, 2), (5, 3, 1), (5, 3, 0)]
    assert len({e.part_number for page in pages for e in page.parts}) == 5


def test_an_alternate_has_the_same_value_and_size() -> None:
    # XLYN-R1 says 4k7 and the first one 4.7 kΩ: a service compares texts, so they are none of each other's.
    same = (*ENTRIES, ENTRIES[0].__class__("B", "Brimfall", "", dict(ENTRIES[0].facts), (), "resistor"))
    found = PartSearch(same).alternates("lyng passive", "LYN-R1-4K7")
    assert [e.part_number for e in found.parts] == ["B"]
    assert PartSearch(same).alternates("Lyng Passive", "unheard-of").total == 0


def test_categories_name_the_commonest_values() -> None:
    first = SEARCH.categories()[1]
    assert (first.key, first.parts, first.facts["Size"]) == ("resistor", 4, ("1608", "2012"))
