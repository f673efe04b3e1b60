"""What is drawn in a picture: strokes and arrows, with their tips at the lines that they end at."""

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter

from eider.datasheets.recognition.letter_recognition import SeenWord
from eider.datasheets.recognition.page_recognition import joined_numbers
from eider.datasheets.recognition.picture_marks import find_arrows, find_strokes, without_words
from eider.datasheets.recognition.picture_rules import DARK, find_rules, ink_of

LEFT, RIGHT, LEVEL = 100, 320, 80


def dimension(*, noisy: bool = False, turned: bool = False) -> np.ndarray:
    """A dimension line between two extension lines with filled arrows inside, 14 pixels long and 8 wide."""
    image = Image.new("L", (440, 200), 245)
    draw = ImageDraw.Draw(image)
    for x in (LEFT, RIGHT):
        draw.line([(x, 40), (x, 170)], fill=20, width=2)
    draw.line([(LEFT, LEVEL), (RIGHT, LEVEL)], fill=20, width=2)
    for x, way in ((LEFT, 1), (RIGHT, -1)):
        draw.polygon([(x, LEVEL), (x + 14 * way, LEVEL - 4), (x + 14 * way, LEVEL + 4)], fill=20)
    if turned:
        image = image.transpose(Image.Transpose.TRANSPOSE)
    pixels = np.asarray(image.filter(ImageFilter.GaussianBlur(0.6)), dtype=np.float64)
    if noisy:
        pixels = pixels + np.random.default_rng(7).normal(0, 9, pixels.shape)
    return np.clip(pixels, 0, 255).astype(np.uint8)


@pytest.mark.parametrize("noisy", [False, True])
def test_the_arrows_of_a_dimension_line_point_at_its_extension_lines(noisy: bool) -> None:
    picture = dimension(noisy=noisy)
    strokes = [*find_rules(ink_of(picture)), *find_strokes(ink_of(picture, DARK))]
    arrows = sorted(find_arrows(ink_of(picture, DARK), strokes))
    assert len(arrows) == 2
    for arrow, tip, back in zip(arrows, (LEFT, RIGHT), (LEFT + 14, RIGHT - 14), strict=True):
        assert arrow.tip == pytest.approx((tip, LEVEL), abs=2.5)
        assert arrow.back[0][0] == pytest.approx(back, abs=3.5)


def test_arrows_that_point_up_and_down_are_found_as_well() -> None:
    picture = dimension(turned=True)
    strokes = [*find_rules(ink_of(picture)), *find_strokes(ink_of(picture, DARK))]
    tips = sorted(arrow.tip[1] for arrow in find_arrows(ink_of(picture, DARK), strokes))
    assert tips == pytest.approx([LEFT, RIGHT], abs=2.5)


def test_lines_and_squares_are_no_arrows() -> None:
    image = Image.new("L", (300, 200), 245)
    draw = ImageDraw.Draw(image)
    draw.line([(20, 50), (280, 50)], fill=20, width=3)
    draw.rectangle([100, 100, 116, 116], fill=20)
    picture = np.asarray(image)
    ink = ink_of(picture, DARK)
    assert list(find_arrows(ink, find_strokes(ink))) == []


def test_a_rule_that_noise_breaks_is_one() -> None:
    image = Image.new("L", (400, 120), 245)
    draw = ImageDraw.Draw(image)
    for start in range(20, 380, 60):
        draw.line([(start, 60), (start + 52, 60)], fill=20, width=2)
    (rule,) = find_rules(ink_of(np.asarray(image)))
    assert (rule.left, rule.right) == pytest.approx((20, 372), abs=3)


def test_the_ink_of_words_is_not_drawn() -> None:
    picture = dimension()
    ink = without_words(ink_of(picture), [SeenWord("5.00", (90, 30, 340, 180), 10, 0, 0.9)])
    assert not ink.any()


def seen(text: str, left: float, right: float, top: float = 10, quarters: int = 0) -> SeenWord:
    return SeenWord(text, (left, top, right, top + 20), 20, quarters, 0.9)


@pytest.mark.parametrize(
    ("words", "texts"),
    [
        ([seen("0", 10, 20), seen(".65", 22, 50)], ["0.65"]),
        ([seen("0.", 10, 24), seen("65", 26, 50)], ["0.65"]),
        ([seen("0.", 10, 24), seen(".65", 22, 50)], ["0.65"]),
        ([seen("0", 10, 20), seen("65", 22, 50)], ["0", "65"]),
        ([seen("1.27", 10, 40), seen("0.51", 44, 80)], ["1.27", "0.51"]),
        ([seen("0", 10, 20), seen(".65", 60, 90)], ["0", ".65"]),
        ([seen("0", 10, 20), seen(".65", 22, 50, top=30)], ["0", ".65"]),
        ([seen("0", 10, 20, quarters=1), seen(".65", 22, 50, quarters=1)], ["0", ".65"]),
        ([seen("A", 10, 20), seen(".65", 22, 50)], ["A", ".65"]),
    ],
)
def test_the_parts_of_a_number_beside_each_other_are_one(words: list[SeenWord], texts: list[str]) -> None:
    assert [word.text for word in joined_numbers(words)] == texts
