"""The library published from the window, and again after a release."""

from pathlib import Path

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import press, settle
from eider.desktop.app.settings_dialogs import KEY
from eider.desktop.app.window import MainWindow
from shared_libraries import change_fact


def test_the_library_is_published_in_the_window_and_after_a_release(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    next(a for a in window.actions_list if a.id == "library.publish").run()
    dialog = window.tasks.publish_dialog
    assert dialog is not None and not dialog.act.isEnabled()
    dialog.folder.setText(str(tmp_path / "published"))
    for index in range(dialog.formats.count()):
        item = dialog.formats.item(index)
        assert item is not None
        item.setCheckState(Qt.CheckState.Checked if item.data(KEY) == "json" else Qt.CheckState.Unchecked)
    dialog.always.setChecked(True)
    press(qtbot, dialog, "Publish")
    qtbot.waitUntil(lambda: window.library.settings.publish is not None, timeout=60_000)
    manifest = tmp_path / "published" / "manifest.json"
    before = manifest.read_bytes()
    settle(qtbot, window)
    part_id = next(row.id for row in window.shelf.shown if row.state == "released")
    change_fact(window.library, part_id, "Shelf", "A7")
    window.shelf.refresh()
    settle(qtbot, window)
    window.tasks._release([window.library.find(part_id)], "A7")
    qtbot.waitUntil(lambda: manifest.read_bytes() != before, timeout=60_000)
    # Without the tick it is published once more, and not after releases from then on.
    next(a for a in window.actions_list if a.id == "library.publish").run()
    again = window.tasks.publish_dialog
    assert again is not None and again is not dialog and again.always.isChecked()
    again.always.setChecked(False)
    press(qtbot, again, "Publish")
    qtbot.waitUntil(lambda: window.library.settings.publish is None, timeout=60_000)
