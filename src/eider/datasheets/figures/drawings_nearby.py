"""The letters of the outline drawing that a table of dimensions belongs to: on its page, or on the next to it."""

import msgspec

from eider.datasheets.figures.outline_drawings import lettered_spans, read_outlines_of_page
from eider.datasheets.pages.document import Datasheet
from eider.datasheets.tables.table_capture import TableCapture
from eider.geometry.plane import Box
from eider.packages.letters.drawing_witness import DrawnSpan

# A drawing with fewer letters at its lines tells too little.
FEWEST = 3


def with_letters_drawn(datasheet: Datasheet, capture: TableCapture) -> TableCapture:
    """A capture of dimensions with the letters' lines of the drawing nearest to it; any other as it is.

    Raises:
        DatasheetError: a page is damaged.
    """
    page = capture.page
    for near in (page, page - 1, page + 1) if capture.dimensions else ():
        if 1 <= near <= datasheet.pages:
            spans = _letters_drawn_on(datasheet, near, capture.box if near == page else None)
            if len({span.letter for span in spans}) >= FEWEST:
                return msgspec.structs.replace(capture, drawn=spans)
    return capture


def _letters_drawn_on(datasheet: Datasheet, page: int, table: Box | None) -> tuple[DrawnSpan, ...]:
    """The letters' lines on a page without what is in the table."""
    drawing = read_outlines_of_page(datasheet, page, [table] if table is not None else [])
    return lettered_spans(drawing) if drawing is not None else ()
