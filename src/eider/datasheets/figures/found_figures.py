"""The figures of a page: pinouts, outline drawings and suggested lands, by what is in them and their titles."""

import math
import re
from collections.abc import Collection, Iterable, Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

import msgspec

from eider.datasheets.documents.captions import text_below, title_over
from eider.datasheets.documents.found_items import FoundItem, FoundKind, rounded_box
from eider.datasheets.documents.package_names import PACKAGE_LETTER, last_package, packages_named
from eider.datasheets.figures.ball_maps import ball_maps
from eider.datasheets.figures.pinout_figures import figure_of_words
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import are_near, holds, joined, share_covered
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.table_blocks import ruled_blocks
from eider.geometry.plane import Box
from eider.model.part import FigurePin
from eider.packages.forms.array import ROW_LETTERS

# Points: what lies no farther apart than about this is of one drawing; a drawing is at least so wide or high.
NEAR, SMALLEST = 14.0, 60.0
# What lies on the edge of a drawing is of it.
ROUND = 2.0
# A drawing has at least so many lines and areas.
FEWEST_PIECES = 8
# A page with more pieces is a map or a picture.
MOST_PIECES = 6_000
# A piece that goes over this share of the page is its frame, or a line between head and text.
WHOLE_PAGE = 0.8
# Words of a drawing are letters, lengths and short names; those of one line of more words are text.
LONGEST_WORD, MOST_WORDS = 12, 3
# A title stands no farther (points) from its drawing, and has no more words.
TITLE_NEAR, TITLE_WORDS = 120.0, 16
# Between words of a title is so many times the space that is between those of a text.
TITLE_SPACED = 2.0

# A page is looked at in a raster of so many cells along its longer side at most.
MOST_CELLS = 400
Cell = tuple[int, int]


def figure_boxes(page: PageText, taken: Sequence[Box], titles: Sequence["FigureTitle"] = ()) -> list[Box]:
    """The boxes of the drawings of a page with their texts, from the top down; `taken` are its tables.

    Words of `titles` are of no drawing: they would join the one over them to the one under them.
    """
    x0, y0, x1, y1 = page.frame.crop
    pieces = [
        box
        for box in (*(r.box for r in page.rulings), *page.areas)
        if max((box[2] - box[0]) / (x1 - x0), (box[3] - box[1]) / (y1 - y0)) < WHOLE_PAGE
        and _lies_on(page, box)
        and not any(holds(table, box) for table in taken)
    ]
    if not FEWEST_PIECES <= len(pieces) <= MOST_PIECES:
        return []
    words = [
        word
        for word in _drawing_words(page)
        if _lies_on(page, word.box)
        and not any(holds(table, word.box) for table in taken)
        and not any(holds(title.place, word.box) for title in titles)
    ]
    # A page as large as a damaged one may say it is has no more cells than others.
    cell = max(NEAR, max(x1 - x0, y1 - y0) / MOST_CELLS)
    return sorted(_grouped(pieces, [word.box for word in words], cell), key=lambda box: -box[3])


def _lies_on(page: PageText, box: Box) -> bool:
    """Whether a box lies on a page whole, or nearly so; of damaged pages some do not."""
    x0, y0, x1, y1 = page.frame.crop
    return x0 - NEAR <= box[0] and y0 - NEAR <= box[1] and box[2] <= x1 + NEAR and box[3] <= y1 + NEAR


class FigureTitle(NamedTuple):
    """What a drawing is called: which of some patterns (from 0) the text fits, without its spaces, and where it is."""

    which: int
    place: Box


def title_near(box: Box, titles: Iterable[FigureTitle], weak: int) -> FigureTitle | None:
    """The title nearest to a drawing, one of the pattern `weak` only without another; None where none is near."""
    near = [title for title in titles if boxes_apart(title.place, box) <= TITLE_NEAR]
    return min(near, key=lambda title: (title.which == weak, boxes_apart(title.place, box)), default=None)


def heading_above(box: Box, titles: Iterable[FigureTitle]) -> FigureTitle | None:
    """The last heading above a drawing, however far above; None without any."""
    above = (title for title in titles if title.place[1] >= box[3])
    return min(above, key=lambda title: title.place[1], default=None)


def figure_titles(page: PageText, *patterns: re.Pattern[str]) -> Iterator[FigureTitle]:
    """The phrases of a page that may be titles and fit one of the patterns."""
    words = [word for word in page.words if word.quarters == 0]
    # Most pages name no drawing: that is told before they are parted into lines.
    whole = "".join(word.text for word in words)
    for line in text_lines(words) if any(pattern.search(whole) for pattern in patterns) else ():
        # Titles are often spaced: words that stand apart may be of one.
        for phrase in phrases(line, TITLE_SPACED * phrase_gap(line)):
            text = line_text(phrase)
            which = next((i for i, pattern in enumerate(patterns) if pattern.search(text.replace(" ", ""))), None)
            if which is not None and len(text.split()) <= TITLE_WORDS:
                yield FigureTitle(which, joined(*(word.box for word in phrase)))


def boxes_apart(a: Box, b: Box) -> float:
    """How far two boxes lie apart along the axis on which they are farther."""
    return max(a[1] - b[3], b[1] - a[3], a[0] - b[2], b[0] - a[2], 0.0)


def _drawing_words(page: PageText) -> Iterator[PageWord]:
    """The words that may be of a drawing: turned ones, and those of lines of few and short words."""
    straight = [word for word in page.words if word.quarters == 0]
    yield from (word for word in page.words if word.quarters != 0)
    for line in text_lines(straight):
        for phrase in phrases(line, phrase_gap(line)):
            if len(phrase) <= MOST_WORDS and all(len(word.text) <= LONGEST_WORD for word in phrase):
                yield from phrase


def _grouped(pieces: Sequence[Box], words: Sequence[Box], size: float) -> Iterator[Box]:
    """The boxes of pieces that hang together, directly or by words between them; `size` is that of a raster cell."""
    cells: dict[Cell, set[int]] = {}
    for index, box in enumerate((*pieces, *words)):
        for cell in _cells(box, size):
            cells.setdefault(cell, set()).add(index)
    while cells:
        members = _connected(cells)
        drawn = [pieces[index] for index in members if index < len(pieces)]
        texts = [words[index - len(pieces)] for index in members if index >= len(pieces)]
        if len(drawn) >= FEWEST_PIECES:
            around = joined(*drawn)
            near = [text for text in texts if are_near(text, around, NEAR)]
            x0, y0, x1, y1 = joined(around, *near)
            if max(x1 - x0, y1 - y0) >= SMALLEST:
                yield x0 - ROUND, y0 - ROUND, x1 + ROUND, y1 + ROUND


def _cells(box: Box, size: float) -> Iterable[Cell]:
    """The cells of the page's raster that a box touches; of a large area those along its edges."""
    x0, y0, x1, y1 = (math.floor(v / size) for v in box)
    if x1 - x0 < 2 or y1 - y0 < 2:
        return [(x, y) for x in range(x0, x1 + 1) for y in range(y0, y1 + 1)]
    across = [(x, y) for x in range(x0, x1 + 1) for y in (y0, y1)]
    return [*across, *((x, y) for y in range(y0 + 1, y1) for x in (x0, x1))]


def _connected(cells: dict[Cell, set[int]]) -> set[int]:
    """Take what hangs together out of the cells: its members."""
    waiting, members = [next(iter(cells))], set[int]()
    while waiting:
        x, y = waiting.pop()
        members |= cells.pop((x, y), set())
        near = ((x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1))
        for cell in near:
            if cell in cells:
                members |= cells.pop(cell)
                waiting.append(cell)
    return members


# Titles without their spaces: kerning makes spaces where there are none.
_LANDS = re.compile(
    r"landpattern|lands(?:for|:)|landsize|footprint|solder(?:ing)?(?:pad|land|pattern|area)|padpattern|"
    r"(?:p\.?c\.?b\.?|pad|land|board)layout|"
    r"(?:recommended|suggested)(?:minimum|pcb|p\.c\.b\.)*(?:pad|land|mounting|solder)|mounting(?:pad|hole|pattern)|lötfläche|"
    r"lötpad|empreinte|焊盘|ランド|パッドパターン",
    re.I,
)
_OUTLINE = re.compile(
    r"outline|package(?:drawing|dimension|information)|mechanical|(?:physical|body|case|external)dimensions|"
    r"dimensional(?:drawing|data)|gehäuse|abmessungen|encombrement|bo[iî]tier|外形|寸法図|封装尺寸",
    re.I,
)
# Says less: `All dimensions in mm` is a note, and `Dimensions in mm` may be at anything.
_DIMENSIONS = re.compile(r"(?<!all)(?<!linear)dimensions(?!are)|(?:top|bottom|side|end|front)view", re.I)
# What a drawing is, by which of the patterns of titles its own fits: of lands, of outlines, and of dimensions.
DRAWING_KINDS: tuple[FoundKind, ...] = ("lands", "outline", "outline")
WEAK_TITLE = 2
# Views of one drawing lie no farther apart (points).
VIEWS_APART = 80.0
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


def drawing_titles(page: PageText) -> tuple[FigureTitle, ...]:
    """The titles of a page that name drawings."""
    return tuple(figure_titles(page, _LANDS, _OUTLINE, _DIMENSIONS))


class TitleBlock(NamedTuple):
    """What the title block of a drawing sheet says of all that is drawn on it; placed over it, where headings are."""

    titles: tuple[FigureTitle, ...] = ()
    package: str = ""


def title_block_of(page: PageText, bare: PageText) -> TitleBlock:
    """The title block among what was left out of a page as furniture; empty where none names one kind of drawing."""
    kept = set(bare.words)
    gone = tuple(word for word in page.words if word not in kept)
    titles = drawing_titles(msgspec.structs.replace(page, words=gone)) if gone else ()
    kinds = {DRAWING_KINDS[title.which] for title in titles}
    if len(kinds) != 1 or not bare.words:
        return TitleBlock()
    x0, _y0, x1, y1 = joined(*(word.box for word in bare.words), *(ruling.box for ruling in bare.rulings))
    over = (x0, y1 + 2 * TITLE_NEAR, x1, y1 + 2 * TITLE_NEAR + 1)
    named = packages_named(" ".join(word.text for word in gone))
    return TitleBlock((FigureTitle(titles[0].which, over),), named[-1] if len(set(named)) == 1 else "")


def speaks_of_lands(text: str) -> bool:
    """Whether a title names suggested lands."""
    return _LANDS.search(text.replace(" ", "")) is not None


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
        if title is None:
            continue
        same = next((d for d in found if _are_views(page, d, box, title, titles)), None)
        # A view beside another may have a single length.
        if not _is_lettered([word for word in page.words if holds(box, word.box)], 1 if same else FEWEST_TEXTS):
            continue
        if same is not None:
            found[found.index(same)] = _TitledDrawing(
                joined(same.box, box), same.title, max(same.confidence, confidence)
            )
        else:
            found.append(_TitledDrawing(box, title, confidence))
    return found


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
    if DRAWING_KINDS[drawing.title.which] != DRAWING_KINDS[title.which] or boxes_apart(drawing.box, box) > VIEWS_APART:
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


def _is_lettered(words: Sequence[PageWord], fewest: int) -> bool:
    """Whether letters or lengths are in a drawing."""
    letters = sum(bool(PACKAGE_LETTER.fullmatch(word.text)) for word in words)
    return letters + sum(bool(re.search(r"\d[.,]\d", word.text)) for word in words) >= fewest


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
