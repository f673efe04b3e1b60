"""What tests of the window need."""

import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QModelIndex, QPoint, QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QWheelEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from eider.commands.parts import new_parts
from eider.datasheets import Datasheet
from eider.demo.build import attach
from eider.demo.parts import converter_part
from eider.desktop.app.window import MainWindow
from eider.desktop.datasheet.page_area import PageArea
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.step import PartStep
from eider.desktop.widgets.record_table import RecordView
from eider.library import open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle

MakeWindow = Callable[..., MainWindow]


def settle(qtbot: QtBot, window: MainWindow) -> None:
    """Wait until nothing is being computed, saved or drawn."""

    def quiet() -> bool:
        page = window.page
        return window.jobs.is_idle and (page is None or page.controller.is_settled)

    qtbot.waitUntil(quiet, timeout=20_000)


def open_step(page: PartPage, index: int) -> PartStep:
    """Open a step and wait until it shows what was computed for it."""
    page.go_to(index)
    window = page.window()
    assert isinstance(window, MainWindow)
    deadline = time.monotonic() + 20
    while not (page.controller.is_settled and window.jobs.is_idle):
        QApplication.processEvents()
        assert time.monotonic() < deadline, "the step does not settle"
    return page.current


def press(qtbot: QtBot, parent: QWidget, text: str) -> None:
    """Click the button that bears a text, once it lies where it will lie."""
    QApplication.processEvents()
    found = [b for b in parent.findChildren(QPushButton) if b.text() == text and b.isVisible()]
    assert found, f"no button “{text}”"
    qtbot.mouseClick(found[0], Qt.MouseButton.LeftButton)


def document_at(path: Path) -> DocumentToOpen:
    """A PDF anywhere, for a view to open."""
    return DocumentToOpen(path.stem, lambda: Datasheet(path))


def choose(parent: QWidget, button: str, entry: str) -> None:
    """Choose an entry of the menu that a button opens."""
    menus = [b.menu() for b in parent.findChildren(QPushButton) if b.text() == button and b.menu() is not None]
    assert menus, f"no menu “{button}”"
    actions = [a for menu in menus if menu for a in menu.actions() if a.text() == entry]
    assert actions, f"no entry “{entry}” in the menu “{button}”"
    actions[0].trigger()


def type_text(widget: QWidget, text: str) -> None:
    """Key by key; Qt's own helper stops the process at a letter that is not ASCII."""
    for letter in text:
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            QApplication.sendEvent(widget, QKeyEvent(kind, 0, Qt.KeyboardModifier.NoModifier, letter))
        QApplication.processEvents()


def type_into(qtbot: QtBot, table: RecordView, index: QModelIndex, text: str, end: Qt.Key = Qt.Key.Key_Return) -> None:
    """Type a text into a cell of a table, and end with a key."""
    table.setCurrentIndex(index)
    table.edit(index)
    viewport = table.viewport()
    assert viewport
    editor = next(e for e in reversed(viewport.findChildren(QLineEdit)) if e.isVisible())
    editor.setFocus()
    editor.selectAll()
    type_text(editor, text)
    qtbot.keyClick(editor, end)
    # The delegate commits in the next round of events.
    QApplication.processEvents()


def cell(table: RecordView, name: str, column: int) -> QModelIndex:
    """The cell of a column in the row whose first cell says `name`."""
    row = next(i for i in range(table.records.rowCount()) if table.records.index(i, 0).data() == name)
    return table.records.index(row, column)


def open_capacitor(qtbot: QtBot, window: MainWindow, size: str) -> PartPage:
    """Open the part whose name holds a text: of the prepared capacitors, that of a size."""
    window.open_part(next(r.id for r in window.shelf.shown if size in r.name))
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    assert window.page
    return window.page


def open_converter(
    qtbot: QtBot, make_window: MakeWindow, folder: Path, change: Callable[[Bundle], Bundle] = lambda made: made
) -> PartPage:
    """Open a window on the converter with its datasheet, changed and saved as a working copy."""
    library = open_library(folder / "library")
    made = converter_part(library, attach(library, folder / "NVK-1216T.pdf", 4))
    library.copies.save(WorkingCopy(bundle=change(made)))
    library.close()
    window = make_window()
    qtbot.waitUntil(lambda: any(r.name == "NVK-1216T" for r in window.shelf.shown))
    return open_capacitor(qtbot, window, "NVK-1216T")


def window_of(page: PartPage) -> MainWindow:
    """The window that shows a part."""
    window = page.window()
    assert isinstance(window, MainWindow)
    return window


def beside(page: PartPage, qtbot: QtBot, step: int, pdf_page: int) -> PageArea:
    """Open the datasheet beside a step, at a page whose words are read."""
    open_step(page, step)
    page.toggle_datasheet()
    area = page.datasheet.area
    qtbot.waitUntil(lambda: area.pages > 0)
    # The pane gets its place and size with the next events.
    QApplication.processEvents()
    page.datasheet.turn_to(pdf_page)
    qtbot.waitUntil(lambda: area.source.text(pdf_page) is not None and area.source.frame(pdf_page, 0) is not None)
    return area


def begin_part(qtbot: QtBot, window: MainWindow, name: str) -> PartPage:
    """Begin a new integrated circuit, and open it."""
    settings = window.library.settings
    window.tasks.begin(lambda: new_parts.new_part(name, "ic", settings), lambda: None, window.say)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    assert window.page
    return window.page


def wheel(widget: QWidget, steps: int, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> QWheelEvent:
    """The wheel turned over the middle of a widget, so many notches away from the user."""
    at, none = QPointF(widget.rect().center()), Qt.MouseButton.NoButton
    turned, phase = QPoint(0, 120 * steps), Qt.ScrollPhase.NoScrollPhase
    return QWheelEvent(at, widget.mapToGlobal(at), QPoint(0, 0), turned, none, modifiers, phase, False)
