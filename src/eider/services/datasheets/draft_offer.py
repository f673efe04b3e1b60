"""What can be drafted from a datasheet: the name that its title gives, and its packages with what there is of each."""

import re
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_title import DocumentTitle, document_title
from eider.datasheets.documents.found_items import DIMENSIONS, FoundItem
from eider.datasheets.documents.package_names import packages_named, plain_package
from eider.datasheets.tables.fact_rows import order_facts_in
from eider.errors import EiderError
from eider.model.wording import counted
from eider.services.datasheets.datasheet_contents import DatasheetContents
from eider.services.datasheets.document_packages import DocumentPackage, document_packages, order_codes, packages_found

# What no name of a part holds: the title may give several names with a stroke between.
_BETWEEN_NAMES = re.compile(r"[/,;]")


class PackageOffer(msgspec.Struct, frozen=True):
    """A package of a datasheet: rows of its tables of pins and dimensions, its outline drawing, and its order codes."""

    package: DocumentPackage
    pins: int
    lengths: int
    outline: FoundItem | None
    orders: tuple[str, ...]

    @property
    def about(self) -> str:
        """What there is of it, in words."""
        told = [counted(self.pins, "pin")] if self.pins else []
        told += [counted(self.lengths, "length")] if self.lengths else []
        told += ["outline drawing"] if self.outline else []
        return ", ".join(told) or "named in the text alone"


class DraftOffer(msgspec.Struct, frozen=True):
    """What a datasheet offers: the name for the part, the words that say what it is, and its packages.

    `is_asked` says that tables of several packages are in it, one of which has to be chosen.
    """

    name: str
    description: str
    packages: tuple[PackageOffer, ...]
    is_asked: bool
    contents: DatasheetContents


def draft_offer(path: Path, contents: DatasheetContents) -> DraftOffer:
    """What the datasheet offers that holds these contents.

    Raises:
        DatasheetError: it cannot be opened, or its first page is damaged.
    """
    found = contents.found
    with closing(Datasheet(path)) as datasheet:
        title = document_title(datasheet.read(1))
        orders = _orders_by_package(datasheet, found)
        offers = [_offer(package, found, orders) for package in document_packages(datasheet, found)]
        # Those of which there are lengths come first, each in the order of the document.
        packages = tuple(sorted(offers, key=lambda offer: not offer.lengths))
    is_asked = len(packages_found(found)) > 1
    return DraftOffer(_part_name(title) or path.stem, title.description, packages, is_asked, contents)


def name_in_title(datasheet: Datasheet) -> str:
    """The name that a datasheet's title gives the part, of several the first; empty where it gives none."""
    return _part_name(document_title(datasheet.read(1)))


def _part_name(title: DocumentTitle) -> str:
    return _BETWEEN_NAMES.split(title.name)[0]


def _offer(package: DocumentPackage, found: Iterable[FoundItem], orders: dict[str, list[str]]) -> PackageOffer:
    plain = plain_package(package.name)
    own = [item for item in found if item.package and plain_package(item.package) == plain]
    pins = max((item.rows for item in own if item.kind in ("pins", "pinout")), default=package.pins)
    lengths = max((item.rows for item in own if item.kind in DIMENSIONS), default=0)
    outline = next((item for item in own if item.kind == "outline"), None)
    return PackageOffer(package, pins, lengths, outline, tuple(orders.get(plain, ())))


def _orders_by_package(datasheet: Datasheet, found: Iterable[FoundItem]) -> dict[str, list[str]]:
    """The order codes of a document by the plain name of the package that their row names."""
    tables = [item for item in found if item.kind == "ordering"]
    by_package: dict[str, list[str]] = {}
    for code in order_codes(datasheet, tables):
        for table in tables:
            try:
                facts = order_facts_in(datasheet.read(table.page), table.box, code)
            except EiderError:
                continue
            for name in packages_named(" ".join(fact.value for fact in facts)):
                codes = by_package.setdefault(plain_package(name), [])
                codes += [] if code in codes else [code]
    return by_package
