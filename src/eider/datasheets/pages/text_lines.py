"""Words to lines of text, and the phrases of a line."""

from collections.abc import Sequence

from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_words import PageWord
from eider.geometry.plane import Box

# Words within this share of the text size belong to one phrase; letters this even in width are a typewriter's.
PHRASE_GAP, EVEN = 0.55, 0.05
# A phrase of more words is text, of which a box may well cut a part off.
MOST_LABEL_WORDS = 4


def text_lines(words: Sequence[PageWord]) -> list[list[PageWord]]:
    """Words by line, top to bottom and left to right."""
    lines: list[list[PageWord]] = []
    levels: list[tuple[float, float]] = []
    # Heights are worked out once: pages are split into lines again and again.
    heights = [(word.box[1] + word.box[3]) / 2 for word in words]
    for at in sorted(range(len(words)), key=lambda i: -heights[i]):
        word, y = words[at], heights[at]
        for index in range(max(0, len(lines) - 3), len(lines)):
            level, size = levels[index]
            if abs(level - y) < 0.4 * min(size, word.size):
                lines[index].append(word)
                break
        else:
            lines.append([word])
            levels.append((y, word.size))
    return [sorted(line, key=lambda w: w.box[0]) for line in lines]


def phrase_gap(words: Sequence[PageWord]) -> float:
    """Up to which gap (points) words belong to one phrase; a typewriter's spaces are as wide as its letters."""
    advances = sorted((w.box[2] - w.box[0]) / len(w.text) for w in words if len(w.text) > 1)
    size = sorted(w.size for w in words)[len(words) // 2]
    if len(advances) > 3 and advances[-1] - advances[0] < EVEN * advances[0]:
        return 1.6 * advances[0]
    return PHRASE_GAP * size


def phrases(line: Sequence[PageWord], gap: float) -> list[list[PageWord]]:
    """The words of a line in groups that belong together."""
    found: list[list[PageWord]] = []
    for word in line:
        if found and word.box[0] - found[-1][-1].box[2] < gap:
            found[-1].append(word)
        else:
            found.append([word])
    return found


def labels_in(words: Sequence[PageWord], box: Box) -> list[PageWord]:
    """The words of a drawing within a box, and those outside of it that belong to a label of which a word is within.

    The edge of a drawing is told by its lines: a length at it, such as `1.10 (0.043)`, may stick out.
    """
    inside = {id(word) for word in words if holds(box, word.box)}
    for line in text_lines([word for word in words if word.quarters == 0]):
        if any(id(word) in inside for word in line):
            for phrase in phrases(line, phrase_gap(line)):
                if len(phrase) <= MOST_LABEL_WORDS and any(id(word) in inside for word in phrase):
                    inside |= {id(word) for word in phrase}
    return [word for word in words if id(word) in inside]
