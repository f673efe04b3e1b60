"""The reading pane: pages to scroll, zoom and pan; a click takes a value, a drag a rectangle or a text."""

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QGuiApplication, QKeyEvent, QKeySequence, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QToolTip

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_words import PageWord
from eider.desktop.datasheet.page_source import PageSource
from eider.desktop.datasheet.reading_pages import ReadingPages
from eider.desktop.theme import Theme
from eider.desktop.widgets.pan_tool import PanTool
from eider.desktop.widgets.qt_values import present

ZOOM_STEP = 1.2
# A press that moves less than this many pixels is a click.
STILL = 5


class PageArea(ReadingPages):
    """The document at reading size, from which a click takes a value, a drag a rectangle or a text."""

    picked = pyqtSignal(int, float, float)
    boxed = pyqtSignal(int, object)

    def __init__(self, source: PageSource, theme: Theme) -> None:
        super().__init__(source, theme)
        self.selects_text = False
        self._press: QPointF | None = None
        self._hand = PanTool(self)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Datasheet")
        viewport = present(self.viewport())
        viewport.setMouseTracking(True)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._hand.takes(event):
            return
        if event.button() == Qt.MouseButton.LeftButton:
            self._press, self._selected = event.position(), None
            self.refresh()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        point = event.position()
        moved = self._hand.moved(event)
        if moved is not None:
            for orientation, by in ((Qt.Orientation.Vertical, moved.y()), (Qt.Orientation.Horizontal, moved.x())):
                self.bar(orientation).setValue(self.bar(orientation).value() - by)
            return
        if self._press is None:
            self._tell(event)
            return
        if (point - self._press).manhattanLength() <= STILL:
            return
        page = self.page_at(self._press)
        if page and self.selects_text:
            self._select(page, self._press, point)
        elif page:
            self._band = (page, QRectF(self._press, point).normalized().intersected(self.page_rect(page)))
        self.refresh()

    def _tell(self, event: QMouseEvent) -> None:
        """What was taken from the place under the pointer."""
        named = [m for group in self._marks.values() for m in group if m.text and m.page in self.visible()]
        boxes = [(m, self.on_screen(m.page, m.box)) for m in named]
        found = next((m for m, box in boxes if box is not None and box.contains(event.position())), None)
        if found is not None:
            QToolTip.showText(event.globalPosition().toPoint(), found.text, self.viewport())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        press, band = self._press, self._band
        self._press, self._band = None, None
        self._hand.let_go()
        event = present(event)
        if press is None:
            return
        if band is not None:
            page, rect = band
            a, b = self.to_page(page, rect.topLeft()), self.to_page(page, rect.bottomRight())
            if a and b:
                self.boxed.emit(page, (min(a[0], b[0]), min(a[1], b[1]), max(a[0], b[0]), max(a[1], b[1])))
        elif not self.selects_text and (event.position() - press).manhattanLength() <= STILL:
            page = self.page_at(press)
            at = self.to_page(page, press) if page else None
            if at:
                self.picked.emit(page, *at)
        self.refresh()

    def _select(self, page: int, start: QPointF, stop: QPointF) -> None:
        text, a, b = self.source.text(page), self.to_page(page, start), self.to_page(page, stop)
        if text is None or a is None or b is None:
            self.source.read_ahead(page)
            return
        first, last = sorted((_nearest(text, *a), _nearest(text, *b)))
        self._selected = (page, text.words[first : last + 1])

    @property
    def selected_text(self) -> str:
        """The text that is selected, a line for each of its lines."""
        lines: list[str] = []
        above: PageWord | None = None
        for word in self._selected[1] if self._selected else ():
            if above is not None and abs(word.middle[1] - above.middle[1]) < 0.5 * word.size:
                lines[-1] += f" {word.text}"
            else:
                lines.append(word.text)
            above = word
        return "\n".join(lines)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        event = present(event)
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(ZOOM_STEP ** (event.angleDelta().y() / 120), event.position())
            event.accept()
        else:
            super().wheelEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        key, tall = Qt.Key(event.key()), self.bar(Qt.Orientation.Vertical)
        clipboard = QGuiApplication.clipboard()
        if event.matches(QKeySequence.StandardKey.Copy) and clipboard:
            clipboard.setText(self.selected_text)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(ZOOM_STEP if key == Qt.Key.Key_Plus else 1 / ZOOM_STEP)
        elif key == Qt.Key.Key_F:
            self.fit_width()
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            tall.setValue(0 if key == Qt.Key.Key_Home else tall.maximum())
        elif key == Qt.Key.Key_Space:
            self._hand.put_out()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        self._hand.key_released(event)


def _nearest(text: PageText, x: float, y: float) -> int:
    """The index of the word nearest to a point: the line counts more than the place in it."""
    distances = [abs(w.middle[1] - y) * 4 + abs(w.middle[0] - x) for w in text.words]
    return distances.index(min(distances)) if distances else 0
