"""Drawings as PDF: true to size, on the smallest sheet that holds them, and the same bytes each time."""

import pypdfium2
import pytest

from eider.drawings.primitives import Drawing, Line, Text
from eider.exchange.pdf_drawings import MM_PER_POINT, Page, pdf_pages


def square(side: float) -> Drawing:
    half = side / 2
    corners = ((-half, -half), (half, -half), (half, half), (-half, half), (-half, -half))
    return Drawing((Line(corners, "symbol line"), Text((0, 0), "mm", 2, "reference")), (-half, -half, half, half))


@pytest.mark.parametrize(
    ("side", "sheet"), [(50, (210, 297)), (190, (210, 297)), (250, (297, 420)), (3000, (841, 1189))]
)
def test_a_drawing_stands_on_the_smallest_sheet_that_holds_it(side: float, sheet: tuple[float, float]) -> None:
    document = pypdfium2.PdfDocument(pdf_pages([Page("square", square(side))], "x"))
    width, height = (v * MM_PER_POINT for v in document[0].get_size())
    assert {round(width), round(height)} == set(sheet)
    text = document[0].get_textpage().get_text_range()
    assert ("1:1" in text) == (side < 1000)
    document.close()


def test_fifty_millimetres_are_fifty_millimetres_on_paper() -> None:
    document = pypdfium2.PdfDocument(pdf_pages([Page("square", square(50.0))], "x"))
    paths = [o.get_bounds() for o in document[0].get_objects() if o.type == pypdfium2.raw.FPDF_PAGEOBJ_PATH]
    left, bottom, right, top = paths[0]
    # The box of the path holds half of its line on each side.
    assert (right - left) * MM_PER_POINT == pytest.approx(50.0, abs=1.3)
    assert (top - bottom) == pytest.approx(right - left, abs=0.01)
    document.close()


def test_the_same_drawings_give_the_same_bytes() -> None:
    pages = [Page("a", square(10)), Page("b", square(20))]
    assert pdf_pages(pages, "x") == pdf_pages(pages, "x")
    document = pypdfium2.PdfDocument(pdf_pages(pages, "x"))
    assert len(document) == 2
    document.close()
