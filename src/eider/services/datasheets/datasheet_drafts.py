"""Drafts a part from a datasheet: what is found in it is taken, with evidence, and every doubt is listed."""

from collections.abc import Sequence
from contextlib import closing
from pathlib import Path

import msgspec

from eider.commands.datasheets.datasheet_draft import (
    open_doubts,
)
from eider.commands.datasheets.house_rules import settled_by_house
from eider.commands.parts.new_parts import new_part
from eider.datasheets import Datasheet
from eider.datasheets.documents.found_items import DIMENSIONS, FoundItem, FoundKind
from eider.datasheets.documents.package_names import plain_package
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.services.datasheets.datasheet_contents import DatasheetContents, find_in_datasheet
from eider.services.datasheets.datasheet_opening import attach_datasheet
from eider.services.datasheets.document_packages import DocumentPackage, document_packages, order_codes, packages_found
from eider.services.datasheets.draft_offer import name_in_title
from eider.services.datasheets.draft_source import DraftSource
from eider.services.datasheets.draft_steps import DRAFT_STEPS
from eider.services.datasheets.houses import house_of
from eider.services.datasheets.recognition_doubts import settle_recognition
from eider.services.parts.part_opening import require_new_name
from eider.services.tasks import Task

replace = msgspec.structs.replace


class DraftChoice(msgspec.Struct, frozen=True):
    """What a person says of a draft: its name, else that of the datasheet's title, else the file's; its category, else
    the library's first; and which package, where the document has several."""

    name: str = ""
    category: str = ""
    package: str = ""


class DatasheetDraft(msgspec.Struct, frozen=True):
    """A part as a datasheet tells it, what was found in the document, and what a person has to confirm."""

    bundle: Bundle
    found: tuple[FoundItem, ...]
    doubts: tuple[Doubt, ...]
    packages: tuple[DocumentPackage, ...] = ()
    package: str = ""
    orders: tuple[str, ...] = ()


class SeveralPackagesError(InputError):
    """A document has tables of several packages, and none of them was named; `packages` are all that it speaks of."""

    def __init__(self, message: str, packages: tuple[DocumentPackage, ...] = ()) -> None:
        super().__init__(message)
        self.packages = packages


NO_CHOICE = DraftChoice()
# A table of this confidence has headings, and rows that all read as its kind.
SURE = 0.85


def draft_from_datasheet(
    library: Library,
    path: Path,
    choice: DraftChoice = NO_CHOICE,
    task: Task | None = None,
    contents: DatasheetContents | None = None,
) -> DatasheetDraft:
    """A new part of what a datasheet holds; it is not kept yet. `contents` is what is in it, where that is known.

    Raises:
        SeveralPackagesError: the document has tables of several packages, and none of them is named.
        InputError: no table is for the package that is named, or there is a part of that name.
        LibraryError: nothing can be written. CancelledError: the user cancelled.
    """
    if choice.name:
        require_new_name(library, choice.name)
    contents = contents or find_in_datasheet(path, task)
    found = contents.found
    with closing(Datasheet(path)) as datasheet:
        name = choice.name or name_in_title(datasheet) or path.stem
        require_new_name(library, name)
        packages, orders = document_packages(datasheet, found), order_codes(datasheet, found)
        try:
            pins, dimensions = (_chosen(found, kinds, choice.package) for kinds in (("pins",), DIMENSIONS))
        except SeveralPackagesError as fault:
            raise SeveralPackagesError(str(fault), packages) from None
        link = attach_datasheet(library, path)
        category = choice.category or next(iter(library.settings.categories), "")
        made = new_part(name, category, library.settings)
        made = replace(made, part=replace(made.part, datasheets=(link,)))
        known = house_of(library, datasheet)
        chosen = (pins, dimensions, choice.package, known.house if known else None)
        source = DraftSource(library, datasheet, link.sha256, contents, *chosen)
        doubts: list[Doubt] = []
        for take in DRAFT_STEPS:
            made, told = take(made, source)
            doubts += told
        doubts = settle_recognition(made, source, doubts)
        doubts, _used = settled_by_house(made, doubts, source.house, link.sha256)
    made = replace(made, part=replace(made.part, to_confirm=tuple(doubts)))
    package = choice.package or (dimensions.package if dimensions else "")
    return DatasheetDraft(made, found, open_doubts(made), packages, package, orders)


def _chosen(found: Sequence[FoundItem], kinds: Sequence[FoundKind], package: str) -> FoundItem | None:
    """The table of some kinds that belongs to the package; the one with most rows where all are of one.

    Raises:
        SeveralPackagesError: there are tables of several packages, and none is chosen.
        InputError: none of them is for the chosen one.
    """
    tables = [item for item in found if item.kind in kinds]
    named = packages_found(tables)
    if package:
        wanted = plain_package(package)
        # A table that bears the very name comes before one of another spelling.
        exact = [item for item in tables if item.package.casefold() == package.casefold()]
        fitting = exact or [item for item in tables if plain_package(item.package) == wanted]
        # A table that names no package may be the one that is wanted: it is taken with a doubt.
        unnamed = [item for item in tables if not item.package]
        if named and not fitting and not unnamed and kinds == DIMENSIONS:
            raise InputError(f"no table of dimensions is for {package}; the document has {', '.join(named)}")
        tables = fitting or unnamed
    elif len(named) > 1:
        raise SeveralPackagesError(f"the document has several packages: {', '.join(named)}; say which with --package")
    # A table that is surely one comes before a longer one that may be something else.
    return max(tables, key=lambda item: (item.confidence >= SURE, item.rows, item.confidence), default=None)
