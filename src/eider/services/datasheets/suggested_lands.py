"""Reads the lands that a datasheet suggests: its drawings of them, with the tables of their letters."""

import contextlib
from collections.abc import Callable, Iterator, Sequence

from eider.commands.datasheets.captured_values import family_members
from eider.commands.datasheets.drafted_lands import LandSuggestion, suggestion_of, suggestion_of_letters
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
    values = letter_values(_tables_on(datasheet, page))
    drawing = read_land_drawing(datasheet, page, box, values)
    return with_letter_values(drawing, values) if any(length.letter for length in drawing.lengths) else drawing


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


def lands_drawn(datasheet: Datasheet, found: Sequence[FoundItem], is_of_package: Callable[[FoundItem], bool]) -> int:
    """The number of lands in the drawings of suggested lands for a package; 0 without one, or if they disagree."""
    counts = set[int]()
    for item in found:
        if item.kind == "lands" and item.is_figure and is_of_package(item):
            with contextlib.suppress(DatasheetError):
                counts.add(len(read_land_drawing(datasheet, item.page, item.box).lands))
    return counts.pop() if len(counts) == 1 else 0


def tabled_lands(
    datasheet: Datasheet, found: Sequence[FoundItem], laid: LaidLands, names: Sequence[str]
) -> list[tuple[FoundItem, LandSuggestion]]:
    """What tables of suggested lands give by the standard's letters; one over several members for the first of `names`.

    A table that gives nothing is left out: the draft says that it is there.
    """
    read = []
    for item in found:
        if item.kind == "lands" and not item.is_figure:
            with contextlib.suppress(EiderError):
                capture = capture_table(datasheet, item.page, item.box, "dimensions", follow=False)
                members = family_members(capture)
                member = next((name for name in names if name in members), "") if len(members) > 1 else "".join(members)
                values = {key: found[0] for key, found in letter_values([capture], member).items() if len(found) == 1}
                read.append((item, suggestion_of_letters(values, laid)))
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
