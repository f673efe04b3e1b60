"""How a page was understood, stage by stage, so that a wrong reading shows where it went wrong."""

from collections.abc import Sequence

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.block_readings import BlockReading
from eider.datasheets.documents.document_survey import neighbours, survey_page
from eider.datasheets.documents.found_items import FOUND_WORDS, FoundItem
from eider.datasheets.figures.figure_titles import title_block_of
from eider.datasheets.layout.page_furniture import without_furniture
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.recognition.recognised_page import are_recognised
from eider.geometry.plane import Box
from eider.model.wording import counted

# What is no table has its columns listed up to so many.
MOST_COLUMNS = 12


class LeftOut(msgspec.Struct, frozen=True):
    """A line of text that is head, foot or frame of the page; its box in PDF points."""

    text: str
    box: Box


class PageExplanation(msgspec.Struct, frozen=True):
    """The stages of one page (from 1): what is on it, what is furniture, its blocks, and what was found.

    `rules_left_out` counts the rules of a frame round the page.
    """

    page: int
    words: int
    rules: int
    is_recognised: bool
    left_out: tuple[LeftOut, ...]
    rules_left_out: int
    blocks: tuple[BlockReading, ...]
    found: tuple[FoundItem, ...]


def explain_page(datasheet: Datasheet, number: int) -> PageExplanation:
    """How a page (from 1) is understood, by the same functions that read it.

    Raises:
        DatasheetError: the page is not there, or is damaged.
    """
    page = datasheet.read(number)
    bare = without_furniture(page, neighbours(datasheet, number))
    read = survey_page(bare, title_block_of(page, bare))
    return PageExplanation(
        number,
        len(page.words),
        len(page.rulings),
        are_recognised(page.words),
        tuple(_left_out(page, bare)),
        len(page.rulings) - len(bare.rulings),
        read.blocks,
        read.found,
    )


def _left_out(page: PageText, bare: PageText) -> list[LeftOut]:
    kept = set(bare.words)
    gone = [word for word in page.words if word not in kept]
    return [LeftOut(line_text(line), joined(*(word.box for word in line))) for line in text_lines(gone)]


def explanation_lines(page: PageExplanation) -> list[str]:
    """The stages of a page in words, one line for each thing that was told."""
    how = ", recognised in a picture" if page.is_recognised else ""
    lines = [f"page {page.page}: {counted(page.words, 'word')}, {counted(page.rules, 'rule')}{how}"]
    lines += (f"  left out, head, foot or frame: {line.text}" for line in page.left_out)
    if page.rules_left_out:
        lines.append(f"  left out, frame: {counted(page.rules_left_out, 'rule')}")
    for block in page.blocks:
        lines += _block_lines(block)
    lines += (
        f"  figure: {FOUND_WORDS[item.kind]} {_box(item.box)}{_of(item)}" for item in page.found if item.is_figure
    )
    return lines


def _block_lines(block: BlockReading) -> list[str]:
    lines = [f"  block {_box(block.box)}" + (f" under “{block.title[-60:]}”" if block.title else "")]
    if block.columns:
        how = "ruled" if block.is_ruled else "open"
        lines.append(f"    grid: {counted(block.rows, 'row')}, {counted(block.columns, 'column')}, {how}")
    # The lines of a drawing make columns, too, which say nothing.
    if any(block.columns_read) and (block.kind or block.columns <= MOST_COLUMNS):
        lines.append(f"    columns: {', '.join(role or '–' for role in block.columns_read)}")
    named = FOUND_WORDS[block.kind] if block.kind else "nothing that a part is made of"
    sure = f", confidence {block.confidence:.2f}" if block.kind else ""
    lines.append(f"    is: {named}{sure}; {block.why}")
    if block.members or block.package:
        lines.append(f"    for: {', '.join(block.members) or block.package}")
    return lines


def _of(item: FoundItem) -> str:
    return f" of {item.package}" if item.package else ""


def _box(box: Sequence[float]) -> str:
    return "(" + ", ".join(f"{value:.0f}" for value in box) + ")"
