"""In which other packages a part's datasheet has it: those of tables that the part was not made from."""

from collections.abc import Sequence

from eider.datasheets.documents.found_items import TABLES_READ, FoundItem
from eider.datasheets.documents.package_names import plain_package
from eider.datasheets.pages.page_frame import holds
from eider.evidence.address_table import evidenced_values
from eider.model.bundle import Bundle


def other_packages(bundle: Bundle, document: str, found: Sequence[FoundItem]) -> tuple[str, ...]:
    """The packages, in the order of the document, that its tables name and that no value of the part comes from.

    `document` is the sum of the datasheet, `found` what is in it.
    """
    tables = [item for item in found if item.kind in TABLES_READ and item.package]
    cited = [
        (value.evidence.page, value.evidence.box)
        for value in evidenced_values(bundle)
        if value.evidence and value.evidence.box and value.evidence.document == document
    ]
    own = {
        plain_package(item.package)
        for item in tables
        for page, box in cited
        if page == item.page and holds(item.box, box)
    }
    named = {plain_package(item.package): item.package for item in tables}
    return tuple(name for plain, name in named.items() if plain not in own) if own else ()
