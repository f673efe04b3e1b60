"""An outline drawing to its lengths: which letter or value is written at which line, and what that line measures."""

from collections.abc import Collection, Mapping, Sequence

import msgspec
import numpy as np

from eider.datasheets.figures.dimension_spans import AT_TIP, SAME_LEVEL, DimensionSpan, dimension_spans
from eider.datasheets.figures.drawing_marks import DrawingMarks, read_marks
from eider.datasheets.figures.drawing_notes import general_tolerance
from eider.datasheets.figures.drawing_texts import DrawingText, drawing_texts
from eider.datasheets.figures.drawn_shapes import boxes_of_strokes, distinct_boxes
from eider.datasheets.layout.page_furniture import inner_frame, is_of_frame, without_furniture
from eider.datasheets.pages.document import Datasheet, DatasheetError, PageText
from eider.datasheets.pages.page_frame import are_near, holds, holds_whole, joined
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import labels_in
from eider.datasheets.tables.unit_captions import unit_near
from eider.datasheets.tables.value_reading import is_number, read_value
from eider.geometry.limits import Limits
from eider.geometry.plane import Box
from eider.packages.letters.drawing_witness import DrawnReach, DrawnSpan

# Outlines nearer than this (points) belong to one view; smaller groups are signs, dashes and frames of letters.
TOGETHER, SMALLEST = 3.0, 14.0
# A page with more pieces of paths is a picture, in which nobody would find lines in the time of a click.
MOST_PATHS = 6_000
# A drawing of more strokes is not of terminals that somebody could count.
MOST_STROKES = 1_500
# Strokes whose end is this near (points) meet.
MEETS = 0.8


class DrawnView(msgspec.Struct, frozen=True):
    """One view of a package: the box around its outlines in PDF points."""

    box: Box

    def along(self, axis: str) -> tuple[float, float]:
        """From where to where it reaches along an axis, `horizontal` or `vertical`."""
        x0, y0, x1, y1 = self.box
        return (x0, x1) if axis == "horizontal" else (y0, y1)


def views_of(marks: DrawingMarks, used: Collection[Ruling]) -> tuple[DrawnView, ...]:
    """The views among the strokes that no dimension uses, the largest first."""
    boxes = _without_loose([stroke.box for stroke in marks.strokes if stroke not in used])
    boxes += [area for area in marks.areas if _is_shape(area, marks)]
    groups: list[Box] = []
    for box in sorted(boxes, key=lambda b: b[0]):
        near = [group for group in groups if are_near(group, box, TOGETHER)]
        groups = [group for group in groups if group not in near]
        groups.append(joined(box, *near))
    groups = _merged(groups)
    large = [g for g in groups if max(g[2] - g[0], g[3] - g[1]) >= SMALLEST and min(g[2] - g[0], g[3] - g[1]) > 2]
    return tuple(DrawnView(box) for box in sorted(large, key=lambda g: -(g[2] - g[0]) * (g[3] - g[1])))


def _is_shape(area: Box, marks: DrawingMarks) -> bool:
    """Whether a filled area is of the package: what lies behind the dimensions as well is the paper."""
    behind = sum(holds(area, (*end.tip, *end.tip)) for end in marks.ends)
    return min(area[2] - area[0], area[3] - area[1]) > MEETS and behind <= 0.5 * len(marks.ends)


def _without_loose(boxes: list[Box]) -> list[Box]:
    """The strokes that meet others at their ends: centre lines meet none, and of their dashes one where it ends."""
    if not boxes:
        return []
    lines = np.array(boxes)
    low, high = lines[:, :2] - MEETS, lines[:, 2:] + MEETS
    met = np.zeros(len(lines), dtype=int)
    for ends in (lines[:, :2], lines[:, 2:]):
        inside = (ends[:, None] >= low[None]).all(axis=2) & (ends[:, None] <= high[None]).all(axis=2)
        met += inside.sum(axis=1) > 1  # each end is within its own stroke
    loose = [box for box, count in zip(boxes, met.tolist(), strict=True) if count == 0]
    return [
        box
        for box, count in zip(boxes, met.tolist(), strict=True)
        if count == 2 or (count == 1 and sum(_in_line(box, other) for other in loose) < 2)
    ]


def _in_line(a: Box, b: Box) -> bool:
    """Whether two strokes lie on one line, as the dashes of a centre line do."""
    return max(a[2], b[2]) - min(a[0], b[0]) < MEETS or max(a[3], b[3]) - min(a[1], b[1]) < MEETS


def _merged(groups: list[Box]) -> list[Box]:
    """Groups whose boxes touch made one, until none do."""
    while True:
        for index, group in enumerate(groups):
            near = [other for other in groups[index + 1 :] if are_near(group, other, TOGETHER)]
            if near:
                groups = [g for g in groups if g not in near and g != group]
                groups.append(joined(group, *near))
                break
        else:
            return groups


# In sizes of the text: how far from its line a text stands, and how far behind the end of one with arrows outside.
ABOVE, BEHIND = 1.6, 3.0
# A text that stands this much nearer to one line than to another is surely of that one.
CLOSE = 0.25


class LabelledSpan(msgspec.Struct, frozen=True):
    """A dimension line with its text; `doubt` says so where the text may as well belong to another line."""

    span: DimensionSpan
    text: DrawingText
    doubt: str = ""


def texts_of_lines(texts: Sequence[DrawingText], spans: Sequence[DimensionSpan]) -> list[LabelledSpan]:
    """The text of each dimension line: as many lines as can be get one that stands near, the nearest where they can."""
    near = {
        (i, j): far
        for i, span in enumerate(spans)
        for j, text in enumerate(texts)
        if (far := _far(span, text)) is not None
    }
    chosen: dict[int, int] = {}
    for i, j in sorted(near, key=lambda pair: near[pair]):
        if i not in chosen.values() and j not in chosen:
            chosen[j] = i
    for i in range(len(spans)):
        if i not in chosen.values():
            _make_room(i, chosen, near, set())
    return [LabelledSpan(spans[i], texts[j], _doubt(i, j, near, chosen)) for j, i in sorted(chosen.items())]


def _make_room(span: int, chosen: dict[int, int], near: Mapping[tuple[int, int], float], tried: set[int]) -> bool:
    """Give a line a text that another line can do without because it has a second one near it."""
    for j in sorted((j for i, j in near if i == span), key=lambda j: near[span, j]):
        if j in tried:
            continue
        tried.add(j)
        if j not in chosen or _make_room(chosen[j], chosen, near, tried):
            chosen[j] = span
            return True
    return False


def _doubt(span: int, text: int, near: Mapping[tuple[int, int], float], chosen: Mapping[int, int]) -> str:
    """What to say of a text that may as well be of another line: one whose own text could be of a third."""
    taken = {i for j, i in chosen.items() if all(other == i for other, k in near if k == j)}
    others = [far for (i, j), far in near.items() if j == text and i != span and i not in taken]
    is_close = bool(others) and min(others) < near[span, text] + CLOSE
    return "it stands as near to another line" if is_close else ""


def _far(span: DimensionSpan, text: DrawingText) -> float | None:
    """How far a text stands from where a line's text is expected, in sizes of the text; None where that is too far."""
    x0, y0, x1, y1 = text.box
    along, across = ((x0, x1), (y0, y1)) if span.axis == "horizontal" else ((y0, y1), (x0, x1))
    middle, size = (along[0] + along[1]) / 2, text.size
    beside = max(across[0] - span.level, span.level - across[1], 0.0) / size
    if span.start <= middle <= span.stop and beside <= ABOVE:
        # A text at the middle of its line is more likely its own than one further along.
        off = abs(middle - (span.start + span.stop) / 2) / max(span.stop - span.start, 1.0)
        return beside + 0.5 * off
    behind = min(abs(along[0] - span.tail[1]), abs(span.tail[0] - along[1])) / size
    if beside <= 0.3 and behind <= BEHIND:
        return behind + (1.0 if span.is_outward else 0.0)
    if not span.is_outward and span.tail[0] - size <= middle <= span.tail[1] + size and beside <= ABOVE:
        return beside + 0.5
    return None


# An end this near (points) to the end of a view is at it; a line goes beyond its view by this share of it at most.
AT_END, LEADS = 1.6, 0.12


class DrawnLength(msgspec.Struct, frozen=True):
    """What is written at a dimension line and what the line measures.

    `letter` is empty where a length is written, `limits` (mm) None where a letter is. One in brackets alone is a
    reference: it follows from others. `printed` is the text to which a note about all lengths added its tolerance.
    `view` counts the views of the drawing from 0, -1 for a line that belongs to none; `box` is where the text is (PDF
    points).
    """

    letter: str
    text: str
    limits: Limits | None
    span: DimensionSpan
    view: int
    reach: DrawnReach
    box: Box
    doubt: str = ""
    is_reference: bool = False
    printed: str = ""


class OutlineDrawing(msgspec.Struct, frozen=True):
    """A drawing as it was read: its views, its lengths, and how many dimension lines nothing could be put to.

    `shapes` are the boxes (PDF points) of its areas and rectangles, such as terminals seen from below.
    """

    views: tuple[DrawnView, ...]
    lengths: tuple[DrawnLength, ...]
    unlabelled: int
    shapes: tuple[Box, ...] = ()


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
    return outline_of(text, marks, labels_in(text.words, box))


def read_outlines_of_page(datasheet: Datasheet, page: int, others: Sequence[Box]) -> OutlineDrawing | None:
    """Read all that is drawn on a page (from 1) but for what is in `others`: tables, lands and pinouts.

    Lengths stand farther from an outline than its own box reaches, and views apart from each other. None where too
    much is drawn on the page.

    Raises:
        DatasheetError: the page is not there, or is damaged.
    """
    paths = datasheet.paths(page)
    if len(paths) > MOST_PATHS:
        return None
    whole = datasheet.read(page)
    text = without_furniture(whole)
    marks = _without_frame(read_marks(path for path in paths if not any(holds(b, path.box) for b in others)), whole)
    if marks.is_too_much:
        return None
    return outline_of(text, marks, [word for word in text.words if not any(holds(box, word.box) for box in others)])


def _without_frame(marks: DrawingMarks, page: PageText) -> DrawingMarks:
    """The marks of a page without its frame, and without what lies between that and the edge of the page."""
    inner = inner_frame(page)
    if inner is None:
        return marks
    strokes = tuple(stroke for stroke in marks.strokes if not is_of_frame(stroke, inner))
    areas = tuple(area for area in marks.areas if not holds_whole(area, inner))
    return DrawingMarks(strokes, marks.ends, areas)


def lettered_spans(drawing: OutlineDrawing) -> tuple[DrawnSpan, ...]:
    """The lines of a drawing that have a letter and belong to a view, without those whose text may be another's."""
    return tuple(
        DrawnSpan(found.letter, found.view, found.span.axis, found.reach)
        for found in drawing.lengths
        if found.letter and found.view >= 0 and not found.doubt
    )


def outline_of(
    page: PageText, marks: DrawingMarks, words: Sequence[PageWord], letters: Collection[str] = ()
) -> OutlineDrawing:
    """The drawing that marks and words of a page make; `letters` are those of its table."""
    spans = tuple(dimension_spans(marks))
    box = joined(*(word.box for word in words)) if words else (0.0, 0.0, 0.0, 0.0)
    texts = drawing_texts(words, unit_near(page, box) or "mm", letters)
    used = _used_lines(marks, spans)
    views = views_of(marks, used)
    labelled = texts_of_lines(texts, spans)
    tolerance = general_tolerance(page.words)
    lengths = tuple(_toleranced(_length(found, views), tolerance) for found in labelled)
    drawn = [stroke for stroke in marks.strokes if stroke not in used]
    shapes = distinct_boxes([*marks.areas, *boxes_of_strokes(drawn)]) if len(drawn) <= MOST_STROKES else []
    return OutlineDrawing(views, lengths, len(spans) - len(lengths), tuple(shapes))


def _toleranced(length: DrawnLength, tolerance: str) -> DrawnLength:
    """A length without limits of its own with the tolerance that a note gives all; a basic one has none."""
    if not tolerance or length.limits is None or length.is_reference or not is_number(length.text):
        return length
    text = f"{length.text}±{tolerance}"
    return msgspec.structs.replace(length, text=text, limits=read_value(text).limits, printed=length.text)


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
        ends = (span.start <= low + AT_END) + (span.stop >= high - AT_END)
        reach = ("inner", "edge", "whole")[ends]
    return DrawnLength(text.letter, text.text, text.limits, span, at, reach, text.box, found.doubt, text.is_reference)


def _view_of(span: DimensionSpan, views: Sequence[DrawnView]) -> int:
    """The view that a line measures: the nearest one across the line that its ends lie within; -1 for none.

    Slanted and bent leads are no straight strokes, so that a view may be a little smaller than what is measured at it.
    """
    room = max(AT_END, LEADS * (span.stop - span.start))
    near: list[tuple[float, int]] = []
    for index, view in enumerate(views):
        low, high = view.along(span.axis)
        if low - room <= span.start and span.stop <= high + room:
            below, above = view.along("vertical" if span.axis == "horizontal" else "horizontal")
            near.append((max(below - span.level, span.level - above, 0.0), index))
    return min(near)[1] if near else -1
