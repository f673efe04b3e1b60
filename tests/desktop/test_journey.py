"""The whole way in the real window, with real keys: new part to release, a change, and revision 2."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, cell, open_step, press, settle, type_into
from eider.demo.data import converter, pin_table_text
from eider.desktop.app.window import MainWindow
from eider.library import open_library

STEPS = ("source", "pins", "package", "lands", "body", "match", "facts", "review")


def go(qtbot: QtBot, window: MainWindow, key: str) -> None:
    assert window.page
    qtbot.mouseClick(window.page.trail.buttons[STEPS.index(key)], Qt.MouseButton.LeftButton)
    settle(qtbot, window)


def test_from_new_part_to_revision_2(make_window: MakeWindow, qtbot: QtBot, folder: Path, catalogue: str) -> None:
    window, part = make_window(catalogue, real_kernel=True), converter()
    press(qtbot, window.shelf, "New part")
    qtbot.keyClicks(window.tasks.dialog.name, part.name)
    qtbot.mouseClick(window.tasks.dialog.make, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    page = window.page
    assert page
    states = [b.state_text for b in page.trail.buttons]
    assert states == ["empty"] * 8

    page.step(0).attach(folder / "NVK-1216T.pdf")
    settle(qtbot, window)
    qtbot.waitUntil(lambda: page.step(0).view.page == 1, timeout=5000)

    go(qtbot, window, "pins")
    QGuiApplication.clipboard().setText(pin_table_text().replace(",", "\t"))
    table = page.current.table
    table.setFocus()
    qtbot.keyClick(table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    settle(qtbot, window)
    assert len(page.controller.bundle.symbol.pins) == 16
    assert page.current.symbol.drawing is not None

    go(qtbot, window, "package")
    assert page.controller.bundle.sheet.family == "gullwing-dual"
    for letter, text in part.dims.items():
        type_into(qtbot, page.current.table, cell(page.current.table, letter, 3), text)
    settle(qtbot, window)
    assert page.current.top.drawing is not None
    page.toggle_datasheet()
    settle(qtbot, window)
    page.datasheet.turn_to(part.outline_page)
    page.current.table.selectAll()
    press(qtbot, page.current, "Cite this page for the selection")
    page.toggle_datasheet()

    go(qtbot, window, "lands")
    pattern = page.controller.bundle.footprint.pattern
    assert pattern is not None
    assert pattern.name == "SOP65P640X120-16N"
    assert page.current.view.drawing is not None
    assert page.current.joint.view.drawing is not None

    go(qtbot, window, "body")
    qtbot.waitUntil(lambda: page.current.view.has_picture, timeout=30_000)
    go(qtbot, window, "match")
    assert page.current._summary.text() == "16 of 16 pins have a pad"

    go(qtbot, window, "facts")
    assert page.trail.buttons[6].state_text == "empty"
    press(qtbot, page.current, "Look up")
    qtbot.waitUntil(lambda: page.current.suppliers.take_button.isEnabled(), timeout=5000)
    press(qtbot, page.current, "Copy these facts")
    settle(qtbot, window)
    assert page.controller.bundle.part.facts["Manufacturer"].value == "Norrvik Semi"

    # A pin written with its mark is found, and mended by the finding's own action.
    go(qtbot, window, "pins")
    type_into(qtbot, page.current.table, page.current.table.records.index(8, 1), "PWRDN#")
    settle(qtbot, window)
    assert "symbol.active-low-name" in {f.check for f in page.controller.findings}
    press(qtbot, page.current, "Mark as active low")
    settle(qtbot, window)
    assert page.controller.findings == ()

    go(qtbot, window, "review")
    assert not page.current.release_button.isEnabled()
    qtbot.keyClicks(page.current.note, "first release, checked against the datasheet")
    qtbot.mouseClick(page.current.release_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: "released as revision 1" in window.status.message.text(), timeout=30_000)
    page = window.page
    assert page

    # One lead width changed: what follows from it changes, revision 1 stays.
    go(qtbot, window, "package")
    type_into(qtbot, page.current.table, cell(page.current.table, "b", 3), "0.19–0.34")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.pattern
    assert page.controller.bundle.footprint.pattern.derivation[0].X == 0.45
    go(qtbot, window, "review")
    qtbot.keyClicks(page.current.note, "lead width by the newer datasheet")
    qtbot.mouseClick(page.current.release_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: "released as revision 2" in window.status.message.text(), timeout=30_000)
    part_id = window.page.controller.bundle.part.id  # type: ignore[union-attr]
    widths = [window.library.load_release(part_id, r).footprint.pattern.derivation[0].X for r in (1, 2)]  # type: ignore[union-attr]
    assert widths == [0.4, 0.45]

    # Read-only, as it was released.
    settle(qtbot, window)
    window.context.revision_asked.emit(part_id, 1)
    qtbot.waitUntil(lambda: window.page is not None and window.page.controller.session.read_only, timeout=5000)
    settle(qtbot, window)
    assert window.page
    open_step(window.page, 2)
    type_into(qtbot, window.page.current.table, cell(window.page.current.table, "b", 3), "9")
    assert window.page.controller.bundle.sheet.dims["b"].text == "0.19–0.30"
    assert "read-only" in window.status.message.text()


def test_one_more_capacitor_from_a_near_one(window: MainWindow, qtbot: QtBot) -> None:
    window.shelf.search.setText("lyn 1608")
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 1)
    press(qtbot, window.shelf, "Start from this part")
    qtbot.waitUntil(lambda: window.tasks.start_dialog is not None)
    dialog = window.tasks.start_dialog
    # The value and the number come first, with those of the part that it begins from.
    assert list(dialog.fields)[:2] == ["Capacitance", "Part number"]
    for fact, text in (("Capacitance", "33 nF"), ("Part number", "LYN-C1608-33N")):
        dialog.fields[fact].selectAll()
        qtbot.keyClicks(dialog.fields[fact], text)
    qtbot.keyClicks(dialog.name, "LYN-C1608-33N")
    qtbot.keyClick(dialog.name, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    page = window.page
    assert page
    facts = page.controller.bundle.part.facts
    assert (facts["Capacitance"].value, facts["Part number"].value) == ("33 nF", "LYN-C1608-33N")
    go(qtbot, window, "review")
    qtbot.keyClicks(page.current.note, "another value")
    qtbot.mouseClick(page.current.release_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: "released as revision 1" in window.status.message.text(), timeout=30_000)
    part = window.library.load_release(window.page.controller.bundle.part.id).part  # type: ignore[union-attr]
    # Footprint, body and symbol are those of the part it began from.
    assert part.footprint.revision == 1
    library = open_library(window.library.folder)
    library.index.refresh()
    assert library.index.users_of(part.footprint.id) == ["LYN-C1608-100N", "LYN-C1608-33N"]
