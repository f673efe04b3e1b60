"""What a datasheet holds: its tables and figures, and which of its pages could not be read, or only as pictures."""

from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.found_items import FoundItem
from eider.datasheets.documents.package_codes import bound_by_codes
from eider.datasheets.pages.font_letters import pages_not_read
from eider.datasheets.recognition.recognised_page import RECOGNISED
from eider.services.datasheets.page_recognition import recognising
from eider.services.tasks import Task


class NotRecognised(msgspec.Struct, frozen=True):
    """A page (from 1) that is a picture and could not be recognised, and why."""

    page: int
    why: str


class DatasheetContents(msgspec.Struct, frozen=True):
    """The tables and figures of a document, and its pages (from 1) that are no plain text.

    `unreadable` have fonts that do not say which letters they draw, `recognised` were read in a picture, and
    `not_recognised` are pictures that could not be.
    """

    found: tuple[FoundItem, ...]
    pages: int = 0
    unreadable: tuple[int, ...] = ()
    recognised: tuple[int, ...] = ()
    not_recognised: tuple[NotRecognised, ...] = ()

    @property
    def not_read(self) -> tuple[int, ...]:
        """The pages that nothing could be read of."""
        return tuple(sorted({*self.unreadable, *(fault.page for fault in self.not_recognised)}))

    @property
    def page_notes(self) -> tuple[str, ...]:
        """What to say of the pages that are no plain text."""
        told = [pages_not_read(self.unreadable)] if self.unreadable else []
        told += (
            f"{_pages([fault.page for fault in self.not_recognised if fault.why == why])} not read: {why}"
            for why in dict.fromkeys(fault.why for fault in self.not_recognised)
        )
        told += [f"{_pages(self.recognised)} {RECOGNISED}: confirm what is read there"] if self.recognised else []
        return tuple(told)


def _pages(numbers: "tuple[int, ...] | list[int]") -> str:
    return f"{'page' if len(numbers) == 1 else 'pages'} {', '.join(map(str, numbers))}"


def find_in_datasheet(
    path: Path, task: Task | None = None, hear: Callable[[FoundItem], None] = lambda _item: None
) -> DatasheetContents:
    """What a document holds; `hear` is told of each table and figure as soon as it is found.

    Raises:
        DatasheetError: it cannot be opened. CancelledError: the user cancelled.
    """
    task = task or Task()
    found: list[FoundItem] = []
    with closing(Datasheet(path)) as datasheet, recognising(datasheet, task) as recognition:
        for item in survey(datasheet, task.report, recognition.read):
            hear(item)
            found.append(item)
        faults = recognition.faults
        return DatasheetContents(
            bound_by_codes(datasheet, found),
            datasheet.pages,
            tuple(sorted(datasheet.unreadable - set(faults))),
            tuple(sorted(recognition.recognised)),
            tuple(NotRecognised(page, faults[page]) for page in sorted(faults)),
        )
