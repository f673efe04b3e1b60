"""The steps of a draft that give its package: family and lengths, of a table, of a drawing, or of both together."""

import contextlib
import re

import msgspec

from eider.commands.datasheets.datasheet_draft import (
    chosen_member,
    pins_named,
    with_dimension_table,
    with_further_letters,
)
from eider.commands.datasheets.drafted_outline import (
    DIMS,
    NamedPackage,
    PlacedDrawing,
    with_drawn_lengths,
    with_family_of_name,
)
from eider.commands.datasheets.drafted_pitch import PITCH
from eider.commands.datasheets.family_guess import CUSTOM
from eider.datasheets import Datasheet
from eider.datasheets.documents.found_items import DIMENSIONS, FoundItem
from eider.datasheets.documents.package_names import packages_named, plain_package
from eider.datasheets.figures.drawings_nearby import with_letters_drawn
from eider.datasheets.figures.land_drawings import letter_values
from eider.datasheets.figures.outline_drawings import read_outlines_of_page
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.tables.table_capture import TableCapture
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.letters.letter_proposals import is_needed
from eider.packages.registry import family_of
from eider.services.datasheets.document_packages import MOST_PAGES
from eider.services.datasheets.draft_source import Drafted, DraftSource, has_captured_pins
from eider.services.datasheets.suggested_lands import lands_drawn

replace = msgspec.structs.replace
TITLE_LINES = 4
# What a first page says of a part whose leads stand on lands.
_SURFACE = re.compile(r"surface[\s-]+mount|\bSM[DT]\b|gull[\s-]?wing", re.IGNORECASE)


def take_dimensions(bundle: Bundle, source: DraftSource) -> Drafted:
    """Family and dimensions of the table of dimensions; of a package with pads by hand, of all tables of lengths."""
    if source.dimensions is None:
        return _without_table(bundle, source)
    capture = with_letters_drawn(source.datasheet, source.capture(source.dimensions))
    known = _named_package(bundle, source)
    named, title = source.dimensions.package or known.name, known.title
    made, doubts = with_dimension_table(bundle, capture, source.document, source.who, named, title, source.house)
    if unsure := source.unsure_of(source.dimensions):
        count = counted(source.dimensions.rows, "row")
        doubts.append(Doubt(DIMS, count, unsure, source.document, source.dimensions.page, source.dimensions.box))
    made, doubts = _with_drawing_beside(bundle, source, capture, known, (made, doubts))
    captures = [source.capture(item) for item in further_tables(made, source)]
    return with_further_letters(made, captures, source.document, source.who), doubts


def _with_drawing_beside(
    bundle: Bundle, source: DraftSource, capture: TableCapture, package: NamedPackage, drafted: Drafted
) -> Drafted:
    """What a table gave, or what the drawing gives whose letters it explains, where that makes more of a package.

    A table over ways or positions has the lengths that grow, and the drawing all others.
    """
    made, _doubts = drafted
    lacking = _lacking(made.sheet)
    if not lacking:
        return drafted
    member = chosen_member(capture, package.name)
    values = {key: found[0] for key, found in letter_values([capture], member).items() if len(found) == 1}
    other, doubts = with_drawn_lengths(bundle, _drawings(source), package, source.document, source.who, values)
    is_better = len(_lacking(other.sheet)) < len(lacking) and len(other.sheet.dims) > len(made.sheet.dims)
    return (other, doubts) if doubts and is_better and not _has_other_pitch(other.sheet, made.sheet) else drafted


def _has_other_pitch(sheet: PackageSheet, other: PackageSheet) -> bool:
    """Whether a drawing was read with another pitch than the one by which the lengths of a table grow."""
    one, two = sheet.limits(PITCH), other.limits(PITCH)
    return one is not None and two is not None and one != two


def _lacking(sheet: PackageSheet) -> list[str]:
    """The letters that a family needs and that a sheet does not have."""
    return [x.key for x in family_of(sheet.family).letters if is_needed(x) and x.key not in sheet.dims]


def _without_table(bundle: Bundle, source: DraftSource) -> Drafted:
    """Family and lengths where no table of dimensions was found: of the outline drawings, else of the name alone."""
    package = _named_package(bundle, source)
    made, doubts = with_drawn_lengths(bundle, _drawings(source), package, source.document, source.who)
    return (made, doubts) if doubts else with_family_of_name(bundle, package, source.document)


def _drawings(source: DraftSource) -> list[PlacedDrawing]:
    """The outline drawings of the package, those of one page together."""
    drawings: list[PlacedDrawing] = []
    outlines = [i for i in source.found if i.kind == "outline" and i.is_figure and source.is_of_package(i)]
    for page in dict.fromkeys(item.page for item in outlines):
        others = [i.box for i in source.found if i.page == page and i not in outlines]
        with contextlib.suppress(DatasheetError):
            drawing = read_outlines_of_page(source.datasheet, page, others)
            if drawing is not None:
                drawings.append(PlacedDrawing(page, joined(*(i.box for i in outlines if i.page == page)), drawing))
    return drawings


def _named_package(bundle: Bundle, source: DraftSource) -> NamedPackage:
    """What the document and the pins that were taken say of the package."""
    numbers = tuple(pin.number for pin in bundle.symbol.pins) if has_captured_pins(bundle) else ()
    name = source.package or package_in(source.datasheet, len(numbers))
    title = " ".join(source.datasheet.text(1).splitlines()[:TITLE_LINES])
    pins = len(numbers) or pins_named(name) or lands_drawn(source.datasheet, source.found, source.is_of_package)
    return NamedPackage(name, title, pins, numbers, _SURFACE.search(source.datasheet.text(1)) is not None)


def package_in(datasheet: Datasheet, pins: int = 0) -> str:
    """The package that a document names; of several the one with as many leads as there are pins, else none."""
    pages = range(1, min(datasheet.pages, MOST_PAGES) + 1)
    named = {plain_package(name): name for page in pages for name in packages_named(datasheet.text(page))}
    if len(named) > 1 and pins:
        # A thermal pad is counted in the table of pins, and in no name.
        named = {plain: name for plain, name in named.items() if pins_named(name) in (pins, pins - 1)}
    return next(iter(named.values())) if len(named) == 1 else ""


def further_tables(bundle: Bundle, source: DraftSource) -> list[FoundItem]:
    """The other tables of lengths whose letters are of use: where pads are laid by hand, those of its package."""
    kinds = ("lands", *DIMENSIONS) if bundle.sheet.family == CUSTOM else ()
    tables = [item for item in source.found if item.kind in kinds and not item.is_figure]
    return [item for item in tables if item != source.dimensions and source.is_of_package(item)]
