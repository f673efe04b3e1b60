"""The steps in which a draft is made: each takes one thing of what a datasheet was found to hold, with its doubts."""

import contextlib
import re
from collections.abc import Callable, Sequence

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.datasheets.datasheet_draft import (
    pins_named,
    with_dimension_table,
    with_further_letters,
    with_pin_table,
)
from eider.commands.datasheets.drafted_facts import (
    MANUFACTURER,
    CitedRow,
    with_drafted_description,
    with_drafted_facts,
    with_known_manufacturer,
)
from eider.commands.datasheets.drafted_lands import LandSuggestion, use_suggestion
from eider.commands.datasheets.drafted_outline import (
    DIMS,
    NamedPackage,
    PlacedDrawing,
    with_drawn_lengths,
    with_family_of_name,
)
from eider.commands.datasheets.drafted_pins import with_listed_pins, with_pins_beside, with_pins_of_figure
from eider.commands.datasheets.family_guess import CUSTOM, TWO_TERMINALS
from eider.commands.datasheets.house_rules import with_known_signs
from eider.commands.facts.fact_edits import set_fact
from eider.commands.packages.package_edits import add_picture
from eider.commands.pins.pinout_figure_edits import use_pinout_figure
from eider.datasheets import Datasheet
from eider.datasheets.documents.captions import title_over
from eider.datasheets.documents.document_facts import DocumentFact, facts_of_page
from eider.datasheets.documents.found_items import DIMENSIONS, TABLES_READ, FoundItem
from eider.datasheets.documents.package_names import packages_named, plain_package
from eider.datasheets.figures.drawings_nearby import with_letters_drawn
from eider.datasheets.figures.outline_drawings import read_outlines_of_page
from eider.datasheets.figures.pin_lists import ListedPin, listed_pins
from eider.datasheets.figures.pinout_figures import read_pinout_figure
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.pages.page_frame import holds, joined
from eider.datasheets.tables.fact_rows import characteristics_in, order_facts_in
from eider.datasheets.tables.table_capture import TableCapture, capture_table
from eider.datasheets.tables.value_reading import with_hyphens
from eider.errors import EiderError
from eider.facts.categories import category_of
from eider.library import Library
from eider.model.address import FactAddress, FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.house import House
from eider.model.package_sheet import DatasheetPicture
from eider.model.wording import counted
from eider.services.datasheets.datasheet_contents import DatasheetContents
from eider.services.datasheets.document_packages import MOST_PAGES
from eider.services.datasheets.suggested_lands import lands_of_sheet, suggested_lands
from eider.services.parts.drawing_scaling import with_scale

NUMBER = "Part number"
TITLE_LINES = 4
# So many outline drawings are kept with a draft.
MOST_PICTURES = 4
# Doubts about the document as a whole, and about suggested lands, are about no single value.
SOURCE, LANDS = str(FieldAddress("source")), str(FieldAddress("lands"))
# From so many packages on a document is asked which a table is for.
FEWEST_PACKAGES = 2
# What no part is meant to be used at.
_LIMITS = re.compile(r"absolute|maximum rating|stress", re.IGNORECASE)
Drafted = tuple[Bundle, list[Doubt]]
ReadLands = list[tuple[FoundItem, LandSuggestion]]
replace = msgspec.structs.replace


class DraftSource(msgspec.Struct, frozen=True):
    """What a part is drafted from: the open document with its sum, what was found in it, the pages that cannot be read,
    and the tables that were chosen; `package` is what a person chose."""

    library: Library
    datasheet: Datasheet
    document: str
    contents: DatasheetContents
    pins: FoundItem | None
    dimensions: FoundItem | None
    package: str
    house: House | None = None

    @property
    def found(self) -> tuple[FoundItem, ...]:
        """The tables and figures of the document."""
        return self.contents.found

    @property
    def who(self) -> str:
        """The person who drafts."""
        return self.library.person().name

    def is_of_package(self, item: FoundItem) -> bool:
        """Whether something is of the package that is drafted, of none that is named, or of the only one there is."""
        wanted = (self.dimensions.package if self.dimensions else "") or self.package
        named = {plain_package(other.package) for other in self.found} - {""}
        return (
            not item.package or plain_package(item.package) == plain_package(wanted) or (not wanted and len(named) == 1)
        )

    def unsure_of(self, item: FoundItem) -> str:
        """Why a table may be of another package than the one that was chosen; empty where it names it, or has to be."""
        named = {plain_package(other.package): other.package for other in self.found if other.package}
        named[plain_package(self.package)] = self.package
        if not self.package or item.package or len(named) < FEWEST_PACKAGES:
            return ""
        others = ", ".join(sorted(name for plain, name in named.items() if plain != plain_package(self.package)))
        return f"nothing says that this table is for {self.package}; the document has {others}, too"

    def doubt(self, address: str, reason: str, item: FoundItem) -> Doubt:
        """A doubt about something that was found."""
        return Doubt(address, "", reason, self.document, item.page, item.box)

    def capture(self, item: FoundItem) -> TableCapture:
        """A table that was found, read."""
        return capture_table(self.datasheet, item.page, item.box, "pins" if item.kind == "pins" else "dimensions")


def take_pins(bundle: Bundle, source: DraftSource) -> Drafted:
    """The pins of the table of pins."""
    if source.pins is None:
        return bundle, []
    capture = source.capture(source.pins)
    package = source.package or (source.dimensions.package if source.dimensions else "")
    columns = capture.pins.columns_for(package or _package_in(source.datasheet)) if capture.pins else None
    if columns is not None:
        capture = capture_table(source.datasheet, source.pins.page, source.pins.box, "pins", columns=columns)
    made, doubts = with_pin_table(bundle, capture, source.document, source.who)
    made = with_known_signs(made, source.house)
    unsure = "" if columns is not None else source.unsure_of(source.pins)
    if unsure:
        count = counted(len(made.symbol.pins), "pin")
        doubts.append(Doubt("symbol", count, unsure, source.document, source.pins.page, source.pins.box))
    return made, doubts


def take_pinout(bundle: Bundle, source: DraftSource) -> Drafted:
    """The pinout figure, for the pins to be compared with; without a table of pins those of a list or of the figure."""
    figures = [item for item in source.found if item.kind == "pinout"]
    named = {plain_package(item.package) for item in figures} - {""}
    # Without a choice figures of one package are taken, and of several those alone that name none.
    wanted = {"", plain_package(source.package)} if source.package or len(named) > 1 else {"", *named}
    figure = max((i for i in figures if plain_package(i.package) in wanted), key=lambda item: item.rows, default=None)
    page, listed = _listed(source) if not _has_captured_pins(bundle) else (0, ())
    if listed and (figure is None or figure.rows <= len(listed)):
        bundle, doubts = with_listed_pins(bundle, listed, source.document, page, source.who)
    else:
        doubts = []
    if figure is None:
        return bundle, doubts
    try:
        read = read_pinout_figure(source.datasheet, figure.page, figure.box)
    except DatasheetError:
        return bundle, doubts
    made = use_pinout_figure(bundle, read, source.document, figure.page)
    if _has_captured_pins(made):
        made, more = with_pins_beside(made, read, source.document, figure.page, source.who)
        return made, [*doubts, *more]
    return with_pins_of_figure(made, read, source.document, figure.page, source.who)


def _has_captured_pins(bundle: Bundle) -> bool:
    """Whether pins come from the datasheet: those that a category begins with have no evidence."""
    return any(pin.evidence is not None for pin in bundle.symbol.pins)


def _listed(source: DraftSource) -> tuple[int, tuple[ListedPin, ...]]:
    """The longest list in which a document numbers its pins, with its page."""
    best: tuple[int, tuple[ListedPin, ...]] = (0, ())
    for number in range(1, min(source.datasheet.pages, MOST_PAGES) + 1):
        found = listed_pins(source.datasheet.read(number))
        best = (number, found) if len(found) > len(best[1]) else best
    return best


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
    captures = [source.capture(item) for item in _further_tables(made, source)]
    return with_further_letters(made, captures, source.document, source.who), doubts


def _without_table(bundle: Bundle, source: DraftSource) -> Drafted:
    """Family and lengths where no table of dimensions was found: of the outline drawings, else of the name alone."""
    package = _named_package(bundle, source)
    drawings: list[PlacedDrawing] = []
    outlines = [i for i in source.found if i.kind == "outline" and i.is_figure and source.is_of_package(i)]
    for page in dict.fromkeys(item.page for item in outlines):
        others = [i.box for i in source.found if i.page == page and i not in outlines]
        with contextlib.suppress(DatasheetError):
            drawing = read_outlines_of_page(source.datasheet, page, others)
            if drawing is not None:
                drawings.append(PlacedDrawing(page, joined(*(i.box for i in outlines if i.page == page)), drawing))
    made, doubts = with_drawn_lengths(bundle, drawings, package, source.document, source.who)
    return (made, doubts) if doubts else with_family_of_name(bundle, package, source.document)


def _named_package(bundle: Bundle, source: DraftSource) -> NamedPackage:
    """What the document and the pins that were taken say of the package."""
    numbers = tuple(pin.number for pin in bundle.symbol.pins) if _has_captured_pins(bundle) else ()
    name = source.package or _package_in(source.datasheet, len(numbers))
    title = " ".join(source.datasheet.text(1).splitlines()[:TITLE_LINES])
    return NamedPackage(name, title, len(numbers) or pins_named(name), numbers)


def _package_in(datasheet: Datasheet, pins: int = 0) -> str:
    """The package that a document names; of several the one with as many leads as there are pins, else none."""
    pages = range(1, min(datasheet.pages, MOST_PAGES) + 1)
    named = {plain_package(name): name for page in pages for name in packages_named(datasheet.text(page))}
    if len(named) > 1 and pins:
        # A thermal pad is counted in the table of pins, and in no name.
        named = {plain: name for plain, name in named.items() if pins_named(name) in (pins, pins - 1)}
    return next(iter(named.values())) if len(named) == 1 else ""


def _further_tables(bundle: Bundle, source: DraftSource) -> list[FoundItem]:
    """The other tables of lengths whose letters are of use: where pads are laid by hand, those of its package."""
    kinds = ("lands", *DIMENSIONS) if bundle.sheet.family == CUSTOM else ()
    tables = [item for item in source.found if item.kind in kinds and not item.is_figure]
    return [item for item in tables if item != source.dimensions and source.is_of_package(item)]


def take_number(bundle: Bundle, source: DraftSource) -> Drafted:
    """The part's name as its part number, where the first page or a table of order codes says it."""
    name = bundle.part.name
    tables = [(item.page, item.box) for item in source.found if item.kind == "ordering"]
    for page, box in [(1, None), *tables]:
        words = source.datasheet.read(page).words
        here = [word for word in words if box is None or holds(box, word.box)]
        word = next((word for word in here if with_hyphens(word.text).strip(".,;:") == name), None)
        if word is not None:
            evidence = datasheet_evidence(source.document, page, word.box, word.text, source.who)
            return set_fact(bundle, NUMBER, name, evidence), []
    return bundle, []


def take_facts(bundle: Bundle, source: DraftSource) -> Drafted:
    """Manufacturer, description, and what tables of characteristics and order codes say."""
    first, document = source.datasheet.read(1), source.document
    known = {row.facts.get(MANUFACTURER, "") for row in source.library.index.search().rows}
    made = with_known_manufacturer(bundle, sorted(known), first, document, source.who)
    made, doubts = with_drafted_description(made, first, document)
    rows: list[CitedRow] = []
    for item in source.found:
        page = source.datasheet.read(item.page)
        if item.kind == "ratings" and not _LIMITS.search(title_over(page, item.box)):
            rows += (CitedRow(item.page, row) for row in characteristics_in(page, item.box))
        if item.kind == "ordering":
            rows += (CitedRow(item.page, row) for row in order_facts_in(page, item.box, bundle.part.name))
    category = category_of(source.library.settings, bundle.part.category)
    made, more = with_drafted_facts(made, category, rows, document, source.who)
    return made, [*doubts, *more]


def take_document_facts(bundle: Bundle, source: DraftSource) -> Drafted:
    """What the document says of itself and of handling: the first of each, with a doubt where it says several."""
    found: dict[str, list[tuple[int, DocumentFact]]] = {}
    for number in range(1, min(source.datasheet.pages, MOST_PAGES) + 1):
        for fact in facts_of_page(source.datasheet.read(number)):
            found.setdefault(fact.name, []).append((number, fact))
    doubts: list[Doubt] = []
    for name, facts in found.items():
        page, first = facts[0]
        if name in bundle.part.facts:
            continue
        evidence = datasheet_evidence(source.document, page, first.box, first.seen, source.who)
        bundle = set_fact(bundle, name, first.value, evidence)
        values = list(dict.fromkeys(fact.value for _page, fact in facts))
        if len(values) > 1:
            told = f"the datasheet gives {', '.join(values)}; the first was taken"
            doubts.append(Doubt(str(FactAddress(name)), first.value, told, source.document, page, first.box))
    return bundle, doubts


def take_pictures(bundle: Bundle, source: DraftSource) -> Drafted:
    """The outline drawings of the package, to scale where their lengths tell one."""
    outlines = [item for item in source.found if item.kind == "outline" and source.is_of_package(item)]
    for item in outlines[:MOST_PICTURES]:
        picture = DatasheetPicture(source.document, item.page, item.box)
        bundle = add_picture(bundle, with_scale(source.datasheet, bundle, picture))
    return bundle, []


def take_lands(bundle: Bundle, source: DraftSource) -> Drafted:
    """The lands that are suggested for the package, beside the computed ones."""
    drawn = [i for i in source.found if i.kind == "lands" and i.is_figure and source.is_of_package(i)]
    rulebook = source.library.rulebook(bundle.footprint.rulebook)
    try:
        laid = lands_of_sheet(bundle.sheet, bundle.footprint.level, rulebook)
    except EiderError as fault:
        told = f"suggested lands cannot be compared with the package yet: {fault}"
        return bundle, [source.doubt(LANDS, told, item) for item in drawn]
    doubts: list[Doubt] = []
    read = suggested_lands(source.datasheet, drawn, laid)
    if drawn and not any(suggestion.values for _item, suggestion in read):
        bundle, read, doubts = _on_two_sides(bundle, source, drawn, read)
    for item, suggestion in read:
        bundle = use_suggestion(bundle, suggestion, source.document, source.who)
        doubts += (source.doubt(LANDS, told, item) for told in suggestion.doubts)
    return bundle, doubts


def _on_two_sides(
    bundle: Bundle, source: DraftSource, drawn: Sequence[FoundItem], read: ReadLands
) -> tuple[Bundle, ReadLands, list[Doubt]]:
    """The part with its leads on two sides, where the lands are drawn so and nothing says how many a side has."""
    sheet = bundle.sheet
    if sheet.pins % 2 or sheet.pins_d is not None or sheet.pins_e is not None:
        return bundle, read, []
    other = replace(sheet, pins_d=0, pins_e=sheet.pins // 2)
    rulebook = source.library.rulebook(bundle.footprint.rulebook)
    with contextlib.suppress(EiderError):
        again = suggested_lands(source.datasheet, drawn, lands_of_sheet(other, bundle.footprint.level, rulebook))
        if any(suggestion.values for _item, suggestion in again):
            told = "on two sides: the lands are drawn so"
            doubt = source.doubt(str(FieldAddress("sheet", "pins")), told, drawn[0])
            return replace(bundle, sheet=other), again, [replace(doubt, reading=counted(sheet.pins, "lead"))]
    return bundle, read, []


def tell_what_is_left(bundle: Bundle, source: DraftSource) -> Drafted:
    """What else there is of the kinds that were taken, and what is missing; two terminals need no table of pins."""
    taken = [source.pins, source.dimensions, *_further_tables(bundle, source)]
    # A table of several packages side by side is listed for each of them.
    places = {(item.page, item.box) for item in taken if item is not None}
    left = [item for item in source.found if (item.page, item.box) not in places and not item.is_figure]
    doubts = [
        source.doubt(LANDS, "lands are suggested here; enter them under Lands", item)
        for item in left
        if item.kind == "lands" and not bundle.footprint.has_suggestion
    ]
    doubts += [
        source.doubt(SOURCE, f"another table of {item.kind} stands here; it was not taken", item)
        for item in left
        if item.kind in TABLES_READ
    ]
    if bundle.symbol.pins and not _has_captured_pins(bundle):
        told = "no table, list or figure tells the pins: these are those with which its category begins"
        doubts.append(Doubt("symbol", counted(len(bundle.symbol.pins), "pin"), told, source.document))
    elif not bundle.symbol.pins and bundle.sheet.pins != TWO_TERMINALS:
        doubts.append(Doubt(SOURCE, "", "no table of pins was found", source.document))
    if source.dimensions is None:
        doubts.append(Doubt(SOURCE, "", "no table of dimensions was found", source.document))
    first = min((*source.contents.not_read, *source.contents.recognised), default=1)
    doubts += (Doubt(SOURCE, "", told, source.document, first) for told in source.contents.page_notes)
    return bundle, doubts


# In the order of the work: pins tell how many leads a package has, and dimensions which lands.
DRAFT_STEPS: Sequence[Callable[[Bundle, DraftSource], Drafted]] = (
    take_pins,
    take_pinout,
    take_dimensions,
    take_number,
    take_facts,
    take_document_facts,
    take_pictures,
    take_lands,
    tell_what_is_left,
)
