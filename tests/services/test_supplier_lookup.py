"""Suppliers for a library: names that are learned, lifecycles refreshed, alternates, and the commands."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import msgspec
import pytest

from command_line import answer, eider
from eider.catalogue.answer_cache import AnswerCache, cache_path
from eider.catalogue.protocol import CatalogueEntry, PartQuery, SupplierOffer
from eider.catalogue.service import StandIn
from eider.commands.facts.fact_edits import set_fact
from eider.demo.build import attach
from eider.demo.catalogue import SUPPLIERS, demo_entries
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.demo.sheets import write_chip_datasheet
from eider.errors import InputError
from eider.library import Library, init_library, open_library
from eider.services.parts.part_evaluation import save_evaluated
from eider.services.releasing.part_releasing import release_part
from eider.services.suppliers.supplier_lookup import (
    find_alternates,
    known_part,
    learn_name,
    learned_names,
    look_up,
    open_catalogue,
    prefer_supplier,
    preferred_suppliers,
    query_of_text,
)
from eider.services.suppliers.supplier_refresh import keep_lifecycles, refresh_standing

replace = msgspec.structs.replace
OTHER = CatalogueEntry(
    "BRM-C1608-100N", "Brimfall", "Chip capacitor",
    {"Capacitance": "0.1 µF", "Size": "1608", "Voltage Rating": "25 V", "Mounting Style": "surface mount"},
    (SupplierOffer("Kelp & Sons", "KB1", 5, "EUR"),), "capacitor", "not recommended",
)  # fmt: skip


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("demo")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    write_chip_datasheet(folder / "LYN-C.pdf")
    series, sheet = chips(), attach(library, folder / "LYN-C.pdf", 2)
    for size in series.sizes:
        for value in ("100 nF", "1 µF") if size.size == "1608" else ("100 nF",):
            release_part(library, chip_part(library, series, size, value, sheet), "first release")
    library.close()
    return folder / "library"


@pytest.fixture
def library(made: Path, tmp_path: Path) -> Library:
    return open_library(shutil.copytree(made, tmp_path / "library"))


def _changed(entry: CatalogueEntry) -> CatalogueEntry:
    if entry.part_number == "LYN-C1608-100N":
        return replace(entry, lifecycle="end of life")
    if entry.part_number == "LYN-C2012-100N":
        return replace(entry, offers=tuple(replace(o, stock=0) for o in entry.offers))
    return entry


@pytest.fixture(scope="module")
def service() -> Iterator[StandIn]:
    chips_alone = [_changed(e) for e in demo_entries() if e.part_number.startswith("LYN-C")]
    entries = [e for e in chips_alone if e.part_number != "LYN-C1608-1U"]
    stand_in = StandIn((*entries, OTHER), SUPPLIERS)
    yield stand_in
    stand_in.close()


@pytest.mark.parametrize(
    ("text", "query"),
    [
        ("NVK-1216T", PartQuery(number="NVK-1216T")),
        ("100n 1608", PartQuery(words="100n 1608")),
        ("Size=1608 Dielectric=X7R", PartQuery(facts=(("Size", "1608"), ("Dielectric", "X7R")))),
        ("chip Size=1608", PartQuery(number="chip", facts=(("Size", "1608"),))),
        ("  ", PartQuery()),
    ],
)
def test_what_is_typed_is_asked(text: str, query: PartQuery) -> None:
    assert query_of_text(text) == query


def test_one_word_that_is_no_number_is_looked_for_among_all_words(service: StandIn) -> None:
    found = look_up(open_catalogue(service.address), query_of_text("X7R").narrowed(size=100))
    assert found.value.total == 59
    with pytest.raises(InputError, match="enter a part number"):
        look_up(open_catalogue(service.address), query_of_text(""))


def test_a_name_is_learned_for_its_category_and_kept_in_the_library(library: Library) -> None:
    learn_name(library, "capacitor", "Mounting Style", "Mounting")
    learn_name(library, "capacitor", "mounting-style", "Assembly")
    learn_name(library, "resistor", "Size", "")
    again = open_library(library.folder)
    assert learned_names(again, "capacitor") == {"mounting-style": "Assembly"}
    assert learned_names(again, "resistor") == {"Size": ""}
    with pytest.raises(InputError):
        learn_name(library, "capacitor", " - ", "Mounting")


def test_suppliers_are_preferred_in_the_library(library: Library) -> None:
    assert preferred_suppliers(library) == ()
    prefer_supplier(library, "Kelp & Sons", preferred=True)
    prefer_supplier(library, "Farewell Depot", preferred=True)
    prefer_supplier(library, "Kelp & Sons", preferred=False)
    assert preferred_suppliers(open_library(library.folder)) == ("Farewell Depot",)


def test_lifecycle_and_stock_that_changed_are_reported_and_kept(library: Library, service: StandIn) -> None:
    # What was heard before: none in stock of one, some of the other.
    cache = AnswerCache(cache_path(service.address))
    before = {e.part_number: e for e in demo_entries()}
    gone = replace(before["LYN-C1005-100N"], offers=())
    cache.keep_parts([gone, before["LYN-C2012-100N"]], 1.0)
    catalogue = open_catalogue(service.address)
    report = refresh_standing(library, catalogue, service.address, library.search())
    told = [(c.part, c.kind, c.before, c.now) for c in report.changes]
    assert sorted(told) == [
        ("LYN-C1005-100N", "stock", "0", "105,000"),
        ("LYN-C1608-100N", "lifecycle", "active", "end of life"),
        ("LYN-C1608-1U", "unknown", "LYN-C1608-1U", "not in the catalogue"),
        ("LYN-C2012-100N", "no stock", "105,000", "0"),
    ]
    assert (report.asked, report.unchanged) == (4, 0)
    kept = keep_lifecycles(library, report, service.address, "Skerry librarian")
    assert kept.kept == ("LYN-C1608-100N",)
    fact = library.load(library.find("LYN-C1608-100N").id).part.facts["Lifecycle"]
    assert fact.value == "end of life"
    assert fact.evidence and (fact.evidence.kind, fact.evidence.text) == ("supplier", service.address)
    known = known_part(service.address, "lyng passive", "LYN-C1608-100N")
    assert known and known.entry.lifecycle == "end of life"


def test_a_number_that_two_makers_have_is_not_guessed(library: Library, service: StandIn) -> None:
    part = library.load(library.find("LYN-C1005-100N").id)
    save_evaluated(library, set_fact(part, "Manufacturer", "Brimfall"))
    report = refresh_standing(library, open_catalogue(service.address), service.address, library.search("C1005"))
    assert [(c.kind, c.now) for c in report.changes] == [("unknown", "known of Lyng Passive only")]


def test_alternates_have_the_same_value_and_say_what_differs(library: Library, service: StandIn) -> None:
    bundle = library.load(library.find("LYN-C1608-100N").id)
    ours = find_alternates(library, bundle, None)
    assert [(a.name, a.source) for a in ours] == [("LYN-C1005-100N", "library"), ("LYN-C2012-100N", "library")]
    assert [(d.name, d.mine, d.theirs) for d in ours[0].differs] == [("Rated voltage", "50 V", "25 V")]
    assert ours[0].pattern.startswith("CAPC1005")
    # 0.1 µF and 100 nF: the service compares texts, so it sends none; typed as the supplier does it is found.
    same = set_fact(bundle, "Capacitance", "0.1 µF")
    assert [a.name for a in find_alternates(library, same, None)] == [a.name for a in ours]


def _run(library: Library, service: StandIn, *more: str) -> dict[str, object]:
    found: dict[str, object] = answer("catalogue", *more, "--address", service.address)
    return found


def test_the_commands_look_up_take_refresh_and_find_alternates(library: Library, service: StandIn) -> None:
    folder = str(library.folder)
    found = _run(library, service, "search", "Size=1608", "--in-stock", "--quantity", "500", "--small")
    assert found["count"] == 19
    learn_name(library, "capacitor", "Mounting Style", "Mounting")
    taken = _run(library, service, "take", folder, "LYN-C1005-100N")
    assert taken["facts"] == {"Mounting": "surface mount", "Size": "1005", "Farewell Depot number": "FD-C100513"}
    assert taken["told"] == ["Mounting Style copied as Mounting"]
    report = _run(library, service, "refresh", folder, "LYN-C1608", "--keep")
    assert report["kept"] == ["LYN-C1608-100N"]
    others = _run(library, service, "alternates", folder, "LYN-C1608-100N")
    assert [a["name"] for a in others["alternates"]] == ["LYN-C1005-100N", "LYN-C2012-100N"]  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("search", "x"), "no catalogue is set"),
        (("search", "x", "--preferred", "--address", "http://127.0.0.1:9"), "--preferred needs --library"),
        (("serve", "--trouble", "sulking"), "not a kind of trouble"),
        (("serve", "--port", "99999"), "99999"),
    ],
)
def test_a_command_that_cannot_be_done_says_why(arguments: tuple[str, ...], says: str) -> None:
    assert says in eider("catalogue", *arguments, status=2).stderr
