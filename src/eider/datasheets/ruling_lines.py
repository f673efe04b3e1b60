"""Straight lines of a page, across and up: what tables are ruled with."""

import ctypes
from collections.abc import Iterator
from typing import Any

import msgspec

from eider.datasheets.page_frame import ordered, turned
from eider.geometry.shapes import Box

# Forms in forms in forms: nobody draws a table deeper, and a hostile file could nest without end.
DEEPEST = 6
# A page with more pieces than this is a map or a picture, no table; the rest is left out.
MOST_PIECES = 60_000
# Points: shorter pieces belong to letters and hatching; thicker bars are areas.
SHORTEST, THICKEST, ASKEW = 4.0, 2.6, 0.6
# Flatness with which two pieces of one line are joined.
NEAR = 0.7
Matrix = tuple[float, float, float, float, float, float]
_SAME: Matrix = (1, 0, 0, 1, 0, 0)


class Ruling(msgspec.Struct, frozen=True):
    """A line from `start` to `stop` (points, start below stop) at `at`: its y where it runs across, else its x."""

    across: bool
    at: float
    start: float
    stop: float

    @property
    def box(self) -> Box:
        """Its ends as a box without height or width."""
        if self.across:
            return self.start, self.at, self.stop, self.at
        return self.at, self.start, self.at, self.stop


def from_box(box: Box) -> Ruling | None:
    """The ruling that a thin box is; None where it is none."""
    x0, y0, x1, y1 = box
    if y1 - y0 <= THICKEST and x1 - x0 >= SHORTEST:
        return Ruling(True, (y0 + y1) / 2, x0, x1)
    if x1 - x0 <= THICKEST and y1 - y0 >= SHORTEST:
        return Ruling(False, (x0 + x1) / 2, y0, y1)
    return None


def turned_ruling(ruling: Ruling, quarters: int) -> Ruling:
    """A ruling turned with its page; see `frame.turned`."""
    return from_box(turned(ruling.box, quarters)) or ruling


def read_rulings(page: Any) -> tuple[Ruling, ...]:
    """The rulings of an open PDFium page; pieces of one line are joined. The caller holds the lock of PDFium."""
    import pypdfium2.raw as pdfium

    budget = [MOST_PIECES]
    found: list[Ruling] = []
    count = pdfium.FPDFPage_CountObjects(page.raw)
    for index in range(count):
        found.extend(_of_object(pdfium, pdfium.FPDFPage_GetObject(page.raw, index), _SAME, 0, budget))
    return join_pieces(found)


def _of_object(pdfium: Any, item: Any, outer: Matrix, depth: int, budget: list[int]) -> Iterator[Ruling]:
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


def _of_path(pdfium: Any, path: Any, matrix: Matrix, budget: list[int]) -> Iterator[Ruling]:
    fill, stroke = ctypes.c_int(), ctypes.c_int()
    pdfium.FPDFPath_GetDrawMode(path, fill, stroke)
    count = pdfium.FPDFPath_CountSegments(path)
    budget[0] -= count
    if budget[0] <= 0:
        return
    outline: list[tuple[float, float]] = []
    x, y = ctypes.c_float(), ctypes.c_float()
    for index in range(count):
        segment = pdfium.FPDFPath_GetPathSegment(path, index)
        kind = pdfium.FPDFPathSegment_GetType(segment)
        pdfium.FPDFPathSegment_GetPoint(segment, x, y)
        point = _apply(matrix, x.value, y.value)
        if kind == pdfium.FPDF_SEGMENT_MOVETO:
            yield from _thin_area(outline, bool(fill.value and not stroke.value))
            outline = [point]
            continue
        if kind == pdfium.FPDF_SEGMENT_LINETO and stroke.value and outline:
            yield from _straight(outline[-1], point)
        outline.append(point)
        if pdfium.FPDFPathSegment_GetClose(segment) and stroke.value:
            yield from _straight(outline[-1], outline[0])
    yield from _thin_area(outline, bool(fill.value and not stroke.value))


def _straight(a: tuple[float, float], b: tuple[float, float]) -> Iterator[Ruling]:
    if abs(a[0] - b[0]) <= ASKEW or abs(a[1] - b[1]) <= ASKEW:
        ruling = from_box(ordered(*a, *b))
        if ruling:
            yield ruling


def _thin_area(outline: list[tuple[float, float]], is_area: bool) -> Iterator[Ruling]:
    """Many programs draw their lines as thin filled boxes."""
    if is_area and 4 <= len(outline) <= 6:
        xs, ys = [p[0] for p in outline], [p[1] for p in outline]
        ruling = from_box((min(xs), min(ys), max(xs), max(ys)))
        if ruling:
            yield ruling


def _times(inner: Matrix, outer: Matrix) -> Matrix:
    a, b, c, d, e, f = inner
    p, q, r, s, t, u = outer
    return a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s, e * p + f * r + t, e * q + f * s + u


def _apply(matrix: Matrix, x: float, y: float) -> tuple[float, float]:
    a, b, c, d, e, f = matrix
    return a * x + c * y + e, b * x + d * y + f


def join_pieces(rulings: list[Ruling]) -> tuple[Ruling, ...]:
    """Pieces that lie on one line and touch become one ruling."""
    found: list[Ruling] = []
    for ruling in sorted(rulings, key=lambda r: (r.across, round(r.at / NEAR), r.start)):
        last = found[-1] if found else None
        if last and last.across == ruling.across and abs(last.at - ruling.at) <= NEAR and ruling.start <= last.stop + 2:
            found[-1] = Ruling(last.across, last.at, last.start, max(last.stop, ruling.stop))
        else:
            found.append(ruling)
    return tuple(found)
