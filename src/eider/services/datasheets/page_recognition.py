"""Recognises the pages of a document that are pictures, as they come to be read, and keeps what was recognised."""

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.recognition.recognised_page import are_recognised
from eider.datasheets.recognition.recognising_process import LOOK_S, Recogniser, RecognitionError
from eider.services.tasks import Task

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
