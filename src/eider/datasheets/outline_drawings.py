"""An outline drawing to its lengths: which letter or value is written at which line, and what that line measures."""

from collections.abc import Sequence

import msgspec

from eider.datasheets.dimension_spans import AT_TIP, SAME_LEVEL, DimensionSpan, dimension_spans
from eider.datasheets.document import Datasheet, DatasheetError, PageText
from eider.datasheets.drawing_marks import DrawingMarks, read_marks
from eider.datasheets.drawing_texts import LabelledSpan, drawing_texts, texts_of_lines
from eider.datasheets.drawing_views import DrawnView, views_of
from eider.datasheets.page_frame import holds, joined
from eider.datasheets.page_words import PageWord
from eider.datasheets.ruling_lines import Ruling
from eider.datasheets.unit_captions import unit_near
from eider.geometry.limits import Limits
from eider.geometry.shapes import Box
from eider.packages.drawing_witness import DrawnReach, DrawnSpan

# An end this near (points) to the end of a view is at it.
AT_END = 1.6


class DrawnLength(msgspec.Struct, frozen=True):
    """What is written at a dimension line and what the line measures.

    `letter` is empty where a length is written, `limits` (mm) None where a letter is. `view` counts the views of the
    drawing from 0, -1 for a line that belongs to none; `box` is where the text stands (PDF points).
    """

    letter: str
    text: str
    limits: Limits | None
    span: DimensionSpan
    view: int
    reach: DrawnReach
    box: Box
    doubt: str = ""


class OutlineDrawing(msgspec.Struct, frozen=True):
    """A drawing as it was read: its views, its lengths, and how many dimension lines nothing could be put to."""

    views: tuple[DrawnView, ...]
    lengths: tuple[DrawnLength, ...]
    unlabelled: int


def read_outline(datasheet: Datasheet, page: int, box: Box) -> OutlineDrawing:
    """Read the drawing within a box (PDF points) of a page (from 1).

    Raises:
        DatasheetError: the page is not there, or is damaged, or more is drawn in the box than an outline.
    """
    text = datasheet.read(page)
    marks = read_marks(path for path in datasheet.paths(page) if holds(box, path.box))
    if marks.is_too_much:
        told = f"{len(marks.strokes):,} lines and {len(marks.ends):,} arrows in this rectangle"
        raise DatasheetError(f"page {page}: {told}; draw it around one outline drawing")
    return outline_of(text, marks, [word for word in text.words if holds(box, word.box)])


def lettered_spans(drawing: OutlineDrawing) -> tuple[DrawnSpan, ...]:
    """The lines of a drawing that have a letter and belong to a view, without those whose text may be another's."""
    return tuple(
        DrawnSpan(found.letter, found.view, found.span.axis, found.reach)
        for found in drawing.lengths
        if found.letter and found.view >= 0 and not found.doubt
    )


def outline_of(page: PageText, marks: DrawingMarks, words: Sequence[PageWord]) -> OutlineDrawing:
    """The drawing that marks and words of a page make."""
    spans = tuple(dimension_spans(marks))
    box = joined(*(word.box for word in words)) if words else (0.0, 0.0, 0.0, 0.0)
    texts = drawing_texts(words, unit_near(page, box) or "mm")
    views = views_of(marks, _used_lines(marks, spans))
    labelled = texts_of_lines(texts, spans)
    lengths = tuple(_length(found, views) for found in labelled)
    return OutlineDrawing(views, lengths, len(spans) - len(lengths))


def _used_lines(marks: DrawingMarks, spans: Sequence[DimensionSpan]) -> set[Ruling]:
    """The strokes that are dimension lines or the extension lines at their ends, and so are no outline."""
    used: set[Ruling] = set()
    for span in spans:
        is_across = span.axis == "horizontal"
        for s in marks.strokes:
            if s.across == is_across:
                used |= {s} if is_on_line(s, span) else set()
            elif min(abs(s.at - span.start), abs(s.at - span.stop)) <= AT_TIP and _ends_near(s, span.level):
                used.add(s)
    return used


def is_on_line(stroke: Ruling, span: DimensionSpan) -> bool:
    """Whether a stroke is a piece of a dimension line."""
    is_level = stroke.across == (span.axis == "horizontal") and abs(stroke.at - span.level) <= SAME_LEVEL
    return is_level and stroke.start >= span.tail[0] - 1 and stroke.stop <= span.tail[1] + 1


def _ends_near(stroke: Ruling, level: float) -> bool:
    """Whether a line ends at a level, a little beyond it at most, as extension lines do."""
    return min(abs(stroke.start - level), abs(stroke.stop - level)) <= 5.0


def _length(found: LabelledSpan, views: Sequence[DrawnView]) -> DrawnLength:
    span, text = found.span, found.text
    at = _view_of(span, views)
    reach: DrawnReach = "outside"
    if at >= 0:
        low, high = views[at].along(span.axis)
        ends = (abs(span.start - low) <= AT_END) + (abs(span.stop - high) <= AT_END)
        reach = ("inner", "edge", "whole")[ends]
    return DrawnLength(text.letter, text.text, text.limits, span, at, reach, text.box, found.doubt)


def _view_of(span: DimensionSpan, views: Sequence[DrawnView]) -> int:
    """The view that a line measures: the nearest one across the line that its ends lie within; -1 for none."""
    near: list[tuple[float, int]] = []
    for index, view in enumerate(views):
        low, high = view.along(span.axis)
        if low - AT_END <= span.start and span.stop <= high + AT_END:
            below, above = view.along("vertical" if span.axis == "horizontal" else "horizontal")
            near.append((max(below - span.level, span.level - above, 0.0), index))
    return min(near)[1] if near else -1
