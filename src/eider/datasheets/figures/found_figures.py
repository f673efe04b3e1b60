"""The figures of a page: pinouts, outline drawings and suggested lands, by what is in them and their titles."""

import re
from collections.abc import Collection, Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from eider.datasheets.documents.captions import text_below, title_over
from eider.datasheets.documents.found_items import FoundItem, rounded_box
from eider.datasheets.documents.package_names import PACKAGE_LETTER, last_package
from eider.datasheets.figures.ball_maps import ball_maps
from eider.datasheets.figures.figure_boxes import figure_boxes
from eider.datasheets.figures.figure_titles import (
    DRAWING_KINDS,
    WEAK_TITLE,
    FigureTitle,
    boxes_apart,
    heading_above,
    title_near,
)
from eider.datasheets.figures.pinout_figures import figure_of_words
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds, joined, share_covered
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.tables.table_blocks import ruled_blocks
from eider.geometry.plane import Box
from eider.model.part import FigurePin
from eider.packages.forms.array import ROW_LETTERS

# Views of one drawing lie no farther apart (points), and beside each other under one title no farther than this.
VIEWS_APART, VIEWS_BESIDE = 80.0, 160.0
# A page of text has no more figures.
MOST_FIGURES = 6
# A pinout figure has at least so many leads, and rows and columns of balls.
FEWEST_LEADS, FEWEST_BALLS = 4, 2
# The frame of a package, its leads not drawn, has so many lines across.
FRAME = 2
# Points: numbers of one column of leads stand no farther apart across.
IN_COLUMN = 6.0
_PLACE = re.compile(r"([A-Z]{1,2})(\d{1,2})")
# A drawing has at least so many letters or lengths.
FEWEST_TEXTS = 3
# A heading has at least so many words of so many letters; what is written at a drawing has fewer.
HEADING_WORDS, HEADING_LETTERS = 2, 4
# How sure it is that a figure is what its title says, or a heading far above it.
TITLED, UNDER_HEADING = 0.6, 0.4


def pinouts_of(page: PageText, tables: Sequence[Box], grids: Sequence[Box]) -> Iterator[FoundItem]:
    """Pinout figures: lines that are no table's, with numbers and names round them.

    `tables` are sure to be such. The leads of a figure stand in rows and columns too, so that one may lie where `grids`
    are that may be tables: there its numbers run round the package.
    """
    free = [r for r in page.rulings if not any(holds(box, r.box) for box in tables)]
    boxes = [box for box in _clusters(free, page) if not any(share_covered(box, other) > 0.5 for other in tables)]
    maps = [box for box in ball_maps(page.words, tables) if not any(share_covered(box, other) > 0.5 for other in boxes)]
    for box in (*boxes[:MOST_FIGURES], *maps[:MOST_FIGURES]):
        words = [word for word in page.words if holds(box, word.box)]
        title = title_over(page, box) + " " + text_below(page, box)
        pins = [pin for pin in figure_of_words(words).pins if pin.name] if words else []
        numbers = {pin.number for pin in pins}
        is_free = not any(share_covered(box, other) > 0.5 for other in grids)
        if _are_places_of_balls(numbers) or (_are_numbers_of_leads(numbers) and (is_free or _run_round(pins))):
            yield FoundItem(
                "pinout", page.page, rounded_box(box), last_package(title), 0.9, len(numbers), is_figure=True
            )


def drawings_of(page: PageText, taken: Sequence[Box], titles: Sequence[FigureTitle]) -> Iterator[FoundItem]:
    """Outline drawings and suggested lands: lines that are no table's and no pinout's, with letters or lengths."""
    for drawing in _drawings(page, taken, titles)[:MOST_FIGURES]:
        words = [word for word in page.words if holds(drawing.box, word.box)]
        package = last_package(title_over(page, drawing.box) + " " + text_below(page, drawing.box))
        package = package or last_package(line_text([w for w in page.words if holds(drawing.title.place, w.box)]))
        kind, confidence = DRAWING_KINDS[drawing.title.which], drawing.confidence
        yield FoundItem(kind, page.page, rounded_box(drawing.box), package, confidence, len(words), is_figure=True)


def _are_numbers_of_leads(numbers: Collection[str]) -> bool:
    """Whether the numbers of leads run on from 1."""
    leads = {number for number in numbers if number.isdecimal()}
    return len(leads) >= FEWEST_LEADS and {str(n) for n in range(1, len(leads) + 1)} <= leads


def _run_round(pins: Sequence[FigurePin]) -> bool:
    """Whether the numbers of some column run up, as on the right of a package; those of tables run down."""
    columns: dict[int, list[FigurePin]] = {}
    for pin in pins:
        columns.setdefault(round(pin.x / IN_COLUMN), []).append(pin)
    runs = [sorted(column, key=lambda pin: pin.y) for column in columns.values() if len(column) > 1]
    return any(all(int(a.number) < int(b.number) for a, b in pairwise(run)) for run in runs)


def _are_places_of_balls(numbers: Collection[str]) -> bool:
    """Whether these are places of a grid whose rows are letters that follow each other, from A."""
    places = [match for number in numbers if (match := _PLACE.fullmatch(number))]
    rows, columns = sorted({match[1] for match in places}), {match[2] for match in places}
    is_grid = min(len(rows), len(columns)) >= FEWEST_BALLS and len(places) == len(numbers)
    return is_grid and rows == list(ROW_LETTERS[: len(rows)])


class _TitledDrawing(NamedTuple):
    box: Box
    title: FigureTitle
    confidence: float


def _drawings(page: PageText, taken: Sequence[Box], titles: Sequence[FigureTitle]) -> list[_TitledDrawing]:
    """The outlines and suggested lands of a page; views with one title, which lie near each other, are one."""
    found: list[_TitledDrawing] = []
    boxes = figure_boxes(page, taken, titles) if titles else []
    for box in boxes:
        title = title_near(box, _titles_of(box, boxes, titles), WEAK_TITLE)
        confidence = UNDER_HEADING if title is None else TITLED
        title = title or heading_above(box, titles)
        # A view beside others may have a single length.
        if title is None or not _texts_in(page, box):
            continue
        same = next((d for d in found if _are_views(page, d, box, title, titles)), None)
        if same is not None:
            found[found.index(same)] = _TitledDrawing(
                joined(same.box, box), same.title, max(same.confidence, confidence)
            )
        else:
            found.append(_TitledDrawing(box, title, confidence))
    return [drawing for drawing in found if _texts_in(page, drawing.box) >= FEWEST_TEXTS]


def _titles_of(box: Box, boxes: Sequence[Box], titles: Sequence[FigureTitle]) -> list[FigureTitle]:
    """The titles that may be of a drawing: of those under it the ones to which no other drawing is nearer."""
    return [
        title
        for title in titles
        if title.place[1] >= box[1] or min(boxes, key=lambda other: boxes_apart(title.place, other)) == box
    ]


def _are_views(
    page: PageText, drawing: _TitledDrawing, box: Box, title: FigureTitle, titles: Sequence[FigureTitle]
) -> bool:
    """Whether another box is a further view of a drawing: under the same title, or over or under it without another
    title between."""
    is_beside = drawing.title == title and drawing.box[1] < box[3] and box[1] < drawing.box[3]
    room = VIEWS_BESIDE if is_beside else VIEWS_APART
    if DRAWING_KINDS[drawing.title.which] != DRAWING_KINDS[title.which] or boxes_apart(drawing.box, box) > room:
        return False
    is_stacked = drawing.box[0] < box[2] and box[0] < drawing.box[2]
    both = joined(drawing.box, box)
    has_title_between = any(
        holds(both, t.place) and not holds(drawing.box, t.place) and not holds(box, t.place) for t in titles
    )
    is_parted = has_title_between or _has_heading_between(page, drawing.box, box)
    return (drawing.title == title or is_stacked) and not is_parted


def _has_heading_between(page: PageText, one: Box, other: Box) -> bool:
    """Whether words of a text stand between two drawings over each other, such as the next section's heading."""
    low, high = min(one[3], other[3]), max(one[1], other[1])
    between = [w for w in page.words if w.quarters == 0 and low < w.middle[1] < high and len(w.text) >= HEADING_LETTERS]
    return sum(word.text.isalpha() for word in between) >= HEADING_WORDS


def _texts_in(page: PageText, box: Box) -> int:
    """How many letters and lengths are in a drawing."""
    words = [word.text for word in page.words if holds(box, word.box)]
    return sum(bool(PACKAGE_LETTER.fullmatch(text) or re.search(r"\d[.,]\d", text)) for text in words)


def _clusters(rulings: Sequence[Ruling], page: PageText) -> list[Box]:
    """The boxes of lines that stand near each other, each with the words around it; the largest first."""
    grown = [_with_words(page, box) for box in ruled_blocks(rulings, FRAME)]
    merged: list[Box] = []
    for box in sorted(grown, key=lambda b: -(b[2] - b[0]) * (b[3] - b[1])):
        if not any(share_covered(box, other) > 0.3 for other in merged):
            merged.append(box)
    return merged


def _with_words(page: PageText, box: Box) -> Box:
    """A box with the words that are beside its edges, as names and numbers of pins do."""
    size = sorted(w.size for w in page.words)[len(page.words) // 2] if page.words else 8.0
    wide = box[0] - 8 * size, box[1] - 3 * size, box[2] + 8 * size, box[3] + 3 * size
    near = [word.box for word in page.words if holds(wide, word.box)]
    return joined(box, *near)
