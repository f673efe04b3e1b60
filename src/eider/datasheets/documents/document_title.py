"""What a datasheet is called on its first page: the part's name, and the words beside it that say what it is."""

import re
import tomllib
from collections.abc import Sequence
from functools import cache

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.table_blocks import BULLETS
from eider.datasheets.tables.value_reading import with_hyphens
from eider.geometry.plane import Box
from eider.packaged_data import packaged_text

# The title is within this share of the page from its top.
TITLE_PART = 0.45
# Lines of a title are no farther apart than so many heights of the larger one.
LINES_APART = 3.2
# Words of a title whose letters are smaller than this share of the largest one are text.
LARGE = 0.55
# Words of sentences, which titles do without.
SENTENCE_WORDS = frozenset({"is", "are", "was", "has", "have", "offers", "provides", "features", "this", "these"})
# A description has so many words.
FEWEST_WORDS, MOST_WORDS = 2, 16
# Words with which no description begins: headings, and lines with date, revision and maker's number.
_NO_DESCRIPTION = re.compile(
    r"(features?|general|description|applications?|ordering|datasheet|data sheet|preliminary|absolute|pin|rev|"
    r"document|page|copyright|www|order this|series|notes?)\b",
    re.IGNORECASE,
)
# A part's name: capitals and figures mixed, with hyphens and slashes.
_NAME = re.compile(r"(?=.*\d)(?=.*[A-Z])[A-Z0-9][A-Za-z0-9]*(?:[-/.+][A-Za-z0-9]+)*")
_BESIDE_NAMES = re.compile(r"(?:series|thru|through|to|and|family|[-–—/,&])", re.IGNORECASE)


class DocumentTitle(msgspec.Struct, frozen=True):
    """The name as it is printed, the description, and where each is (PDF points); empty where there is none."""

    name: str = ""
    description: str = ""
    name_box: Box = (0.0, 0.0, 0.0, 0.0)
    description_box: Box = (0.0, 0.0, 0.0, 0.0)


def document_title(page: PageText, name: str = "") -> DocumentTitle:
    """The title of a first page; `name` is what the part is known as, of which the title may say a part only."""
    lines = _title_lines(page)
    if not lines:
        return DocumentTitle()
    largest = max(word.size for line in lines for word in line)
    named = [
        (index, found)
        for index, line in enumerate(lines)
        if (found := _name_in(line, name)) is not None and found.size >= LARGE * largest
    ]
    if not named:
        return DocumentTitle()
    # The largest name that is described; a running head has it as well, and nothing that says what it is.
    ranked = sorted(named, key=lambda entry: (-entry[1].size, entry[0]))
    at, word = next((entry for entry in ranked if _description(lines, *entry)), ranked[0])
    described = _description(lines, at, word)
    title = DocumentTitle(with_hyphens(word.text).strip(".,;:"), name_box=word.box)
    if not described:
        return title
    box = joined(*(found.box for found in described))
    return msgspec.structs.replace(title, description=with_hyphens(line_text(described)), description_box=box)


def _title_lines(page: PageText) -> list[list[PageWord]]:
    """The phrases at the top of a page from the top down: what lies far beside another is of another column."""
    _x0, y0, _x1, y1 = page.frame.crop
    words = [w for w in page.words if w.quarters == 0 and w.middle[1] > y1 - TITLE_PART * (y1 - y0)]
    return [phrase for line in text_lines(words) for phrase in phrases(line, 3 * phrase_gap(line))]


def _name_in(line: Sequence[PageWord], name: str) -> PageWord | None:
    """The word of a line that names the part: what it is known as begins with it, or it looks like a part's name."""
    known = name.upper()
    if _is_sentence(line):
        return None
    for word in line:
        text = with_hyphens(word.text).strip(".,;:()")
        if known and len(text) >= 3 and (known.startswith(text.upper()) or text.upper().startswith(known)):
            return word
    return next((w for w in line if len(w.text) >= 4 and _NAME.fullmatch(with_hyphens(w.text).strip(".,;:()"))), None)


def _is_sentence(line: Sequence[PageWord]) -> bool:
    """Whether a line has words that titles do not have: it speaks of the part."""
    return any(word.text.lower() in SENTENCE_WORDS for word in line)


def _description(lines: Sequence[list[PageWord]], at: int, name: PageWord) -> list[PageWord]:
    """The words that say what the part is: beside its name, else under it, else over it."""
    beside = [word for word in lines[at] if word != name and not _is_of_name(word)]
    # In the middle of its line a name is one of a sentence.
    if name in (lines[at][0], lines[at][-1]) and _describes(beside):
        return beside
    size, height = max(word.size for word in lines[at]), lines[at][0].middle[1]
    for candidates in (lines[at + 1 :], lines[:at][::-1]):
        for line in candidates:
            far = abs(line[0].middle[1] - height)
            if far > LINES_APART * max(size, line[0].size):
                break
            if far > line[0].size / 2 and _is_over(line, lines[at]) and _describes(line):
                return list(line)
    return []


def _is_over(line: Sequence[PageWord], other: Sequence[PageWord]) -> bool:
    """Whether two lines are over each other, at least in part."""
    return line[0].box[0] < other[-1].box[2] and other[0].box[0] < line[-1].box[2]


def _is_of_name(word: PageWord) -> bool:
    text = with_hyphens(word.text).strip(".,;:()")
    return bool(_NAME.fullmatch(text) and len(text) >= 4) or bool(_BESIDE_NAMES.fullmatch(text))


def _describes(line: Sequence[PageWord]) -> bool:
    """Whether words can be a description: some words with letters, and no heading or sentence."""
    text = line_text(line)
    lettered = sum(any(c.isalpha() for c in word.text) for word in line)
    is_listed = line[0].text[:1] in BULLETS if line else False
    is_sentence = is_listed or (text.rstrip().endswith((".", ":")) and len(line) > FEWEST_WORDS)
    return FEWEST_WORDS <= lettered <= MOST_WORDS and not is_sentence and not _NO_DESCRIPTION.match(text)


def names_part(description: str) -> bool:
    """Whether a description has a word that parts are called by."""
    words = " " + re.sub(r"[^\w-]+", " ", description.lower()) + " "
    # Words of scripts without spaces stand within others.
    return any(f" {word} " in words or (not word.isascii() and word in words) for word in part_words())


@cache
def part_words() -> tuple[str, ...]:
    """The words that ship with Eider for what parts are called."""
    return tuple(tomllib.loads(packaged_text("datasheets/part_words.toml"))["words"])
