"""Searches an open document: the field to type in, the list of hits, and their marks on the pages."""

from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from eider.datasheets import Hit
from eider.desktop.datasheet.page_area import PageArea
from eider.desktop.datasheet.page_source import PageSource
from eider.desktop.datasheet.page_stack import PageMark
from eider.desktop.jobs import OwnedJobs
from eider.desktop.widgets.layouts import fill_widget, growing, label, row

# Pages that are searched in one go, so that pages which are looked at meanwhile are drawn in between.
SEARCHED_AT_ONCE = 6
MOST_HITS = 500


class DocumentSearch(QWidget):
    """The row with the field and the count; `results` lists the hits and stands where its owner puts it."""

    def __init__(self, source: PageSource, area: PageArea, jobs: OwnedJobs) -> None:
        super().__init__()
        self._source, self._area, self._jobs = source, area, jobs
        self._hits: list[Hit] = []
        self._hit, self._words, self._number = -1, "", 0
        self.field = QLineEdit()
        self.field.setPlaceholderText("Find in the document")
        self.field.returnPressed.connect(self.search)
        self.count = label("", "soft")
        self.results = QListWidget()
        self.results.itemClicked.connect(lambda item: self._go_to(self.results.row(item)))
        self.results.itemActivated.connect(lambda item: self._go_to(self.results.row(item)))
        fill_widget(self, row(growing(self.field), self.count, spacing=3))

    @property
    def hits(self) -> int:
        """How many places the last search found."""
        return len(self._hits)

    def clear(self) -> None:
        """Forget the hits: they were in another document."""
        self._hits, self._hit, self._words = [], -1, ""
        self.count.setText("")
        self.results.clear()

    def find_text(self, words: str) -> None:
        """Search the document and go to the first hit."""
        self.field.setText(words)
        self.search()

    def search(self) -> None:
        """Search for what is typed; for the same words again, go to the next hit."""
        words = self.field.text()
        if self._source.document is None:
            return
        if self._hits and self._words == words:
            self._go_to((self._hit + 1) % len(self._hits))
            return
        self._words, self._hits, self._hit = words, [], -1
        self._number += 1
        self.results.clear()
        self._search_on(self._number, 1)

    def _search_on(self, number: int, first: int) -> None:
        """Search some pages, then the next: a new search or another document ends it."""
        document, words = self._source.document, self._words
        if document is None or number != self._number:
            return
        if first > document.pages or len(self._hits) >= MOST_HITS or not words.strip():
            self._show_count(is_done=True)
            return
        pages = range(first, min(first + SEARCHED_AT_ONCE, document.pages + 1))

        def done(hits: list[Hit]) -> None:
            if number == self._number and document is self._source.document:
                self._found(hits)
                self._search_on(number, pages.stop)

        self._jobs.run("pdf", lambda: document.search(words, pages), done)

    def _found(self, hits: list[Hit]) -> None:
        self._hits += hits
        for hit in hits:
            self.results.addItem(QListWidgetItem(f"page {hit.page}: {hit.around}"))
        if self._hit < 0 and self._hits:
            self._go_to(0)
        self._show_count(is_done=False)

    def _show_count(self, *, is_done: bool) -> None:
        nothing = ("not found" if self._words.strip() else "") if is_done else "…"
        more = "" if is_done else " …"
        self.count.setText(f"{self._hit + 1} of {len(self._hits)}{more}" if self._hits else nothing)
        marks = [
            PageMark(hit.page, box, "current hit" if index == self._hit else "hit")
            for index, hit in enumerate(self._hits)
            for box in hit.boxes
        ]
        self._area.set_marks("hits", marks)

    def _go_to(self, index: int) -> None:
        self._hit = index
        hit = self._hits[index]
        self._show_count(is_done=True)
        self.results.setCurrentRow(index)
        if hit.boxes:
            self._area.bring_into_view(hit.page, hit.boxes[0])
        else:
            self._area.scroll_to(hit.page)
