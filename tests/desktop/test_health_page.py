"""The health of the library in the window: figures, their parts, merging, and the report as a file."""

from pathlib import Path

import msgspec
from pytestqt.qtbot import QtBot

from desktop_helpers import press, settle
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.parts.variants import new_variant
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.desktop.app.window import MainWindow
from eider.desktop.health.health_page import HealthPage
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import release_part

replace = msgspec.structs.replace
NAME, TWIN, AT = "LYN-C1608-100N", "LYN-C1608-100N-T", "2026-11-28T00:00:00Z"


def _opened(window: MainWindow, qtbot: QtBot) -> HealthPage:
    window.side.open_health()
    page = window.side.page
    assert isinstance(page, HealthPage)
    qtbot.waitUntil(lambda: page.health is not None, timeout=30_000)
    return page


def _names(page: HealthPage) -> list[str]:
    return [item.text() for index in range(page.parts.count()) if (item := page.parts.item(index))]


def test_a_figure_leads_to_its_parts_and_a_part_is_opened(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    page = _opened(window, qtbot)
    page.table.select_where(lambda r: r.what == "Parts in which nobody ticked a value")
    rows = window.library.search()
    assert sorted(_names(page)) == sorted(row.name for row in rows)
    assert not page.merge_button.isEnabled()
    page.save(tmp_path / "health.txt")
    qtbot.waitUntil(lambda: "neither" in page.hint.text(), timeout=10_000)
    page.save(tmp_path / "health.html")
    qtbot.waitUntil(lambda: "Saved as" in page.hint.text(), timeout=10_000)
    assert rows[0].name in (tmp_path / "health.html").read_text()
    item = page.parts.item(0)
    assert item is not None
    name = item.text()
    page.parts.itemActivated.emit(item)
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    assert window.page is not None and window.page.controller.bundle.part.name == name
    settle(qtbot, window)


def test_lands_of_another_package_are_not_merged_and_the_reason_is_told(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    series = chips("lyn-r")
    size = next(size for size in series.sizes if size.size == "1005")
    release_part(library, chip_part(library, series, size, "100 kΩ", DatasheetLink("0" * 64, "L.pdf", 2)), "first")
    page = _opened(window, qtbot)
    page.table.select_where(lambda r: r.what.startswith("footprints CAPC1005X55N and RESC1005X40N"))
    assert "LYN-R1005-100K" in _names(page) and page.merge_button.isEnabled()
    press(qtbot, page, "Merge into the first")
    qtbot.waitUntil(lambda: "merge the packages first" in page.hint.text(), timeout=20_000)
    press(qtbot, page, "← Shelf")
    settle(qtbot, window)


def test_equal_symbols_are_merged_into_the_first(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    made = new_variant(library.load(library.find(NAME).id), "number", TWIN, {}, library.settings, "x", AT)
    other = replace(made, part=replace(made.part, symbol=Ref("twin")), symbol=replace(made.symbol, id="twin"))
    for reference in ("CX", made.symbol.reference):
        known = library.load(other.part.id) if library.has_part(TWIN) else other
        changed = replace(known, symbol=replace(known.symbol, reference=reference))
        release_part(library, rerun_recipes(changed, library.rulebook()), "a symbol for it alone")
    page = _opened(window, qtbot)
    page.table.select_where(lambda r: r.what.startswith("symbols"))
    press(qtbot, page, "Merge into the first")
    qtbot.waitUntil(lambda: "moved from symbol" in page.hint.text(), timeout=20_000)
    symbols = {library.load(library.find(name).id).part.symbol.id for name in (NAME, TWIN)}
    assert len(symbols) == 1
    settle(qtbot, window)
