"""Characters to words; characters are 5 wide and 10 high unless said otherwise."""

from hypothesis import given
from hypothesis import strategies as st

from eider.datasheets.pages.page_frame import PageFrame, around, turned
from eider.datasheets.pages.page_words import Char, read_words


def typed(text: str, x: float = 0.0, y: float = 0.0, size: float = 10.0, quarters: int = 0) -> list[Char]:
    """A run of characters from a place on; width is half of the size."""
    chars = []
    for letter in text:
        width = size / 2
        box = (x, y - 0.2 * size, x + width, y + 0.8 * size)
        if quarters == 1:
            box = (y - 0.8 * size, x, y + 0.2 * size, x + width)
        chars.append(Char(ord(letter), box, (x, y) if quarters == 0 else (y, x), size, quarters))
        x += width
    return chars


def texts(chars: list[Char]) -> list[str]:
    return [word.text for word in read_words(chars)]


def test_spaces_and_gaps_part_words() -> None:
    assert texts(typed("0.30 0.50")) == ["0.30", "0.50"]
    assert texts([*typed("0.30"), *typed("0.50", x=24.0)]) == ["0.30", "0.50"]
    assert texts([*typed("0.3"), *typed("0", x=15.3)]) == ["0.30"]


def test_a_line_below_is_another_word() -> None:
    assert texts([*typed("A1"), *typed("b", x=10.0, y=-14.0)]) == ["A1", "b"]


def test_a_raised_mark_is_no_digit_of_the_number() -> None:
    words = read_words([*typed("0.50"), *typed("2", x=20.0, y=4.0, size=6.0)])
    assert [(word.text, word.marks) for word in words] == [("0.50", "2")]


def test_a_lowered_figure_belongs_to_its_letter() -> None:
    assert texts([*typed("A"), *typed("1", x=5.0, y=-2.5, size=6.5)]) == ["A1"]


def test_ligatures_and_signs_are_taken_apart() -> None:
    assert texts(typed("con\ufb01g")) == ["config"]
    assert texts(typed("5\uf0b12")) == ["5±2"]
    assert texts(typed("a\u00adb\u200b")) in (["ab"], ["a", "b"])


def test_text_that_runs_up_is_read_in_its_direction() -> None:
    (word,) = read_words(typed("0.60", x=100.0, y=50.0, quarters=1))
    assert (word.text, word.quarters) == ("0.60", 1)
    assert word.box[3] - word.box[1] > word.box[2] - word.box[0]


@given(st.lists(st.sampled_from(["A1", "0.30", "BSC", "±", "max"]), max_size=8))
def test_words_come_back_in_order(words: list[str]) -> None:
    assert texts(typed(" ".join(words))) == words


BOXES = st.tuples(*[st.floats(0, 500)] * 4).map(
    lambda b: (min(b[0], b[2]), min(b[1], b[3]), max(b[0], b[2]), max(b[1], b[3]))
)


@given(BOXES, st.integers(-8, 8))
def test_a_turn_and_its_return_change_nothing(box: tuple[float, float, float, float], quarters: int) -> None:
    assert turned(turned(box, quarters), -quarters) == box


@given(BOXES, st.integers(0, 7), st.floats(0, 400), st.floats(0, 400))
def test_a_point_of_the_picture_is_found_on_the_page(
    crop: tuple[float, float, float, float], quarters: int, x: float, y: float
) -> None:
    frame = PageFrame(crop, quarters)
    u, v = frame.to_picture(x, y)
    back = frame.to_page(u, v)
    assert abs(back[0] - x) < 1e-6
    assert abs(back[1] - y) < 1e-6


def test_the_upper_left_corner_of_a_turned_page() -> None:
    # An upright page of 100 × 200; turned clockwise once its lower left corner is the picture's upper left.
    assert PageFrame((0, 0, 100, 200)).to_picture(0, 200) == (0, 0)
    assert PageFrame((0, 0, 100, 200), 1).to_picture(0, 0) == (0, 0)
    assert PageFrame((0, 0, 100, 200), 1).size == (200, 100)
    assert PageFrame((10, 20, 110, 220)).to_picture(10, 220) == (0, 0)


def test_a_narrow_box_gets_room_on_both_sides() -> None:
    assert around((100, 50, 120, 60), margin=4, least=60) == (80, 46, 140, 64)
