"""Rectangles on pages: tables that go on, turned ones, pages without text, places of values; clicks."""

from pathlib import Path

import pytest
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import Open, draw, tables_of
from eider.datasheets import Datasheet, DatasheetError
from eider.datasheets.documents.click_capture import read_length, read_words_at, word_at
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.table_capture import capture_table
from eider.datasheets.tables.value_labels import with_label
from eider.datasheets.tables.value_reading import cleaned, is_number
from eider.geometry.expressions import MM_PER_UNIT

TOLERANCE = 1e-6


def test_a_pin_table_is_followed_over_its_pages(opened: Open, sheets: Path) -> None:
    (table, *_) = tables_of(sheets, "NVK-U100P")
    first = table["places"][0]
    document = opened("NVK-U100P")
    whole = capture_table(document, first["page"], tuple(first["box"]), "pins")
    alone = capture_table(document, first["page"], tuple(first["box"]), "pins", follow=False)
    assert whole.pins
    assert alone.pins
    assert (len(whole.pins.rows), whole.continued) == (100, tuple(p["page"] for p in table["places"][1:]))
    assert 0 < len(alone.pins.rows) < 100
    assert {place.page for place in whole.places} == {p["page"] for p in table["places"]}


def test_a_table_that_ends_is_not_followed(opened: Open, sheets: Path) -> None:
    pins, dimensions = tables_of(sheets, "NVK-1216T")
    for table in (pins, dimensions):
        place = table["places"][0]
        assert capture_table(opened("NVK-1216T"), place["page"], tuple(place["box"])).continued == ()


def test_each_value_keeps_the_place_where_it_stands(opened: Open, sheets: Path) -> None:
    for name in ("NVK-1216T", "OHC-125"):
        table = tables_of(sheets, name)[1]
        place = table["places"][0]
        document = opened(name)
        found = capture_table(document, place["page"], tuple(place["box"]))
        text = document.read(place["page"])
        assert found.dimensions
        for row, at in zip(found.dimensions.rows, found.places, strict=True):
            inside = {cleaned(word.text) for word in text.words if holds(at.box, word.box)}
            assert set(row.seen.split()) <= inside, (name, row.letter)


def test_a_rectangle_without_text_says_so(opened: Open) -> None:
    with pytest.raises(DatasheetError, match="no text lies in the rectangle on page 1; draw"):
        capture_table(opened("NVK-1216T"), 1, (5, 5, 20, 20))
    with pytest.raises(DatasheetError, match="no page 9; it has 4"):
        capture_table(opened("NVK-1216T"), 9, (5, 5, 20, 20))


def test_a_page_of_pictures_says_to_type(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "scan.pdf"))
    canvas.rect(100, 100, 200, 200)
    canvas.showPage()
    canvas.save()
    document = Datasheet(tmp_path / "scan.pdf")
    with pytest.raises(DatasheetError, match="it has none at all: type the values"):
        capture_table(document, 1, (50, 50, 400, 400))
    assert document.read(1).words == ()
    document.close()


def test_a_cut_out_shows_the_place_and_refuses_one_outside(opened: Open) -> None:
    document = opened("NVK-1216T")
    pixels = document.snippet(3, (60, 230, 200, 395), 2.0)
    assert pixels.shape == pytest.approx((330, 280, 3), abs=3)
    assert pixels.min() < 100
    with pytest.raises(DatasheetError, match="outside page 3"):
        document.snippet(3, (2000, 2000, 2100, 2100), 1.0)


def test_a_document_that_was_closed_says_so(sheets: Path) -> None:
    document = Datasheet(sheets / "LYN-C.pdf")
    document.close()
    with pytest.raises(DatasheetError, match="was closed"):
        document.read(1)


@pytest.mark.parametrize(
    ("name", "index"),
    [
        ("NVK-1216T", 1),
        ("NVK-U100P", 1),
        ("NVK-4GT", 1),
        ("BRM-L18", 1),
        ("BRM-PT6", 1),
        ("LYN-Y32", 0),
        ("OHC-125", 0),
    ],
)
def test_a_click_on_any_number_of_a_table_gives_its_row(name: str, index: int, opened: Open, sheets: Path) -> None:
    table = tables_of(sheets, name)[index]
    place, per = table["places"][0], MM_PER_UNIT[table["unit"]]
    page = opened(name).read(place["page"])
    true = {row["letter"]: row for row in table["rows"]}
    numbers = [w for w in page.words if holds(tuple(place["box"]), w.box) and is_number(cleaned(w.text))]
    assert len(numbers) >= len(true)
    for word in numbers:
        first = read_length(page, *word.middle).candidates[0]
        assert first.letter in true, (word.text, first)
        assert first.limits is not None
        for limit in ("min", "nom", "max"):
            wanted, got = true[first.letter][limit], getattr(first.limits, limit)
            assert (wanted is None) == (got is None)
            assert wanted is None or got == pytest.approx(wanted * per, abs=TOLERANCE)


def page_of(tmp_path: Path, *texts: tuple[float, float, str], turn: bool = False) -> PageText:
    canvas = Canvas(str(tmp_path / "drawing.pdf"), pagesize=(400, 400))
    canvas.setFont("Helvetica", 10)
    for x, y, text in texts:
        canvas.saveState()
        canvas.translate(x, y)
        canvas.rotate(90 if turn else 0)
        canvas.drawString(0, 0, text)
        canvas.restoreState()
    canvas.showPage()
    canvas.save()
    document = Datasheet(tmp_path / "drawing.pdf")
    page = document.read(1)
    document.close()
    return page


def test_a_dimension_on_a_drawing_is_read_whole(tmp_path: Path) -> None:
    page = page_of(tmp_path, (100, 300, "5.80 – 6.20"), (100, 200, "1.27 BSC"), (100, 100, "0.41 ±0.10"))
    for x, y, text in ((105, 303, "5.80 – 6.20"), (105, 203, "1.27 BSC"), (105, 103, "0.41 ±0.10")):
        click = read_length(page, x, y)
        assert click.is_clear
        assert click.candidates[0].text == text.replace(" – ", " – ")


def test_a_turned_dimension_is_read_too(tmp_path: Path) -> None:
    page = page_of(tmp_path, (100, 200, "4.90 ±0.10"), turn=True)
    click = read_length(page, 97, 210)
    assert click.is_clear
    limits = click.candidates[0].limits
    assert limits is not None
    assert (limits.min, limits.max) == (pytest.approx(4.8), pytest.approx(5.0))


def test_limits_over_each_other_are_asked_about(tmp_path: Path) -> None:
    page = page_of(tmp_path, (100, 212, "6.60"), (100, 200, "6.20"))
    click = read_length(page, 105, 203)
    assert not click.is_clear
    assert {c.text for c in click.candidates} == {"6.20", "6.20–6.60"}


def test_a_click_beside_everything_reads_nothing(tmp_path: Path) -> None:
    page = page_of(tmp_path, (100, 200, "6.20"))
    assert read_length(page, 300, 50).candidates == ()
    assert word_at(page, 300, 50) is None
    assert read_words_at(page, 300, 50).candidates == ()


def test_a_text_field_gets_the_phrase_and_the_word_besides(tmp_path: Path) -> None:
    page = page_of(tmp_path, (100, 200, "Norrvik Semi"))
    assert [c.text for c in read_words_at(page, 105, 203).candidates] == ["Norrvik Semi", "Norrvik"]


def test_the_label_before_a_value_is_cut_out_with_it(tmp_path: Path) -> None:
    box = draw(tmp_path / "a.pdf", [["Symbol", "Min"], ["HD", "15.8"]])
    document = Datasheet(tmp_path / "a.pdf")
    page = document.read(1)
    document.close()
    value = next(word for word in page.words if word.text == "15.8")
    label = next(word for word in page.words if word.text == "HD")
    assert with_label(page, value.box)[0] == pytest.approx(label.box[0])
    assert with_label(page, (0, 0, 1, 1)) == (0, 0, 1, 1)
    assert box[0] < label.box[0]
