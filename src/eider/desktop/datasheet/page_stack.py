"""Pages one below the other, painted as they come into view: what the reading pane and its strip share."""

from bisect import bisect_left, bisect_right
from itertools import accumulate
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QScrollBar

from eider.desktop.datasheet.page_source import PageSource, PageWish
from eider.desktop.theme import Theme
from eider.desktop.widgets.qt_values import present
from eider.geometry.plane import Box

GAP = 12.0
# Pictures are made in steps of this share of a pixel per point, so that a resize of the window makes few.
SCALE_STEP = 0.01


class PageMark(NamedTuple):
    """A mark on a page, with its label.

    `kind` is one of hit, current hit, captured, in hand, rectangle, found, block and left out.
    """

    page: int
    box: Box
    kind: str
    text: str = ""


class PageStack(QAbstractScrollArea):
    """The pages of a source in one column; `scale` is pixels of the screen per PDF point."""

    def __init__(self, source: PageSource, theme: Theme) -> None:
        super().__init__()
        self.source, self.theme = source, theme
        self.scale, self.quarters, self.dark = 1.0, 0, False
        self._tops: list[float] = []
        self.setFrameShape(self.Shape.NoFrame)
        source.arrived.connect(self._arrived)
        source.changed.connect(lambda _page: self.view_changed())
        self.bar(Qt.Orientation.Vertical).valueChanged.connect(lambda _value: self.view_changed())
        self.bar(Qt.Orientation.Horizontal).valueChanged.connect(lambda _value: self.view_changed())

    def bar(self, orientation: Qt.Orientation) -> QScrollBar:
        """A scroll bar."""
        is_upright = orientation == Qt.Orientation.Vertical
        return present(self.verticalScrollBar() if is_upright else self.horizontalScrollBar())

    def page_size(self, page: int) -> tuple[float, float]:
        """Width and height of a page (from 1) on the screen."""
        document = self.source.document
        if document is None:
            return 0.0, 0.0
        width, height = document.sizes[page - 1]
        if self.quarters % 2:
            width, height = height, width
        return width * self.scale, height * self.scale

    @property
    def pages(self) -> int:
        """How many pages there are."""
        return self.source.document.pages if self.source.document else 0

    def lay_out(self) -> None:
        """Work out where pages lie."""
        heights = [self.page_size(page)[1] + GAP for page in range(1, self.pages + 1)]
        self._tops = [GAP, *(GAP + top for top in accumulate(heights))]
        widest = max((self.page_size(page)[0] for page in range(1, self.pages + 1)), default=0.0)
        view = self._view()
        tall, wide = self.bar(Qt.Orientation.Vertical), self.bar(Qt.Orientation.Horizontal)
        tall.setPageStep(int(view.height()))
        tall.setSingleStep(40)
        tall.setRange(0, max(0, int(self._tops[-1] - view.height()) if self.pages else 0))
        wide.setPageStep(int(view.width()))
        wide.setRange(0, max(0, int(widest + 2 * GAP - view.width())))
        self.view_changed()

    def _view(self) -> QRectF:
        viewport = self.viewport()
        return QRectF(viewport.rect()) if viewport else QRectF()

    def page_rect(self, page: int) -> QRectF:
        """Where a page (from 1) lies in the view now."""
        width, height = self.page_size(page)
        view, wide = self._view(), self.bar(Qt.Orientation.Horizontal)
        left = max((view.width() - width) / 2, GAP) if not wide.maximum() else GAP - wide.value()
        return QRectF(left, self._tops[page - 1] - self.bar(Qt.Orientation.Vertical).value(), width, height)

    def on_screen(self, page: int, box: Box) -> QRectF | None:
        """Where a box of a page (PDF points) lies in the view; None while the page is not known."""
        frame = self.source.frame(page, self.quarters)
        if frame is None:
            return None
        left, top, right, bottom = frame.box_to_picture(box)
        rect, scale = self.page_rect(page), self.scale
        return QRectF(rect.x() + left * scale, rect.y() + top * scale, (right - left) * scale, (bottom - top) * scale)

    def visible(self) -> list[int]:
        """The pages that are in view."""
        if not self.pages or len(self._tops) != self.pages + 1:
            return []
        top = self.bar(Qt.Orientation.Vertical).value()
        first = max(bisect_right(self._tops, top), 1)
        last = bisect_left(self._tops, top + self._view().height())
        return [p for p in range(first, min(last, self.pages) + 1) if self._tops[p] - GAP > top]

    def page_at(self, point: QPointF) -> int:
        """The page under a point of the view; 0 where there is none."""
        return next((page for page in self.visible() if self.page_rect(page).contains(point)), 0)

    def scroll_to(self, page: int, down: float = 0.0) -> None:
        """Bring a page to the top of the view, from a share of its height on."""
        if 1 <= page <= self.pages:
            at = self._tops[page - 1] - (GAP / 2 if not down else 0) + down * self.page_size(page)[1]
            self.bar(Qt.Orientation.Vertical).setValue(round(at))

    def wish(self, page: int) -> PageWish:
        """The picture that fits what is shown."""
        scale = round(self.scale * self.devicePixelRatioF() / SCALE_STEP) * SCALE_STEP
        return PageWish(page, round(scale, 3), self.quarters, self.dark)

    def view_changed(self) -> None:
        """Other pages, or another size of them, are in view."""
        seen = self.visible()
        around = [p for p in (seen[-1] + 1, seen[0] - 1) if 1 <= p <= self.pages] if seen else []
        self.source.want([self.wish(page) for page in (*seen, *around)])
        self.refresh()

    def refresh(self) -> None:
        """Paint again."""
        viewport = present(self.viewport())
        viewport.update()

    def _arrived(self, page: int) -> None:
        if page in self.visible():
            self.refresh()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self.viewport())
        painter.fillRect(self._view(), self.theme.colour("grid"))
        for page in self.visible():
            rect = self.page_rect(page)
            image = self.source.picture(self.wish(page))
            painter.fillRect(rect, self.theme.colour("ink" if self.dark and self.theme.name == "light" else "white"))
            if image is not None:
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
                painter.drawImage(rect, image)
            self.paint_over(painter, page, rect)

    def paint_over(self, painter: QPainter, page: int, rect: QRectF) -> None:
        """What is painted over a page."""

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.lay_out()
