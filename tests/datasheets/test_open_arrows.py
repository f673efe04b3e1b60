"""Open arrows in a picture: two barbs at the end of a line, where it comes to a line across."""

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter

from eider.datasheets.recognition.open_arrows import find_open_arrows
from eider.datasheets.recognition.picture_marks import find_strokes
from eider.datasheets.recognition.picture_rules import DARK, find_rules, ink_of
from eider.datasheets.tables.value_reading import read_value

LEFT, RIGHT, LEVEL = 100, 320, 80


def dimension(barb: int, *, broken: bool = False, turned: bool = False) -> np.ndarray:
    """A line between two extension lines with barbs of 12 by so many pixels at both ends; without any for 0."""
    image = Image.new("L", (440, 200), 245)
    draw = ImageDraw.Draw(image)
    for x in (LEFT, RIGHT):
        draw.line([(x, 60), (x, 170)], fill=20, width=2)
    draw.line([(LEFT, LEVEL), (RIGHT, LEVEL)], fill=20, width=2)
    if broken:
        draw.rectangle([LEFT + 15, LEVEL - 1, LEFT + 20, LEVEL + 2], fill=245)
    for x, way in ((LEFT, 1), (RIGHT, -1)):
        for side in (-1, 1) if barb else ():
            draw.line([(x, LEVEL), (x + 12 * way, LEVEL + side * barb)], fill=20, width=2)
    if turned:
        image = image.transpose(Image.Transpose.TRANSPOSE)
    return np.asarray(image.filter(ImageFilter.GaussianBlur(0.5)))


def tips(picture: np.ndarray) -> set[tuple[int, int]]:
    """Where arrows point, to the ten pixels."""
    ink = ink_of(picture, DARK)
    strokes = [*find_rules(ink_of(picture)), *find_strokes(ink)]
    return {(round(a.tip[0] / 10), round(a.tip[1] / 10)) for a in find_open_arrows(ink, strokes)}


@pytest.mark.parametrize("barb", [4, 6])
@pytest.mark.parametrize("broken", [False, True])
def test_barbs_at_both_ends_are_arrows(barb: int, broken: bool) -> None:
    assert tips(dimension(barb, broken=broken)) == {(LEFT // 10, LEVEL // 10), (RIGHT // 10, LEVEL // 10)}


def test_barbs_that_point_up_and_down_are_arrows_as_well() -> None:
    assert tips(dimension(5, turned=True)) == {(LEVEL // 10, LEFT // 10), (LEVEL // 10, RIGHT // 10)}


def test_a_line_between_two_others_alone_has_none() -> None:
    assert tips(dimension(0)) == set()


def test_the_corners_of_boxes_are_no_arrows() -> None:
    image = Image.new("L", (300, 200), 245)
    draw = ImageDraw.Draw(image)
    draw.rectangle([40, 40, 260, 160], outline=20, width=2)
    for x in (80, 120, 160):
        draw.rectangle([x, 20, x + 10, 40], outline=20, width=2)
    assert tips(np.asarray(image)) == set()


@pytest.mark.parametrize(
    ("text", "read", "doubtful"),
    [
        ("100(2.54) BSC", "2.54 BSC", False),
        ("240-.260(6.10-6.60)", "6.10-6.60", False),
        (".016-020(0.41-0.51)", "0.41-0.51", False),
        ("175(4.9)MAX", "175 max in", True),
    ],
)
def test_a_dot_that_a_scan_lost_is_proved_by_the_millimetres(text: str, read: str, doubtful: bool) -> None:
    found = read_value(text, "in")
    assert (found.text, bool(found.doubt)) == (read, doubtful)
