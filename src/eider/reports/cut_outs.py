"""Cut-outs of datasheets: the picture of the place where a value stands, with its label."""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from PIL import Image

from eider.datasheets import Datasheet, DatasheetError
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import around
from eider.datasheets.tables.value_labels import with_label
from eider.model.evidence import Evidence

# Pixels per point of a page.
SCALE = 3.0


class CutOuts:
    """The documents of a part, opened when they are first wanted."""

    def __init__(self, paths: Mapping[str, Path]) -> None:
        self._paths, self._open = paths, dict[str, Datasheet]()
        self._texts: dict[tuple[str, int], PageText] = {}

    def picture(self, evidence: Evidence | None) -> Image.Image | None:
        """The picture of a place; None where it has no place, or its document cannot be read."""
        if evidence is None or evidence.box is None or evidence.document not in self._paths:
            return None
        try:
            if evidence.document not in self._open:
                self._open[evidence.document] = Datasheet(self._paths[evidence.document])
            document = self._open[evidence.document]
            key = (evidence.document, evidence.page)
            if key not in self._texts:
                self._texts[key] = document.read(evidence.page)
            box = around(with_label(self._texts[key], evidence.box))
            return Image.fromarray(document.snippet(evidence.page, box, SCALE))
        except DatasheetError:
            return None

    def close(self) -> None:
        """Give the documents back."""
        for document in self._open.values():
            document.close()


@contextmanager
def opened_cut_outs(paths: Mapping[str, Path]) -> Iterator[CutOuts]:
    """Cut-outs of documents by their sum, which are closed at the end."""
    found = CutOuts(paths)
    try:
        yield found
    finally:
        found.close()
