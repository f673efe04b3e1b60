"""Reads a whole datasheet through once: which tables and figures it has, what each is, and for which package."""

import contextlib
import re
from collections import Counter
from collections.abc import Callable, Iterator, Sequence

import msgspec

from eider.datasheets.documents.captions import title_over
from eider.datasheets.documents.found_items import TABLES_READ, FoundItem, FoundKind, rounded_box
from eider.datasheets.documents.package_names import PACKAGE_LETTER, last_package
from eider.datasheets.figures.found_figures import (
    DRAWING_KINDS,
    UNDER_HEADING,
    FigureTitle,
    drawing_titles,
    figures_of,
    heading_above,
    share_covered,
    speaks_of_lands,
)
from eider.datasheets.figures.outline_drawings import read_outline
from eider.datasheets.layout.page_furniture import without_furniture
from eider.datasheets.pages.document import Datasheet, DatasheetError, PageText, turned_page
from eider.datasheets.pages.font_letters import UNREADABLE
from eider.datasheets.pages.page_frame import turned
from eider.datasheets.tables.dimension_tables import ReadDimensionTable, read_dimension_table
from eider.datasheets.tables.pin_tables import ReadPinTable, read_pin_table
from eider.datasheets.tables.table_blocks import table_blocks
from eider.datasheets.tables.table_capture import capture_table, quarters_in
from eider.datasheets.tables.table_continuation import is_last_on
from eider.datasheets.tables.table_grid import TableGrid, find_grid
from eider.datasheets.tables.table_headings import limit_word
from eider.datasheets.tables.unit_captions import unit_near
from eider.datasheets.tables.value_reading import cleaned
from eider.geometry.plane import Box
from eider.symbols.pin_table import split_numbers

replace = msgspec.structs.replace
_ELECTRICAL = re.compile(
    r"(?:[pnuµmkMG]?(?:V|A|W|Hz|s|Ω|ohm|F|H|bps|Sps|dB|dBm)|°C(?:/W)?|K/W|%|LSB|ppm|bits?|V/[µu]s|Vrms)(?:\b|$)"
)
_WITH_UNIT = re.compile(rf"[-+±\d.,\s]*\d\s*{_ELECTRICAL.pattern}")
_ELECTRICAL_NAME = re.compile(r"[VIPtfRCTQ][A-Z]{2,}\w*|[VIPtfR]\w*[A-Z]\w*|θJ[AC]|t[a-z]{1,2}|I[A-Z]|V[A-Z]")
_ORDERING = re.compile(
    r"order|part number|device|marking|packing|tape|reel|temperature range|qty|quantity|status", re.I
)
# Capitals and figures mixed, six signs and more, of which some may be hyphens and slashes.
_ORDER_CODE = re.compile(r"(?=.*\d)(?=.{6})[A-Z]{1,}[A-Z0-9]*(?:[-/.+#][A-Z0-9]+)*[A-Za-z]{0,2}")
# What the lengths of tapes and reels are headed by.
_TAPE = re.compile(
    r"\b(?:carrier|embossed|tap(?:e|ing)|reel)\s+(?:and\s+reel\s+)?(?:dimension|specification|size|width|packing)", re.I
)
# Headings of tables of registers, whose bits are numbered and named as pins are.
_REGISTERS = re.compile(r"\b(?:bits?|registers?|offset|address|reset|access|fields?)\b", re.I)
# Fewer words that run up or down the page are those of drawings.
FEWEST_TURNED = 12
# Rows that a table needs to be one of its kind, and the share of its rows that must be good.
FEWEST_ROWS, GOOD, HEADING_ROWS = 3, 0.5, 4
# With units of electricity in so many of its rows a table is one of ratings.
ELECTRICAL = 0.3
LARGEST_MM, SMALLEST_MM = 200.0, 0.005
# The numbers of pins run on: from the lowest to the highest there are at most so many times as many as are listed.
NUMBERS_APART = 3.0
FEWEST_LIMITS = 2
# A number of a lead, a ball, or a thermal pad by its name.
_PIN_NUMBER = re.compile(r"\d{1,4}|[A-Z]{1,2}\d{1,2}|EP|PAD|TAB", re.IGNORECASE)
# A map of balls has so many columns and rows, and so large a share of it is filled.
FEWEST_BALLS, FILLED = 3, 0.3
# A unit of electricity in brackets in a heading, or behind the sign of a quantity.
_ELECTRICAL_HEAD = re.compile(rf"[\[(]\s*{_ELECTRICAL.pattern}\s*[\])]")


def survey(
    datasheet: Datasheet,
    report: Callable[[float, str], None] = lambda _share, _what: None,
    read: Callable[[int], PageText] | None = None,
) -> Iterator[FoundItem]:
    """The tables and figures of a document, page by page; a table over several pages is one, where it begins.

    `report` hears the share that is done, and may raise to cancel; `read` gives a page by its number, else the document
    does. A page that cannot be read is passed over.

    Raises:
        DatasheetError: no page can be read, as its fonts do not say which letters they draw.
    """
    read = read or datasheet.read
    covered: set[int] = set()
    for number in range(1, datasheet.pages + 1):
        report((number - 1) / datasheet.pages, f"reading page {number}")
        try:
            page = read(number)
        except DatasheetError:
            continue
        bare = without_furniture(page, list(_neighbours(datasheet, number)))
        for found in survey_page(bare) if page.is_readable else ():
            if number in covered and found.kind in TABLES_READ and _is_at_top(*_straightened(page, found)):
                continue
            if found.is_figure and found.confidence <= UNDER_HEADING and not _is_dimensioned(datasheet, found):
                continue
            item, further = _followed(datasheet, page, found)
            covered |= further
            yield item
    if len(datasheet.unreadable) == datasheet.pages:
        raise DatasheetError(f"{datasheet.path.name} cannot be read: {UNREADABLE}")


def _neighbours(datasheet: Datasheet, number: int) -> Iterator[PageText]:
    """The pages before and after one, as far as they can be read."""
    for other in (number - 1, number + 1):
        if 1 <= other <= datasheet.pages:
            with contextlib.suppress(DatasheetError):
                yield datasheet.read(other)


def _is_dimensioned(datasheet: Datasheet, figure: FoundItem) -> bool:
    """Whether some letters or lengths of a figure are at dimension lines."""
    try:
        return len(read_outline(datasheet, figure.page, figure.box).lengths) >= FEWEST_ROWS
    except DatasheetError:
        return False


def survey_page(page: PageText) -> tuple[FoundItem, ...]:
    """What one page holds, of each way in which its text runs from the top down; the way of most words first."""
    counts = Counter(word.quarters for word in page.words)
    found: list[FoundItem] = []
    for quarters, words in counts.most_common():
        if found and words < FEWEST_TURNED:
            continue
        back = [
            replace(item, box=rounded_box(turned(item.box, -quarters)))
            for item in _survey_straight(turned_page(page, quarters))
        ]
        found += [item for item in back if not any(share_covered(item.box, other.box) > 0.3 for other in found)]
    return tuple(found)


def _survey_straight(page: PageText) -> tuple[FoundItem, ...]:
    """What of a page lies straight, from the top down."""
    tables: list[FoundItem] = []
    taken: list[Box] = []
    for box in table_blocks(page):
        grid = find_grid(page.words, page.rulings, box)
        found = list(_tables(page, box, grid)) if grid is not None else []
        tables += found
        taken += [box] if found or (grid is not None and _is_grid(grid)) else []
    titles = drawing_titles(page)
    tables = [replace(item, kind="lands") if _is_of_lands(item, titles) else item for item in tables]
    return tuple(sorted([*tables, *figures_of(page, taken, titles)], key=lambda item: -item.box[3]))


def _is_of_lands(table: FoundItem, titles: Sequence[FigureTitle]) -> bool:
    """Whether a table of lengths is under a heading of lands, or on a page that speaks of nothing else."""
    over = heading_above(table.box, titles)
    kinds = {DRAWING_KINDS[title.which] for title in ([over] if over else titles)}
    return table.kind == "dimensions" and kinds == {"lands"}


def _followed(datasheet: Datasheet, page: PageText, found: FoundItem) -> tuple[FoundItem, set[int]]:
    """A table with the rows that it has on following pages, and which pages these are."""
    if found.kind not in TABLES_READ or found.page == datasheet.pages or not is_last_on(*_straightened(page, found)):
        return found, set()
    try:
        capture = capture_table(datasheet, found.page, found.box, "pins" if found.kind == "pins" else "dimensions")
    except DatasheetError:
        return found, set()
    return replace(found, rows=len(capture.places)), set(capture.continued)


def _straightened(page: PageText, found: FoundItem) -> tuple[PageText, Box]:
    """The page turned so that the text of what was found runs across, and its box there."""
    quarters = quarters_in(page, found.box)
    return turned_page(page, quarters), turned(found.box, quarters)


def _is_at_top(page: PageText, box: Box) -> bool:
    above = [word for word in page.words if word.box[1] > box[3]]
    return len(above) < 30


def _is_grid(grid: TableGrid) -> bool:
    """Whether a grid is a table of whatever kind: rules round its cells, and words for most of these.

    The lines of a drawing make a grid too, of many cells with few words.
    """
    if not grid.is_ruled or grid.rows < FEWEST_ROWS or grid.columns < 2:
        return False
    return sum(len(cell.words) for cell in grid.cells) >= GOOD * grid.rows * grid.columns


def _tables(page: PageText, box: Box, grid: TableGrid) -> Iterator[FoundItem]:
    """The table in a box; one for each of the packages that are in it side by side."""
    if grid.rows < 2 or grid.columns < 2:
        return
    title = title_over(page, box)
    if balls := _balls_of(grid):
        named = last_package(title)
        yield FoundItem("pinout", page.page, rounded_box(box), named, 0.9, balls, is_figure=True)
        return
    dimensions = read_dimension_table(grid, unit=unit_near(page, box))
    kind, confidence, rows = _kind(grid, dimensions, title)
    if kind is None:
        return
    heading = " ".join(cell.text for cell in grid.row(0))
    named = last_package(f"{title} {heading}")
    item = FoundItem(kind, page.page, rounded_box(box), named, round(confidence, 2), rows)
    members = dimensions.members if kind == "dimensions" else ()
    packages = [package for member in members if (package := last_package(member))]
    for package in packages if len(packages) > 1 else [item.package]:
        yield replace(item, package=package, rows=rows // max(len(members), 1))


def _balls_of(grid: TableGrid) -> int:
    """How many places of a map of balls are filled: numbers over its columns, letters at its rows; 0 for no map."""
    heads = [cleaned(grid.at(0, k).text) for k in range(1, grid.columns)]
    sides = [cleaned(grid.at(row, 0).text) for row in range(1, grid.rows)]
    if min(len(heads), len(sides)) < FEWEST_BALLS or not all(map(str.isdecimal, heads)):
        return 0
    if not all(re.fullmatch(r"[A-Z]{1,2}", side) for side in sides) or len(set(sides)) < len(sides):
        return 0
    filled = sum(bool(grid.at(row, k).lines) for row in range(1, grid.rows) for k in range(1, grid.columns))
    return filled if filled >= FILLED * len(heads) * len(sides) else 0


def _kind(grid: TableGrid, dimensions: ReadDimensionTable, title: str) -> tuple[FoundKind | None, float, int]:
    """What a table is, how sure that is, and how many rows say so; `dimensions` is how it reads as a table of these."""
    names = " ".join(cell.text for cell in grid.row(0))
    heading = f"{names} {title}"
    pins = read_pin_table(grid)
    electrical = _electrical_share(grid)
    good_pins, all_pins = _good_pins(pins)
    good, all_rows = _good_dimensions(dimensions)
    # Numbered rows with limits are of electrical values.
    has_limits = sum(bool(limit_word(cell.text)) for cell in grid.row(0)) >= FEWEST_LIMITS
    good_pins = 0 if has_limits else good_pins
    is_sure = (not pins.doubt or bool(pins.packages)) and (good_pins >= good or bool(dimensions.doubt))
    if is_sure and good_pins >= FEWEST_ROWS and good_pins >= GOOD * all_pins:
        return "pins", good_pins / max(all_pins, 1), good_pins
    # Headings of the page often stand so near that they are the first rows.
    first = " ".join(cell.text for row in range(min(grid.rows, HEADING_ROWS)) for cell in grid.row(row))
    if _TAPE.search(f"{title.split('  ')[-1]} {first}"):
        return None, 0.0, 0
    if "order" in f"{title} {first}".lower() and _order_code_share(grid) >= GOOD:
        return "ordering", 0.9, grid.rows - 1
    if electrical >= ELECTRICAL or _ELECTRICAL_HEAD.search(names):
        return "ratings", min(1.0, 0.5 + electrical / 2), grid.rows - 1
    if good >= FEWEST_ROWS and good >= GOOD * all_rows:
        share = good / max(all_rows, 1) * (0.8 if dimensions.doubt else 1.0)
        plain: FoundKind = "family" if _is_of_a_family(dimensions) else "dimensions"
        return ("lands" if speaks_of_lands(title) else plain), share, good
    if len(set(map(str.lower, _ORDERING.findall(heading)))) >= 2:
        return "ordering", 0.7, grid.rows - 1
    if good_pins >= FEWEST_ROWS and good_pins >= GOOD * all_pins and not _REGISTERS.search(names):
        return "pins", 0.5 * good_pins / max(all_pins, 1), good_pins
    return None, 0.0, 0


def _good_pins(table: ReadPinTable) -> tuple[int, int]:
    """Rows that are pins without a doubt, of all; none where their numbers are not those of a package."""
    texts = [number for row in table.rows for number in split_numbers(row.cells.get("number", ""))]
    numbers = [int(text) for text in texts if text.isdecimal()]
    if sum(_PIN_NUMBER.fullmatch(text) is not None for text in texts) < GOOD * len(texts):
        return 0, len(table.rows)
    if numbers and max(numbers) - min(numbers) + 1 > NUMBERS_APART * len(set(numbers)):
        return 0, len(table.rows)
    named = [row for row in table.rows if row.cells.get("name") and re.search(r"[A-Za-z]", row.cells["name"])]
    if "number" not in table.columns or "name" not in table.columns:
        return 0, len(table.rows)
    return sum(not row.doubt for row in named), len(table.rows)


def _is_of_a_family(table: ReadDimensionTable) -> bool:
    """Whether letters stand across the top and each of several rows is of another size."""
    is_across = any(column.role == "letter" for column in table.columns)
    return is_across and len({row.member for row in table.rows if row.member}) > 1


def _good_dimensions(table: ReadDimensionTable) -> tuple[int, int]:
    """Rows with a package's letter and a length that a package has, of all rows with a value."""
    rows = [row for row in table.rows if row.limits is not None or row.doubt]
    if table.doubt and sum(re.search(r"[.,]\d", row.text) is not None for row in rows) < GOOD * len(rows):
        # Without headings whole numbers are as likely those of pins, units or a drawing.
        return 0, len(rows)
    good = 0
    for row in rows:
        values = [v for v in (row.limits.min, row.limits.nom, row.limits.max) if v is not None] if row.limits else []
        is_length = bool(values) and SMALLEST_MM <= max(values) <= LARGEST_MM
        is_letter = bool(PACKAGE_LETTER.fullmatch(row.letter)) and not _ELECTRICAL_NAME.fullmatch(row.letter)
        good += is_length and is_letter
    return good, len(rows)


def _electrical_share(grid: TableGrid) -> float:
    """The share of rows with a unit of electricity, time or heat: behind a number, or in a column of units.

    A letter alone says nothing: A, F, H and W are letters of packages as well.
    """
    columns = [[cleaned(grid.at(row, k).text) for row in range(1, grid.rows)] for k in range(grid.columns)]
    with_units = [column for column in columns if _is_unit_column([text for text in column if text])]
    rows = sum(
        any(column[row] for column in with_units) or any(_WITH_UNIT.fullmatch(column[row]) for column in columns)
        for row in range(grid.rows - 1)
    )
    return rows / max(grid.rows - 1, 1)


def _order_code_share(grid: TableGrid) -> float:
    """The share of rows with a word such as an order code: capitals, figures and a hyphen."""
    rows = [[cleaned(cell.text) for cell in grid.row(row)] for row in range(1, grid.rows)]
    return sum(any(_ORDER_CODE.fullmatch(text) for text in texts) for texts in rows) / max(len(rows), 1)


def _is_unit_column(texts: list[str]) -> bool:
    units = [text for text in texts if _ELECTRICAL.fullmatch(text)]
    return len(units) > 1 and len(units) >= 0.6 * len(texts) and any(len(text) > 1 or text in "VΩ%" for text in units)
