"""Land patterns printed from the window: of the parts on the Shelf, or of the one that is open."""

from pathlib import Path

from PyQt6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from desktop_helpers import press, settle
from eider.desktop.app.dialogs import PrintDialog
from eider.desktop.app.window import MainWindow


def _dialog(window: MainWindow) -> PrintDialog:
    next(a for a in window.actions_list if a.id == "library.print").run()
    (dialog,) = [d for d in window.findChildren(QDialog) if isinstance(d, PrintDialog) and d.isVisible()]
    return dialog


def test_selected_parts_are_printed(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    settle(qtbot, window)
    window.shelf.table.select_rows([0, 1])
    dialog = _dialog(window)
    assert dialog.windowTitle() == "Print land patterns of 2 parts"
    dialog.file.setText("")
    assert not dialog.act.isEnabled()
    dialog.file.setText(str(tmp_path / "p.pdf"))
    dialog.paper.setCurrentText("Letter")
    dialog.mirrored.setChecked(True)
    said: list[str] = []
    window.context.said.connect(said.append)
    press(qtbot, dialog, "Write the PDF")
    qtbot.waitUntil(lambda: not dialog.isVisible())
    assert (tmp_path / "p.pdf").read_bytes().startswith(b"%PDF")
    assert "land patterns 1:1 on Letter, mirrored" in said[-1]


def test_what_is_wrong_is_told_in_the_dialog(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    settle(qtbot, window)
    window.shelf.table.select_rows([0])
    dialog = _dialog(window)
    (tmp_path / "file").write_text("")
    dialog.file.setText(str(tmp_path / "file" / "p.pdf"))
    press(qtbot, dialog, "Write the PDF")
    qtbot.waitUntil(lambda: bool(dialog.fault.text()))
    assert dialog.isVisible() and "p.pdf" in dialog.fault.text()
    press(qtbot, dialog, "Cancel")
    assert not dialog.isVisible()
