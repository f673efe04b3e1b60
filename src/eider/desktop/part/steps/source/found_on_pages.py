"""What is found in the datasheet in view: marked on its pages, explained there, and put to use."""

from collections.abc import Sequence

from PyQt6.QtCore import QObject

from eider.datasheets.documents.found_items import FOUND_WORDS, FoundItem
from eider.datasheets.documents.page_explanation import PageExplanation
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.datasheet.page_stack import PageMark
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.desktop.part.datasheet_figures import FigurePlace, FigureReader
from eider.desktop.part.steps.source.found_panel import FoundPanel
from eider.geometry.plane import Box
from eider.views.other_packages import other_packages


class FoundOnPages(QObject):
    """Ties the list of what is found to the view of the document; before there is a view it does nothing."""

    def __init__(self, panel: FoundPanel, controller: PartController, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__(panel)
        self._panel, self._controller, self._context, self._jobs = panel, controller, context, jobs
        self._view: DatasheetView | None = None
        panel.place_asked.connect(self._go_to_box)
        panel.listed.connect(self._mark)
        panel.read_asked.connect(self._read)
        panel.figure_asked.connect(self._use_figure)
        panel.recognised.connect(self._draw_anew)
        panel.variant_asked.connect(self._draft_variant)
        panel.explanation_asked.connect(self._explain)
        panel.page_explained.connect(self._show_explanation)

    def hold(self, view: DatasheetView) -> None:
        """Mark what is found on the pages of this view from now on."""
        self._view = view
        view.page_changed.connect(self._explain_page_in_view)

    def _go_to_box(self, page: int, box: Box) -> None:
        if self._view:
            self._view.show_box(page, box)

    def _mark(self, found: Sequence[FoundItem]) -> None:
        if self._view:
            self._view.strip.show_found([PageMark(item.page, item.box, "found") for item in found])
        self._panel.show_packages(other_packages(self._controller.bundle, self._panel.sha, found))

    def _draw_anew(self, sha: str, pages: Sequence[int]) -> None:
        """Pages that were recognised stand straight now."""
        if self._view and self._view.key == sha:
            self._view.source.forget(pages)

    def _explain(self, sha: str) -> None:
        """Show over the page in view how it was read, or no longer."""
        if self._view and not sha:
            self._view.area.set_marks("explained", [])
        elif self._view and self._view.page:
            self._panel.explain(self._view.page)

    def _explain_page_in_view(self, _page: int) -> None:
        if self._panel.explained.isChecked():
            self._explain(self._panel.sha)

    def _show_explanation(self, told: PageExplanation) -> None:
        if self._view:
            gone = [PageMark(told.page, line.box, "left out") for line in told.left_out]
            read = [
                PageMark(told.page, block.box, "block", FOUND_WORDS[block.kind] if block.kind else "")
                for block in told.blocks
            ]
            figures = [PageMark(told.page, i.box, "block", FOUND_WORDS[i.kind]) for i in told.found if i.is_figure]
            self._view.area.set_marks("explained", [*gone, *read, *figures])

    def _draft_variant(self, sha: str, package: str) -> None:
        part = self._controller.bundle.part
        name = next((link.name for link in part.datasheets if link.sha256 == sha), sha)
        self._context.variant_asked.emit(sha, name, part.name, package)

    def _read(self, page: int, box: Box) -> None:
        """Capture what was found, as if a rectangle were drawn round it."""
        if self._view:
            self._view.show_box(page, box)
            self._view.boxed.emit(page, box)

    def _use_figure(self, sha: str, found: FoundItem) -> None:
        """Keep an outline, read suggested lands, or hold the part against a pinout figure."""
        reader = FigureReader(self._controller, self._context, self._jobs)
        place = FigurePlace(sha, found.page, found.box)
        if found.kind == "outline":
            reader.keep_drawing(place)
        elif found.kind == "lands":
            reader.read_lands(place)
        else:
            reader.read_pinout(place)
