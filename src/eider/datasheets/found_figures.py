"""The figures of a page: pinouts, outline drawings and suggested lands, by what stands in them and their titles."""

import re
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from eider.datasheets.captions import text_below, title_over
from eider.datasheets.document import PageText
from eider.datasheets.figure_blocks import (
    FigureTitle,
    boxes_apart,
    figure_boxes,
    figure_titles,
    heading_above,
    title_near,
)
from eider.datasheets.found_items import FoundItem, FoundKind, rounded_box
from eider.datasheets.package_names import PACKAGE_LETTER, last_package
from eider.datasheets.page_frame import holds, joined
from eider.datasheets.page_words import PageWord
from eider.datasheets.pinout_figures import figure_of_words
from eider.datasheets.ruling_lines import Ruling
from eider.datasheets.table_blocks import ruled_blocks
from eider.geometry.shapes import Box

# Titles without their spaces: kerning makes spaces where there are none.
_LANDS = re.compile(
    r"landpattern|footprint|solder(?:ing)?(?:pad|land)|(?:pcb|pad|land|board)layout|(?:recommended|suggested)(?:pad|land)",
    re.I,
)
_OUTLINE = re.compile(r"outline|package(?:drawing|dimension|information)|mechanical", re.I)
# Says less: `All dimensions in mm` is a note, and `Dimensions in mm` may stand at anything.
_DIMENSIONS = re.compile(r"(?<!all)(?<!linear)dimensions(?!are)", re.I)
# What a drawing is, by which of the patterns of titles its own fits: of lands, of outlines, and of dimensions.
DRAWING_KINDS: tuple[FoundKind, ...] = ("lands", "outline", "outline")
WEAK_TITLE = 2
# Views of one drawing lie no farther apart (points).
VIEWS_APART = 80.0
# A page of text has no more figures.
MOST_FIGURES = 6
# A drawing has at least so many letters or lengths.
FEWEST_TEXTS = 3
# How sure it is that a figure is what its title says, or a heading far above it.
TITLED, UNDER_HEADING = 0.6, 0.4


def drawing_titles(page: PageText) -> tuple[FigureTitle, ...]:
    """The titles of a page that name drawings."""
    return tuple(figure_titles(page, _LANDS, _OUTLINE, _DIMENSIONS))


def speaks_of_lands(text: str) -> bool:
    """Whether a title names suggested lands."""
    return _LANDS.search(text.replace(" ", "")) is not None


def figures_of(page: PageText, taken: Sequence[Box], titles: Sequence[FigureTitle]) -> Iterator[FoundItem]:
    """Pinout figures and outline drawings: lines that are no table's, with numbers and names or letters round them."""
    free = [r for r in page.rulings if not any(holds(box, r.box) for box in taken)]
    boxes = [box for box in _clusters(free, page) if not any(share_covered(box, other) > 0.5 for other in taken)]
    pinouts = list[Box]()
    for box in boxes[:MOST_FIGURES]:
        words = [word for word in page.words if holds(box, word.box)]
        title = title_over(page, box) + " " + text_below(page, box)
        pins = figure_of_words(words).pins if words else ()
        numbers = {pin.number for pin in pins if pin.number.isdecimal() and pin.name}
        if len(numbers) >= 4 and {str(n) for n in range(1, len(numbers) + 1)} <= numbers:
            pinouts.append(box)
            yield FoundItem(
                "pinout", page.page, rounded_box(box), last_package(title), 0.9, len(numbers), is_figure=True
            )
    for drawing in _drawings(page, [*taken, *pinouts], titles)[:MOST_FIGURES]:
        words = [word for word in page.words if holds(drawing.box, word.box)]
        package = last_package(title_over(page, drawing.box) + " " + text_below(page, drawing.box))
        kind, confidence = DRAWING_KINDS[drawing.title.which], drawing.confidence
        yield FoundItem(kind, page.page, rounded_box(drawing.box), package, confidence, len(words), is_figure=True)


class _TitledDrawing(NamedTuple):
    box: Box
    title: FigureTitle
    confidence: float


def _drawings(page: PageText, taken: Sequence[Box], titles: Sequence[FigureTitle]) -> list[_TitledDrawing]:
    """The outlines and suggested lands of a page; views with one title, which lie near each other, are one."""
    found: list[_TitledDrawing] = []
    for box in figure_boxes(page, taken) if titles else ():
        title = title_near(box, titles, WEAK_TITLE)
        confidence = UNDER_HEADING if title is None else TITLED
        title = title or heading_above(box, titles)
        if title is None or not _is_lettered([word for word in page.words if holds(box, word.box)]):
            continue
        same = next((d for d in found if _are_views(d, box, title, titles)), None)
        if same is not None:
            found[found.index(same)] = _TitledDrawing(joined(same.box, box), title, confidence)
        else:
            found.append(_TitledDrawing(box, title, confidence))
    return found


def _are_views(drawing: _TitledDrawing, box: Box, title: FigureTitle, titles: Sequence[FigureTitle]) -> bool:
    """Whether another box is a further view of a drawing: under the same title, or over or under it without another
    title between."""
    if DRAWING_KINDS[drawing.title.which] != DRAWING_KINDS[title.which] or boxes_apart(drawing.box, box) > VIEWS_APART:
        return False
    is_stacked = drawing.box[0] < box[2] and box[0] < drawing.box[2]
    both = joined(drawing.box, box)
    has_title_between = any(
        holds(both, t.place) and not holds(drawing.box, t.place) and not holds(box, t.place) for t in titles
    )
    return drawing.title == title or (is_stacked and not has_title_between)


def _is_lettered(words: Sequence[PageWord]) -> bool:
    """Whether letters or lengths stand in a drawing."""
    letters = sum(bool(PACKAGE_LETTER.fullmatch(word.text)) for word in words)
    return letters + sum(bool(re.search(r"\d[.,]\d", word.text)) for word in words) >= FEWEST_TEXTS


def _clusters(rulings: Sequence[Ruling], page: PageText) -> list[Box]:
    """The boxes of lines that stand near each other, each with the words round it; the largest first."""
    grown = [_with_words(page, box) for box in ruled_blocks(rulings)]
    merged: list[Box] = []
    for box in sorted(grown, key=lambda b: -(b[2] - b[0]) * (b[3] - b[1])):
        if not any(share_covered(box, other) > 0.3 for other in merged):
            merged.append(box)
    return merged


def _with_words(page: PageText, box: Box) -> Box:
    """A box with the words that stand beside its edges, as names and numbers of pins do."""
    size = sorted(w.size for w in page.words)[len(page.words) // 2] if page.words else 8.0
    wide = box[0] - 8 * size, box[1] - 3 * size, box[2] + 8 * size, box[3] + 3 * size
    near = [word.box for word in page.words if holds(wide, word.box)]
    return joined(box, *near)


def share_covered(a: Box, b: Box) -> float:
    """The share of the smaller box that both cover."""
    width, height = min(a[2], b[2]) - max(a[0], b[0]), min(a[3], b[3]) - max(a[1], b[1])
    least = min((a[2] - a[0]) * (a[3] - a[1]), (b[2] - b[0]) * (b[3] - b[1]))
    return width * height / least if width > 0 and height > 0 and least > 0 else 0.0
