"""The pages of one document: pictures and texts made elsewhere, kept within a limit, the visible ones first."""

from collections import OrderedDict
from collections.abc import Callable, Iterable, Sequence
from typing import Any, NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import PageFrame
from eider.desktop.jobs import Jobs
from eider.desktop.widgets.images import to_image
from eider.services.datasheets.page_recognition import recognise_page_of
from eider.services.tasks import Task

# Bytes of pictures that are kept, and pages of which the words are.
MOST_BYTES, MOST_TEXTS = 80 * 2**20, 24


class PageWish(NamedTuple):
    """A picture that is wanted: page from 1, pixels per point, quarters turned, light on dark."""

    page: int
    scale: float
    quarters: int
    dark: bool


class DocumentToOpen(NamedTuple):
    """A document by a key that no other has, and how it is opened: away from the Qt thread, as it takes time."""

    key: str
    open: Callable[[], Datasheet]


class PageSource(QObject):
    """Opens a document and hands out what is there of its pages; what is not comes later, with a signal.

    `changed` tells of a page that was recognised: its picture and words are others now.
    """

    opened = pyqtSignal()
    failed = pyqtSignal(str)
    arrived = pyqtSignal(int)
    changed = pyqtSignal(int)
    unread = pyqtSignal(str)

    def __init__(self, jobs: Jobs, parent: QObject) -> None:
        super().__init__(parent)
        self._jobs = jobs.owned(self)
        self.document: Datasheet | None = None
        self.wanted: DocumentToOpen | None = None
        self._pictures: OrderedDict[PageWish, QImage] = OrderedDict()
        self._texts: OrderedDict[int, PageText] = OrderedDict()
        self._frames: dict[tuple[int, int], PageFrame] = {}
        self._wanted: list[PageWish] = []
        self._recognised: set[int] = set()
        self._drawing = False

    def open(self, wanted: DocumentToOpen) -> None:
        """Open a document in place of the one that was open."""
        self.close()
        self.wanted = wanted

        def done(document: Datasheet) -> None:
            if wanted is not self.wanted or self.document is not None:
                self._jobs.run("pdf", document.close)
                return
            self.document = document
            self.opened.emit()

        def failed(fault: Exception) -> None:
            if wanted is self.wanted:
                self.close()
                self.failed.emit(str(fault))

        self._jobs.run("pdf", wanted.open, done, failed)

    def close(self) -> None:
        """Give the document back."""
        if self.document is not None:
            self._jobs.run("pdf", self.document.close)
        self.document, self.wanted, self._wanted = None, None, []
        self._pictures.clear()
        self._texts.clear()
        self._frames.clear()
        self._recognised.clear()

    def picture(self, wish: PageWish) -> QImage | None:
        """The picture of a page: as wished, or for now another size of it."""
        if wish in self._pictures:
            self._pictures.move_to_end(wish)
            return self._pictures[wish]
        others = [w for w in self._pictures if (w.page, w.quarters, w.dark) == (wish.page, wish.quarters, wish.dark)]
        return self._pictures[min(others, key=lambda w: abs(w.scale - wish.scale))] if others else None

    def want(self, wishes: Sequence[PageWish]) -> None:
        """These pictures are wanted now, in this order; earlier wishes are forgotten."""
        self._wanted = [wish for wish in wishes if wish not in self._pictures]
        self._next()

    def frame(self, page: int, quarters: int) -> PageFrame | None:
        """How a page lies in its picture; None until its picture is there."""
        return self._frames.get((page, quarters))

    def text(self, page: int) -> PageText | None:
        """The words of a page, where they have been read."""
        return self._texts.get(page)

    def with_text(self, page: int, work: Callable[[PageText], Any], then: Callable[[Any], None]) -> None:
        """Do something with the words of a page elsewhere, and hand on its result."""
        document, known = self.document, self._texts.get(page)
        if document is None:
            return

        def run() -> tuple[PageText, Any]:
            text = known or document.read(page)
            return text, work(text)

        def done(result: tuple[PageText, Any]) -> None:
            if document is self.document and result[0].is_picture:
                self._recognise(page)
            if document is self.document:
                self._texts[page] = result[0]
                self._texts.move_to_end(page)
                while len(self._texts) > MOST_TEXTS:
                    self._texts.popitem(last=False)
                then(result[1])

        def failed(fault: Exception) -> None:
            if document is self.document:
                self.unread.emit(str(fault))

        self._jobs.run("reading", run, done, failed)

    def _recognise(self, page: int) -> None:
        """Recognise a page that is a picture, beside all else; once for as long as the document is open."""
        document = self.document
        if document is None or page in self._recognised:
            return
        self._recognised.add(page)

        def work(task: Task) -> None:
            recognise_page_of(document, page, task)

        def done(_none: None) -> None:
            if document is self.document:
                self.forget([page])

        self._jobs.run_long("recognition", f"Recognising page {page}", work, done, lambda f: self.unread.emit(str(f)))

    def forget(self, pages: Iterable[int]) -> None:
        """Draw and read pages anew: they were recognised meanwhile, and stand straight now."""
        for page in pages:
            self._texts.pop(page, None)
            for wish in [wish for wish in self._pictures if wish.page == page]:
                del self._pictures[wish]
            self.changed.emit(page)

    def read_ahead(self, page: int) -> None:
        """Read the words of a page before they are asked for, so that a click is answered at once."""
        if page not in self._texts:
            self.with_text(page, lambda _text: None, lambda _none: self.arrived.emit(page))

    def _next(self) -> None:
        """One picture at a time; the newest wishes decide which."""
        if self._drawing or not self._wanted or self.document is None:
            return
        document, wish = self.document, self._wanted.pop(0)
        self._drawing = True

        def work() -> tuple[QImage, PageFrame]:
            pixels = document.picture(wish.page, wish.scale, wish.quarters, inverted=wish.dark)
            return to_image(pixels), document.frame(wish.page, wish.quarters)

        def done(made: tuple[QImage, PageFrame]) -> None:
            self._drawing = False
            if document is self.document:
                self._frames[wish.page, wish.quarters] = made[1]
                self._keep(wish, made[0])
                self.arrived.emit(wish.page)
            self._next()

        def failed(fault: Exception) -> None:
            # The page stays blank paper; the others go on.
            self._drawing = False
            self.unread.emit(f"Page {wish.page} cannot be drawn: {fault}")
            self._next()

        self._jobs.run("pdf", work, done, failed)

    def _keep(self, wish: PageWish, image: QImage) -> None:
        self._pictures[wish] = image
        while sum(i.sizeInBytes() for i in self._pictures.values()) > MOST_BYTES and len(self._pictures) > 1:
            self._pictures.popitem(last=False)
