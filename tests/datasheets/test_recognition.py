"""Pages that are pictures: straightened, rules taken out, words recognised, kept, and read like any other page."""

import hashlib
import math
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from eider.datasheets import Datasheet
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.recognition import recognising_process
from eider.datasheets.recognition.known_recognition import KnownRecognition, recognition_folder
from eider.datasheets.recognition.page_recognition import mended_texts, picture_scale
from eider.datasheets.recognition.page_straightening import askew_by, straight_cut_out, straightened
from eider.datasheets.recognition.picture_rules import find_rules, ink_of, without_rules
from eider.datasheets.recognition.recognised_page import (
    RECOGNISED,
    RECOGNISER,
    RecognisedPage,
    is_recognised_within,
    places_of,
    with_witnesses,
)
from eider.datasheets.recognition.recognising_process import Recogniser, RecognitionError
from eider.datasheets.tables.pin_tables import PinRow, with_letters_for_digits
from eider.datasheets.tables.table_capture import capture_table
from eider.services.datasheets.datasheet_contents import find_in_datasheet
from eider.services.datasheets.page_recognition import recognise_page_of
from eider.services.tasks import CancelledError, Task

DPI = 200
ROWS = (
    ("Symbol", "Min", "Max"),
    ("A", "1.35", "1.75"),
    ("A1", "0.10", "0.25"),
    ("b", "0.31", "0.51"),
    ("D", "4.80", "5.00"),
    ("E", "5.80", "6.20"),
)


def picture_of_table(*, ruled: bool = True, rows: tuple[tuple[str, ...], ...] = ROWS) -> Image.Image:
    """A table at 200 dpi: columns 180 and rows 48 pixels, 60 from the left and the top."""
    image = Image.new("L", (700, 60 * 2 + 48 * len(rows)), 255)
    draw = ImageDraw.Draw(image)
    font = ImageFont.load_default(26)
    for r, row in enumerate(rows):
        for c, text in enumerate(row):
            draw.text((60 + 180 * c + 20, 60 + 48 * r + 8), text, fill=0, font=font)
    if ruled:
        for r in range(len(rows) + 1):
            draw.line([(60, 60 + 48 * r), (600, 60 + 48 * r)], fill=0, width=2)
        for c in range(4):
            draw.line([(60 + 180 * c, 60), (60 + 180 * c, 60 + 48 * len(rows))], fill=0, width=2)
    return image


def scan(path: Path, *pictures: Image.Image) -> Path:
    pictures[0].save(path, "PDF", resolution=DPI, save_all=True, append_images=list(pictures[1:]))
    return path


def word(text: str, x: float = 10, y: float = 10, confidence: float = 0.9) -> PageWord:
    return PageWord(text, (x, y, x + 6 * len(text), y + 10), 10, confidence=confidence)


@pytest.mark.parametrize("degrees", [-2.3, -0.6, 0.35, 1.8])
def test_a_page_askew_is_straightened_to_a_tenth_of_a_degree(degrees: float) -> None:
    page = Image.new("L", (1700, 2200), 250)
    page.paste(picture_of_table(rows=ROWS * 6), (200, 150))
    askew = page.rotate(degrees, Image.Resampling.BICUBIC, fillcolor=250)
    found = askew_by(np.asarray(askew))
    assert found == pytest.approx(-degrees, abs=0.1)


def test_a_straight_page_and_an_empty_one_are_left_as_they_are() -> None:
    assert askew_by(np.asarray(picture_of_table(rows=ROWS * 4))) == 0.0
    assert askew_by(np.full((1000, 700), 255, dtype=np.uint8)) == 0.0


def test_rules_are_found_at_their_places_and_taken_out_with_the_letters_left() -> None:
    picture = np.asarray(picture_of_table())
    rules = find_rules(ink_of(picture))
    across = sorted(round((rule.top + rule.bottom) / 2) for rule in rules if rule.across)
    upright = sorted(round((rule.left + rule.right) / 2) for rule in rules if not rule.across)
    assert across == pytest.approx([60 + 48 * r for r in range(7)], abs=1)
    assert upright == pytest.approx([60, 240, 420, 600], abs=1)
    bare = without_rules(picture, rules)
    letters = np.asarray(picture_of_table(ruled=False))
    assert int((bare < 128).sum()) == int((letters < 128).sum())


def test_strokes_of_letters_are_no_rules() -> None:
    image = Image.new("L", (900, 300), 255)
    ImageDraw.Draw(image).text((20, 20), "EHTL 1111", fill=0, font=ImageFont.load_default(54))
    assert find_rules(ink_of(np.asarray(image))) == []


def test_a_cut_out_of_a_page_askew_shows_what_the_straightened_page_has_there() -> None:
    """By an independent way: the whole page is turned, and the box cut out of it."""
    page = picture_of_table(rows=ROWS * 3).rotate(-1.5, Image.Resampling.BICUBIC, fillcolor=255)
    whole, (wide, high) = np.asarray(page), page.size

    def draw(crop: tuple[float, float, float, float]) -> np.ndarray:
        left, low, right, top = crop
        return whole[round(top) : round(high - low), round(left) : round(wide - right)]

    box = (60.0, 150.0, 420.0, 260.0)
    cut = straight_cut_out(box, (wide, high), 1.5, 1.0, draw)
    expected = straightened(whole, 1.5)[150:260, 60:420]
    assert cut.shape == expected.shape
    # The pixels of two ways of turning stray by one at the edges of letters.
    assert np.abs(cut.astype(int) - expected.astype(int)).mean() < 8


def test_a_dash_and_the_zero_of_a_series_are_put_right_where_the_page_tells_how() -> None:
    assert mended_texts(["一", "AO", "A1", "A2"]) == ["–", "A0", "A1", "A2"]
    assert mended_texts(["DO", "D1", "GO", "NO"]) == ["DO", "D1", "GO", "NO"]
    assert mended_texts(["MDO", "MD1", "SDO"]) == ["MD0", "MD1", "SDO"]


def test_an_earlier_recognition_that_reads_the_same_at_the_place_is_a_witness() -> None:
    seen = (word("1.27", x=10), word("0.51", x=80), word("4.80", x=150))
    unseen = (word("1.27", x=11), word("0.31", x=80), word("4.80", x=400))
    assert [w.confidence for w in with_witnesses(seen, unseen)] == [1.0, 0.9, 0.9]


def test_only_what_was_recognised_is_marked_within_a_box() -> None:
    words = [word("1.27", x=10, confidence=1.0), word("0.51", x=80)]
    assert not is_recognised_within(words, (0, 0, 60, 30))
    assert is_recognised_within(words, (0, 0, 130, 30))


def test_words_of_a_recognised_page_are_searched_whatever_their_case() -> None:
    words = [word("Thermal", 10, 50), word("PAD", 70, 50), word("size", 10, 20)]
    assert list(places_of("thermal pad", words)) == [((words[0].box, words[1].box), "Thermal PAD")]
    assert list(places_of("pad size", words)) == []


def test_a_recognised_page_is_kept_by_the_sum_of_its_document(tmp_path: Path) -> None:
    document = scan(tmp_path / "old.pdf", picture_of_table())
    page = RecognisedPage(1, 0.5, (word("A"),), ())
    KnownRecognition(document).keep(page)
    copy = tmp_path / "copy.pdf"
    copy.write_bytes(document.read_bytes())
    assert KnownRecognition(copy).page(1) == page
    assert KnownRecognition(copy).page(2) is None
    other = scan(tmp_path / "other.pdf", picture_of_table(ruled=False))
    assert KnownRecognition(other).page(1) is None


def test_what_is_damaged_or_of_an_older_recogniser_is_recognised_anew(tmp_path: Path) -> None:
    document = scan(tmp_path / "old.pdf", picture_of_table(rows=ROWS[:4]))
    KnownRecognition(document).keep(RecognisedPage(1, 0.0, (), (), RECOGNISER - 1))
    assert KnownRecognition(document).page(1) is None
    (kept,) = recognition_folder_of(document).iterdir()
    kept.write_text("{")
    assert KnownRecognition(document).page(1) is None


def recognition_folder_of(document: Path) -> Path:
    return recognition_folder() / hashlib.sha256(document.read_bytes()).hexdigest()


def test_a_scan_is_a_picture_until_it_was_recognised(tmp_path: Path) -> None:
    path = scan(tmp_path / "scan.pdf", picture_of_table(rows=ROWS[:3]))
    datasheet = Datasheet(path)
    assert datasheet.read(1).is_picture
    assert datasheet.read(1).words == ()
    datasheet.recognition.keep(RecognisedPage(1, 0.0, (word("A1"),), ()))
    page = datasheet.read(1)
    assert not page.is_picture
    assert [w.text for w in page.words] == ["A1"]
    assert datasheet.text(1) == "A1"
    assert [hit.boxes for hit in datasheet.search("a1")] == [(page.words[0].box,)]


def test_a_table_in_a_scan_is_read_with_a_doubt_about_every_row(tmp_path: Path) -> None:
    """The whole way, the engine in its own process: printed askew, found, every limit as printed."""
    page = Image.new("L", (800, 560), 255)
    page.paste(picture_of_table(), (40, 60))
    path = scan(tmp_path / "scan.pdf", page.rotate(0.9, Image.Resampling.BICUBIC, fillcolor=255))
    contents = find_in_datasheet(path)
    assert contents.recognised == (1,)
    assert contents.not_recognised == ()
    (table,) = [item for item in contents.found if item.kind == "dimensions"]
    datasheet = Datasheet(path)
    read = capture_table(datasheet, 1, table.box, "dimensions").dimensions
    assert read is not None
    assert {row.letter: (row.limits.min, row.limits.max) for row in read.rows if row.limits} == {
        letter: (float(low), float(high)) for letter, low, high in ROWS[1:]
    }
    assert {row.doubt for row in read.rows} == {RECOGNISED}
    # The cut-out shows the page straightened: rows of the table are rows of the picture.
    x0, y0, x1, y1 = table.box
    cut = datasheet.snippet(1, (x0, y0 - 4, x1, y1 + 4), 200 / 72)
    dark = (cut[:, :, 0] < 128).mean(axis=1)
    assert (dark > 0.6).any()


def test_what_cannot_be_recognised_is_told_with_the_page_and_the_reason(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = scan(tmp_path / "scan.pdf", picture_of_table())
    monkeypatch.setattr(recognising_process, "is_engine_installed", lambda: False)
    contents = find_in_datasheet(path)
    assert contents.found == ()
    assert [(fault.page, "eider[recognition]" in fault.why) for fault in contents.not_recognised] == [(1, True)]
    assert "page 1 not read" in contents.page_notes[0]
    with pytest.raises(RecognitionError, match="recognition"):
        recognise_page_of(Datasheet(path), 1)


def test_a_page_that_takes_too_long_is_given_up_and_the_next_is_read(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = scan(tmp_path / "scan.pdf", picture_of_table(rows=ROWS[:3]))
    with Recogniser(path) as recogniser:
        monkeypatch.setattr(recognising_process, "LONGEST_PAGE_S", 0.0)
        with pytest.raises(RecognitionError, match="page 1 of scan.pdf takes more than"):
            recogniser.page(1)
        monkeypatch.setattr(recognising_process, "LONGEST_PAGE_S", 60)
        assert recogniser.page(1).page == 1
        with pytest.raises(RecognitionError, match="page 7 of scan.pdf cannot be recognised"):
            recogniser.page(7)


def test_recognition_is_cancelled_at_once(tmp_path: Path) -> None:
    path = scan(tmp_path / "scan.pdf", picture_of_table())
    task = Task()
    datasheet = Datasheet(path)
    task.cancel()
    with pytest.raises(CancelledError):
        recognise_page_of(datasheet, 1, task)
    assert datasheet.read(1).is_picture


def test_a_rectangle_outside_of_the_page_is_refused(tmp_path: Path) -> None:
    path = scan(tmp_path / "scan.pdf", picture_of_table())
    with pytest.raises(DatasheetError, match="outside page 1"):
        Datasheet(path).snippet(1, (-100, -100, -20, -20), 2.0)
    assert math.isclose(Datasheet(path).sizes[0][0], 700 / DPI * 72, rel_tol=0.01)


def test_a_watermark_beside_a_rule_leaves_it_a_rule() -> None:
    picture = picture_of_table(rows=ROWS * 2)
    ImageDraw.Draw(picture).line([(430, 80), (500, 600)], fill=190, width=26)
    rules = find_rules(ink_of(np.asarray(picture)))
    upright = sorted(round((rule.left + rule.right) / 2) for rule in rules if not rule.across)
    assert [x for x in (60, 240, 420, 600) if any(abs(x - found) <= 2 for found in upright)] == [60, 240, 420, 600]


def test_a_page_larger_than_a3_is_recognised_at_fewer_dots() -> None:
    """A4 at 200 dpi: 200 / 72 pixels a point; a page of 6800 points takes half a pixel a point."""
    assert picture_scale((595.0, 842.0)) == pytest.approx(200 / 72)
    assert picture_scale((300.0, 6800.0)) == pytest.approx(0.5)


def test_no_pin_is_called_by_a_number() -> None:
    box = (0.0, 0.0, 1.0, 1.0)
    names = ["100", "101", "SCL"]
    read = [PinRow({"number": str(n), "name": name}, box, name, RECOGNISED) for n, name in enumerate(names)]
    assert [row.cells["name"] for row in with_letters_for_digits(read)] == ["IO0", "IO1", "SCL"]
    assert [row.cells["name"] for row in with_letters_for_digits(read[1:])] == ["101", "SCL"]
