"""The bill of materials in the window: a list opened, columns assigned, a part chosen, the bill written."""

from pathlib import Path

import openpyxl
import pytest
from pytestqt.qtbot import QtBot

from desktop_helpers import press
from eider.desktop.app.window import MainWindow
from eider.desktop.bill.bill_page import BillPage

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
