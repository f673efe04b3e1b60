"""The pages of a datasheet at reading size: scroll, zoom, and the marks that lie over them."""

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen

from eider.datasheets.pages.page_words import PageWord
from eider.desktop.datasheet.page_source import PageSource
from eider.desktop.datasheet.page_stack import PageMark, PageStack
from eider.desktop.theme import Theme
from eider.geometry.plane import Box

SMALLEST, LARGEST = 0.2, 4.0


# Words are read once the view has rested so long: while pages fly by nobody clicks.
RESTING_MS = 120


class ReadingPages(PageStack):
    """The document at reading size, with marks, a selected text and a rectangle that is being drawn."""

    page_changed = pyqtSignal(int)
    scale_changed = pyqtSignal()

    def __init__(self, source: PageSource, theme: Theme) -> None:
        super().__init__(source, theme)
        self.hint = ""
        self.fits_width = True
        self._marks: dict[str, list[PageMark]] = {}
        self._page = 0
        self._band: tuple[int, QRectF] | None = None
        self._selected: tuple[int, tuple[PageWord, ...]] | None = None
        self._awaited: tuple[int, Box] | None = None
        self._resting = QTimer(self)
        self._resting.setSingleShot(True)
        self._resting.timeout.connect(self._read_ahead)

    @property
    def page(self) -> int:
        """The page that takes most of the view's upper half."""
        seen = self.visible()
        middle = self._view().height() * 0.4
        return next((p for p in seen if self.page_rect(p).bottom() > middle), seen[-1] if seen else 0)

    def set_marks(self, group: str, marks: list[PageMark]) -> None:
        """Marks of one group, in place of those before."""
        self._marks[group] = marks
        self.refresh()

    def fit_width(self) -> None:
        """As wide as there is room."""
        self.fits_width = True
        self.lay_out()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller about a point of the view, which stays where it is."""
        self.zoom_to(self.scale * factor, at)

    def zoom_to(self, scale: float, at: QPointF | None = None) -> None:
        """To a scale in pixels per point."""
        point = at or QPointF(self._view().width() / 2, self._view().height() / 3)
        page = self.page_at(point) or self.page
        if not page:
            return
        before = self.page_rect(page)
        share = QPointF((point.x() - before.x()) / before.width(), (point.y() - before.y()) / before.height())
        self.fits_width = False
        self.scale = min(max(scale, SMALLEST), LARGEST)
        self.lay_out()
        after = self.page_rect(page)
        tall, wide = self.bar(Qt.Orientation.Vertical), self.bar(Qt.Orientation.Horizontal)
        tall.setValue(round(tall.value() + after.y() + share.y() * after.height() - point.y()))
        wide.setValue(round(wide.value() + after.x() + share.x() * after.width() - point.x()))
        self.scale_changed.emit()

    def lay_out(self) -> None:
        document = self.source.document
        if document and self.fits_width:
            page, down = self.page, self.down()
            widest = max(size[self.quarters % 2] for size in document.sizes)
            self.scale = min(max((self._view().width() - 24) / widest, SMALLEST), LARGEST)
            super().lay_out()
            if page:
                self.scroll_to(page, down)
            return
        super().lay_out()

    def down(self) -> float:
        """How far down the present page the view begins, as a share of its height."""
        page = self.page
        if not page:
            return 0.0
        rect = self.page_rect(page)
        return max(0.0, -rect.y() / max(rect.height(), 1.0))

    def bring_into_view(self, page: int, box: Box) -> None:
        """Scroll so that a box of a page is seen."""
        if not 1 <= page <= self.pages:
            return
        rect = self.on_screen(page, box)
        self._awaited = (page, box) if rect is None else None
        if rect is None:
            self.scroll_to(page)
            return
        view = self._view()
        if not view.adjusted(10, 10, -10, -10).contains(rect):
            tall, wide = self.bar(Qt.Orientation.Vertical), self.bar(Qt.Orientation.Horizontal)
            tall.setValue(round(tall.value() + rect.center().y() - view.height() / 3))
            if rect.right() > view.width() or rect.left() < 0:
                wide.setValue(round(wide.value() + rect.center().x() - view.width() / 2))

    def view_changed(self) -> None:
        super().view_changed()
        page = self.page
        self._resting.start(RESTING_MS)
        if page != self._page:
            self._page = page
            self.page_changed.emit(page)

    def _read_ahead(self) -> None:
        """Where the view rests, a click will follow: have the words ready."""
        for seen in self.visible():
            self.source.read_ahead(seen)

    def _arrived(self, page: int) -> None:
        super()._arrived(page)
        if self._awaited and self._awaited[0] == page and self.source.frame(page, self.quarters):
            self.bring_into_view(*self._awaited)

    def to_page(self, page: int, point: QPointF) -> tuple[float, float] | None:
        """A point of the view in PDF points of a page."""
        frame, rect = self.source.frame(page, self.quarters), self.page_rect(page)
        if frame is None:
            return None
        return frame.to_page((point.x() - rect.x()) / self.scale, (point.y() - rect.y()) / self.scale)

    def paintEvent(self, event: object) -> None:
        super().paintEvent(event)  # type: ignore[arg-type]  # a paint event
        painter = QPainter(self.viewport())
        if not self.pages:
            painter.setPen(self.theme.colour("soft"))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self._view().adjusted(20, 20, -20, -20), int(flags), self.hint)
        if self.hasFocus():
            painter.setPen(self.theme.colour("accent"))
            painter.drawRect(self._view().adjusted(0, 0, -1, -1))

    def _left_out(self) -> QColor:
        colour = QColor(self.theme.colour("soft"))
        colour.setAlpha(90)
        return colour

    def _paint_block(self, painter: QPainter, box: QRectF, text: str) -> None:
        """The outline of what was read as one block, and at its corner what it was taken for."""
        accent = self.theme.colour("accent")
        painter.setPen(QPen(accent, 1.4, Qt.PenStyle.DashLine))
        painter.drawRect(box)
        if not text:
            return
        font = painter.font()
        font.setPixelSize(12)
        painter.setFont(font)
        room = painter.fontMetrics().boundingRect(text).adjusted(-5, -2, 5, 2)
        label = QRectF(box.left(), box.top() - room.height(), room.width(), room.height())
        painter.fillRect(label, accent)
        painter.setPen(self.theme.colour("white"))
        painter.drawText(label, int(Qt.AlignmentFlag.AlignCenter), text)

    def paint_over(self, painter: QPainter, page: int, rect: QRectF) -> None:
        accent, blue = self.theme.colour("accent"), QColor(self.theme.colours["blue"])
        for mark in (m for group in self._marks.values() for m in group if m.page == page):
            box = self.on_screen(page, mark.box)
            if box is None:
                continue
            fill = QColor(accent)
            fill.setAlpha({"hit": 45, "current hit": 110, "captured": 18, "in hand": 60, "block": 14}.get(mark.kind, 0))
            painter.fillRect(box, self._left_out() if mark.kind == "left out" else fill)
            if mark.kind in ("captured", "in hand", "rectangle"):
                width = {"in hand": 2.0, "rectangle": 1.6}.get(mark.kind, 1.0)
                painter.setPen(QPen(blue if mark.kind == "rectangle" else accent, width))
                painter.drawRect(box.adjusted(-1, -1, 1, 1))
            if mark.kind == "block":
                self._paint_block(painter, box, mark.text)
            if mark.text and mark.kind == "in hand":
                font = painter.font()
                font.setPixelSize(min(max(round(box.height() * 0.95), 6), 13))
                painter.setFont(font)
                painter.setPen(accent)
                painter.drawText(QPointF(box.right() + 4, box.bottom() - 0.18 * box.height()), mark.text)
        if self._selected and self._selected[0] == page:
            colour = QColor(self.theme.colours["blue"])
            colour.setAlpha(70)
            for word in self._selected[1]:
                box = self.on_screen(page, word.box)
                if box is not None:
                    painter.fillRect(box, colour)
        if self._band and self._band[0] == page:
            painter.setPen(QPen(blue, 1.6, Qt.PenStyle.DashLine))
            painter.drawRect(self._band[1])
