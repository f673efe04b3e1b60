"""Drawings as PDF: true to size, on the smallest sheet that holds them, and the same bytes each time."""

import ctypes

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


def path_points(path: pypdfium2.PdfObject) -> list[tuple[float, float]]:
    """The corners of a path (points on paper): its box would hold half of its line besides."""
    raw, points = pypdfium2.raw, []
    for index in range(raw.FPDFPath_CountSegments(path)):
        x, y = ctypes.c_float(), ctypes.c_float()
        raw.FPDFPathSegment_GetPoint(raw.FPDFPath_GetPathSegment(path, index), x, y)
        points.append(path.get_matrix().on_point(x.value, y.value))
    return points


def test_fifty_millimetres_are_fifty_millimetres_on_paper() -> None:
    document = pypdfium2.PdfDocument(pdf_pages([Page("square", square(50.0))], "x"))
    corners = path_points(next(o for o in document[0].get_objects() if o.type == pypdfium2.raw.FPDF_PAGEOBJ_PATH))
    for along in zip(*corners, strict=True):
        # Lengths are written in points with 6 digits.
        assert (max(along) - min(along)) * MM_PER_POINT == pytest.approx(50.0, abs=1e-3)
    document.close()


def test_the_same_drawings_give_the_same_bytes() -> None:
    pages = [Page("a", square(10)), Page("b", square(20))]
    assert pdf_pages(pages, "x") == pdf_pages(pages, "x")
    document = pypdfium2.PdfDocument(pdf_pages(pages, "x"))
    assert len(document) == 2
    document.close()
