"""Words in the picture of a page, by an engine made for the purpose; this module alone knows which."""

import unicodedata
from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from eider.datasheets.recognition.page_straightening import Picture

# Shares of the height of a line: a gap of paper that parts words, one that does beside a figure (figures of wide faces
# stand far apart), and one where the engine sees a space.
WORD_GAP, FIGURE_GAP, SPACE_GAP = 0.3, 0.6, 0.08
# What is recognised with less confidence than this is a picture of something else.
LEAST_CONFIDENCE = 0.5
# A box so much higher than wide has text that runs up or down, unless it is no higher than so many of the page's lines:
# a single figure is narrow, too.
UPRIGHT, LINES_HIGH = 1.5, 1.6
# The engine enlarges what is narrower than this many pixels, however long it is; it is given paper instead.
LEAST_SIDE = 736
# The engine leaves room around letters: so much of a box's height is that of its line.
LINE = 0.9
# A strip whose darkest and lightest differ by fewer levels of grey is empty; from this share on it is ink.
LEAST_CONTRAST, INKED = 20, 0.35
Pixels = tuple[float, float, float, float]


class SeenWord(NamedTuple):
    """A word in pixels (left, top, right, bottom), the height of its line's letters, which way it runs (0 across, 1 up,
    3 down), and how sure its least sure letter is (0 to 1)."""

    text: str
    box: Pixels
    size: float
    quarters: int
    confidence: float


class LetterEngine:
    """The engine with its models, which take a second to load.

    Raises:
        ImportError: the engine is not installed.
    """

    def __init__(self, threads: int) -> None:
        from rapidocr_onnxruntime import RapidOCR

        self._engine: Any = RapidOCR(intra_op_num_threads=threads, inter_op_num_threads=1)

    def words(self, picture: Picture) -> list[SeenWord]:
        """The words of a grey picture, of shape (height, width)."""
        height, width = picture.shape
        below, beside = max(LEAST_SIDE - height, 0), max(LEAST_SIDE - width, 0)
        paper = int(np.median(picture))
        whole = cv2.copyMakeBorder(picture, 0, below, 0, beside, cv2.BORDER_CONSTANT, value=paper)
        coloured = np.asarray(cv2.cvtColor(whole, cv2.COLOR_GRAY2BGR), dtype=np.uint8)
        quads, _seconds = self._engine.text_det(coloured)
        if quads is None:
            return []
        boxes = [_edges(np.asarray(quad, dtype=np.float32)) for quad in quads]
        line_height = float(np.median([min(box[2] - box[0], box[3] - box[1]) for box in boxes]))
        lines = [_Line(box, coloured, line_height) for box in boxes]
        upright = [line for line in lines if line.is_upright]
        # Text that runs up, and the same strip read as running down: whichever can be read.
        strips = [line.strip for line in lines] + [np.rot90(line.strip, 2).copy() for line in upright]
        read = [_as_read(result) for result in self._engine.text_rec(strips, True)[0]] if strips else []
        again = dict(zip(map(id, upright), read[len(lines) :], strict=True))
        found: list[SeenWord] = []
        for line, first in zip(lines, read[: len(lines)], strict=True):
            second = again.get(id(line))
            turned_over = second is not None and second.confidence > first.confidence
            best = second if second is not None and turned_over else first
            if best.confidence >= LEAST_CONFIDENCE and best.text.strip():
                found += line.words_of(best, turned_over=turned_over)
        return found


class _ReadLine(NamedTuple):
    """A line as the engine reads it: its letters, how far along the strip each is (0 to 1), and how sure."""

    text: str
    along: tuple[float, ...]
    sure: tuple[float, ...]

    @property
    def confidence(self) -> float:
        return float(np.mean(self.sure)) if self.sure else 0.0


def _edges(quad: npt.NDArray[np.float32]) -> tuple[int, int, int, int]:
    """The box around four corners: left, top, right, bottom."""
    (left, top), (right, bottom) = np.floor(quad.min(axis=0)), np.ceil(quad.max(axis=0))
    return int(left), int(top), int(right), int(bottom)


def _as_read(result: Any) -> _ReadLine:
    _text, _score, (columns, words, places, _states, sure) = result
    letters = [letter for word in words for letter in word]
    at = [(column + 0.5) / max(columns, 1) for word in places for column in word]
    return _ReadLine("".join(letters), tuple(at), tuple(map(float, sure))[: len(letters)])


class _Line:
    """A box around a line of text, and the strip of picture in it, turned so that its text runs across."""

    def __init__(self, box: tuple[int, int, int, int], picture: npt.NDArray[np.uint8], line_height: float) -> None:
        height, width = picture.shape[:2]
        self.left, self.top = max(box[0], 0), max(box[1], 0)
        self.right, self.bottom = min(box[2], width), min(box[3], height)
        piece = picture[self.top : max(self.bottom, self.top + 1), self.left : max(self.right, self.left + 1)]
        self.is_upright = piece.shape[0] >= max(UPRIGHT * piece.shape[1], LINES_HIGH * line_height)
        # Text that runs up lies straight once it is turned clockwise.
        self.strip = np.rot90(piece, -1).copy() if self.is_upright else piece

    def words_of(self, line: _ReadLine, *, turned_over: bool) -> Iterator[SeenWord]:
        """The words of the line, parted where it has spaces and where the strip has gaps."""
        strip = np.rot90(self.strip, 2) if turned_over else self.strip
        height, width = strip.shape[:2]
        quarters = 0 if not self.is_upright else 3 if turned_over else 1
        for first, last, start, stop in _parted(line, _runs_of_ink(strip), width, LINE * height):
            box = self._on_page(start, stop, height, width, turned_over=turned_over)
            text = unicodedata.normalize("NFKC", line.text[first:last].strip())
            yield SeenWord(text, box, LINE * height, quarters, min(line.sure[first:last], default=0.0))

    def _on_page(self, start: float, stop: float, height: int, width: int, *, turned_over: bool) -> Pixels:
        """The place of a stretch of the strip, less the room that the engine leaves above and below."""
        room = (1 - LINE) / 2 * height
        if not self.is_upright:
            return self.left + start, self.top + room, self.left + stop, self.bottom - room
        if turned_over:
            return self.left + room, self.top + start, self.right - room, self.top + stop
        return self.left + room, self.top + width - stop, self.right - room, self.top + width - start


def _runs_of_ink(strip: npt.NDArray[np.uint8]) -> list[tuple[float, float]]:
    """Where along a strip there is ink, from column to column."""
    grey = strip[:, :, 0].astype(np.float64)
    height = grey.shape[0]
    paper, dark = np.percentile(grey, 90), np.percentile(grey, 2)
    if paper - dark < LEAST_CONTRAST:
        return []
    middle = grey[int(0.1 * height) : max(int(0.9 * height), 1)]
    inked = (middle < paper - INKED * (paper - dark)).any(axis=0).astype(np.int8)
    edges = np.flatnonzero(np.diff(np.concatenate(([0], inked, [0]))))
    return [(float(start), float(stop)) for start, stop in zip(edges[::2], edges[1::2], strict=True)]


def _parted(
    line: _ReadLine, runs: Sequence[tuple[float, float]], width: float, size: float
) -> Iterator[tuple[int, int, float, float]]:
    """The words of a line: first letter, the one after the last, and the stretch of ink that they are."""
    letters = [index for index, letter in enumerate(line.text) if not letter.isspace()]
    if not runs or not letters:
        return
    home = {
        index: min(range(len(runs)), key=lambda k, x=line.along[index] * width: _apart(x, runs[k]))  # type: ignore[misc]
        for index in letters
    }
    begin = 0
    for at in range(1, len(letters) + 1):
        before, here = letters[at - 1], letters[at] if at < len(letters) else len(line.text)
        gap = max((runs[k + 1][0] - runs[k][1] for k in range(home[before], home.get(here, 0))), default=0.0)
        is_figure = line.text[before].isdigit() or line.text[here : here + 1].isdigit()
        least = SPACE_GAP if here > before + 1 else FIGURE_GAP if is_figure else WORD_GAP
        if at == len(letters) or gap >= least * size:
            yield letters[begin], before + 1, runs[home[letters[begin]]][0], runs[home[before]][1]
            begin = at


def _apart(x: float, run: tuple[float, float]) -> float:
    return max(run[0] - x, x - run[1], 0.0)
