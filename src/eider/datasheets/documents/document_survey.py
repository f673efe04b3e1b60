"""Reads a whole datasheet through once: which tables and figures it has, what each is, and for which package."""

import contextlib
from collections import Counter
from collections.abc import Callable, Iterator, Sequence

import msgspec

from eider.datasheets.documents.block_readings import BlockReading, read_block
from eider.datasheets.documents.captions import package_beside
from eider.datasheets.documents.found_items import TABLES_READ, FoundItem, rounded_box
from eider.datasheets.figures.figure_titles import (
    DRAWING_KINDS,
    FigureTitle,
    TitleBlock,
    drawing_titles,
    heading_above,
    title_block_of,
)
from eider.datasheets.figures.found_figures import UNDER_HEADING, drawings_of, pinouts_of
from eider.datasheets.figures.outline_drawings import read_outline
from eider.datasheets.layout.page_furniture import without_furniture
from eider.datasheets.pages.document import Datasheet, DatasheetError, PageText, turned_page
from eider.datasheets.pages.font_letters import UNREADABLE
from eider.datasheets.pages.page_frame import holds, share_columns, share_covered, turned
from eider.datasheets.tables.table_blocks import table_blocks
from eider.datasheets.tables.table_capture import CellLocation, capture_table, quarters_in
from eider.datasheets.tables.table_continuation import is_last_on
from eider.geometry.plane import Box

replace = msgspec.structs.replace
NO_TITLE_BLOCK = TitleBlock()
# A figure is an outline drawing where so many letters or lengths are at its lines.
FEWEST_LENGTHS = 3
# Points: a table may begin so far within the box of the drawing above it, and so far under it at most.
ROOM, UNDER_DRAWING = 6.0, 60.0
# A table of pins whose headings do not say so is no surer than this: a pinout figure may lie there.
UNSURE = 0.5
# Fewer words that run up or down the page are those of drawings.
FEWEST_TURNED = 12


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
        bare = without_furniture(page, neighbours(datasheet, number))
        block = title_block_of(page, bare)
        wanted = [
            found
            for found in (survey_page(bare, block).found if page.is_readable else ())
            if not (number in covered and found.kind in TABLES_READ and _is_at_top(*_straightened(page, found)))
            and not (found.is_figure and found.confidence <= UNDER_HEADING and not _is_dimensioned(datasheet, found))
        ]
        followed = [(found, *_followed(datasheet, page, found)) for found in wanted]
        for found, item, places in followed:
            further = [place for other, _item, theirs in followed if other.box != found.box for place in theirs]
            # Rows of a table that began in another column are told with it.
            if not any(place.page == number and holds(found.box, place.box) for place in further):
                covered |= {place.page for place in places if place.page != number}
                yield item
    if len(datasheet.unreadable) == datasheet.pages:
        raise DatasheetError(f"{datasheet.path.name} cannot be read: {UNREADABLE}")


def neighbours(datasheet: Datasheet, number: int) -> list[PageText]:
    """The pages before and after one, as far as they can be read."""
    found = []
    for other in (number - 1, number + 1):
        if 1 <= other <= datasheet.pages:
            with contextlib.suppress(DatasheetError):
                found.append(datasheet.read(other))
    return found


def _is_dimensioned(datasheet: Datasheet, figure: FoundItem) -> bool:
    """Whether some letters or lengths of a figure are at dimension lines."""
    try:
        return len(read_outline(datasheet, figure.page, figure.box).lengths) >= FEWEST_LENGTHS
    except DatasheetError:
        return False


class PageReading(msgspec.Struct, frozen=True):
    """How a page was understood: its blocks, and the tables and figures that were found in them and beside them."""

    blocks: tuple[BlockReading, ...]
    found: tuple[FoundItem, ...]


def survey_page(page: PageText, block: TitleBlock = NO_TITLE_BLOCK) -> PageReading:
    """What one page holds, of each way in which its text runs from the top down; the way of most words first.

    `block` is what the page's title block says, which is no longer on it.
    """
    counts = Counter(word.quarters for word in page.words)
    blocks: list[BlockReading] = []
    found: list[FoundItem] = []
    for quarters, words in counts.most_common():
        if found and words < FEWEST_TURNED:
            continue
        read = _survey_straight(turned_page(page, quarters), block if not quarters else NO_TITLE_BLOCK)
        blocks += (replace(block, box=turned(block.box, -quarters)) for block in read.blocks)
        back = [replace(item, box=rounded_box(turned(item.box, -quarters))) for item in read.found]
        found += [item for item in back if not any(share_covered(item.box, other.box) > 0.3 for other in found)]
    return PageReading(tuple(blocks), tuple(found))


def _survey_straight(page: PageText, block: TitleBlock) -> PageReading:
    """What of a page lies straight, from the top down."""
    read = _bound([read_block(page, box) for box in table_blocks(page)], page)
    sure = [block.box for block in read if block.kind is not None and block.confidence > UNSURE]
    grids = [block.box for block in read if block.kind is not None or block.is_grid]
    pinouts = list(pinouts_of(page, sure, grids))
    # What is drawn round a package stands in rows and columns without being a table.
    blocks = tuple(block for block in read if block.box in sure or not _lies_in(block.box, pinouts))
    tables = [item for block in blocks for item in block.items(page.page)]
    taken = [block.box for block in blocks if block.kind is not None or block.is_grid]
    titles = (*drawing_titles(page), *block.titles)
    tables = [replace(item, kind="lands") if _is_of_lands(item, titles) else item for item in tables]
    drawings = drawings_of(page, [*taken, *(item.box for item in pinouts)], titles)
    figures = [item if item.package else replace(item, package=block.package) for item in (*pinouts, *drawings)]
    found = sorted([*tables, *figures], key=lambda item: -item.box[3])
    # Packages side by side in one table are told apart in it, whatever is drawn over it.
    several = {rounded_box(block.box) for block in blocks if block.members}
    return PageReading(blocks, tuple(i if i.box in several else _of_drawing_above(i, found) for i in found))


def _lies_in(box: Box, figures: Sequence[FoundItem]) -> bool:
    return any(share_covered(box, figure.box) > 0.5 for figure in figures)


def _of_drawing_above(item: FoundItem, found: Sequence[FoundItem]) -> FoundItem:
    """A table of lengths that names no package with that of the outline drawing right above it."""
    if item.kind != "dimensions" or item.package:
        return item
    above = [o for o in found if o is not item and o.box[1] >= item.box[3] - ROOM and share_columns(o.box, item.box)]
    nearest = min(above, key=lambda other: other.box[1], default=None)
    is_drawing = nearest is not None and nearest.kind == "outline" and nearest.box[1] - item.box[3] < UNDER_DRAWING
    return replace(item, package=nearest.package) if nearest is not None and is_drawing else item


def _bound(blocks: Sequence[BlockReading], page: PageText) -> tuple[BlockReading, ...]:
    """The blocks, each table of lengths with the package whose caption stands at the drawing beside it."""
    tables = [block.box for block in blocks if block.kind is not None]
    found = []
    for block in blocks:
        beside = None
        if block.kind == "dimensions" and not block.members:
            beside = package_beside(page, block.box, [box for box in tables if box != block.box])
        found.append(block if beside is None else replace(block, package=beside))
    return tuple(found)


def _is_of_lands(table: FoundItem, titles: Sequence[FigureTitle]) -> bool:
    """Whether a table of lengths is under a heading of lands, or beside one on a page that speaks of nothing else."""
    over = heading_above(table.box, titles)
    # What stands under the table is of what follows it.
    beside = [title for title in titles if title.place[3] > table.box[1]]
    kinds = {DRAWING_KINDS[title.which] for title in ([over] if over else beside)}
    return table.kind == "dimensions" and kinds == {"lands"}


def _followed(datasheet: Datasheet, page: PageText, found: FoundItem) -> tuple[FoundItem, tuple[CellLocation, ...]]:
    """A table with the rows that it has in the next column and on following pages, and where all of them are."""
    if found.kind not in TABLES_READ or not is_last_on(*_straightened(page, found)):
        return found, ()
    try:
        capture = capture_table(datasheet, found.page, found.box, "pins" if found.kind == "pins" else "dimensions")
    except DatasheetError:
        return found, ()
    is_here = all(place.page == found.page and holds(found.box, place.box) for place in capture.places)
    if is_here and not capture.continued:
        return found, ()
    return replace(found, rows=len(capture.places)), capture.places


def _straightened(page: PageText, found: FoundItem) -> tuple[PageText, Box]:
    """The page turned so that the text of what was found runs across, and its box there."""
    quarters = quarters_in(page, found.box)
    return turned_page(page, quarters), turned(found.box, quarters)


def _is_at_top(page: PageText, box: Box) -> bool:
    above = [word for word in page.words if word.box[1] > box[3]]
    return len(above) < 30
