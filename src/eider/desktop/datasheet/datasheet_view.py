"""Reads a datasheet: continuous pages, zoom, a strip of small pages, search, text; and what is captured from it."""

from collections.abc import Callable
from functools import partial
from typing import Literal

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QSpinBox, QVBoxLayout, QWidget

from eider.datasheets.documents.click_capture import Click, read_length, read_words_at
from eider.datasheets.pages.document import PageText
from eider.desktop.datasheet.document_search import DocumentSearch
from eider.desktop.datasheet.page_area import ZOOM_STEP, PageArea
from eider.desktop.datasheet.page_source import DocumentToOpen, PageSource
from eider.desktop.datasheet.page_stack import PageMark
from eider.desktop.datasheet.page_strip import PageStrip
from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, growing, panes, row, small_button
from eider.desktop.widgets.qt_values import present
from eider.geometry.plane import Box
from eider.services.datasheets.reading_positions import ReadingPosition, ReadingPositions


class DatasheetView(QWidget):
    """A document to read; `picked` and `boxed` tell where the user clicked or drew a rectangle (PDF points)."""

    page_changed = pyqtSignal(int)
    picked = pyqtSignal(int, float, float)
    boxed = pyqtSignal(int, object)

    def __init__(self, theme: Theme, jobs: Jobs, places: ReadingPositions | None = None) -> None:
        super().__init__()
        self._jobs, self._places = jobs.owned(self), places
        self._then: ReadingPosition | None = None
        # Key of the document that is open or being opened; empty without one.
        self.key = ""
        self.source = PageSource(jobs, self)
        self.source.opened.connect(self._opened)
        self.source.failed.connect(self.show_nothing)
        self.area, self.strip = PageArea(self.source, theme), PageStrip(self.source, theme)
        self.area.page_changed.connect(self._scrolled)
        self.area.picked.connect(self.picked)
        self.area.boxed.connect(self.boxed)
        self.strip.chosen.connect(self.turn_to)
        self._pages = QSpinBox()
        self._pages.setPrefix("page ")
        self._pages.setKeyboardTracking(False)
        self._pages.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self._pages.setMinimumWidth(92)
        self._pages.valueChanged.connect(lambda page: self.turn_to(page) if page else None)
        self.search = DocumentSearch(self.source, self.area, self._jobs)
        self._build()
        self.show_nothing("No datasheet is attached yet.")

    def _build(self) -> None:
        self._show_strip = small_button(button("Pages", self._show_sides, checkable=True))
        self._show_hits = small_button(button("Hits", self._show_sides, checkable=True))
        self._select = small_button(button("Text", self._toggle_selecting, checkable=True))
        self._select.setToolTip("Select text by dragging, and copy it")
        self._dark = small_button(button("Dark", self._toggle_dark, checkable=True))
        self._dark.setToolTip("Dark page")
        turn = row(
            self._show_strip,
            self._pages,
            small_button(button("−", lambda: self.area.zoom(1 / ZOOM_STEP))),
            small_button(button("+", lambda: self.area.zoom(ZOOM_STEP))),
            small_button(button("Fit", self.area.fit_width)),
            self._select,
            small_button(button("Turn", self._turn)),
            self._dark,
            1,
            margins=2,
            spacing=3,
        )
        look = row(growing(self.search), self._show_hits, margins=2, spacing=3)
        self._side = panes(self.strip, self.search.results, sizes=(300, 200), vertical=True)
        self._show_sides()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(column(turn, look, margins=0, spacing=0))
        layout.addWidget(panes(self._side, self.area, sizes=(110, 500)), 1)
        self._layout = layout
        for key, step in (
            (QKeySequence.StandardKey.MoveToNextPage, 1),
            (QKeySequence.StandardKey.MoveToPreviousPage, -1),
        ):
            shortcut = QShortcut(QKeySequence(key), self, context=Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(lambda by=step: self.turn_to(self.page + by))

    def set_footer(self, widget: QWidget) -> None:
        """A line under the pages."""
        self._layout.addWidget(widget)

    @property
    def page(self) -> int:
        """The page that is read, from 1; 0 without a document."""
        return self.area.page

    def show_nothing(self, hint: str) -> None:
        """Show a text in place of a document."""
        self._keep_place()
        self.key = ""
        self.source.close()
        self.search.clear()
        self._pages.setRange(0, 0)
        self._pages.setSuffix("")
        self._pages.setEnabled(False)
        self.area.hint = hint
        for group in ("hits", "captured", "rectangle"):
            self.area.set_marks(group, [])
        self._lay_out()

    def open(self, document: DocumentToOpen, page: int = 0) -> None:
        """Open a document where it was left, or at a page; the same one stays as it is."""
        if document.key == self.key:
            if page and self.source.document is None:
                self._then = ReadingPosition(page=page)
            elif page:
                self.turn_to(page)
            return
        self.show_nothing("Opening the document…")
        self.key, self._then = document.key, ReadingPosition(page=page) if page else None
        places = self._places
        if page or places is None:
            self.source.open(document)
        else:
            self._jobs.run("disk", lambda: places.of(document.key), partial(self._open_at, document))

    def _open_at(self, document: DocumentToOpen, known: ReadingPosition | None) -> None:
        """Open a document where it was left, unless another one, or a page of it, was asked for meanwhile."""
        if document.key == self.key and self.source.wanted is None:
            self._then = self._then or known
            self.source.open(document)

    def _opened(self) -> None:
        document, then = self.source.document, self._then or ReadingPosition()
        if document is None:
            return
        self._pages.setEnabled(True)
        self._pages.setRange(1, document.pages)
        self._pages.setSuffix(f" of {document.pages}")
        self._dark.setChecked(then.dark)
        self.area.fits_width = then.zoom == 0
        self.area.scale = then.zoom or self.area.scale
        for stack in (self.area, self.strip):
            stack.dark, stack.quarters = then.dark, then.quarters
        self._lay_out()
        self.area.scroll_to(min(max(then.page, 1), document.pages), then.down)
        self._scrolled(self.page)
        if self.search.field.text():
            self.search.search()

    def _keep_place(self) -> None:
        wanted = self.source.wanted
        if self._places is None or wanted is None or self.source.document is None or not self.page:
            return
        zoom = 0.0 if self.area.fits_width else self.area.scale
        place = ReadingPosition(self.page, round(self.area.down(), 4), zoom, self.area.quarters, self.area.dark)
        places = self._places
        self._jobs.run("disk", lambda: places.keep(wanted.key, place))

    def _lay_out(self) -> None:
        self.area.lay_out()
        self.strip.lay_out()

    def turn_to(self, page: int) -> None:
        """Go to a page."""
        self.area.scroll_to(page)

    def show_box(self, page: int, box: Box) -> None:
        """Go to a place and mark it as the selected one."""
        self.area.set_marks("in hand", [PageMark(page, box, "in hand")])
        if self.source.document is None:
            self._then = ReadingPosition(page=page)
        self.area.bring_into_view(page, box)

    def show_captured(self, marks: list[PageMark]) -> None:
        """Mark the places from which values were taken."""
        self.area.set_marks("captured", marks)

    def show_rectangle(self, page: int, box: Box | None) -> None:
        """Mark the rectangle that is being looked at."""
        self.area.set_marks("rectangle", [PageMark(page, box, "rectangle")] if box else [])

    def read_click(
        self, page: int, x: float, y: float, kind: Literal["length", "text"], then: Callable[[Click], None]
    ) -> None:
        """What is meant by a click, read elsewhere."""

        def work(text: PageText) -> Click:
            return read_length(text, x, y) if kind == "length" else read_words_at(text, x, y)

        self.source.with_text(page, work, then)

    def _scrolled(self, page: int) -> None:
        self._pages.blockSignals(True)
        self._pages.setValue(page)
        self._pages.blockSignals(False)
        self.strip.show_current(page)
        self.page_changed.emit(page)

    def _show_sides(self) -> None:
        """The strip of small pages and the list of hits, each where its button is pressed."""
        strip, hits = self._show_strip.isChecked(), self._show_hits.isChecked()
        self.strip.setVisible(strip)
        self.search.results.setVisible(hits)
        self._side.setVisible(strip or hits)
        self.strip.lay_out()

    def _toggle_selecting(self) -> None:
        self.area.selects_text = self._select.isChecked()
        viewport = present(self.area.viewport())
        viewport.setCursor(Qt.CursorShape.IBeamCursor if self.area.selects_text else Qt.CursorShape.ArrowCursor)

    def _turn(self) -> None:
        for stack in (self.area, self.strip):
            stack.quarters = (stack.quarters + 1) % 4
        self._lay_out()

    def _toggle_dark(self) -> None:
        for stack in (self.area, self.strip):
            stack.dark = self._dark.isChecked()
            stack.view_changed()
