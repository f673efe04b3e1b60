"""The lines over, under and beside a table or a figure, and the package that they name."""

import re
from collections.abc import Iterator, Sequence

from eider.datasheets.documents.package_names import last_package
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds, joined, share_columns
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.geometry.plane import Box

# Points: a caption stands no farther from what it names.
NEAR_CAPTION = 60.0
# What the caption of a figure begins with: it stands under its figure.
_OF_FIGURE = re.compile(r"(?:fig(?:ure)?|abb(?:ildung)?|bild|图|図)\b\.?\s*\d", re.IGNORECASE)
# A drawing beside a table has its caption no lower than this (points) under the table's foot.
BELOW_FOOT = 16.0


def title_over(page: PageText, box: Box) -> str:
    """The lines right over a table or figure (box in PDF points), and those inside that name it."""
    return " ".join(_title_lines(page, box))


def _title_lines(page: PageText, box: Box) -> list[str]:
    """The lines of `title_over`, from the top down."""
    top, right = box[3] + NEAR_CAPTION, box[2] + NEAR_CAPTION
    above = [w for w in page.words if w.quarters == 0 and box[3] - 2 <= w.middle[1] <= top and w.middle[0] < right]
    inside = [w for w in page.words if w.quarters == 0 and holds(box, w.box)]
    first = text_lines(inside)[:1]
    return [line_text(line) for line in [*text_lines(above), *first]]


def title_of_table(page: PageText, box: Box) -> str:
    """The lines right over a table, and those inside that name it, without the caption of a figure above it."""
    lines = _title_lines(page, box)
    under = max((i + 1 for i, line in enumerate(lines[:-1]) if _OF_FIGURE.match(line)), default=0)
    return " ".join(lines[under:])


def text_below(page: PageText, box: Box) -> str:
    """The two lines right under a place."""
    words = [w for w in page.words if w.quarters == 0 and box[1] - NEAR_CAPTION / 2 <= w.middle[1] <= box[1]]
    return " ".join(line_text(line) for line in text_lines(words)[:2])


def package_beside(page: PageText, box: Box, others: Sequence[Box]) -> str | None:
    """The package of a table by where captions stand on the page; None where no caption says otherwise than its title.

    A drawing stands beside its table, and its caption under the drawing, level with the table or a little below, in
    no other column of tables. What is beside one table is no heading of the one under it. `others` are the other
    tables of the page.
    """
    named = list(_named_phrases(page, (box, *others)))
    over = [name for name, at in named if share_columns(at, box) and box[3] - 2 <= at[1] <= box[3] + NEAR_CAPTION]
    if over:
        return None
    beside = {name for name, at in named if _is_beside(at, box) and not any(_is_nearer(at, o, box) for o in others)}
    if len(beside) == 1:
        return beside.pop()
    taken = [name for name, at in named if any(_is_beside(at, other) for other in others)]
    above = [name for name, at in named if box[3] - 2 <= at[1] <= box[3] + NEAR_CAPTION]
    return "" if above and all(name in taken for name in above) else None


def _named_phrases(page: PageText, tables: Sequence[Box]) -> Iterator[tuple[str, Box]]:
    """The phrases of a page outside of its tables that name a package, each with its box."""
    words = [w for w in page.words if w.quarters == 0 and not any(holds(table, w.box) for table in tables)]
    for line in text_lines(words):
        for phrase in phrases(line, 2 * phrase_gap(line)):
            if name := last_package(" ".join(word.text for word in phrase)):
                yield name, joined(*(word.box for word in phrase))


def _is_beside(at: Box, table: Box) -> bool:
    """Whether a phrase stands to the left or right of a table, on its height."""
    middle = (at[1] + at[3]) / 2
    return not share_columns(at, table) and table[1] - BELOW_FOOT <= middle <= table[3]


def _is_nearer(at: Box, other: Box, table: Box) -> bool:
    """Whether a phrase is beside another table, too, and its middle is nearer to that one's."""
    middle = (at[1] + at[3]) / 2
    far = abs(middle - (table[1] + table[3]) / 2)
    return _is_beside(at, other) and abs(middle - (other[1] + other[3]) / 2) < far
