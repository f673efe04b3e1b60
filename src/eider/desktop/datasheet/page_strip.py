"""The strip of small pages beside the document: a click goes to one."""

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPen

from eider.desktop.datasheet.page_source import PageSource
from eider.desktop.datasheet.page_stack import GAP, PageMark, PageStack
from eider.desktop.theme import Theme


class PageStrip(PageStack):
    """Small pages, the one that is read framed."""

    chosen = pyqtSignal(int)

    def __init__(self, source: PageSource, theme: Theme) -> None:
        super().__init__(source, theme)
        self.current = 0
        self._found: list[PageMark] = []
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMinimumWidth(80)
        self.setAccessibleName("Pages")

    def sizeHint(self) -> QSize:
        return QSize(104, 300)

    def show_current(self, page: int) -> None:
        """Frame the page that is read, and bring it into view."""
        if page == self.current or not self._tops:
            return
        self.current = page
        if page and page not in self.visible()[1:-1]:
            self.scroll_to(max(page - 1, 1))
        self.refresh()

    def show_found(self, marks: list[PageMark]) -> None:
        """Mark the tables and figures that were found in the document."""
        self._found = marks
        self.refresh()

    def lay_out(self) -> None:
        document = self.source.document
        if document:
            widest = max(size[self.quarters % 2] for size in document.sizes)
            self.scale = max((self._view().width() - 2 * GAP) / widest, 0.02)
        super().lay_out()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        page = self.page_at(event.position()) if event else 0
        if page:
            self.chosen.emit(page)

    def paint_over(self, painter: QPainter, page: int, rect: QRectF) -> None:
        for mark in self._found:
            box = self.on_screen(page, mark.box) if mark.page == page else None
            if box is not None:
                fill = self.theme.colour("accent")
                painter.setPen(QPen(fill, 1.0))
                fill.setAlpha(50)
                painter.fillRect(box, fill)
                painter.drawRect(box)
        if page == self.current:
            painter.setPen(QPen(self.theme.colour("accent"), 2.5))
            painter.drawRect(rect)
        painter.setPen(self.theme.colour("ink"))
        badge = QRectF(rect.right() - 30, rect.bottom() - 16, 28, 15)
        painter.fillRect(badge, self.theme.colour("paper"))
        painter.drawText(badge, Qt.AlignmentFlag.AlignCenter, str(page))
