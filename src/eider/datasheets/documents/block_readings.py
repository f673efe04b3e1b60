"""What a block of a page is: its grid, what its columns are taken for, which kind of table that makes, and why."""

import re
from collections.abc import Iterator

import msgspec

from eider.datasheets.documents.captions import title_of_table
from eider.datasheets.documents.found_items import FoundItem, FoundKind, rounded_box
from eider.datasheets.documents.package_names import PACKAGE_LETTER, last_package, plain_package
from eider.datasheets.figures.figure_titles import speaks_of_lands
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.dimension_tables import ReadDimensionTable, read_dimension_table
from eider.datasheets.tables.pin_tables import ReadPinTable, read_pin_table
from eider.datasheets.tables.table_grid import TableGrid, find_grid
from eider.datasheets.tables.table_headings import headings, limit_word, meaning_of
from eider.datasheets.tables.unit_captions import unit_near
from eider.datasheets.tables.value_reading import cleaned, is_number
from eider.geometry.plane import Box
from eider.model.wording import counted
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
# Rows that a table needs to be one of its kind, and the share of its rows that must be good.
FEWEST_ROWS, GOOD, HEADING_ROWS = 3, 0.5, 4
# A page of fine print from edge to edge has fewer words.
MOST_WORDS = 4_000
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


class BlockReading(msgspec.Struct, frozen=True):
    """What a block was understood as.

    `box` is in PDF points, `title` the lines over it; `rows` and `columns` are those of its grid, 0 without one, and
    `columns_read` what each is taken for. `kind` is None where it is nothing that a part is made of; `good` counts the
    rows that read as that kind, and `why` says what tells it. `members` are the packages that it has side by side.
    """

    box: Box
    title: str
    rows: int = 0
    columns: int = 0
    is_ruled: bool = False
    columns_read: tuple[str, ...] = ()
    kind: FoundKind | None = None
    confidence: float = 0.0
    good: int = 0
    why: str = "no words stand in rows and columns"
    package: str = ""
    members: tuple[str, ...] = ()
    is_grid: bool = False

    def items(self, page: int) -> Iterator[FoundItem]:
        """What is found in the block: nothing, a table or figure, or one table for each package side by side."""
        if self.kind is None:
            return
        box, confidence = rounded_box(self.box), round(self.confidence, 2)
        packages = [package for member in self.members if (package := last_package(member))]
        # Lengths have a row for each package; a row of pins is of all of them.
        rows = self.good if self.kind == "pins" else self.good // max(len(self.members), 1)
        for package in packages if len(packages) > 1 else [self.package]:
            yield FoundItem(self.kind, page, box, package, confidence, rows, is_figure=self.kind == "pinout")


class _Kind(msgspec.Struct, frozen=True):
    """What a table is, how sure that is (0 to 1), how many rows say so, and what tells it."""

    kind: FoundKind | None
    confidence: float
    rows: int
    why: str


def read_block(page: PageText, box: Box) -> BlockReading:
    """Understand a block of a page that lies straight; `box` is in PDF points."""
    title = title_of_table(page, box)
    if sum(holds(box, word.box) for word in page.words) > MOST_WORDS:
        return BlockReading(box, title, why=f"more than {MOST_WORDS:,} words: no table of one page has as many")
    grid = find_grid(page.words, page.rulings, box)
    if grid is None or grid.rows < 2 or grid.columns < 2:
        return BlockReading(box, title, is_grid=grid is not None and _is_grid(grid))
    known = BlockReading(box, title, grid.rows, grid.columns, grid.is_ruled, is_grid=_is_grid(grid))
    if balls := _balls_of(grid):
        told = f"a map with {counted(balls, 'ball')}: numbers over its columns, letters at its rows"
        return replace(known, kind="pinout", confidence=0.9, good=balls, why=told, package=last_package(title))
    dimensions = read_dimension_table(grid, unit=unit_near(page, box))
    pins = read_pin_table(grid)
    found = _kind(grid, dimensions, pins, title)
    heading = " ".join(cell.text for cell in grid.row(0))
    return replace(
        known,
        kind=found.kind,
        confidence=found.confidence,
        good=found.rows,
        why=found.why,
        columns_read=pins.columns if found.kind == "pins" else tuple(column.role for column in dimensions.columns),
        package=last_package(f"{title} {heading}"),
        members=_packages_beside(found.kind, dimensions, pins),
    )


def _packages_beside(kind: FoundKind | None, dimensions: ReadDimensionTable, pins: ReadPinTable) -> tuple[str, ...]:
    """The packages that a table has side by side: with columns of lengths, or of pin numbers, of their own."""
    if kind == "pins":
        return tuple(name for _column, name in pins.packages)
    named = [plain_package(package) for member in dimensions.members if (package := last_package(member))]
    # The sizes of a family are many of one package.
    return dimensions.members if kind == "dimensions" or len(set(named)) > 1 else ()


def _is_grid(grid: TableGrid) -> bool:
    """Whether a grid is a table of whatever kind: rules round its cells, and words for most of these.

    The lines of a drawing make a grid too, of many cells with few words.
    """
    if not grid.is_ruled or grid.rows < FEWEST_ROWS or grid.columns < 2:
        return False
    return sum(len(cell.words) for cell in grid.cells) >= GOOD * grid.rows * grid.columns


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


def _kind(grid: TableGrid, dimensions: ReadDimensionTable, pins: ReadPinTable, title: str) -> _Kind:
    """What a table is; `dimensions` and `pins` are how it reads as a table of these."""
    names = " ".join(cell.text for cell in grid.row(0))
    electrical = _electrical_share(grid)
    good_pins, all_pins = _good_pins(pins)
    good, all_rows = _good_dimensions(dimensions)
    told_pins = f"{good_pins} of {counted(all_pins, 'row')} have the number and the name of a pin"
    told_lengths = f"{good} of {counted(all_rows, 'row')} have a letter and a length that a package can have"
    # Numbered rows with limits are of electrical values.
    has_limits = sum(bool(limit_word(cell.text)) for cell in grid.row(0)) >= FEWEST_LIMITS
    good_pins = 0 if has_limits else good_pins
    is_sure = (not pins.doubt or bool(pins.packages)) and (good_pins >= good or bool(dimensions.doubt))
    if is_sure and good_pins >= FEWEST_ROWS and good_pins >= GOOD * all_pins:
        return _Kind("pins", good_pins / max(all_pins, 1), good_pins, told_pins)
    # Headings of the page often stand so near that they are the first rows.
    first = " ".join(cell.text for row in range(min(grid.rows, HEADING_ROWS)) for cell in grid.row(row))
    if tape := _TAPE.search(f"{title.split('  ')[-1]} {first}"):
        return _Kind(None, 0.0, 0, f"its heading speaks of tapes and reels: {tape[0]}")
    if "order" in f"{title} {first}".lower() and _order_code_share(grid) >= GOOD:
        return _Kind("ordering", 0.9, grid.rows - 1, "its heading speaks of orders, and most rows have an order code")
    has_lengths = good >= FEWEST_ROWS and good >= GOOD * all_rows
    if _lists_order_codes(grid) and not has_lengths:
        return _Kind("ordering", 0.9, grid.rows - 1, "a column is headed as of part numbers, and has order codes in it")
    if electrical >= ELECTRICAL or _ELECTRICAL_HEAD.search(names):
        told = f"units of electricity, time or heat are in {electrical:.0%} of its rows, or in its headings"
        return _Kind("ratings", min(1.0, 0.5 + electrical / 2), grid.rows - 1, told)
    if has_lengths:
        share = good / max(all_rows, 1) * (0.8 if dimensions.doubt else 1.0)
        plain: FoundKind = "family" if _is_of_a_family(dimensions) else "dimensions"
        return _Kind("lands" if speaks_of_lands(title) else plain, share, good, told_lengths)
    if len(set(map(str.lower, _ORDERING.findall(f"{names} {title}")))) >= 2:
        return _Kind("ordering", 0.7, grid.rows - 1, "its headings speak of orders, packing and marking")
    if good_pins >= FEWEST_ROWS and good_pins >= GOOD * all_pins and not _REGISTERS.search(names):
        return _Kind("pins", 0.5 * good_pins / max(all_pins, 1), good_pins, f"{told_pins}; its headings do not say so")
    return _Kind(None, 0.0, 0, f"{told_pins}, {told_lengths}: too few to be either")


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
    """Whether letters stand across the top and each of several rows is of another size, or the other way round."""
    is_across = any(column.role == "letter" for column in table.columns)
    is_of_sizes = bool(table.members) and all(map(is_number, table.members))
    return (is_across or is_of_sizes) and len({row.member for row in table.rows if row.member}) > 1


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


def _lists_order_codes(grid: TableGrid) -> bool:
    """Whether the first column is headed as one of part numbers, and has other order codes in each of most rows."""
    if meaning_of(grid.at(0, 0).text, headings().orders) != "code":
        return False
    texts = [cleaned(grid.at(row, 0).text) for row in range(1, grid.rows)]
    codes = [text for text in texts if _ORDER_CODE.fullmatch(text)]
    return len(codes) >= max(GOOD * len(texts), 1) and len(set(codes)) == len(codes)


def _order_code_share(grid: TableGrid) -> float:
    """The share of rows with a word such as an order code: capitals, figures and a hyphen."""
    rows = [[cleaned(cell.text) for cell in grid.row(row)] for row in range(1, grid.rows)]
    return sum(any(_ORDER_CODE.fullmatch(text) for text in texts) for texts in rows) / max(len(rows), 1)


def _is_unit_column(texts: list[str]) -> bool:
    units = [text for text in texts if _ELECTRICAL.fullmatch(text)]
    return len(units) > 1 and len(units) >= 0.6 * len(texts) and any(len(text) > 1 or text in "VΩ%" for text in units)
