"""What is before a value in its line: the letter that names it, without which a cut-out proves little."""

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds, joined, turned
from eider.datasheets.pages.page_words import straight
from eider.geometry.plane import Box

# Points: a wider gap parts a value from what is before it, and so far back is looked at most.
FARTHEST, BACK = 90.0, 220.0


def with_label(page: PageText, box: Box) -> Box:
    """The box of a value, widened to the words before it in its line."""
    inside = next((word for word in page.words if holds(box, word.box)), None)
    if inside is None:
        return box
    turn = inside.quarters
    whole = turned(box, turn)
    words = [straight(word, turn) for word in page.words if word.quarters == turn]
    line = [w for w in words if whole[1] <= w.middle[1] <= whole[3] and w.box[2] <= whole[0] + 1]
    for word in sorted(line, key=lambda w: -w.box[2]):
        if whole[0] - word.box[2] > FARTHEST or turned(box, turn)[0] - word.box[0] > BACK:
            break
        whole = joined(whole, word.box)
    return turned(whole, -turn)
