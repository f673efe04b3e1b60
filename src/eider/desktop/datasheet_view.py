"""Reads a datasheet: pages, zoom, text search. PDF work is done elsewhere; the page comes as a picture."""

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeySequence, QPainter, QPaintEvent, QShortcut, QWheelEvent
from PyQt6.QtWidgets import QLineEdit, QScrollArea, QSpinBox, QVBoxLayout, QWidget

from eider.datasheets import Datasheet, Hit
from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets import button, label, row

SMALLEST, LARGEST = 0.3, 5.0
ZOOM_STEP = 1.25


class _Page(QWidget):
    """One page as a picture, with the hits of a search marked."""

    zoomed = pyqtSignal(float)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._image: QImage | None = None
        self._marks: list[tuple[QRectF, bool]] = []
        self.hint = ""

    def show_picture(self, image: QImage, ratio: float) -> None:
        self._image = image
        self.setFixedSize(QSize(round(image.width() / ratio), round(image.height() / ratio)))
        self.update()

    def show_marks(self, marks: list[tuple[QRectF, bool]]) -> None:
        self._marks = marks
        self.update()

    def clear(self, hint: str) -> None:
        self._image, self.hint = None, hint
        self.setMinimumSize(QSize(120, 80))
        self.setMaximumSize(QSize(16777215, 16777215))
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoomed.emit(ZOOM_STEP ** (event.angleDelta().y() / 120))
            event.accept()
        else:
            super().wheelEvent(event)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._image is None:
            painter.setPen(self._theme.colour("soft"))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(20, 20, -20, -20), flags, self.hint)
            return
        painter.drawImage(self.rect(), self._image)
        for box, current in self._marks:
            colour = QColor(self._theme.colour("accent"))
            colour.setAlpha(110 if current else 45)
            painter.fillRect(box, colour)


class DatasheetView(QWidget):
    """A document, one page at a time."""

    page_changed = pyqtSignal(int)

    def __init__(self, theme: Theme, jobs: Jobs) -> None:
        super().__init__()
        self._jobs = jobs.owned(self)
        self._document: Datasheet | None = None
        self._path: Path | None = None
        self._hits: list[Hit] = []
        self._hit = -1
        self._words = ""
        self._zoom = 0.0
        self._wanted = 0
        self._pages = QSpinBox()
        self._pages.setPrefix("page ")
        self._pages.setKeyboardTracking(False)
        self._pages.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self._pages.setMinimumWidth(104)
        self._pages.valueChanged.connect(self._turned)
        self._search = QLineEdit()
        self._search.setPlaceholderText("Find in the datasheet")
        self._search.returnPressed.connect(self._find)
        self._count = label("", "soft")
        self._page = _Page(theme)
        self._page.zoomed.connect(self.zoom)
        self._area = QScrollArea()
        self._area.setWidget(self._page)
        self._area.setWidgetResizable(True)
        self._area.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        self._area.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        turn = row(
            button("‹", lambda: self._pages.stepDown()),
            self._pages,
            button("›", lambda: self._pages.stepUp()),
            button("−", lambda: self.zoom(1 / ZOOM_STEP)),
            button("+", lambda: self.zoom(ZOOM_STEP)),
            button("Fit width", self.fit_width),
            1,
            margins=2,
        )
        look = row(self._search, self._count, margins=2)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(turn)
        layout.addWidget(look)
        layout.addWidget(self._area, 1)
        for key, step in (
            (QKeySequence.StandardKey.MoveToNextPage, 1),
            (QKeySequence.StandardKey.MoveToPreviousPage, -1),
        ):
            shortcut = QShortcut(QKeySequence(key), self, context=Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(lambda by=step: self._pages.setValue(self._pages.value() + by))
        self.show_nothing("No datasheet is attached yet.")

    @property
    def page(self) -> int:
        """The page that is shown, from 1; 0 without a document."""
        return self._pages.value() if self._document else 0

    @property
    def hits(self) -> int:
        """How many places the last search found."""
        return len(self._hits)

    def show_nothing(self, hint: str) -> None:
        """Show a text in place of a document."""
        if self._document is not None:
            self._jobs.run("pdf", self._document.close)
        self._document, self._path, self._hits, self._hit, self._words = None, None, [], -1, ""
        self._pages.setRange(0, 0)
        self._pages.setEnabled(False)
        self._count.setText("")
        self._page.clear(hint)

    def open(self, path: Path, page: int = 1) -> None:
        """Open a document; the same one stays as it is."""
        if path == self._path:
            return
        self.show_nothing(f"opening {path.name} …")
        self._path = path

        def opened(document: Datasheet) -> None:
            if path != self._path:
                self._jobs.run("pdf", document.close)
                return
            self._document = document
            self._pages.setEnabled(True)
            self._pages.setRange(1, document.pages)
            self._pages.setSuffix(f" of {document.pages}")
            self._pages.setValue(page)
            self._draw()
            if self._search.text():
                self._find()

        self._jobs.run("pdf", lambda: Datasheet(path), opened, lambda fault: self.show_nothing(str(fault)))

    def turn_to(self, page: int) -> None:
        """Show a page."""
        self._pages.setValue(page)

    def zoom(self, factor: float) -> None:
        """Larger (factor above 1) or smaller."""
        self._zoom = min(max((self._zoom or self._fitting()) * factor, SMALLEST), LARGEST)
        self._draw()

    def fit_width(self) -> None:
        """As wide as there is room."""
        self._zoom = 0.0
        self._draw()

    def find(self, words: str) -> None:
        """Search the document and go to the first hit."""
        self._search.setText(words)
        self._find()

    def _fitting(self) -> float:
        if self._document is None:
            return 1.0
        width, _ = self._document.sizes[max(self.page, 1) - 1]
        viewport = self._area.viewport()
        room = (viewport.width() if viewport else self.width()) - 16
        return min(max(room / width, SMALLEST), LARGEST)

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        if self._document and not self._zoom:
            self._draw()

    def _turned(self, page: int) -> None:
        if self._document:
            self._draw()
            self.page_changed.emit(page)

    def _draw(self) -> None:
        """Ask for the page's picture; only the newest request is shown."""
        document, page = self._document, self.page
        if document is None:
            return
        self._wanted += 1
        number, ratio, zoom = self._wanted, self.devicePixelRatioF(), self._zoom or self._fitting()

        def work() -> Any:
            return document.picture(page, zoom * ratio) if number == self._wanted else None

        def done(picture: Any) -> None:
            if picture is None or number != self._wanted:
                return
            height, width, _ = picture.shape
            image = QImage(picture.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888)
            self._page.show_picture(image, ratio)
            self._mark(zoom)

        self._jobs.run("pdf", work, done)

    def _find(self) -> None:
        words, document = self._search.text(), self._document
        if document is None:
            return
        if self._hits and self._words == words:
            self._go_to((self._hit + 1) % len(self._hits))
            return
        self._words = words

        def done(hits: list[Hit]) -> None:
            self._hits = hits
            self._hit = -1
            if hits:
                self._go_to(0)
            else:
                self._count.setText("not found" if words.strip() else "")
                self._draw()

        self._jobs.run("pdf", lambda: document.search(words), done)

    def _go_to(self, index: int) -> None:
        self._hit = index
        self._count.setText(f"{index + 1} of {len(self._hits)}")
        if self._hits[index].page == self.page:
            self._draw()
        else:
            self._pages.setValue(self._hits[index].page)

    def _mark(self, zoom: float) -> None:
        if self._document is None:
            return
        height = self._document.sizes[self.page - 1][1]
        marks = [
            (QRectF(x0 * zoom, (height - y1) * zoom, (x1 - x0) * zoom, (y1 - y0) * zoom), index == self._hit)
            for index, hit in enumerate(self._hits)
            if hit.page == self.page
            for x0, y0, x1, y1 in hit.boxes
        ]
        self._page.show_marks(marks)
        if current := next((box for box, is_current in marks if is_current), None):
            self._area.ensureVisible(int(current.center().x()), int(current.center().y()), 80, 80)
