"""Rectangles drawn by hand round tables: what they cut is taken whole, and what they leave out is said."""

from collections.abc import Sequence

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import area_in_common, holds, joined, share_covered
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.table_blocks import table_blocks
from eider.datasheets.tables.value_reading import cleaned
from eider.geometry.plane import Box

# A rectangle is round a table where both cover so large a share of the smaller one.
SAME_TABLE = 0.6
# A word of which so large a share lies within the rectangle was meant to be in it.
TOUCHED = 0.2
# So many letters of what is left out are quoted.
QUOTED = 40


def drawn_round_table(page: PageText, box: Box) -> tuple[Box, str]:
    """The rectangle with the words that its edges pass through, and what to say of rows and columns outside of it.

    `page` lies straight, as `box` does (PDF points). A rectangle round no table, or round two, is left as it is.
    """
    tables = [table for table in table_blocks(page) if share_covered(table, box) >= SAME_TABLE]
    if len(tables) != 1:
        return box, ""
    outside = [w for w in page.words if w.quarters == 0 and holds(tables[0], w.box) and not holds(box, w.box)]
    touched = [word for word in outside if _inside(word.box, box) >= TOUCHED]
    whole = joined(box, *(word.box for word in touched))
    left_out = [word for word in outside if not holds(whole, word.box)]
    return whole, _said(left_out, tables[0]) if left_out else ""


def _said(words: Sequence[PageWord], table: Box) -> str:
    lines = text_lines(list(words))
    x0, _y0, x1, _y1 = joined(*(word.box for word in words))
    what = "a row" if len(lines) == 1 else "rows" if x1 - x0 > (table[2] - table[0]) / 2 else "a column"
    text = cleaned(line_text(lines[0]))
    quoted = text if len(text) <= QUOTED else f"{text[:QUOTED]}…"
    return f"the rectangle leaves out {what} of the table: “{quoted}”"


def _inside(word: Box, box: Box) -> float:
    area = (word[2] - word[0]) * (word[3] - word[1])
    return area_in_common(word, box) / area if area > 0 else 0.0
