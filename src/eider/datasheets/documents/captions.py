"""The lines over and under a table or a figure, and the package that they name."""

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.geometry.plane import Box

# Points: a caption stands no farther from what it names.
NEAR_CAPTION = 60.0


def title_over(page: PageText, box: Box) -> str:
    """The lines right over a table (box in PDF points), and those inside that name it."""
    top, right = box[3] + NEAR_CAPTION, box[2] + NEAR_CAPTION
    above = [w for w in page.words if w.quarters == 0 and box[3] - 2 <= w.middle[1] <= top and w.middle[0] < right]
    inside = [w for w in page.words if w.quarters == 0 and holds(box, w.box)]
    first = text_lines(inside)[:1]
    return " ".join(line_text(line) for line in [*text_lines(above), *first])


def text_below(page: PageText, box: Box) -> str:
    """The two lines right under a place."""
    words = [w for w in page.words if w.quarters == 0 and box[1] - NEAR_CAPTION / 2 <= w.middle[1] <= box[1]]
    return " ".join(line_text(line) for line in text_lines(words)[:2])
