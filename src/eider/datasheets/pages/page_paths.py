"""What is drawn on a page: the pieces of its paths in PDF points, out of forms in forms."""

import ctypes
from collections.abc import Iterator
from typing import Any

import msgspec

from eider.geometry.plane import Box, Point

# Forms in forms in forms: nobody draws deeper, and a hostile file could nest without end.
DEEPEST = 6
# A page with more pieces than this is a map or a picture; the rest is left out.
MOST_PIECES = 60_000
Matrix = tuple[float, float, float, float, float, float]
_SAME: Matrix = (1, 0, 0, 1, 0, 0)


class PathPiece(msgspec.Struct, frozen=True, gc=False):
    """A run of lines and curves without a gap. `kinds` tells for each point how it is reached: `m`, `l` or `c`urve."""

    points: tuple[Point, ...]
    kinds: str
    is_closed: bool
    is_filled: bool
    is_stroked: bool

    @property
    def box(self) -> Box:
        """The box around its points."""
        xs, ys = [p[0] for p in self.points], [p[1] for p in self.points]
        return min(xs), min(ys), max(xs), max(ys)

    def straight(self) -> Iterator[tuple[Point, Point]]:
        """Its straight lines, the closing one too."""
        for index, kind in enumerate(self.kinds):
            if kind == "l":
                yield self.points[index - 1], self.points[index]
        if self.is_closed and len(self.points) > 1:
            yield self.points[-1], self.points[0]


def read_paths(page: Any) -> Iterator[PathPiece]:
    """The pieces of an open PDFium page in the order in which they are painted. The caller holds the lock of PDFium."""
    import pypdfium2.raw as pdfium

    budget = [MOST_PIECES]
    for index in range(pdfium.FPDFPage_CountObjects(page.raw)):
        yield from _of_object(pdfium, pdfium.FPDFPage_GetObject(page.raw, index), _SAME, 0, budget)


def _of_object(pdfium: Any, item: Any, outer: Matrix, depth: int, budget: list[int]) -> Iterator[PathPiece]:
    kind = pdfium.FPDFPageObj_GetType(item)
    if kind not in (pdfium.FPDF_PAGEOBJ_PATH, pdfium.FPDF_PAGEOBJ_FORM) or budget[0] <= 0:
        return
    own = pdfium.FS_MATRIX()
    pdfium.FPDFPageObj_GetMatrix(item, own)
    matrix = _times((own.a, own.b, own.c, own.d, own.e, own.f), outer)
    if kind == pdfium.FPDF_PAGEOBJ_FORM:
        if depth < DEEPEST:
            for index in range(pdfium.FPDFFormObj_CountObjects(item)):
                yield from _of_object(pdfium, pdfium.FPDFFormObj_GetObject(item, index), matrix, depth + 1, budget)
        return
    yield from _of_path(pdfium, item, matrix, budget)


def _of_path(pdfium: Any, path: Any, matrix: Matrix, budget: list[int]) -> Iterator[PathPiece]:
    fill, stroke = ctypes.c_int(), ctypes.c_int()
    pdfium.FPDFPath_GetDrawMode(path, fill, stroke)
    count = pdfium.FPDFPath_CountSegments(path)
    budget[0] -= count
    if budget[0] <= 0:
        return
    points: list[Point] = []
    kinds, is_closed = "", False
    x, y = ctypes.c_float(), ctypes.c_float()
    names = {pdfium.FPDF_SEGMENT_MOVETO: "m", pdfium.FPDF_SEGMENT_LINETO: "l"}
    for index in range(count):
        segment = pdfium.FPDFPath_GetPathSegment(path, index)
        kind = names.get(pdfium.FPDFPathSegment_GetType(segment), "c")
        pdfium.FPDFPathSegment_GetPoint(segment, x, y)
        if kind == "m" or not points:
            if points:
                yield PathPiece(tuple(points), kinds, is_closed, bool(fill.value), bool(stroke.value))
            points, kinds, is_closed = [], "", False
            kind = "m"
        points.append(_apply(matrix, x.value, y.value))
        kinds += kind
        is_closed = is_closed or bool(pdfium.FPDFPathSegment_GetClose(segment))
    if points:
        yield PathPiece(tuple(points), kinds, is_closed, bool(fill.value), bool(stroke.value))


def _times(inner: Matrix, outer: Matrix) -> Matrix:
    a, b, c, d, e, f = inner
    p, q, r, s, t, u = outer
    return a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s, e * p + f * r + t, e * q + f * s + u


def _apply(matrix: Matrix, x: float, y: float) -> Point:
    a, b, c, d, e, f = matrix
    return a * x + c * y + e, b * x + d * y + f
