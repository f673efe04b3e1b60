"""Cut-outs of datasheets round the place of a value: made elsewhere, kept, and told of when they are there."""

from collections import OrderedDict

from PyQt6.QtCore import QObject, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import around
from eider.datasheets.tables.value_labels import with_label
from eider.desktop.jobs import Jobs
from eider.desktop.widgets.images import to_image
from eider.library import Library
from eider.model.evidence import Evidence
from eider.services.datasheets.datasheet_opening import open_datasheet

# Pixels per PDF point, documents that are kept open, and pictures that are kept.
SCALE, MOST_OPEN, MOST_KEPT = 2.5, 3, 400


class DatasheetSnippets(QObject):
    """Hands out the cut-out of an evidence, or None for now; `arrived` follows."""

    arrived = pyqtSignal()

    def __init__(self, jobs: Jobs, library: Library, parent: QObject) -> None:
        super().__init__(parent)
        self._jobs, self._library = jobs.owned(self), library
        self._kept: OrderedDict[Evidence, QPixmap | None] = OrderedDict()
        self._open: OrderedDict[str, Datasheet] = OrderedDict()
        # The words of the page that was read last: values of one page are asked for one after the other.
        self._texts: dict[tuple[str, int], PageText] = {}

    def of(self, evidence: Evidence | None) -> QPixmap | None:
        """The picture of a place; None where it has no place, or is not there yet."""
        if evidence is None or evidence.box is None or not evidence.document:
            return None
        # Who confirmed it does not change the picture.
        key = Evidence(evidence.kind, evidence.document, evidence.page, evidence.box)
        if key not in self._kept:
            self._kept[key] = None
            self._make(key)
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return self._kept[key]

    def fitted(self, evidence: Evidence | None, room: QSize) -> QPixmap | None:
        """The cut-out scaled down to fit `room`; None without a place, or until it is drawn."""
        whole = self.of(evidence)
        if whole is None or (whole.width() <= room.width() and whole.height() <= room.height()):
            return whole
        return whole.scaled(room, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)

    def end_of(self, evidence: Evidence | None, room: QSize) -> QPixmap | None:
        """The picture of a place as high as there is room; of one that is wider the end, where the value is."""
        whole = self.of(evidence)
        if whole is None or whole.isNull():
            return None
        high = whole.scaledToHeight(min(room.height(), whole.height()), Qt.TransformationMode.SmoothTransformation)
        return high.copy(max(high.width() - room.width(), 0), 0, min(high.width(), room.width()), high.height())

    def _make(self, key: Evidence) -> None:
        sha256 = key.document

        def work() -> QImage:
            document = self._document(sha256)
            text = self._texts.get((sha256, key.page)) or document.read(key.page)
            self._texts = {(sha256, key.page): text}
            pixels = document.snippet(key.page, around(with_label(text, key.box or (0, 0, 0, 0))), SCALE)
            return to_image(pixels)

        def done(image: QImage) -> None:
            # One that had to make room meanwhile is no longer wanted.
            if key in self._kept:
                self._kept[key] = QPixmap.fromImage(image)
                self.arrived.emit()

        # A place that is not there any more has no picture; the evidence says the rest.
        self._jobs.run("reading", work, done, lambda _fault: None)

    def _document(self, sha256: str) -> Datasheet:
        """An open document; only the reading thread asks for one."""
        if sha256 not in self._open:
            self._open[sha256] = open_datasheet(self._library, sha256)
            while len(self._open) > MOST_OPEN:
                self._open.popitem(last=False)[1].close()
        return self._open[sha256]

    def close(self) -> None:
        """Give all documents back, in the thread that reads them: one may be in use."""
        self._jobs.run("reading", self._close_all)

    def _close_all(self) -> None:
        while self._open:
            self._open.popitem()[1].close()
