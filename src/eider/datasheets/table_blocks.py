"""Where tables may stand on a page: frames of rulings that hang together, and lines with columns that have none."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from eider.datasheets.document import PageText
from eider.datasheets.page_frame import holds, joined
from eider.datasheets.page_words import PageWord, line_text
from eider.datasheets.ruling_lines import Ruling
from eider.datasheets.table_grid import CAPTION, phrase_gap, phrases, text_lines
from eider.geometry.shapes import Box

# Rulings of one frame touch within so many points; a page with more than so many is a drawing, and has no frames.
TOUCH, MOST_RULINGS = 2.5, 4_000
# A frame has at least so many lines across, and a table so many lines of text with several columns.
FEWEST_ACROSS, FEWEST_LINES = 3, 3
# In heights of the text: lines of one open table are no farther apart; a phrase of so many words is a sentence.
FARTHEST_STEP, SENTENCE = 3.2, 7
ROUND = 2.0
MOST_HEADING_WORDS = 2


def table_blocks(page: PageText) -> tuple[Box, ...]:
    """Boxes that may hold a table, from the top of the page down; frames first where both mean one."""
    words = [word for word in page.words if word.quarters == 0]
    frames = [
        box for box in ruled_blocks(page.rulings) if sum(holds(box, word.box) for word in words) >= 2 * FEWEST_LINES
    ]
    outside = [word for word in words if not any(holds(frame, word.box) for frame in frames)]
    return tuple(sorted([*frames, *_open_blocks(outside)], key=lambda box: -box[3]))


def ruled_blocks(rulings: Sequence[Ruling]) -> list[Box]:
    """The boxes of rulings that hang together and are at least three lines across."""
    if len(rulings) > MOST_RULINGS:
        return []
    groups: list[tuple[Box, list[Ruling]]] = []
    for ruling in rulings:
        box, mine, others = ruling.box, [ruling], []
        for other, members in groups:
            if _touch(box, other):
                box, mine = joined(box, other), [*mine, *members]
            else:
                others.append((other, members))
        groups = [*others, (box, mine)]
    return [_grown(box) for box, mine in groups if sum(r.across for r in mine) >= FEWEST_ACROSS]


def _touch(a: Box, b: Box) -> bool:
    return a[0] <= b[2] + TOUCH and b[0] <= a[2] + TOUCH and a[1] <= b[3] + TOUCH and b[1] <= a[3] + TOUCH


def _grown(box: Box) -> Box:
    return box[0] - ROUND, box[1] - ROUND, box[2] + ROUND, box[3] + ROUND


def _open_blocks(words: Sequence[PageWord]) -> Iterator[Box]:
    """Runs of lines of which most have several phrases under each other."""
    if not words:
        return
    lines = text_lines(words)
    gap = phrase_gap(words)
    run: list[list[PageWord]] = []
    for above, line in pairwise([[], *lines]):
        parted = bool(run) and bool(above) and above[0].middle[1] - line[0].middle[1] > FARTHEST_STEP * line[0].size
        if parted or _is_prose(line, gap):
            yield from _block(run, gap)
            run = []
        if not _is_prose(line, gap):
            run.append(line)
    yield from _block(run, gap)


def _is_prose(line: list[PageWord], gap: float) -> bool:
    """Whether a line is a sentence, or names a table or a figure."""
    found = phrases(line, gap)
    return CAPTION.match(line_text(line)) is not None or max(map(len, found)) >= SENTENCE


def _block(run: list[list[PageWord]], gap: float) -> Iterator[Box]:
    """The box of a run of lines without single phrases at its ends; nothing where too few have columns.

    A short phrase right above the first of them stays: it may be a heading over several columns.
    """
    columned = [i for i, line in enumerate(run) if len(phrases(line, gap)) > 1]
    if len(columned) >= FEWEST_LINES:
        first, last = columned[0], columned[-1]
        first -= first > 0 and len(run[first - 1]) <= MOST_HEADING_WORDS
        kept = run[first : last + 1]
        yield _grown(joined(*(word.box for line in kept for word in line)))
