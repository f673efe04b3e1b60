"""The steps in which a draft is made: each takes one thing of what a datasheet was found to hold, with its doubts."""

import re
from collections.abc import Callable, Sequence

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.commands.datasheets.datasheet_draft import (
    with_pin_table,
)
from eider.commands.datasheets.drafted_facts import (
    MANUFACTURER,
    CitedRow,
    with_drafted_description,
    with_drafted_facts,
    with_known_manufacturer,
)
from eider.commands.datasheets.drafted_pins import with_listed_pins, with_pins_beside, with_pins_of_figure
from eider.commands.datasheets.family_guess import TWO_TERMINALS
from eider.commands.datasheets.house_rules import with_known_signs
from eider.commands.facts.fact_edits import set_fact
from eider.commands.packages.package_edits import add_picture
from eider.commands.pins.pinout_figure_edits import use_pinout_figure
from eider.datasheets.documents.captions import title_over
from eider.datasheets.documents.document_facts import DocumentFact, facts_of_page
from eider.datasheets.documents.found_items import TABLES_READ
from eider.datasheets.documents.package_names import plain_package
from eider.datasheets.figures.pin_lists import ListedPin, listed_pins
from eider.datasheets.figures.pinout_figures import read_pinout_figure
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.fact_rows import characteristics_in, order_facts_in
from eider.datasheets.tables.table_capture import capture_table
from eider.datasheets.tables.value_reading import with_hyphens
from eider.facts.categories import category_of
from eider.model.address import FactAddress, FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.package_sheet import DatasheetPicture
from eider.model.wording import counted
from eider.services.datasheets.document_packages import MOST_PAGES
from eider.services.datasheets.draft_dimensions import further_tables, package_in, take_dimensions
from eider.services.datasheets.draft_lands import LANDS, take_lands
from eider.services.datasheets.draft_source import Drafted, DraftSource, has_captured_pins
from eider.services.parts.drawing_scaling import with_scale

NUMBER = "Part number"
# So many outline drawings are kept with a draft.
MOST_PICTURES = 4
# Doubts about the document as a whole are about no single value.
SOURCE = str(FieldAddress("source"))
# What no part is meant to be used at.
_LIMITS = re.compile(r"absolute|maximum rating|stress", re.IGNORECASE)
replace = msgspec.structs.replace


def take_pins(bundle: Bundle, source: DraftSource) -> Drafted:
    """The pins of the table of pins."""
    if source.pins is None:
        return bundle, []
    capture = source.capture(source.pins)
    package = source.package or (source.dimensions.package if source.dimensions else "")
    columns = capture.pins.columns_for(package or package_in(source.datasheet)) if capture.pins else None
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
    page, listed = _listed(source) if not has_captured_pins(bundle) else (0, ())
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
    if has_captured_pins(made):
        made, more = with_pins_beside(made, read, source.document, figure.page, source.who)
        return made, [*doubts, *more]
    return with_pins_of_figure(made, read, source.document, figure.page, source.who)


def _listed(source: DraftSource) -> tuple[int, tuple[ListedPin, ...]]:
    """The longest list in which a document numbers its pins, with its page."""
    best: tuple[int, tuple[ListedPin, ...]] = (0, ())
    for number in range(1, min(source.datasheet.pages, MOST_PAGES) + 1):
        found = listed_pins(source.datasheet.read(number))
        best = (number, found) if len(found) > len(best[1]) else best
    return best


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


def tell_what_is_left(bundle: Bundle, source: DraftSource) -> Drafted:
    """What else there is of the kinds that were taken, and what is missing; two terminals need no table of pins."""
    taken = [source.pins, source.dimensions, *further_tables(bundle, source)]
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
    if bundle.symbol.pins and not has_captured_pins(bundle):
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
