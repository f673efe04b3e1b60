"""Which packages a datasheet is about, under which names, and which order codes it lists."""

import re
from collections.abc import Sequence

import msgspec

from eider.commands.datasheets.datasheet_draft import pins_named
from eider.datasheets import Datasheet
from eider.datasheets.documents.found_items import TABLES_READ, FoundItem
from eider.datasheets.documents.package_names import packages_named, plain_package
from eider.datasheets.tables.fact_rows import order_codes_in

# A package is named on the first pages.
MOST_PAGES = 20


class DocumentPackage(msgspec.Struct, frozen=True):
    """A package of a document: the first of its names, all of them, how many leads its name tells (0 for none), and how
    many tables of pins and dimensions name it.
    """

    name: str
    names: tuple[str, ...]
    pins: int
    tables: int


def document_packages(datasheet: Datasheet, found: Sequence[FoundItem]) -> tuple[DocumentPackage, ...]:
    """The packages that the first pages and the tables of a document name, in their order; spellings of one are one."""
    pages = range(1, min(datasheet.pages, MOST_PAGES) + 1)
    written = [name for page in pages for name in packages_named(datasheet.text(page))]
    spellings: dict[str, list[str]] = {}
    for name in (*written, *(item.package for item in found if item.package)):
        spellings.setdefault(plain_package(name), []).append(name)
    tables = [plain_package(item.package) for item in found if item.kind in TABLES_READ and item.package]
    return tuple(
        DocumentPackage(names[0], tuple(dict.fromkeys(names)), max(map(pins_named, names)), tables.count(plain))
        for plain, names in spellings.items()
    )


def packages_found(found: Sequence[FoundItem]) -> list[str]:
    """The packages that tables of pins and dimensions are named for, in the order of the alphabet."""
    named = {plain_package(item.package): item.package for item in found if item.package and item.kind in TABLES_READ}
    return sorted(named.values())


def order_codes(datasheet: Datasheet, found: Sequence[FoundItem]) -> tuple[str, ...]:
    """The order codes that the tables of a document list, each once, in their order."""
    tables = [item for item in found if item.kind == "ordering"]
    codes = [code for item in tables for code in order_codes_in(datasheet.read(item.page), item.box)]
    return tuple(dict.fromkeys(code for code in codes if re.search(r"\d", code)))
