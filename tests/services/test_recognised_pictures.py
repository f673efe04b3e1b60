"""A table that is a picture on a page with text: what is within the rectangle drawn round it is recognised alone."""

from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import numpy as np
import pypdfium2
import pytest
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import DUAL_ROWS, Box, draw
from eider.datasheets import Datasheet
from eider.datasheets.recognition.recognised_page import RECOGNISED, RecognisedPage
from eider.datasheets.recognition.recognising_process import Recogniser, is_engine_installed
from eider.datasheets.tables.table_capture import capture_drawn
from eider.services.datasheets.page_recognition import is_unread_picture, recognise_picture_in

pytestmark = pytest.mark.skipif(not is_engine_installed(), reason="the engine that recognises letters is an extra")


def pictured(folder: Path) -> tuple[Path, Box]:
    """A page of text with the picture of a table on it, at 200 dots to the inch; and a rectangle round the table."""
    box = draw(folder / "table.pdf", DUAL_ROWS)
    with closing(pypdfium2.PdfDocument(str(folder / "table.pdf"))) as document:
        picture = document[0].render(scale=200 / 72, grayscale=False).to_pil()
    x0, y0, x1, y1 = (box[0] - 6, box[1] - 6, box[2] + 6, box[3] + 6)
    scale, height = 200 / 72, picture.height
    cut = picture.crop((round(x0 * scale), height - round(y1 * scale), round(x1 * scale), height - round(y0 * scale)))
    canvas = Canvas(str(folder / "page.pdf"))
    canvas.setFont("Helvetica", 10)
    for line in range(20):
        canvas.drawString(60, 800 - 12 * line, "The bridge converter reads the perch while it sways in the wind.")
    canvas.drawImage(ImageReader(cut), 80, 300, x1 - x0, y1 - y0)
    canvas.save()
    return folder / "page.pdf", (78.0, 298.0, 82.0 + x1 - x0, 302.0 + y1 - y0)


def test_the_rectangle_alone_is_recognised_and_read_with_the_page(tmp_path: Path) -> None:
    path, box = pictured(tmp_path)
    with closing(Datasheet(path)) as datasheet:
        words = len(datasheet.read(1).words)
        assert is_unread_picture(datasheet, 1, box)
        recognise_picture_in(datasheet, 1, box)
        found = capture_drawn(datasheet, 1, box)
        assert found.dimensions is not None
        read = {row.letter: row.limits for row in found.dimensions.rows}
        assert {"A", "A1", "b", "D", "E", "E1", "L"} <= read.keys()
        limits = read["E"]
        assert limits
        assert (limits.min, limits.max) == (5.8, 6.2)
        assert all(row.doubt == RECOGNISED for row in found.dimensions.rows)
        # The text of the page is still its own, and is not in doubt.
        sure = [word for word in datasheet.read(1).words if word.confidence == 1]
        assert len(sure) == words
        assert [hit.page for hit in datasheet.search("5.80")] == [1]
    with closing(Datasheet(path)) as datasheet:
        assert not is_unread_picture(datasheet, 1, box)


def test_a_rectangle_without_a_picture_asks_nobody(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path, _box = pictured(tmp_path)

    def refused(_self: Recogniser, _number: int, _look: Callable[[], None], _box: Box) -> RecognisedPage:
        raise AssertionError("nothing here is to be recognised")

    monkeypatch.setattr(Recogniser, "page", refused)
    with closing(Datasheet(path)) as datasheet:
        recognise_picture_in(datasheet, 1, (50.0, 600.0, 500.0, 810.0))
        assert np.all([word.confidence == 1 for word in datasheet.read(1).words])
