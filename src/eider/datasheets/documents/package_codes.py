"""What houses call packages by codes of their own: a drawing's number in the order table, and over the drawing."""

import re
from collections.abc import Mapping, Sequence

import msgspec

from eider.datasheets.documents.found_items import DIMENSIONS, FoundItem
from eider.datasheets.documents.package_names import packages_named
from eider.datasheets.pages.document import Datasheet, PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.table_grid import find_grid
from eider.datasheets.tables.value_reading import cleaned

# A code of a house: capitals and figures, four signs and more.
_CODE = re.compile(r"(?=.*\d)(?=.*[A-Z])[A-Z0-9]+(?:[-./][A-Z0-9]+)*")
SHORTEST = 4


def package_codes(datasheet: Datasheet, found: Sequence[FoundItem]) -> Mapping[str, str]:
    """The package that each code in the tables of order codes stands beside; not those that stand beside several."""
    beside: dict[str, set[str]] = {}
    for item in found:
        if item.kind != "ordering":
            continue
        page = datasheet.read(item.page)
        grid = find_grid([word for word in page.words if word.quarters == 0], page.rulings, item.box)
        for row in range(1, grid.rows if grid else 0):
            texts = [cleaned(cell.text) for cell in grid.row(row)] if grid else []
            named = {name for text in texts for name in packages_named(text)}
            if len(named) == 1:
                # What comes first in a row is what is ordered, and stands all over the document.
                for text in texts[1:]:
                    if len(text) >= SHORTEST and _CODE.fullmatch(text) and not packages_named(text):
                        beside.setdefault(text, set()).update(named)
    return {code: next(iter(names)) for code, names in beside.items() if len(names) == 1}


def bound_by_codes(datasheet: Datasheet, found: Sequence[FoundItem]) -> tuple[FoundItem, ...]:
    """What was found, each drawing and table of lengths without a package with that whose code stands nearest above it
    on its page."""
    codes = package_codes(datasheet, found)
    if not codes:
        return tuple(found)
    orders = [item for item in found if item.kind == "ordering"]
    return tuple(
        item
        if item.package or item.kind not in ("outline", "lands", *DIMENSIONS)
        else msgspec.structs.replace(item, package=_package_above(datasheet.read(item.page), item, codes, orders))
        for item in found
    )


def _package_above(page: PageText, item: FoundItem, codes: Mapping[str, str], orders: Sequence[FoundItem]) -> str:
    """The package of the code in the last line above something, outside of order tables; empty where none has one."""
    tables = [order.box for order in orders if order.page == page.page]
    above = [
        word
        for word in page.words
        if word.quarters == 0 and word.middle[1] > item.box[3] - 2 and not any(holds(t, word.box) for t in tables)
    ]
    for line in reversed(text_lines(above)):
        named = {codes[word] for word in line_text(line).split() if word in codes}
        if len(named) == 1:
            return named.pop()
    return ""
