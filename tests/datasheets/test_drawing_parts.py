"""What a drawing is made of: frames that are not of it, texts printed over each other, lines one behind another."""

from pathlib import Path

import pytest
from reportlab.pdfgen.canvas import Canvas

from drawn_figures import dimension
from eider.datasheets import Datasheet
from eider.datasheets.figures.drawing_frames import frames_round_drawings
from eider.datasheets.figures.drawing_texts import drawing_texts
from eider.datasheets.figures.figure_boxes import figure_boxes
from eider.datasheets.figures.figure_titles import drawing_titles
from eider.datasheets.figures.outline_drawings import OutlineDrawing, read_outlines_of_page
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.tables.cell_values import held_against
from eider.datasheets.tables.table_headings import limit_word
from eider.datasheets.tables.value_reading import read_value
from eider.symbols.pin_table import split_numbers


def word(text: str, x: float, y: float, size: float = 7.0) -> PageWord:
    """A word with its lower left corner at a place, half as wide a letter as it is high."""
    return PageWord(text, (x, y, x + 0.5 * size * len(text), y + size), size)


def read(path: Path) -> OutlineDrawing:
    drawing = read_outlines_of_page(Datasheet(path), 1, [])
    assert drawing is not None
    return drawing


def cards(path: Path, touching: bool) -> Datasheet:
    """Two cards, one over the other, each with a heading and a drawing; a line of one may touch its frame."""
    canvas = Canvas(str(path), invariant=1)
    for top, heading in ((800, "Package outline"), (560, "Suggested footprint")):
        canvas.rect(40, top - 220, 500, 220)
        canvas.setFont("Helvetica-Bold", 10)
        canvas.drawString(60, top - 15, heading)
        canvas.rect(100, top - 160, 80, 60)
        dimension(canvas, "x", (100, 180), top - 97, top - 80, "4.00")
        dimension(canvas, "y", (top - 160, top - 100), 183, 200, "3.00")
        canvas.line(100, top - 130, 40 if touching else 90, top - 130)
    canvas.save()
    return Datasheet(path)


@pytest.mark.parametrize(("touching", "frames"), [(False, 2), (True, 0)])
def test_a_frame_that_nothing_within_touches_is_round_a_drawing(tmp_path: Path, touching: bool, frames: int) -> None:
    page = cards(tmp_path / "cards.pdf", touching).read(1)
    assert len(frames_round_drawings(page.rulings)) == frames
    boxes = figure_boxes(page, [], drawing_titles(page))
    assert (len(boxes) == 2 and all(box[0] > 80 for box in boxes)) is not touching


def test_a_land_far_from_the_others_is_of_their_drawing(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "lands.pdf"), invariant=1)
    for x, y in ((100, 500), (100, 530), (100, 560), (190, 560)):
        canvas.rect(x, y, 30, 20)
    dimension(canvas, "x", (115, 205), 583, 600, "2.4")
    canvas.rect(190, 500, 30, 20)
    dimension(canvas, "y", (500, 520), 222, 236, "0.7")
    canvas.save()
    page = Datasheet(tmp_path / "lands.pdf").read(1)
    (box,) = figure_boxes(page, [], ())
    assert box[2] > 240
    assert box[1] < 501


def test_texts_printed_over_each_other_are_two() -> None:
    # The second begins a length of the text before the first one ends.
    over = [word("2.60", 0, 0), word("±0.10", 17, 0), word("4.00", 25, 0), word("±0.10", 42, 0)]
    assert [text.text for text in drawing_texts(over, "mm")] == ["2.60 ±0.10", "4.00 ±0.10"]
    beside = [word("2.60", 0, 0), word("±0.10", 17, 0)]
    assert [text.text for text in drawing_texts(beside, "mm")] == ["2.60 ±0.10"]


@pytest.mark.parametrize(
    ("words", "text"),
    [
        ([word("2.8", 0, 9), word("MAX.", 0, 0)], "2.8 max"),
        ([word("0.094", 0, 9), word("[2.40]", 19, 9), word("MAX", 0, 0)], "2.40 max"),
        ([word("2.8", 0, 9), word("MARK", 0, 0)], "2.8"),
        ([word("2.8", 0, 30), word("MAX.", 0, 0)], "2.8"),
    ],
)
def test_a_remark_under_a_length_is_of_it(words: list[PageWord], text: str) -> None:
    assert next(found.text for found in drawing_texts(words, "mm") if found.limits) == text


def test_letters_of_a_table_may_look_like_words() -> None:
    words = [word("MIE", 0, 0), word("TOP", 60, 0)]
    assert [text.letter for text in drawing_texts(words, "mm", {"MIE"})] == ["MIE"]
    assert drawing_texts(words, "mm") == ()


@pytest.mark.parametrize(("text", "is_reference"), [("(0.8)", True), ("0.8", False), ("2.0 (0.079)", False)])
def test_a_length_in_brackets_alone_is_a_reference(text: str, is_reference: bool) -> None:
    (found,) = drawing_texts([word(text, 0, 0)], "mm")
    assert found.is_reference is is_reference


def test_lengths_one_behind_the_other_on_one_level_keep_their_own_ends(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "views.pdf"), invariant=1)
    canvas.rect(60, 576, 63, 50)
    canvas.rect(60, 530, 63, 14)
    dimension(canvas, "y", (576, 626), 124, 139, "1.6±0.1")
    dimension(canvas, "y", (530, 544), 124, 139, "0.5 max")
    canvas.save()
    lengths = {x.text: (round(x.span.start), round(x.span.stop)) for x in read(tmp_path / "views.pdf").lengths}
    assert lengths == {"1.6±0.1": (576, 626), "0.5 max": (530, 544)}


@pytest.mark.parametrize(
    ("text", "word"),
    [("最小 Min.", "min"), ("標準 Nom.", "nom"), ("最大 / Max", "max"), ("最大 Min.", ""), ("最小", "min")],
)
def test_a_heading_in_two_scripts_says_one_thing(text: str, word: str) -> None:
    assert limit_word(text) == word


def test_inches_without_a_nominal_value_agree_by_their_ends() -> None:
    millimetres = read_value("min 6.70 nom 7.00 max 7.30", "mm")
    assert held_against(millimetres, "mm", read_value("0.264–0.287 in", "in"), "in").doubt == ""
    assert "do not agree" in held_against(millimetres, "mm", read_value("0.264–0.297 in", "in"), "in").doubt


@pytest.mark.parametrize(
    ("text", "numbers"), [("#1", ["1"]), ("Pin 3", ["3"]), ("No. 2, 4", ["2", "4"]), ("#CS", ["#CS"])]
)
def test_a_sign_before_a_number_is_not_of_it(text: str, numbers: list[str]) -> None:
    assert split_numbers(text) == numbers
