"""How a whole document was understood: its pages stage by stage, its title, its packages and what belongs to each."""

import contextlib

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_title import DocumentTitle, document_title
from eider.datasheets.documents.found_items import FOUND_WORDS
from eider.datasheets.documents.package_names import plain_package
from eider.datasheets.documents.page_explanation import PageExplanation, explain_page, explanation_lines
from eider.datasheets.pages.document import DatasheetError
from eider.services.datasheets.datasheet_contents import DatasheetContents
from eider.services.datasheets.document_packages import DocumentPackage, document_packages, order_codes


class BoundPackage(msgspec.Struct, frozen=True):
    """A package of the document, and what was found for it: kind and page (from 1) of each table and figure."""

    package: DocumentPackage
    bound: tuple[tuple[str, int], ...]


class DatasheetExplanation(msgspec.Struct, frozen=True):
    """The stages of a document, from its pages to its packages; `unbound` was found for no package in particular."""

    pages: tuple[PageExplanation, ...]
    title: DocumentTitle
    packages: tuple[BoundPackage, ...]
    unbound: tuple[tuple[str, int], ...]
    orders: tuple[str, ...]

    def lines(self) -> list[str]:
        """The stages in words."""
        lines = [line for page in self.pages for line in explanation_lines(page)]
        lines.append(f"title: {self.title.name or 'none'}; description: {self.title.description or 'none'}")
        for found in self.packages:
            also = ", ".join(name for name in found.package.names if name != found.package.name)
            lines.append(f"package {found.package.name}" + (f", also {also}" if also else ""))
            lines += (f"  {kind} on page {page}" for kind, page in found.bound)
        lines += (f"for no package in particular: {kind} on page {page}" for kind, page in self.unbound)
        if self.orders:
            lines.append(f"order codes: {', '.join(self.orders)}")
        return lines


def explain_document(datasheet: Datasheet, contents: DatasheetContents) -> DatasheetExplanation:
    """How a document was understood that holds these `contents`; a page that is damaged is passed over."""
    pages = []
    for number in range(1, datasheet.pages + 1):
        with contextlib.suppress(DatasheetError):
            pages.append(explain_page(datasheet, number))
    packages = document_packages(datasheet, contents.found)
    bound = tuple(
        BoundPackage(
            package,
            tuple(
                (FOUND_WORDS[item.kind], item.page)
                for item in contents.found
                if item.package and plain_package(item.package) == plain_package(package.name)
            ),
        )
        for package in packages
    )
    unbound = tuple((FOUND_WORDS[item.kind], item.page) for item in contents.found if not item.package)
    title = DocumentTitle()
    with contextlib.suppress(DatasheetError):
        title = document_title(datasheet.read(1))
    return DatasheetExplanation(tuple(pages), title, bound, unbound, order_codes(datasheet, contents.found))
