"""Recognises the pages of a document that are pictures, as they come to be read, and keeps what was recognised."""

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import area_in_common, holds
from eider.datasheets.recognition.recognised_page import RecognisedPart, are_recognised
from eider.datasheets.recognition.recognising_process import LOOK_S, Recogniser, RecognitionError
from eider.geometry.plane import Box
from eider.services.tasks import Task

# A rectangle of which a picture covers this share, with fewer words over it, is recognised.
PICTURED, FEW_WORDS = 0.5, 3
_recognising = threading.Lock()


class PageRecognition:
    """Recognises pages of one document: `recognised` are those (from 1) that were read in a picture, `faults` tells of
    others why they could not be."""

    def __init__(self, datasheet: Datasheet, recogniser: Recogniser, task: Task) -> None:
        self._datasheet, self._recogniser, self._task = datasheet, recogniser, task
        self.recognised: set[int] = set()
        self.faults: dict[int, str] = {}

    def read(self, number: int) -> PageText:
        """A page (from 1), recognised first where it is a picture that was not recognised before.

        Raises:
            DatasheetError: the page is not there, or is damaged. CancelledError: the user cancelled.
        """
        page = self._datasheet.read(number)
        if are_recognised(page.words):
            self.recognised.add(number)
        if not page.is_picture or number in self.faults:
            return page
        told = f"recognising page {number}"
        share = (number - 1) / self._datasheet.pages
        with _one_at_a_time(lambda: self._task.report(share, told)):
            page = self._datasheet.read(number)
            if page.is_picture:
                try:
                    recognised = self._recogniser.page(number, lambda: self._task.report(share, told))
                except RecognitionError as fault:
                    self.faults[number] = str(fault)
                    return page
                self._datasheet.recognition.keep(recognised)
                page = self._datasheet.read(number)
        self.recognised.add(number)
        return page


@contextmanager
def _one_at_a_time(look: Callable[[], None]) -> Iterator[None]:
    """A page that is read through and looked at is recognised once, and two pages beside each other are no faster."""
    while not _recognising.acquire(timeout=LOOK_S):
        look()
    try:
        yield
    finally:
        _recognising.release()


@contextmanager
def recognising(datasheet: Datasheet, task: Task | None = None) -> Iterator[PageRecognition]:
    """Recognise pages of a document for as long as the `with` lasts."""
    with Recogniser(datasheet.path) as recogniser:
        yield PageRecognition(datasheet, recogniser, task or Task())


def recognise_page_of(datasheet: Datasheet, number: int, task: Task | None = None) -> None:
    """Recognise one page (from 1) where it is a picture.

    Raises:
        DatasheetError: the page is not there, or is damaged. RecognitionError: it cannot be recognised.
        CancelledError: the user cancelled.
    """
    if datasheet.read(number).is_picture:
        with recognising(datasheet, task) as recognition:
            recognition.read(number)
            if number in recognition.faults:
                raise RecognitionError(recognition.faults[number])


def is_unread_picture(datasheet: Datasheet, number: int, box: Box) -> bool:
    """Whether a box (PDF points) of a page (from 1) is mostly a picture, with next to no text over it.

    Raises:
        DatasheetError: the page is not there, or is damaged.
    """
    page = datasheet.read(number)
    if page.is_picture:
        return True
    covered = max((area_in_common(box, picture) for picture in datasheet.pictures(number)), default=0.0)
    words = sum(holds(box, word.box) for word in page.words)
    return covered >= PICTURED * (box[2] - box[0]) * (box[3] - box[1]) and words < FEW_WORDS


def recognise_picture_in(datasheet: Datasheet, number: int, box: Box, task: Task | None = None) -> None:
    """Recognise what is within a box (PDF points) of a page (from 1) where a picture is and no text over it.

    A page that is a picture as a whole is recognised whole.

    Raises:
        DatasheetError: the page is not there, or is damaged. RecognitionError: it cannot be recognised.
        CancelledError: the user cancelled.
    """
    if datasheet.read(number).is_picture:
        recognise_page_of(datasheet, number, task)
        return
    if not is_unread_picture(datasheet, number, box):
        return
    job = task or Task()
    told = f"recognising the picture on page {number}"
    with Recogniser(datasheet.path) as recogniser, _one_at_a_time(lambda: job.report(0.0, told)):
        seen = recogniser.page(number, lambda: job.report(0.0, told), box)
    datasheet.keep_part(RecognisedPart(box, seen))
