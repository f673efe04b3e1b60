"""How a page is understood before anything is read in it: furniture, sections, headings, titles, lists and notes."""

import math
from collections.abc import Sequence
from contextlib import closing
from pathlib import Path

import pytest
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.document_title import document_title
from eider.datasheets.documents.package_names import packages_named, plain_package
from eider.datasheets.figures.drawing_notes import general_tolerance
from eider.datasheets.figures.pin_lists import listed_pins
from eider.datasheets.layout.page_furniture import without_furniture
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.tables.table_capture import capture_table

Placed = tuple[float, float, str]
PINS = [["Pin", "Name", "Function"], ["1", "IN", "Supply"], ["2", "GND", "Ground"], ["3", "OUT", "Output"]]


def page_of(canvas: Canvas, texts: Sequence[Placed], size: float = 9) -> None:
    canvas.setFont("Helvetica", size)
    for x, y, text in texts:
        canvas.drawString(x, y, text)


def rows_at(rows: Sequence[Sequence[str]], top: float, *columns: float, step: float = 14) -> list[Placed]:
    return [(x, top - step * k, text) for k, row in enumerate(rows) for x, text in zip(columns, row, strict=True)]


def written(path: Path, *pages: Sequence[Placed], watermark: str = "") -> Datasheet:
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    for texts in pages:
        page_of(canvas, texts)
        if watermark:
            canvas.saveState()
            canvas.translate(150, 300)
            canvas.rotate(45)
            page_of(canvas, [(0, 0, watermark)], 90)
            canvas.restoreState()
        canvas.showPage()
    canvas.save()
    return Datasheet(path)


def kinds(datasheet: Datasheet) -> list[tuple[str, int]]:
    return [(item.kind, item.rows) for item in survey(datasheet)]


def test_tables_under_headings_of_their_own_are_two(tmp_path: Path) -> None:
    orders = [["Part number", "Package", "Packing"], ["KEL-100-TR", "SO-8", "reel"], ["KEL-100-TU", "SO-8", "tube"]]
    texts = [
        (60, 600, "Ordering information"),
        *rows_at(orders, 585, 60, 200, 330),
        (60, 520, "Pin functions"),
        *rows_at(PINS, 505, 60, 200, 330),
    ]
    with closing(written(tmp_path / "a.pdf", texts)) as datasheet:
        assert kinds(datasheet) == [("ordering", 2), ("pins", 3)]


def test_tables_side_by_side_under_headings_of_their_own_are_two(tmp_path: Path) -> None:
    levels = [
        ["#", "Symbol", "Min", "Max"],
        ["1", "VIH", "2.4", "5.5"],
        ["2", "VIL", "0", "0.8"],
        ["3", "IIN", "-1", "1"],
    ]
    texts = [
        (60, 600, "PINS"),
        (330, 600, "STATIC DATA"),
        *rows_at(PINS, 585, 60, 110, 180),
        *rows_at(levels, 585, 330, 360, 420, 470),
    ]
    with closing(written(tmp_path / "a.pdf", texts)) as datasheet:
        (pins,) = [item for item in survey(datasheet) if item.kind == "pins"]
        read = capture_table(datasheet, 1, pins.box, "pins").pins
    assert read
    assert [row.cells["name"] for row in read.rows] == ["IN", "GND", "OUT"]


def test_a_watermark_is_no_text_of_a_table(tmp_path: Path) -> None:
    with closing(written(tmp_path / "a.pdf", rows_at(PINS, 520, 60, 200, 330), watermark="PRELIMINARY")) as datasheet:
        assert not any(
            "PRELIM" in word.text or (len(word.text) == 1 and word.size > 50) for word in datasheet.read(1).words
        )
        assert kinds(datasheet) == [("pins", 3)]


def test_letters_a_little_askew_are_text(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    canvas.rotate(math.degrees(0.1))
    page_of(canvas, [(100, 500, "askew")])
    canvas.save()
    with closing(Datasheet(tmp_path / "a.pdf")) as datasheet:
        assert "".join(word.text for word in datasheet.read(1).words) == "askew"


def test_frame_head_and_foot_leave_the_page(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    for number in (1, 2):
        canvas.rect(25, 25, 545, 792)
        page_of(canvas, [(12, 400, "C"), (300, 10, "5")])
        page_of(canvas, [(60, 800, "KEL-100 data"), (60, 32, f"Page {number} of 2"), (60, 500, "Text of its own")])
        canvas.showPage()
    canvas.save()
    with closing(Datasheet(tmp_path / "a.pdf")) as datasheet:
        bare = without_furniture(datasheet.read(1), [datasheet.read(2)])
        assert [word.text for word in bare.words] == ["Text", "of", "its", "own"]
        assert bare.rulings == ()
        assert [word.text for word in without_furniture(datasheet.read(1)).words][:2] == ["KEL-100", "data"]


def test_a_heading_beside_the_texts_of_its_column_is_of_that_column(tmp_path: Path) -> None:
    rows = [["PIN", "NAME", "FUNCTION"], *([str(n), f"A{n}", "Address input"] for n in range(1, 7))]
    texts = [(x + (60 if y == 600 and x == 330 else 0), y, text) for x, y, text in rows_at(rows, 600, 60, 200, 330)]
    with closing(written(tmp_path / "a.pdf", texts)) as datasheet:
        (pins,) = [item for item in survey(datasheet) if item.kind == "pins"]
        read = capture_table(datasheet, 1, pins.box, "pins").pins
    assert read
    assert read.columns == ("number", "name", "description")


def test_numbers_that_do_not_run_on_are_no_pins(tmp_path: Path) -> None:
    colours = [
        ["Part", "Colour", "Intensity"],
        ["KLR-1", "Red", "120"],
        ["KLR-2", "Green", "350"],
        ["KLR-3", "Blue", "90"],
    ]
    with closing(written(tmp_path / "a.pdf", rows_at(colours, 600, 60, 200, 330))) as datasheet:
        assert [kind for kind, _ in kinds(datasheet)].count("pins") == 0


@pytest.mark.parametrize(
    ("lines", "name", "found"),
    [
        (["KEL-1200", "Octal transparent latch"], "KEL-1200-TR", ("KEL-1200", "Octal transparent latch")),
        (["Dual low-power amplifier", "KEL-1200", "FEATURES"], "", ("KEL-1200", "Dual low-power amplifier")),
        (["Clock oscillator, 5 x 3.2 mm KEL-1200"], "", ("KEL-1200", "Clock oscillator, 5 x 3.2 mm")),
        (["KEL-1200", "• Low offset voltage"], "", ("KEL-1200", "")),
        (["This document has no name"], "", ("", "")),
    ],
)
def test_a_title_is_the_name_and_what_stands_beside_it(
    tmp_path: Path, lines: list[str], name: str, found: tuple[str, str]
) -> None:
    with closing(written(tmp_path / "a.pdf", [(60, 760 - 18 * k, line) for k, line in enumerate(lines)])) as datasheet:
        title = document_title(datasheet.read(1), name)
    assert (title.name, title.description) == found


@pytest.mark.parametrize(
    ("lines", "names"),
    [
        (["STYLE 6:", "PIN 1. BASE", "PIN 2. EMITTER", "PIN 3. COLLECTOR"], ["BASE", "EMITTER", "COLLECTOR"]),
        (["Pin configuration", "1. Anode", "2. Cathode"], ["Anode", "Cathode"]),
        (["Tolerance ±0.1 unless noted. (1) Cathode (2) Anode"], ["Cathode", "Anode"]),
        (["NOTES:", "1. Dimensions are in millimetres and do not include flash", "2. Plating"], []),
        (["Features of the pin", "1. Low power", "3. Small"], []),
    ],
)
def test_pins_in_a_list_are_numbered_from_1(tmp_path: Path, lines: list[str], names: list[str]) -> None:
    with closing(written(tmp_path / "a.pdf", [(60, 700 - 14 * k, line) for k, line in enumerate(lines)])) as datasheet:
        pins = listed_pins(datasheet.read(1))
    assert [pin.name for pin in pins] == names
    assert [pin.number for pin in pins] == [str(n) for n in range(1, len(names) + 1)]


@pytest.mark.parametrize(
    ("text", "tolerance"),
    [
        ("Tolerance is ±0.1 mm unless otherwise noted", "0.1"),
        ("TOL. ±0,2", "0.2"),
        ("tolerance ±0.005 in", ""),
        ("Toleranz: ±0.15", "0.15"),
        ("Angles ±1°", ""),
    ],
)
def test_a_note_gives_all_lengths_a_tolerance(text: str, tolerance: str) -> None:
    words = [PageWord(word, (10.0 * k, 0.0, 10.0 * k + 9, 8.0), 8.0) for k, word in enumerate(text.split())]
    assert general_tolerance(words) == tolerance


@pytest.mark.parametrize(
    ("text", "named"),
    [
        ("６４ピン LQFP (10×10)", ["LQFP-64"]),
        ("TO-252 (DPAK), 3 leads", ["TO-252", "DPAK"]),
        ("4-PIN DIP PHOTOTRANSISTOR", ["DIP-4"]),
        ("DO-214AC (SMA), molded", ["DO-214AC", "SMA"]),
        ("SON5x6 beside SO-8", ["SON5x6", "SO-8"]),
        ("64LQFP (10×10)", ["LQFP-64"]),
        ("64ピン・プラスチック LQFP（10×10）", ["LQFP-64"]),
        ("SKR-64DIP", []),
    ],
)
def test_packages_are_known_by_many_names(text: str, named: list[str]) -> None:
    assert packages_named(text) == named


def test_names_that_mean_one_package_are_one() -> None:
    assert plain_package("TO-252") == plain_package("DPAK")
    assert plain_package("DO-214AC") == plain_package("SMA")
    assert plain_package("SO-8") == plain_package("SOIC8")
    assert plain_package("UFQFPN48") == plain_package("QFN-48")
    assert plain_package("SO-8") != plain_package("SON-8")
