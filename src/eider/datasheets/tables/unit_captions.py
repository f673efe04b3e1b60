"""The unit that a page gives for the dimensions near a place."""

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.table_headings import BRACKETS, headings
from eider.datasheets.tables.value_reading import unit_of
from eider.geometry.plane import Box


def unit_near(text: PageText, box: Box) -> str:
    """The unit that a caption gives: in the box, else the nearest line outside it that speaks of dimensions."""
    near: list[tuple[float, str]] = []
    for line in text_lines([word for word in text.words if word.quarters == 0]):
        sentence = line_text(line).lower()
        unit = unit_of(BRACKETS.sub(" ", sentence)) or unit_of(sentence)
        if unit and any(hint in sentence for hint in headings().captions["lengths"]):
            y = line[0].middle[1]
            near.append((max(box[1] - y, y - box[3], 0.0), unit))
    return min(near)[1] if near else ""
