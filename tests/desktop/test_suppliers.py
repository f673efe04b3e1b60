"""Facts › Suppliers and Alternates, and lifecycles of many parts, driven in the window against the stand-in."""

from collections.abc import Iterator

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_step, press, settle, type_text
from eider.catalogue.protocol import CatalogueEntry, Price, SupplierOffer
from eider.catalogue.service import ServiceManner, StandIn
from eider.commands.facts import fact_edits
from eider.demo.catalogue import SUPPLIERS, demo_entries
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.facts.step import FactsStep
from eider.desktop.part.steps.facts.supplier_panel import SupplierPanel
from eider.desktop.suppliers.refresh_page import RefreshPage
from eider.services.suppliers.supplier_lookup import learned_names, preferred_suppliers
from eider.views.candidate_rows import LEFT_OUT

FACTS = {"Capacitance": "0.1 µF", "Voltage Rating": "25 V", "Mounting Style": "surface mount", "Colour": "brown"}
OFFER = SupplierOffer("Kelp & Sons", "KB1", 0, "EUR", (Price(1, "0.05"), Price(1000, "0.01")))
OTHER = CatalogueEntry("BRM-C1608-100N", "Brimfall", "Chip capacitor", FACTS, (OFFER,), "capacitor", "not recommended")


@pytest.fixture
def address() -> Iterator[str]:
    service = StandIn((*demo_entries(), OTHER), SUPPLIERS)
    yield service.address
    service.close()


def _open(qtbot: QtBot, window: MainWindow, name: str = "LYN-C1608-100N") -> PartPage:
    window.open_part(window.library.find(name).id)
    qtbot.waitUntil(lambda: window.page is not None, timeout=10_000)
    assert window.page
    open_step(window.page, 6)
    return window.page


def _look_up(qtbot: QtBot, panel: SupplierPanel, text: str) -> list[str]:
    panel.wanted.clear()
    type_text(panel.wanted, text)
    before = panel._heard
    panel.entries = ()
    qtbot.keyClick(panel.wanted, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: bool(panel.entries) or panel._heard != before, timeout=10_000)
    return [c.entry.part_number for c in panel.candidates.records.records]


def _step(page: PartPage) -> FactsStep:
    assert isinstance(page.current, FactsStep)
    return page.current


def test_candidates_are_found_narrowed_and_compared(make_window: MakeWindow, qtbot: QtBot, address: str) -> None:
    window = make_window(address)
    panel = _step(_open(qtbot, window)).suppliers
    assert panel.wanted.text() == "LYN-C1608-100N", "the part's own number is offered"
    assert panel.entries == (), "nothing is asked of itself"
    found = _look_up(qtbot, panel, "capacitor 100n")
    assert len(found) == 4 and "just now" in panel.say.text()
    panel.in_stock.setChecked(True)
    assert "BRM-C1608-100N" not in [c.entry.part_number for c in panel.candidates.records.records]
    panel.in_stock.setChecked(False)
    panel.small.setChecked(True)
    assert [c.entry.part_number for c in panel.candidates.records.records] == ["BRM-C1608-100N"]
    panel.small.setChecked(False)
    panel.quantity.setValue(1000)
    each = {c.entry.part_number: c.each for c in panel.candidates.records.records}
    assert each["BRM-C1608-100N"] == "0.01 EUR"
    panel.candidates.select_rows([0, 1, 2, 3])
    assert len(panel.compared()) == 3, "three stand side by side"
    assert not panel.comparison.isColumnHidden(5)


def test_a_name_is_learned_and_facts_are_copied_under_it(make_window: MakeWindow, qtbot: QtBot, address: str) -> None:
    window = make_window(address)
    page = _open(qtbot, window)
    page.controller.edit("x", lambda b: fact_edits.set_fact(b, "Rated voltage", ""))
    settle(qtbot, window)
    panel = _step(page).suppliers
    assert _look_up(qtbot, panel, "BRM-C1608") == ["BRM-C1608-100N"]
    rows = {f.theirs: f for f in panel.comparison.records.records}
    assert rows["Voltage Rating"].ours == "Rated voltage", "known from the category"
    assert rows["Capacitance"].differs == (False,), "0.1 µF is 100 nF"
    assert "Operating temperature" in panel._names_for(rows["Colour"])
    assert panel._names_for(rows["Packing"] if "Packing" in rows else rows["In stock"]) == ()
    for theirs, ours in (("Mounting Style", "Mounting"), ("Colour", LEFT_OUT)):
        panel._learn(rows[theirs], ours)
        settle(qtbot, window)
    rows = {f.theirs: f for f in panel.comparison.records.records}
    assert (rows["Mounting Style"].ours, rows["Colour"].ours) == ("Mounting", LEFT_OUT)
    assert learned_names(window.library, "capacitor") == {"Mounting Style": "Mounting", "Colour": ""}
    panel.with_prices.setChecked(True)
    press(qtbot, panel, "Copy these facts")
    settle(qtbot, window)
    facts = {name: fact.value for name, fact in page.controller.bundle.part.facts.items()}
    assert facts["Rated voltage"] == "25 V" and facts["Mounting"] == "surface mount"
    assert facts["Kelp & Sons number"] == "KB1"
    assert facts["Kelp & Sons prices"] == "1: 0.05 EUR, 1000: 0.01 EUR"
    assert "Colour" not in facts and facts["Lifecycle"] == "active", "what is filled in stays"
    assert "Lifecycle" in window.status.message.text()
    panel.replaces.setChecked(True)
    press(qtbot, panel, "Copy these facts")
    settle(qtbot, window)
    assert page.controller.bundle.part.facts["Lifecycle"].value == "not recommended"
    page.controller.undo()
    page.controller.undo()
    settle(qtbot, window)
    assert "Kelp & Sons number" not in page.controller.bundle.part.facts


def test_a_supplier_is_preferred_and_a_token_is_shown(make_window: MakeWindow, qtbot: QtBot) -> None:
    service = StandIn((OTHER,), SUPPLIERS, ServiceManner(token="shingle"))
    try:
        window = make_window(service.address)
        panel = _step(_open(qtbot, window)).suppliers
        panel.look_up()
        qtbot.waitUntil(lambda: "access token" in panel.say.text(), timeout=10_000)
        press(qtbot, panel, "Catalogue…")
        dialog = panel.dialog
        dialog.token.setText("shingle")
        press(qtbot, dialog, "List suppliers")
        qtbot.waitUntil(lambda: dialog.suppliers.count() == 3, timeout=10_000)
        item = dialog.suppliers.item(1)
        assert item is not None
        item.setCheckState(Qt.CheckState.Checked)
        settle(qtbot, window)
        dialog.accept()
        assert preferred_suppliers(window.library) == ("Kelp & Sons",)
        assert panel.preferred.isEnabled()
        assert _look_up(qtbot, panel, "BRM") == ["BRM-C1608-100N"]
        panel.preferred.setChecked(True)
        assert panel.choice.suppliers == ("Kelp & Sons",)
    finally:
        service.close()


def test_alternates_are_shown_with_what_differs_and_compared(
    make_window: MakeWindow, qtbot: QtBot, address: str
) -> None:
    window = make_window(address)
    step = _step(_open(qtbot, window))
    step.tabs.setCurrentWidget(step.alternates)
    press(qtbot, step.alternates, "Search library and suppliers")
    qtbot.waitUntil(lambda: bool(step.alternates.table.records.records), timeout=10_000)
    names = [a.name for a in step.alternates.table.records.records]
    assert names == ["LYN-C1005-100N", "LYN-C2012-100N"]
    assert [d.name for d in step.alternates.differences.records.records] == ["Rated voltage"]
    assert not step.alternates.compare.isEnabled(), "a part of the library is not looked up"
    step.alternates.look_up_asked.emit("BRM-C1608-100N")
    qtbot.waitUntil(lambda: bool(step.suppliers.entries), timeout=10_000)
    assert step.tabs.currentWidget() is step.suppliers


def test_lifecycles_of_all_parts_are_refreshed_and_saved(make_window: MakeWindow, qtbot: QtBot) -> None:
    aged = [replace(e, lifecycle="end of life") for e in demo_entries() if e.part_number.startswith("LYN-C1")]
    service = StandIn(aged)
    try:
        window = make_window(service.address)
        settle(qtbot, window)
        next(a for a in window.actions_list if a.id == "library.refresh").run()
        page = window.side.page
        assert isinstance(page, RefreshPage)
        settle(qtbot, window)
        assert len(page.parts) == 3 and page.report is None, "nothing is asked of itself"
        press(qtbot, page, "Ask the catalogue")
        qtbot.waitUntil(lambda: page.report is not None, timeout=10_000)
        assert sorted((c.part, c.kind) for c in page.table.records.records) == [
            ("LYN-C1005-100N", "lifecycle"),
            ("LYN-C1608-100N", "lifecycle"),
            ("LYN-C2012-100N", "unknown"),
        ]
        press(qtbot, page, "Save the new lifecycles as working copies")
        qtbot.waitUntil(lambda: "2 working copies saved" in page.hint.text(), timeout=20_000)
        settle(qtbot, window)
        assert window.library.find("LYN-C1608-100N").facts["Lifecycle"] == "end of life"
        press(qtbot, page, "← Shelf")
        assert window.side.page is None
    finally:
        service.close()


def test_a_look_up_is_cancelled(make_window: MakeWindow, qtbot: QtBot) -> None:
    service = StandIn((OTHER,), manner=ServiceManner(trouble="hanging"))
    try:
        window = make_window(service.address)
        panel = _step(_open(qtbot, window)).suppliers
        panel.look_up()
        qtbot.waitUntil(lambda: window.status._cancel.isVisible(), timeout=10_000)
        qtbot.mouseClick(window.status._cancel, Qt.MouseButton.LeftButton)
        qtbot.waitUntil(lambda: "ancelled" in panel.say.text(), timeout=10_000)
        assert not window.status._cancel.isVisible()
    finally:
        service.close()
