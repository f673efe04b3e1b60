"""A click on a page to what is meant by it: the row of a table, a dimension on a drawing, limits over each other."""

import itertools
from collections.abc import Sequence

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import are_near, holds, joined, turned
from eider.datasheets.pages.page_words import PageWord, line_text, straight
from eider.datasheets.pages.ruling_lines import Ruling, turned_ruling
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.dimension_columns import LIMITS
from eider.datasheets.tables.dimension_tables import read_dimension_table
from eider.datasheets.tables.table_grid import find_grid
from eider.datasheets.tables.unit_captions import unit_near
from eider.datasheets.tables.value_reading import cleaned, compose, is_number, number, read_value
from eider.geometry.limits import Limits
from eider.geometry.plane import Box

# Points: how far beside a word a click still means it, and up to which gap phrases of a line are one table's.
NEAR, TABLE_GAP, WIDEST_GAP = 4.0, 90.0, 400.0
# Rulings whose ends are this near hang together.
MEETING = 2.0
# A step this many times the usual one ends an open table; limits over each other are this share of a text apart.
LINE_STEP, STACKED_STEP = 1.6, 1.5
# More lines than this on either side are not looked at: a click must be answered at once.
MOST_LINES = 45
LONGEST_VALUE = 7


class Candidate(msgspec.Struct, frozen=True):
    """One reading of a click.

    `text` fits a number field (`limits` are then given) or a text field; `seen` is what is there, `how` says in
    words what it was taken for; `letter` is the sheet's own where the row of a table gives one. `box` is in PDF points.
    """

    text: str
    limits: Limits | None
    box: Box
    seen: str
    how: str
    letter: str = ""
    doubt: str = ""


class Click(msgspec.Struct, frozen=True):
    """All readings of a click, the likeliest first, and whether that one can be taken without asking."""

    candidates: tuple[Candidate, ...]
    is_clear: bool


def word_at(page: PageText, x: float, y: float) -> PageWord | None:
    """The word at a point of the page, or the nearest one close by."""
    near = [(_distance(word.box, x, y), word) for word in page.words]
    near = [(far, word) for far, word in near if far <= NEAR]
    return min(near, key=lambda pair: pair[0])[1] if near else None


def read_length(page: PageText, x: float, y: float) -> Click:
    """What length is meant by a click at a point (PDF points)."""
    word = word_at(page, x, y)
    if word is None:
        return Click((), False)
    scene = _Scene.of(page, word)
    row, plain, stacked = _of_row(scene), _of_phrase(scene), _of_stack(scene)
    found = [c for c in (row, plain, stacked) if c is not None]
    distinct = [c for i, c in enumerate(found) if c.limits not in {other.limits for other in found[:i]}]
    is_alone = len(distinct) == 1 and not _is_in_columns(scene)
    is_clear = bool(found) and not found[0].doubt and (found[0] is row or is_alone)
    return Click(tuple(scene.back(c) for c in distinct), is_clear)


def read_words_at(page: PageText, x: float, y: float) -> Click:
    """What text is meant by a click: the whole phrase, or the one word."""
    word = word_at(page, x, y)
    if word is None:
        return Click((), False)
    scene = _Scene.of(page, word)
    phrase = scene.phrase()
    whole = Candidate(
        cleaned(line_text(phrase)), None, joined(*(w.box for w in phrase)), line_text(phrase), "the words"
    )
    one = Candidate(cleaned(scene.word.text), None, scene.word.box, scene.word.text, "this word alone")
    found = (whole,) if len(phrase) == 1 else (whole, one)
    return Click(tuple(scene.back(c) for c in found), True)


class _Scene(msgspec.Struct, frozen=True):
    """The words that run the same way as the selected one, laid straight."""

    page: PageText
    word: PageWord
    words: tuple[PageWord, ...]
    rulings: tuple[Ruling, ...]
    quarters: int

    @staticmethod
    def of(page: PageText, word: PageWord) -> "_Scene":
        turn = word.quarters
        words = tuple(straight(w, turn) for w in page.words if w.quarters == turn)
        rulings = tuple(turned_ruling(r, turn) for r in page.rulings)
        return _Scene(page, straight(word, turn), words, rulings, turn)

    def back(self, candidate: Candidate) -> Candidate:
        x0, y0, x1, y1 = turned(candidate.box, -self.quarters)
        return msgspec.structs.replace(candidate, box=(round(x0, 2), round(y0, 2), round(x1, 2), round(y1, 2)))

    def unit(self) -> str:
        return unit_near(self.page, turned(self.word.box, -self.quarters)) or "mm"

    def line(self) -> list[PageWord]:
        y, size = self.word.middle[1], self.word.size
        return sorted((w for w in self.words if abs(w.middle[1] - y) < 0.4 * size), key=lambda w: w.box[0])

    def phrase(self) -> list[PageWord]:
        line = self.line()
        return next(p for p in phrases(line, phrase_gap(line)) if self.word in p)


def _distance(box: Box, x: float, y: float) -> float:
    dx, dy = max(box[0] - x, 0.0, x - box[2]), max(box[1] - y, 0.0, y - box[3])
    return max(dx, dy)


def _of_phrase(scene: _Scene) -> Candidate | None:
    """The longest run of words around the selected one that reads as a length."""
    phrase = scene.phrase()
    at, unit = phrase.index(scene.word), scene.unit()
    runs = [
        phrase[start:stop]
        for start in range(max(0, at - LONGEST_VALUE), at + 1)
        for stop in range(at + 1, min(len(phrase), start + LONGEST_VALUE) + 1)
    ]
    for run in sorted(runs, key=len, reverse=True):
        value = read_value(line_text(run), unit)
        if value.limits is not None:
            box = joined(*(w.box for w in run))
            return Candidate(value.text, value.limits, box, line_text(run), "this value alone", "", value.doubt)
    return None


def _is_in_columns(scene: _Scene) -> bool:
    """Whether a number stands among others as in a table of which no row could be read."""
    word, reach = scene.word, STACKED_STEP * scene.word.size
    numbers = [w for w in scene.words if w is not word and read_value(w.text).limits is not None]
    beside = [w for w in _reach(scene.line(), word, TABLE_GAP) if w in numbers and w not in scene.phrase()]
    return bool(beside) and any(
        w.box[0] < word.box[2] and word.box[0] < w.box[2] and 0 < abs(w.middle[1] - word.middle[1]) < reach
        for w in numbers
    )


def _of_stack(scene: _Scene) -> Candidate | None:
    """Two numbers one over the other: the limits of one dimension on a drawing."""
    word = scene.word
    if not is_number(cleaned(word.text)) or len(scene.phrase()) > 1:
        return None
    others = [
        w
        for w in scene.words
        if w is not word
        and is_number(cleaned(w.text))
        and 0.4 * word.size < abs(w.middle[1] - word.middle[1]) < STACKED_STEP * word.size
        and abs(w.middle[0] - word.middle[0]) < 0.5 * max(word.box[2] - word.box[0], 1.0)
    ]
    if len(others) != 1:
        return None
    low, high = sorted((cleaned(word.text), cleaned(others[0].text)), key=number)
    unit = scene.unit()
    text = compose(low, "", high, unit)
    seen = f"{high} / {low}"
    box = joined(word.box, others[0].box)
    return Candidate(text, read_value(text, unit).limits, box, seen, "two limits, one over the other")


def _of_row(scene: _Scene) -> Candidate | None:
    """The row of a table of dimensions in which the word stands; one with a letter before one without.

    Numbers that stand apart, as in a drawing, are no row without a letter.
    """
    ruled = _in_box(scene, box) if (box := _ruled_box(scene)) else None
    if ruled is not None and ruled.letter:
        return ruled
    rows = [
        row
        for widest in (TABLE_GAP, WIDEST_GAP)
        if (box := _open_box(scene, widest)) and (row := _in_box(scene, box)) is not None
    ]
    lettered = next((row for row in rows if row.letter), None)
    bare = [row for row in (ruled, *rows) if row is not None]
    return lettered or (bare[0] if bare and (not bare[0].doubt or _is_in_columns(scene)) else None)


def _in_box(scene: _Scene, box: Box) -> Candidate | None:
    grid = find_grid(scene.words, scene.rulings, box)
    if grid is None or grid.rows < 2 or grid.columns < 2:
        return None
    table = read_dimension_table(grid, unit=scene.unit())
    has_limits = any(c.role in (*LIMITS, "limit", "letter", "value") for c in table.columns)
    row = next((r for r in table.rows if r.limits is not None and holds(_wider(r.whole), scene.word.box)), None)
    if row is None or not has_limits:
        return None
    what = f"row {row.letter}" if row.letter else "this row"
    how = f"{what} of the table" + (f", {row.member}" if row.member else "")
    return Candidate(row.text, row.limits, row.box, row.seen, how, row.letter, row.doubt or table.doubt)


def _wider(box: Box) -> Box:
    return box[0] - 1, box[1] - 1, box[2] + 1, box[3] + 1


def _ruled_box(scene: _Scene) -> Box | None:
    """The box of the rulings that hang together round the word."""
    x, y = scene.word.middle
    across = [r for r in scene.rulings if r.across and r.start - 2 <= x <= r.stop + 2]
    above = min((r for r in across if r.at >= y), key=lambda r: r.at, default=None)
    below = max((r for r in across if r.at < y), key=lambda r: r.at, default=None)
    uprights = [r for r in scene.rulings if not r.across]
    if above is None or below is None or not uprights:
        return None
    box, grown = joined(above.box, below.box), True
    rest = list(scene.rulings)
    while grown:
        touching = [r for r in rest if are_near(r.box, box, MEETING)]
        grown = bool(touching)
        rest = [r for r in rest if not are_near(r.box, box, MEETING)]
        box = joined(box, *(r.box for r in touching))
    return box


def _open_box(scene: _Scene, widest: float) -> Box | None:
    """The lines above and below that are under the same columns, up to a gap apart, as the selected line."""
    seed = _reach(scene.line(), scene.word, widest)
    if len(seed) < 2:
        return None
    left, right = seed[0].box[0] - TABLE_GAP / 2, seed[-1].box[2] + TABLE_GAP / 2
    lines = text_lines([w for w in scene.words if left <= w.middle[0] <= right])
    at = next(i for i, line in enumerate(lines) if scene.word in line)
    steps = [_step(a, b) for a, b in itertools.pairwise(lines)]
    typical = min(steps[max(at - 1, 0) : at + 1], default=0.0)
    taken = [*_onwards(lines[at::-1][:MOST_LINES], typical), *_onwards(lines[at : at + MOST_LINES], typical)]
    x0, y0, x1, y1 = joined(*(w.box for line in taken for w in line))
    return x0 - 1, y0 - 1, x1 + 1, y1 + 1


def _reach(line: list[PageWord], word: PageWord, widest: float) -> list[PageWord]:
    """The words of a line from the selected one on, to both sides, up to a gap that parts tables."""
    at = line.index(word)
    start = stop = at
    while start > 0 and line[start].box[0] - line[start - 1].box[2] < widest:
        start -= 1
    while stop + 1 < len(line) and line[stop + 1].box[0] - line[stop].box[2] < widest:
        stop += 1
    return line[start : stop + 1]


def _step(above: list[PageWord], below: list[PageWord]) -> float:
    return abs(above[0].middle[1] - below[0].middle[1])


def _onwards(lines: Sequence[list[PageWord]], typical: float) -> list[list[PageWord]]:
    """Lines from the first on, up to a step much larger than the usual one, a sentence, or a caption."""
    taken = [lines[0]]
    for line in lines[1:]:
        if _step(taken[-1], line) > max(LINE_STEP * typical, line[0].size) or _is_sentence(line):
            break
        if len(line) > 2 and len(phrases(line, phrase_gap(line))) == 1:
            break
        taken.append(line)
    return taken


def _is_sentence(line: list[PageWord]) -> bool:
    longest = max(phrases(line, phrase_gap(line)), key=len)
    return len(longest) > LONGEST_VALUE and len(longest) > 0.7 * len(line)
