"""Titles of drawings: what names an outline or suggested lands, on the page or in the title block of a sheet."""

import re
from collections.abc import Iterable, Iterator
from typing import NamedTuple

import msgspec

from eider.datasheets.documents.found_items import FoundKind
from eider.datasheets.documents.package_names import packages_named
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.geometry.plane import Box

# What a drawing is, by which of the patterns of titles its own fits: of lands, of outlines, and of dimensions.
DRAWING_KINDS: tuple[FoundKind, ...] = ("lands", "outline", "outline")
OUTLINE_TITLE, WEAK_TITLE = 1, 2
# A title stands no farther (points) from its drawing, and has no more words.
TITLE_NEAR, TITLE_WORDS = 120.0, 16
# Between words of a title is so many times the space that is between those of a text.
TITLE_SPACED = 2.0
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
# What only the title blocks of drawing sheets say.
_SHEET = re.compile(r"scale:?\d|sheet:?\d|drawn|d(?:ra)?wg?(?:ing)?\.?no|units?:(?:mm|inch)|projection", re.I)
# Says less: `All dimensions in mm` is a note, and `Dimensions in mm` may be at anything.
_DIMENSIONS = re.compile(r"(?<!all)(?<!linear)dimensions(?!are)|(?:top|bottom|side|end|front)view", re.I)


class FigureTitle(NamedTuple):
    """What a drawing is called: which of some patterns (from 0) the text fits, without its spaces, and where it is."""

    which: int
    place: Box


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


def drawing_titles(page: PageText) -> tuple[FigureTitle, ...]:
    """The titles of a page that name drawings."""
    return tuple(figure_titles(page, _LANDS, _OUTLINE, _DIMENSIONS))


def title_near(box: Box, titles: Iterable[FigureTitle], weak: int) -> FigureTitle | None:
    """The title nearest to a drawing, one of the pattern `weak` only without another; None where none is near."""
    near = [title for title in titles if boxes_apart(title.place, box) <= TITLE_NEAR]
    return min(near, key=lambda title: (title.which == weak, boxes_apart(title.place, box)), default=None)


def heading_above(box: Box, titles: Iterable[FigureTitle]) -> FigureTitle | None:
    """The last heading above a drawing, however far above; None without any."""
    above = (title for title in titles if title.place[1] >= box[3])
    return min(above, key=lambda title: title.place[1], default=None)


def boxes_apart(a: Box, b: Box) -> float:
    """How far two boxes lie apart along the axis on which they are farther."""
    return max(a[1] - b[3], b[1] - a[3], a[0] - b[2], b[0] - a[2], 0.0)


class TitleBlock(NamedTuple):
    """What the title block of a drawing sheet says of all that is drawn on it; placed over it, where headings are."""

    titles: tuple[FigureTitle, ...] = ()
    package: str = ""


def title_block_of(page: PageText, bare: PageText) -> TitleBlock:
    """The title block among what was left out of a page as furniture; empty where none names one kind of drawing."""
    kept = set(bare.words)
    gone = tuple(word for word in page.words if word not in kept)
    titles = drawing_titles(msgspec.structs.replace(page, words=gone)) if gone else ()
    if not titles and _SHEET.search("".join(word.text for word in gone)):
        # A drawing sheet shows the part where its title block names nothing else.
        titles = (FigureTitle(OUTLINE_TITLE, page.frame.crop),)
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
