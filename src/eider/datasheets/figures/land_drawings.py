"""A drawing of suggested lands: where its lands are drawn, and which lengths are written from which edge to which."""

from collections.abc import Collection, Iterable, Mapping, Sequence

import msgspec

from eider.datasheets.figures.dimension_spans import OVERRUN, DimensionSpan
from eider.datasheets.figures.drawing_marks import read_marks
from eider.datasheets.figures.drawn_shapes import (
    DRAWN_TWICE,
    SAME_CORNER,
    boxes_of_strokes,
    closed_shapes,
    distinct_boxes,
)
from eider.datasheets.figures.outline_drawings import DrawnLength, is_on_line, outline_of
from eider.datasheets.pages.document import Datasheet, DatasheetError
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import labels_in
from eider.datasheets.tables.table_capture import TableCapture
from eider.geometry.limits import Limits
from eider.geometry.plane import Box
from eider.lands.drawn_lands import DrawnDistance, LandAxis, distance_between
from eider.model.wording import counted

# A drawing of more lands than this is looked at by nobody.
MOST_LANDS = 600


class LetterValue(msgspec.Struct, frozen=True):
    """What a table gives for a letter of a drawing: the text, its limits (mm), and where it stands (PDF points)."""

    text: str
    limits: Limits
    page: int
    box: Box
    seen: str


class WrittenLength(msgspec.Struct, frozen=True):
    """A length of a land drawing with its place: what it measures, None where its ends are at no land's edges."""

    letter: str
    value: LetterValue | None
    distance: DrawnDistance | None
    drawn: DrawnLength
    doubt: str = ""


class LandDrawing(msgspec.Struct, frozen=True):
    """The lands (boxes in PDF points) and lengths of a drawing, and how many of its lines have nothing written."""

    page: int
    lands: tuple[Box, ...]
    lengths: tuple[WrittenLength, ...]
    unlabelled: int


def read_land_drawing(datasheet: Datasheet, page: int, box: Box, letters: Collection[str] = ()) -> LandDrawing:
    """Read the suggested lands within a box (PDF points) of a page (from 1); letters have no values yet.

    `letters` are those of the tables that may give them.

    Raises:
        DatasheetError: the page is not there, or is damaged, or no lands are drawn in the box.
    """
    text = datasheet.read(page)
    paths = [path for path in datasheet.paths(page) if holds(box, path.box)]
    marks = read_marks(paths)
    if marks.is_too_much:
        raise DatasheetError(f"page {page}: more is drawn in this rectangle than one land pattern")
    drawing = outline_of(text, marks, labels_in(text.words, box), letters)
    measured = [found.span for found in drawing.lengths]
    lands = land_boxes(paths, [s for s in marks.strokes if not any(is_on_line(s, span) for span in measured)])
    if len(lands) > MOST_LANDS:
        raise DatasheetError(f"page {page}: {len(lands)} closed shapes in this rectangle are no land pattern")
    if len(lands) < 2:
        raise DatasheetError(f"page {page}: {counted(len(lands), 'land')} drawn in this rectangle; two or more needed")
    lengths = tuple(_written(found, lands, marks.strokes, page) for found in drawing.lengths)
    return LandDrawing(page, lands, lengths, drawing.unlabelled)


def with_letter_values(drawing: LandDrawing, letters: Mapping[str, Sequence[LetterValue]]) -> LandDrawing:
    """A drawing whose letters have the values that tables give for them; one without, or with two, is doubted."""
    lengths = (
        _valued(length, letters.get(length.letter, ())) if length.letter else length for length in drawing.lengths
    )
    return msgspec.structs.replace(drawing, lengths=tuple(lengths))


def _valued(length: WrittenLength, values: Sequence[LetterValue]) -> WrittenLength:
    texts = dict.fromkeys(value.text for value in values)
    if len(texts) == 1:
        return msgspec.structs.replace(length, value=values[0])
    told = f"tables give {' and '.join(texts)} for" if texts else "no table gives"
    return msgspec.structs.replace(length, doubt=f"{told} {length.letter}")


def _written(found: DrawnLength, lands: Sequence[Box], strokes: Sequence[Ruling], page: int) -> WrittenLength:
    span = found.span
    axis: LandAxis = "x" if span.axis == "horizontal" else "y"
    distance = distance_between(lands, axis, span.start, span.stop, _beginnings(span, strokes))
    value = LetterValue(found.text, found.limits, page, found.box, found.text) if found.limits is not None else None
    return WrittenLength(found.letter, value, distance, found, found.doubt)


def _beginnings(span: DimensionSpan, strokes: Sequence[Ruling]) -> tuple[float, ...]:
    """Where the extension lines of a dimension line begin, where each end has just one."""
    found: list[float] = []
    for end in (span.start, span.stop):
        lines = [
            stroke
            for stroke in strokes
            if stroke.across != (span.axis == "horizontal") and abs(stroke.at - end) <= SAME_CORNER
        ]
        reaching = [s for s in lines if min(abs(s.start - span.level), abs(s.stop - span.level)) <= OVERRUN]
        far = {round(s.stop if abs(s.start - span.level) <= OVERRUN else s.start, 1) for s in reaching}
        found += far if len(far) == 1 else ()
    return tuple(found)


def land_boxes(paths: Iterable[PathPiece], strokes: Sequence[Ruling]) -> tuple[Box, ...]:
    """The boxes of the lands of a drawing: areas and closed outlines that lie in no other and over no other.

    What lies round others or across them, as a body's outline does, is none.
    """
    shapes = distinct_boxes([*closed_shapes(paths), *boxes_of_strokes(strokes)])
    return tuple(box for box in shapes if not any(_is_over(box, other) for other in shapes if other is not box))


def _is_over(box: Box, other: Box) -> bool:
    """Whether a box goes round another, or across it, and is the larger of both."""
    wide, high = min(box[2], other[2]) - max(box[0], other[0]), min(box[3], other[3]) - max(box[1], other[1])
    is_larger = (box[2] - box[0]) * (box[3] - box[1]) > (other[2] - other[0]) * (other[3] - other[1])
    return is_larger and wide > DRAWN_TWICE and high > DRAWN_TWICE


def letter_values(captures: Iterable[TableCapture], member: str | None = None) -> dict[str, tuple[LetterValue, ...]]:
    """What tables of dimensions give for each letter, of rows that were read without a doubt; of one member or all."""
    values: dict[str, tuple[LetterValue, ...]] = {}
    for capture in captures:
        rows = capture.dimensions.rows if capture.dimensions else ()
        for row, place in zip(rows, capture.places, strict=True):
            if row.letter and row.limits is not None and not row.doubt and member in (None, row.member):
                value = LetterValue(row.text, row.limits, place.page, place.box, row.seen)
                values[row.letter] = (*values.get(row.letter, ()), value)
    return values
