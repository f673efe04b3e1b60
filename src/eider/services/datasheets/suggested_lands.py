"""Reads the lands that a datasheet suggests: its drawings of them, with the tables of their letters."""

from collections.abc import Iterator, Sequence

from eider.commands.datasheets.drafted_lands import LandSuggestion, suggestion_of
from eider.datasheets.documents.document_survey import survey_page
from eider.datasheets.documents.found_items import DIMENSIONS, FoundItem
from eider.datasheets.figures.land_drawings import LandDrawing, letter_values, read_land_drawing, with_letter_values
from eider.datasheets.pages.document import Datasheet, DatasheetError
from eider.datasheets.tables.table_capture import TableCapture, capture_table
from eider.errors import EiderError
from eider.geometry.plane import Box
from eider.lands.land_layout import LaidLands
from eider.lands.pattern import derive_lands
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import Rulebook


def land_drawing_at(datasheet: Datasheet, page: int, box: Box) -> LandDrawing:
    """The drawing of suggested lands within a box (PDF points); its letters by the tables of the page.

    Raises:
        DatasheetError: the page is not there, or is damaged, or no lands are drawn in the box.
    """
    drawing = read_land_drawing(datasheet, page, box)
    if not any(length.letter for length in drawing.lengths):
        return drawing
    return with_letter_values(drawing, letter_values(_tables_on(datasheet, page)))


def lands_of_sheet(sheet: PackageSheet, level: Level, rulebook: Rulebook) -> LaidLands:
    """The lands of a package whose dimensions may just have been typed.

    Raises:
        SheetError: a dimension is missing or cannot be read, or the dimensions give no possible lands.
    """
    return derive_lands(parse_dimensions(sheet).sheet, level, rulebook)


def suggested_lands(
    datasheet: Datasheet, found: Sequence[FoundItem], laid: LaidLands
) -> list[tuple[FoundItem, LandSuggestion]]:
    """What each drawing of suggested lands among what was found gives for the lands of a package.

    One that gives nothing is told with the reason.
    """
    read = []
    for item in found:
        if item.kind == "lands" and item.is_figure:
            try:
                suggestion = suggestion_of(land_drawing_at(datasheet, item.page, item.box), laid)
            except EiderError as fault:
                suggestion = LandSuggestion((), (str(fault),))
            read.append((item, suggestion))
    return read


def _tables_on(datasheet: Datasheet, page: int) -> Iterator[TableCapture]:
    """The tables of lengths on a page: those of lands, or where there are none all of them."""
    tables = [item for item in survey_page(datasheet.read(page)).found if item.kind in ("lands", *DIMENSIONS)]
    of_lands = [item for item in tables if item.kind == "lands" and not item.is_figure]
    for item in of_lands or [item for item in tables if item.kind != "lands"]:
        try:
            yield capture_table(datasheet, item.page, item.box, "dimensions", follow=False)
        except DatasheetError:
            continue
