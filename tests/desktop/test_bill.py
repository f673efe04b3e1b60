"""The bill of materials in the window: a list opened, columns assigned, a part chosen, the bill written."""

from pathlib import Path

import openpyxl
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, press
from eider.desktop.app.window import MainWindow
from eider.desktop.bill.bill_page import BillPage
from eider.library.documents.shared_tables import SHARED_DESIGNS

LIST = "Ref;What;Case\nC1, C2;100 nF;1608\nC7;100 nF;\nU9;NVK-9;\n"


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> BillPage:
    next(a for a in window.actions_list if a.id == "library.bill").run()
    page = window.side.page
    assert isinstance(page, BillPage)
    (tmp_path / "parts.csv").write_text(LIST, encoding="utf-8")
    page.open_list(tmp_path / "parts.csv")
    qtbot.waitUntil(lambda: len(page.boxes) == 3)
    return page


def assign(page: BillPage, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: "no column says which part" in page.hint.text())
    page.boxes[1].setCurrentText("value")
    page.boxes[1].activated.emit(page.boxes[1].currentIndex())
    qtbot.waitUntil(lambda: page.bill is not None and len(page.bill.lines) == 3)


def test_columns_are_assigned_parts_chosen_and_the_bill_written(
    page: BillPage, qtbot: QtBot, window: MainWindow, tmp_path: Path
) -> None:
    assign(page, qtbot)
    assert page.summary.text().startswith("1 of 3 lines found")
    by_reference = {line.references: line for line in page.bill.lines}
    assert by_reference["C1", "C2"].part.name == "LYN-C1608-100N"
    # Three sizes have this value: a person says which.
    page.table.select_where(lambda line: line.references == ("C7",))
    qtbot.waitUntil(lambda: page.parts.count() == 3)
    page.parts.setCurrentRow([page.parts.item(i).text().split()[0] for i in range(3)].index("LYN-C1608-100N"))
    press(qtbot, page, "Use this part")
    qtbot.waitUntil(lambda: len(page.bill.lines) == 2)
    assert page.bill.lines[0].references == ("C1", "C2", "C7") and page.bill.lines[0].quantity == 3
    page.boards.setValue(10)
    page.boards.editingFinished.emit()
    page.write(tmp_path / "bill.xlsx")
    qtbot.waitUntil(lambda: "written to" in window.status.message.text())
    sheet = openpyxl.load_workbook(tmp_path / "bill.xlsx").active
    assert [cell.value for cell in sheet[2]][1:4] == [3, "C1, C2, C7", "LYN-C1608-100N"]
    assert any("“NVK-9” has no part" in page.findings.item(i).text() for i in range(page.findings.count()))


def test_what_columns_mean_is_kept_for_the_next_list(page: BillPage, qtbot: QtBot, tmp_path: Path) -> None:
    assign(page, qtbot)
    (tmp_path / "next.csv").write_text("Ref;What;Case\nC1;100 nF;3216\n", encoding="utf-8")
    page.open_list(tmp_path / "next.csv")
    qtbot.waitUntil(lambda: page.bill is not None and [b.currentText() for b in page.boxes][1] == "value")
    qtbot.waitUntil(lambda: "next.csv" in page.title.text() and len(page.bill.lines) == 1)


def test_a_list_that_cannot_be_read_is_told(page: BillPage, qtbot: QtBot, tmp_path: Path) -> None:
    (tmp_path / "x.xlsx").write_bytes(b"PK\x03\x04 nonsense")
    page.open_list(tmp_path / "x.xlsx")
    qtbot.waitUntil(lambda: "is damaged" in page.hint.text())


def test_columns_are_edited_saved_and_priced(
    make_window: MakeWindow, qtbot: QtBot, tmp_path: Path, catalogue: str
) -> None:
    window = make_window(catalogue)
    next(a for a in window.actions_list if a.id == "library.bill").run()
    page = window.side.page
    assert isinstance(page, BillPage)
    (tmp_path / "parts.csv").write_text("Reference;Part\nC1, C2;LYN-C1608-100N\n", encoding="utf-8")
    page.open_list(tmp_path / "parts.csv")
    qtbot.waitUntil(lambda: page.bill is not None)
    page.tabs.setCurrentWidget(page.columns)
    table = page.columns.table
    table.select_rows([1])
    press(qtbot, page, "Add a column")
    record = table.records.records[2]
    for field, text in ((0, "Price"), (1, "{price}"), (2, "yes")):
        table.records.setData(table.records.index(2, field), text)
    assert record.place == 2
    press(qtbot, page, "Down")
    assert [c.heading for c in page.columns.columns[2:4]] == ["References", "Price"]
    qtbot.waitUntil(lambda: page.bill.table.rows[0][3] == "Price")
    assert any("no price is known" in text for text in page.bill.table.findings)
    press(qtbot, page, "Ask for prices")
    # 100 is the least that is sold, at 0.011 each.
    qtbot.waitUntil(lambda: page.bill.table.rows[1][3] == 0.011, timeout=10_000)
    table.records.setData(table.records.index(3, 1), "{Smell}")
    qtbot.waitUntil(lambda: "“Smell” is not a fact" in page.hint.text())
    table.records.setData(table.records.index(3, 1), "{price}")
    preview = page.preview.cells
    assert preview.headerData(3, Qt.Orientation.Horizontal) == "Price"
    qtbot.waitUntil(lambda: preview.index(0, 3).data() == "0.011")
    page.middle.setCurrentWidget(page.preview)
    page.preview.selectRow(0)
    qtbot.keyClick(page.preview, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QApplication.clipboard().text().split("\t")[2:4] == ["C1, C2", "0.011"]
    page.columns.name.setText("buying")
    press(qtbot, page, "Save to library")
    qtbot.waitUntil(lambda: page.template.currentText() == "buying")
    assert page.library.settings.bills["buying"][3].heading == "Price"
    table.select_rows([0, 1])
    press(qtbot, page, "Remove columns")
    assert page.columns.columns[0].heading == "References"


def test_a_list_is_kept_as_a_design(page: BillPage, qtbot: QtBot) -> None:
    assert not page.design_button.isEnabled()
    assign(page, qtbot)
    qtbot.waitUntil(page.design_button.isEnabled)
    page.design_button.keep("Weighing perch")
    qtbot.waitUntil(lambda: bool(SHARED_DESIGNS.read(page.library)))
    assert SHARED_DESIGNS.read(page.library)["Weighing perch"].file == "parts.csv"
