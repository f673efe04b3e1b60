"""Land patterns at their true size on paper, several on a page, with bars to measure the printer by."""

import io
from collections.abc import Sequence
from typing import NamedTuple

from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from eider.drawings.drawing_layout import extent
from eider.drawings.land_drawing import LandOptions, pattern_drawing
from eider.drawings.primitives import Drawing
from eider.errors import InputError
from eider.exchange.pdf_drawings import FONT, MM_PER_POINT, cut_text, load_fonts, paint_true_size
from eider.model.bundle import Bundle
from eider.model.pattern import Pattern
from eider.reports.paper_sizes import PAPERS

# What printers leave free, the strip of the head, that of the bar at the foot, and the one at the left (mm).
MARGIN, HEAD, FOOT, SIDE = 10.0, 8.0, 14.0, 10.0
# Between tiles; below each a line for the part and one for the pattern, of so many mm and at most so long.
GAP, LABEL, LONGEST = 6.0, 8.0, 60.0
# The size of a label (points).
SMALL = 7
# The bars (mm): across the foot, and up the left.
ACROSS, UP = 100.0, 50.0
SHOWN = frozenset({"copper", "silkscreen", "courtyard"})


class PrintTile(NamedTuple):
    """A land pattern to print, and what is below it."""

    drawing: Drawing
    part: str
    pattern: str

    @property
    def box(self) -> tuple[float, float, float, float]:
        """What it covers at its true size (mm)."""
        return extent(self.drawing, MM_PER_POINT, 1.0)

    @property
    def label_width(self) -> float:
        """How long its longer line is (mm)."""
        widths = (stringWidth(text, FONT, SMALL) * MM_PER_POINT for text in (self.part, self.pattern))
        return float(min(max(widths), LONGEST))


class _Placed(NamedTuple):
    tile: PrintTile
    x: float
    y: float


def print_tiles(bundles: Sequence[Bundle]) -> tuple[PrintTile, ...]:
    """The land patterns of parts at all levels that they have.

    Raises:
        InputError: a part has no lands yet.
    """
    made = []
    for bundle in bundles:
        if not bundle.footprint.patterns:
            raise InputError(f"{bundle.part.name} has no lands yet")
        several = len(bundle.footprint.patterns) > 1
        for pattern in bundle.footprint.patterns:
            level = f", level {pattern.level}" if several else ""
            made.append(PrintTile(_drawing(pattern), bundle.part.name, f"{pattern.name}{level}"))
    return tuple(made)


def _drawing(pattern: Pattern) -> Drawing:
    return pattern_drawing(pattern, (), LandOptions(layers=SHOWN))


def print_pages(tiles: Sequence[PrintTile], paper: str = "A4", *, mirrored: bool = False) -> bytes:
    """The pages as PDF, 1:1; the same tiles give the same bytes.

    Raises:
        InputError: the paper is not known, or a land pattern is larger than it.
    """
    if paper not in PAPERS:
        raise InputError(f"paper “{paper}” is not known; choose one of {', '.join(PAPERS)}")
    size = PAPERS[paper]
    load_fonts()
    pages = _laid_out(tiles, size, paper)
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=(_pt(size[0]), _pt(size[1])), invariant=1)
    canvas.setTitle("Land patterns, 1:1")
    for number, page in enumerate(pages, start=1):
        _frame(canvas, size, f"1:1 on {paper}{', mirrored' if mirrored else ''}", f"{number}/{len(pages)}")
        for placed in page:
            _paint(canvas, placed, mirrored=mirrored)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _laid_out(tiles: Sequence[PrintTile], size: tuple[float, float], paper: str) -> list[list[_Placed]]:
    """Rows of tiles from the upper left, as high as their highest; a page for as many rows as go on it."""
    left, right = MARGIN + SIDE, size[0] - MARGIN
    top, bottom = size[1] - MARGIN - HEAD, MARGIN + FOOT
    pages: list[list[_Placed]] = [[]]
    x, y, row = left, top, 0.0
    for tile in tiles:
        x0, y0, x1, y1 = tile.box
        width, height = max(x1 - x0, tile.label_width), y1 - y0 + LABEL
        if x1 - x0 > right - left or height > top - bottom:
            largest = f"{right - left:.0f} × {top - bottom - LABEL:.0f} mm"
            raise InputError(
                f"{tile.part} is {x1 - x0:.1f} × {y1 - y0:.1f} mm; {paper} has room for {largest} at 1:1. "
                "Choose a larger paper."
            )
        if x > left and x + width > right:
            x, y, row = left, y - row - GAP, 0.0
        if y - height < bottom:
            pages.append([])
            x, y, row = left, top, 0.0
        pages[-1].append(_Placed(tile, x, y))
        x, row = x + width + GAP, max(row, height)
    return pages


def _paint(canvas: Canvas, placed: _Placed, *, mirrored: bool) -> None:
    x0, y0, x1, y1 = placed.tile.box
    middle = placed.x + (x1 - x0) / 2, placed.y - (y1 - y0) / 2
    # The origin of the drawing is where its middle is not: mirrored, it lies at the other side.
    offset = (x0 + x1) / 2 * (-1 if mirrored else 1), (y0 + y1) / 2
    origin = middle[0] - offset[0], middle[1] - offset[1]
    paint_true_size(canvas, placed.tile.drawing, (_pt(origin[0]), _pt(origin[1])), mirrored=mirrored)
    canvas.setFillGray(0.2)
    canvas.setFont(FONT, SMALL)
    below = placed.y - (y1 - y0)
    for line, text in enumerate((placed.tile.part, placed.tile.pattern), start=1):
        shown = cut_text(text, _pt(max(x1 - x0, LONGEST)), SMALL)
        canvas.drawString(_pt(placed.x), _pt(below - 3.2 * line), shown)


def _frame(canvas: Canvas, size: tuple[float, float], head: str, number: str) -> None:
    """The head of a page, and its bars."""
    canvas.setFillGray(0.2)
    canvas.setFont(FONT, 9)
    canvas.drawString(_pt(MARGIN), _pt(size[1] - MARGIN - 3), f"Land patterns, {head}")
    canvas.drawRightString(_pt(size[0] - MARGIN), _pt(size[1] - MARGIN - 3), number)
    canvas.setFont(FONT, SMALL)
    y = MARGIN + 3
    _bar(canvas, (MARGIN + SIDE, y), ACROSS, across=True)
    _bar(canvas, (MARGIN + 3, MARGIN + SIDE + 4), UP, across=False)
    told = f"{ACROSS:.0f} mm across and {UP:.0f} mm up. Measure both; if one is off, print again without scaling."
    canvas.drawString(_pt(MARGIN + SIDE), _pt(MARGIN - 2), told)


def _bar(canvas: Canvas, at: tuple[float, float], length: float, *, across: bool) -> None:
    """A bar with a tick each 5 mm, a longer one each 10, whose outer edges are those of its end ticks' middles."""
    canvas.setStrokeGray(0)
    canvas.setLineWidth(0.25)
    canvas.setLineCap(0)
    for step in range(int(length / 5) + 1):
        tick = 3.0 if step % 2 == 0 else 1.5
        along = step * 5.0
        start = (at[0] + along, at[1]) if across else (at[0], at[1] + along)
        end = (start[0], start[1] + tick) if across else (start[0] + tick, start[1])
        canvas.line(_pt(start[0]), _pt(start[1]), _pt(end[0]), _pt(end[1]))
    end = (at[0] + length, at[1]) if across else (at[0], at[1] + length)
    canvas.line(_pt(at[0]), _pt(at[1]), _pt(end[0]), _pt(end[1]))


def _pt(mm: float) -> float:
    return mm / MM_PER_POINT
