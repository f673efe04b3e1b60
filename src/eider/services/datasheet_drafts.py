"""Drafts a part from a datasheet: what is found in it is taken, with evidence, and every doubt is listed."""

import re
from collections.abc import Callable, Sequence
from pathlib import Path

import msgspec

from eider.commands.captured_values import datasheet_evidence
from eider.commands.datasheet_draft import TWO_TERMINALS, open_doubts, with_dimension_table, with_pin_table
from eider.commands.drafted_facts import (
    MANUFACTURER,
    CitedRow,
    with_drafted_description,
    with_drafted_facts,
    with_known_manufacturer,
)
from eider.commands.drafted_lands import use_suggestion
from eider.commands.drafted_pins import with_pins_of_figure
from eider.commands.fact_edits import set_fact
from eider.commands.new_parts import new_part
from eider.commands.package_edits import add_picture
from eider.commands.pinout_figure_edits import use_pinout_figure
from eider.datasheets import Datasheet
from eider.datasheets.document import DatasheetError
from eider.datasheets.document_survey import (
    DIMENSIONS,
    TABLES_READ,
    FoundItem,
    FoundKind,
    packages_named,
    survey,
    title_over,
)
from eider.datasheets.drawings_nearby import with_letters_drawn
from eider.datasheets.fact_rows import characteristics_in, order_facts_in
from eider.datasheets.pinout_figures import read_pinout_figure
from eider.datasheets.table_capture import capture_table
from eider.datasheets.value_reading import with_hyphens
from eider.errors import EiderError, InputError
from eider.facts.categories import category_of
from eider.library import Library
from eider.model.address import FieldAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.package_sheet import DatasheetPicture
from eider.services.datasheet_opening import attach_datasheet
from eider.services.drawing_scaling import with_scale
from eider.services.part_opening import require_new_name
from eider.services.suggested_lands import lands_of_sheet, suggested_lands
from eider.services.tasks import Task

replace = msgspec.structs.replace
NUMBER = "Part number"
# A package is named on the first pages.
MOST_PAGES = 20
TITLE_LINES = 4
# So many outline drawings are kept with a draft.
MOST_PICTURES = 4
# Doubts about suggested lands are about no single length.
LANDS = str(FieldAddress("lands"))
# What no part is meant to be used at.
_LIMITS = re.compile(r"absolute|maximum rating|stress", re.IGNORECASE)


class DraftChoice(msgspec.Struct, frozen=True):
    """What a person says of a draft: its name, else the file's; its category, else the library's first; and which
    package, where the document has several."""

    name: str = ""
    category: str = ""
    package: str = ""


class DatasheetDraft(msgspec.Struct, frozen=True):
    """A part as a datasheet tells it, what was found in the document, and what a person has to confirm."""

    bundle: Bundle
    found: tuple[FoundItem, ...]
    doubts: tuple[Doubt, ...]


NO_CHOICE = DraftChoice()


def find_in_datasheet(
    path: Path, task: Task | None = None, hear: Callable[[FoundItem], None] = lambda _item: None
) -> tuple[FoundItem, ...]:
    """The tables and figures of a document; `hear` is told of each as soon as it is found.

    Raises:
        DatasheetError: it cannot be opened. CancelledError: the user cancelled.
    """
    task = task or Task()
    datasheet = Datasheet(path)
    try:
        found: list[FoundItem] = []
        for item in survey(datasheet, task.report):
            hear(item)
            found.append(item)
        return tuple(found)
    finally:
        datasheet.close()


def draft_from_datasheet(
    library: Library,
    path: Path,
    choice: DraftChoice = NO_CHOICE,
    task: Task | None = None,
    found: Sequence[FoundItem] | None = None,
) -> DatasheetDraft:
    """A new part of what a datasheet holds; it is not kept yet. `found` is what is in it, where that is known.

    Raises:
        InputError: the document speaks of several packages and none of them is named, nothing of a part is in it, or
            there is a part of that name.
        LibraryError: nothing can be written. CancelledError: the user cancelled.
    """
    task = task or Task()
    require_new_name(library, choice.name or path.stem)
    found = find_in_datasheet(path, task) if found is None else found
    if not any(item.kind in (*TABLES_READ, "pinout") for item in found):
        raise InputError(
            f"no table of pins or dimensions was found in {path.name}; draw a rectangle round what it has under Source"
        )
    dimensions = _chosen(found, DIMENSIONS, choice.package)
    pins = _chosen(found, ("pins",), choice.package)
    link = attach_datasheet(library, path)
    category = choice.category or next(iter(library.settings.categories), "")
    made = new_part(choice.name or path.stem, category, library.settings)
    made = replace(made, part=replace(made.part, datasheets=(link,)))
    who, doubts = library.person().name, list[Doubt]()
    datasheet = Datasheet(path)
    try:
        if pins is not None:
            capture = capture_table(datasheet, pins.page, pins.box, "pins")
            made, told = with_pin_table(made, capture, link.sha256, who)
            doubts += told
        made, told = _with_pinout(made, datasheet, found, choice.package, who)
        doubts += told
        if dimensions is not None:
            capture = capture_table(datasheet, dimensions.page, dimensions.box, "dimensions")
            capture = with_letters_drawn(datasheet, capture)
            named = choice.package or dimensions.package or _package_in(datasheet)
            title = " ".join(datasheet.text(1).splitlines()[:TITLE_LINES])
            made, told = with_dimension_table(made, capture, link.sha256, who, named, title)
            doubts += told
        made = _with_number(made, datasheet, link.sha256, who)
        made, told = _with_facts(library, made, datasheet, found, link.sha256)
        doubts += told
        made = _with_pictures(made, datasheet, found, dimensions, link.sha256)
        made, told = _with_lands(library, made, datasheet, found, dimensions)
        doubts += told
    finally:
        datasheet.close()
    doubts += _left_out(found, [item for item in (pins, dimensions) if item is not None], link.sha256, made)
    made = replace(made, part=replace(made.part, to_confirm=tuple(doubts)))
    return DatasheetDraft(made, tuple(found), open_doubts(made))


def packages_found(found: Sequence[FoundItem]) -> list[str]:
    """The packages that tables of pins and dimensions are named for, in the order of the alphabet."""
    return sorted({item.package for item in found if item.package and item.kind in TABLES_READ})


def _chosen(found: Sequence[FoundItem], kinds: Sequence[FoundKind], package: str) -> FoundItem | None:
    """The table of some kinds that belongs to the package; the one with most rows where all are of one.

    Raises:
        InputError: there are tables of several packages, and none is chosen.
    """
    tables = [item for item in found if item.kind in kinds]
    named = packages_found(tables)
    if package:
        wanted = _plain(package)
        fitting = [item for item in tables if _plain(item.package) == wanted]
        if named and not fitting and kinds == DIMENSIONS:
            raise InputError(f"no table of dimensions is for {package}; the document has {', '.join(named)}")
        tables = fitting or [item for item in tables if not item.package]
    elif len(named) > 1:
        raise InputError(f"the document has several packages: {', '.join(named)}; say which with --package")
    return max(tables, key=lambda item: (item.rows, item.confidence), default=None)


def _plain(package: str) -> str:
    return "".join(c for c in package.casefold() if c.isalnum())


def _package_in(datasheet: Datasheet) -> str:
    """The package that a document names; empty where it names none, or several."""
    pages = range(1, min(datasheet.pages, MOST_PAGES) + 1)
    named = {_plain(name): name for page in pages for name in packages_named(datasheet.text(page))}
    return next(iter(named.values())) if len(named) == 1 else ""


def _with_number(bundle: Bundle, datasheet: Datasheet, document: str, who: str) -> Bundle:
    """The part with its name as part number, where the first page says it."""
    name = bundle.part.name
    word = next((word for word in datasheet.read(1).words if with_hyphens(word.text).strip(".,;:") == name), None)
    if word is None:
        return bundle
    evidence = datasheet_evidence(document, 1, word.box, word.text, who)
    return set_fact(bundle, NUMBER, name, evidence)


def _with_pinout(
    bundle: Bundle, datasheet: Datasheet, found: Sequence[FoundItem], package: str, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part held against the pinout figure of its package; with the figure's pins where no table gave any."""
    document = bundle.part.datasheets[0].sha256
    figures = [item for item in found if item.kind == "pinout" and _plain(item.package) in ("", _plain(package))]
    figure = max(figures, key=lambda item: item.rows, default=None)
    if figure is None:
        return bundle, []
    try:
        read = read_pinout_figure(datasheet, figure.page, figure.box)
    except DatasheetError:
        return bundle, []
    made = use_pinout_figure(bundle, read, document, figure.page)
    return (made, []) if made.symbol.pins else with_pins_of_figure(made, read, document, figure.page, who)


def _with_facts(
    library: Library, bundle: Bundle, datasheet: Datasheet, found: Sequence[FoundItem], document: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with manufacturer, description and what tables of characteristics and order codes say of it."""
    who, first = library.person().name, datasheet.read(1)
    known = {row.facts.get(MANUFACTURER, "") for row in library.index.search().rows}
    made = with_known_manufacturer(bundle, sorted(known), first, document, who)
    made, doubts = with_drafted_description(made, first, document)
    rows: list[CitedRow] = []
    for item in found:
        page = datasheet.read(item.page)
        if item.kind == "ratings" and not _LIMITS.search(title_over(page, item.box)):
            rows += (CitedRow(item.page, row) for row in characteristics_in(page, item.box))
        if item.kind == "ordering":
            rows += (CitedRow(item.page, row) for row in order_facts_in(page, item.box, bundle.part.name))
    category = category_of(library.settings, bundle.part.category)
    made, more = with_drafted_facts(made, category, rows, document, who)
    return made, [*doubts, *more]


def _with_pictures(
    bundle: Bundle, datasheet: Datasheet, found: Sequence[FoundItem], dimensions: FoundItem | None, document: str
) -> Bundle:
    """The part with the outline drawings of its package, to scale where their lengths tell one."""
    wanted = dimensions.package if dimensions else ""
    for item in found:
        if item.kind == "outline" and item.package in ("", wanted) and len(bundle.sheet.pictures) < MOST_PICTURES:
            picture = DatasheetPicture(document, item.page, item.box)
            bundle = add_picture(bundle, with_scale(datasheet, bundle, picture))
    return bundle


def _with_lands(
    library: Library, bundle: Bundle, datasheet: Datasheet, found: Sequence[FoundItem], dimensions: FoundItem | None
) -> tuple[Bundle, list[Doubt]]:
    """The part with the lands that the datasheet suggests for its package, beside the computed ones."""
    document, who = bundle.part.datasheets[0].sha256, library.person().name
    wanted = dimensions.package if dimensions else ""
    drawn = [item for item in found if item.kind == "lands" and item.is_figure and item.package in ("", wanted)]
    try:
        laid = lands_of_sheet(bundle.sheet, bundle.footprint.level, library.rulebook(bundle.footprint.rulebook))
    except EiderError as fault:
        told = f"suggested lands cannot be held against the package yet: {fault}"
        return bundle, [Doubt(LANDS, "", told, document, item.page, item.box) for item in drawn]
    doubts: list[Doubt] = []
    for item, suggestion in suggested_lands(datasheet, drawn, laid):
        bundle = use_suggestion(bundle, suggestion, document, who)
        doubts += (Doubt(LANDS, "", told, document, item.page, item.box) for told in suggestion.doubts)
    return bundle, doubts


def _left_out(found: Sequence[FoundItem], taken: Sequence[FoundItem], document: str, bundle: Bundle) -> list[Doubt]:
    """What else there is of the kinds that were taken, and what is missing; two terminals need no table of pins."""
    source = str(FieldAddress("source"))
    doubts = [
        Doubt(LANDS, "", "lands are suggested here; enter them under Lands", document, item.page, item.box)
        for item in found
        if item.kind == "lands" and not item.is_figure and not bundle.footprint.has_suggestion
    ]
    doubts += [
        Doubt(source, "", f"another table of {item.kind} stands here; it was not taken", document, item.page, item.box)
        for item in found
        if item.kind in TABLES_READ and item not in taken
    ]
    kinds = {"dimensions" if item.kind in DIMENSIONS else item.kind for item in taken}
    if bundle.symbol.pins:
        kinds.add("pins")
    for kind in ("pins", "dimensions"):
        if kind not in kinds and (kind == "dimensions" or bundle.sheet.pins != TWO_TERMINALS):
            doubts.append(Doubt(source, "", f"no table of {kind} was found", document))
    return doubts
