"""Random keys and clicks on the window of a library: `monkey LIBRARY SEED EVENTS`. Status 1 where anything broke."""

import random
import sys
import time
import traceback
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QFileDialog, QLineEdit, QMenu, QPlainTextEdit, QWidget

from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.library import open_library
from eider.services.crash_log import log_crash

LONGEST_HOLD = 0.3
KEYS = [
    Qt.Key.Key_Tab, Qt.Key.Key_Backtab, Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Up, Qt.Key.Key_Down,
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_F4, Qt.Key.Key_Delete, Qt.Key.Key_Space, Qt.Key.Key_Plus,
    Qt.Key.Key_Minus, Qt.Key.Key_PageDown, Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_F,
]  # fmt: skip
TEXTS = ["1.27", "0.3±0.1", "max", "-5", "x" * 300, "E/2+", "1e9", "±", "", "A1", "3,4", "\u0000", "ä µm"]
MODIFIERS = [Qt.KeyboardModifier.NoModifier] * 5 + [
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
]


def shown(window: QWidget) -> list[QWidget]:
    """What can be clicked now: in an open menu or dialog, else in the window."""
    popup = QApplication.activePopupWidget() or QApplication.activeModalWidget() or window
    return [w for w in [popup, *popup.findChildren(QWidget)] if w.isVisible() and w.isEnabled() and w.width() > 2]


def act(widget: QWidget, chance: random.Random) -> str:
    """Do one thing to a widget; returns what it was."""
    kind = chance.random()
    if kind < 0.55:
        at = QPoint(chance.randrange(widget.width()), chance.randrange(max(widget.height(), 1)))
        button = Qt.MouseButton.LeftButton if chance.random() < 0.9 else Qt.MouseButton.RightButton
        QTest.mouseClick(widget, button, chance.choice(MODIFIERS), at)
        return f"click on {type(widget).__name__}"
    target = QApplication.focusWidget() or widget
    if kind < 0.75 and isinstance(target, QLineEdit | QPlainTextEdit):
        text = chance.choice(TEXTS)
        # QTest knows only the keys of ASCII.
        if text.isascii() and text.isprintable():
            QTest.keyClicks(target, text)
        elif isinstance(target, QLineEdit):
            target.insert(text)
        else:
            target.insertPlainText(text)
        return f"text into {type(target).__name__}"
    key = chance.choice(KEYS)
    QTest.keyClick(target, key, chance.choice(MODIFIERS))
    return f"{key.name} to {type(target).__name__}"


def main() -> int:
    """Play; a fault or a hold is told and makes the status 1."""
    folder, seed, events = Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])
    chance, faults = random.Random(seed), list[str]()
    sys.excepthook = lambda kind, fault, trace: faults.append("".join(traceback.format_exception(kind, fault, trace)))
    for name in ("getOpenFileName", "getSaveFileName"):
        setattr(QFileDialog, name, staticmethod(lambda *_a, **_k: ("", "")))
    QFileDialog.getExistingDirectory = staticmethod(lambda *_a, **_k: "")  # type: ignore[method-assign]
    # Nothing blocks in a loop of its own: what would is shown and goes on.
    QDialog.exec = lambda dialog: dialog.open() or 0  # type: ignore[method-assign]
    QMenu.exec = lambda menu, *_a: menu.popup(QPoint(0, 0))  # type: ignore[method-assign]
    application = make_application()
    window = MainWindow(open_library(folder))
    window.resize(1280, 800)
    window.show()
    window.open_part(window.library.search()[0].id)
    longest, what = 0.0, ""
    for _ in range(events):
        if not window.isVisible():
            window.show()
        # Looking for something to click takes as long as a click where there are thousands of widgets.
        widget = chance.choice(shown(window))
        begin, used = time.monotonic(), time.thread_time()
        did = act(widget, chance)
        application.processEvents()
        # What counts is the time that the Qt thread took: a machine that is busy elsewhere is not of our making.
        hold = min(time.monotonic() - begin, time.thread_time() - used)
        if hold > longest:
            longest, what = hold, did
    window.close()
    for fault in faults:
        print(fault)
    print(f"seed {seed}: {events} events, longest hold {longest * 1000:.0f} ms ({what}), {len(faults)} faults")
    return 1 if faults or longest > LONGEST_HOLD else 0


if __name__ == "__main__":
    try:
        sys.exit(main())
    except Exception as fault:
        print(log_crash(fault), fault)
        traceback.print_exc()
        sys.exit(1)
