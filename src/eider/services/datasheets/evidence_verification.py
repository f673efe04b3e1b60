"""Every value that cites a place in a datasheet is read there again: does the place still say what was seen?"""

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from functools import partial
from typing import Literal

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.value_reading import cleaned
from eider.errors import EiderError
from eider.evidence.address_table import evidenced_values
from eider.evidence.value_evidence import EvidencedValue
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.address import Address
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.datasheets.page_recognition import recognise_page_of
from eider.services.tasks import Task
from eider.symbols.pin_names import OVERLINE

Outcome = Literal["same", "moved", "differs", "unreadable"]
# What is between the cells of a row in what was seen, and the dash of an empty cell.
_BETWEEN = re.compile(r"[|/]|(?<!\S)[-–—]+(?!\S)")


class VerifiedValue(msgspec.Struct, frozen=True):
    """A cited value: what was seen when it was taken, what is read there now, and what that comes to.

    `reads` says of one that is unreadable why.
    """

    item: str
    address: Address
    name: str
    page: int
    was: str
    reads: str
    outcome: Outcome


def verify_parts(library: Library, rows: Iterable[PartRow], task: Task | None = None) -> Iterator[VerifiedValue]:
    """Read the cited values of parts again, each document and page once.

    Raises:
        CancelledError: the user cancelled.
    """
    task, pages = task or Task(), _Pages(library)
    found = list(rows)
    try:
        for index, row in enumerate(found):
            task.report(index / max(len(found), 1), f"reading what {row.name} cites")
            yield from _cited_values(library.load(row.id), pages)
    finally:
        pages.close()


def verify_bundle(library: Library, bundle: Bundle, task: Task | None = None) -> list[VerifiedValue]:
    """The same for one part as it is open, changes that are not kept yet included.

    Raises:
        CancelledError: the user cancelled.
    """
    task, pages, found = task or Task(), _Pages(library), []
    try:
        for value in _cited_values(bundle, pages):
            task.report(0.0, f"page {value.page}")
            found.append(value)
    finally:
        pages.close()
    return found


def _cited_values(bundle: Bundle, pages: "_Pages") -> Iterator[VerifiedValue]:
    for value in evidenced_values(bundle):
        evidence = value.evidence
        if evidence is not None and evidence.kind == EvidenceKind.DATASHEET and evidence.box is not None:
            yield _verified(bundle.part.name, value, evidence, pages)


class _Pages:
    """Documents of a library, opened when they are first cited; texts of pages are read once."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._documents: dict[str, Datasheet | str] = {}
        self._texts: dict[tuple[str, int], PageText] = {}

    def text(self, sha256: str, page: int) -> PageText:
        """The words of a page.

        Raises:
            EiderError: the document is missing or damaged, or has no such page.
        """
        document = self._documents.get(sha256)
        if document is None:
            try:
                document = open_datasheet(self._library, sha256)
            except EiderError as fault:
                document = str(fault)
            self._documents[sha256] = document
        if isinstance(document, str):
            raise EiderError(document)
        if (sha256, page) not in self._texts:
            if not 1 <= page <= document.pages:
                raise EiderError(f"the document has {document.pages} pages; page {page} is cited")
            recognise_page_of(document, page)
            self._texts[sha256, page] = document.read(page)
        return self._texts[sha256, page]

    def close(self) -> None:
        """Give the documents back."""
        for document in self._documents.values():
            if isinstance(document, Datasheet):
                document.close()


def _verified(item: str, value: EvidencedValue, evidence: Evidence, pages: _Pages) -> VerifiedValue:
    was = cleaned(evidence.text or value.text)
    make = partial(VerifiedValue, item, value.address, value.name, evidence.page, was)
    try:
        text = pages.text(evidence.document, evidence.page)
    except EiderError as fault:
        return make(str(fault), "unreadable")
    box = evidence.box
    inside = [word.text for word in text.words if box is not None and holds(box, word.box)]
    reads = cleaned(" ".join(inside))
    if not text.words:
        return make("the page has no text", "unreadable")
    if _tokens(was) == _tokens(reads) or (not evidence.text and _tokens(was) <= _tokens(reads)):
        outcome: Outcome = "same"
    elif _tokens(was) and _tokens(was) <= _tokens(" ".join(word.text for word in text.words)) and not inside:
        outcome = "moved"
    else:
        outcome = "differs"
    return make(reads, outcome)


def _tokens(text: str) -> Counter[str]:
    """The letters and figures of a text, whatever is between them and however it is broken into words."""
    plain = _BETWEEN.sub(" ", cleaned(text)).replace(OVERLINE, "")
    return Counter(re.sub(r"\s+", "", plain))
