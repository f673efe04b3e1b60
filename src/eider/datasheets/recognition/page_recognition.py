"""A page recognised from its picture, in PDF points."""

import re
from collections.abc import Collection, Mapping, Sequence

import numpy as np

from eider.datasheets.pages.page_frame import PageFrame, ordered
from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.ruling_lines import from_box, join_pieces
from eider.datasheets.recognition.letter_recognition import LetterEngine, Pixels, SeenWord
from eider.datasheets.recognition.open_arrows import find_open_arrows
from eider.datasheets.recognition.page_straightening import Picture, askew_by, straightened
from eider.datasheets.recognition.picture_marks import PixelArrow, find_arrows, find_strokes, without_words
from eider.datasheets.recognition.picture_rules import DARK, find_rules, ink_of, without_rules
from eider.datasheets.recognition.recognised_page import RecognisedPage
from eider.geometry.plane import Box

# Pixels to the inch: at this size the engine reads the letters of datasheets; finer takes longer and reads no more.
DPI = 200
SCALE = DPI / 72
# The longer side of a picture has so many pixels at most, as A3 has at that size: time and memory grow with its area.
LARGEST_SIDE = 3400
# However sure the engine says it is, a second witness alone makes what it read certain.
MOST_SURE = 0.999
# The head of a number whose tail stands beside it, no farther than this share of its height.
_HEAD_OF_NUMBER = re.compile(r"[-+±]?\d+\.?")
BESIDE = 0.35
# A name with a number behind it; so many names of one series tell that a letter O behind it is a zero.
_IN_SERIES = re.compile(r"([A-Z]+)(\d{1,3})")
FEWEST_OF_SERIES, LONG_NAME = 2, 3


def picture_scale(size: tuple[float, float]) -> float:
    """Pixels for a point in which a page of a size in points is recognised: 200 dpi, less for a page beyond A3."""
    return min(SCALE, LARGEST_SIDE / max(*size, 1.0))


def recognise_page(picture: Picture, page: int, frame: PageFrame, engine: LetterEngine) -> RecognisedPage:
    """What a page (from 1) holds, by its grey picture of shape (height, width) at `picture_scale`."""
    return _recognised(picture, page, frame, engine, askew_by(picture))


def recognise_part(picture: Picture, page: int, frame: PageFrame, engine: LetterEngine, box: Box) -> RecognisedPage:
    """What is within a box (PDF points) of a page whose other words are known: it is not turned, as those are not."""
    scale = picture_scale(frame.size)
    left, top, right, bottom = (round(value * scale) for value in frame.box_to_picture(box))
    alone = np.full_like(picture, int(np.median(picture)))
    alone[max(top, 0) : bottom, max(left, 0) : right] = picture[max(top, 0) : bottom, max(left, 0) : right]
    return _recognised(alone, page, frame, engine, 0.0)


def _recognised(picture: Picture, page: int, frame: PageFrame, engine: LetterEngine, askew: float) -> RecognisedPage:
    scale = picture_scale(frame.size)
    straight = straightened(picture, askew, int(np.median(picture)))
    ink = ink_of(straight)
    rules = find_rules(ink)
    seen = joined_numbers(engine.words(without_rules(straight, rules)))
    mended = mended_texts([word.text for word in seen])
    words = tuple(
        PageWord(
            text,
            _on_page(word.box, frame, scale),
            round(word.size / scale, 2),
            (word.quarters + frame.quarters) % 4,
            confidence=min(round(word.confidence, 3), MOST_SURE),
        )
        for word, text in zip(seen, mended, strict=True)
    )
    drawn = without_words(ink_of(straight, DARK), seen)
    strokes = [*rules, *find_strokes(drawn)]
    # What is left of letters makes short strokes, too: tables are ruled by the long ones alone.
    ruled = [_on_page(_middle_line(rule), frame, scale) for rule in rules]
    rulings = join_pieces([line for box in ruled if (line := from_box(box)) is not None])
    lines = [_on_page(_middle_line(stroke), frame, scale) for stroke in strokes]
    arrows = [*find_arrows(drawn, strokes), *find_open_arrows(drawn, strokes)]
    paths = [*(_stroke(box) for box in lines), *(_filled(arrow, frame, scale) for arrow in arrows)]
    return RecognisedPage(page, askew, words, rulings, tuple(paths))


def _stroke(box: Box) -> PathPiece:
    return PathPiece(((box[0], box[1]), (box[2], box[3])), "ml", is_closed=False, is_filled=False, is_stroked=True)


def _filled(arrow: PixelArrow, frame: PageFrame, scale: float) -> PathPiece:
    corners = tuple(frame.to_page(x / scale, y / scale) for x, y in (arrow.tip, *arrow.back))
    return PathPiece(corners, "mll", is_closed=True, is_filled=True, is_stroked=False)


def joined_numbers(words: Sequence[SeenWord]) -> list[SeenWord]:
    """Words, those parts of a number as one that the engine saw as two boxes beside each other: `0` and `.65`."""
    found: list[SeenWord] = []
    for word in sorted(words, key=lambda w: w.box[0]):
        before = next((other for other in found if _is_one_number(other, word)), None)
        if before is None:
            found.append(word)
            continue
        (a, b, c, d), (e, f, g, h) = before.box, word.box
        text = before.text.removesuffix(".") + word.text if word.text.startswith(".") else before.text + word.text
        box, sure = (min(a, e), min(b, f), max(c, g), max(d, h)), min(before.confidence, word.confidence)
        found[found.index(before)] = SeenWord(text, box, max(before.size, word.size), 0, sure)
    return found


def _is_one_number(left: SeenWord, right: SeenWord) -> bool:
    if left.quarters or right.quarters or not _HEAD_OF_NUMBER.fullmatch(left.text):
        return False
    level = abs((left.box[1] + left.box[3]) - (right.box[1] + right.box[3])) / 2
    is_beside = -0.5 * left.size < right.box[0] - left.box[2] < BESIDE * left.size
    is_tail = right.text[:1] == "." or left.text[-1:] == "."
    return is_beside and is_tail and level < 0.3 * left.size and right.text.lstrip(".")[:1].isdigit()


def mended_texts(texts: Sequence[str]) -> list[str]:
    """Texts with what the engine confuses put right, where the page itself says how.

    A dash by itself is read as the Chinese numeral one, which is the same stroke; the zero that ends a name is read as
    the letter O, where the page has other names of its series (A1, A2 beside AO).
    """
    series: dict[str, set[str]] = {}
    for text in texts:
        if found := _IN_SERIES.fullmatch(text):
            series.setdefault(found[1], set()).add(found[2])
    return [_mended(text, series) for text in texts]


def _mended(text: str, series: Mapping[str, Collection[str]]) -> str:
    if text == "一":
        return "–"
    numbers = series.get(text[:-1], ()) if text[-1:] == "O" else ()
    # `DO` beside `D1` may be an output; a longer name beside its own first number hardly is.
    is_first = "1" in numbers and len(text) >= LONG_NAME
    return f"{text[:-1]}0" if is_first or len(numbers) >= FEWEST_OF_SERIES else text


def _middle_line(rule: tuple[int, int, int, int]) -> Pixels:
    """A rule without its thickness."""
    left, top, right, bottom = rule
    if right - left >= bottom - top:
        return left, (top + bottom + 1) / 2, right + 1, (top + bottom + 1) / 2
    return (left + right + 1) / 2, top, (left + right + 1) / 2, bottom + 1


def _on_page(box: Pixels, frame: PageFrame, scale: float) -> Box:
    left, top, right, bottom = (value / scale for value in box)
    x0, y0, x1, y1 = ordered(*frame.to_page(left, top), *frame.to_page(right, bottom))
    return round(x0, 2), round(y0, 2), round(x1, 2), round(y1, 2)
