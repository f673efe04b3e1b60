from pathlib import Path

import pytest

from eider.datasheets import Datasheet, DatasheetError
from eider.demo.data import converter
from eider.demo.sheets import write_converter_datasheet


@pytest.fixture(scope="module")
def pdf(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("pdf") / "NVK-1216T.pdf"
    write_converter_datasheet(path)
    return path


def test_pages_text_and_picture(pdf: Path) -> None:
    document = Datasheet(pdf)
    assert document.pages == 4
    assert "Norrvik Semi" in document.text(1)
    picture = document.picture(3, 0.5)
    assert picture.shape == (421, 298, 3)
    assert picture.min() < 100 < picture.max()
    document.close()


def test_search_finds_every_place_whatever_the_case(pdf: Path) -> None:
    document = Datasheet(pdf)
    hits = document.search("pwrdn")
    # In the table of pins, and in the pinout figure below it.
    assert [hit.page for hit in hits] == [2, 2]
    x0, y0, x1, y1 = hits[0].boxes[0]
    assert 0 < x0 < x1 < 596
    assert 0 < y0 < y1 < 842
    assert document.search("unheard-of") == document.search("  ") == []
    document.close()


def test_the_datasheet_shows_the_true_values(pdf: Path) -> None:
    document = Datasheet(pdf)
    text = document.text(converter().outline_page)
    # Norrvik's letter for the span is H; its limits are in the row.
    assert any(line.split()[:2] == ["H", "6.20"] and "6.60" in line for line in text.splitlines())
    document.close()


@pytest.mark.parametrize("content", [b"", b"%PDF-1.7 broken", b"\x00" * 2000])
def test_a_damaged_file_is_told(content: bytes, tmp_path: Path) -> None:
    path = tmp_path / "bad.pdf"
    path.write_bytes(content)
    with pytest.raises(DatasheetError, match="damaged or no PDF"):
        Datasheet(path)


def test_a_locked_file_is_told(tmp_path: Path) -> None:
    from reportlab.lib.pdfencrypt import StandardEncryption
    from reportlab.pdfgen.canvas import Canvas

    path = tmp_path / "locked.pdf"
    canvas = Canvas(str(path), encrypt=StandardEncryption("secret", canPrint=0))
    canvas.drawString(100, 100, "hidden")
    canvas.save()
    with pytest.raises(DatasheetError, match="password"):
        Datasheet(path)


def test_a_missing_file_is_told(tmp_path: Path) -> None:
    with pytest.raises(DatasheetError, match="no longer exists"):
        Datasheet(tmp_path / "gone.pdf")
