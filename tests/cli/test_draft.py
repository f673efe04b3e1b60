"""The commands draft and capture --auto."""

from pathlib import Path

import pytest

from command_line import answer, eider
from drawn_tables import DUAL_ROWS, draw
from eider.library import Library


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    draw(tmp_path / "LYN-OP1.pdf", DUAL_ROWS)
    return tmp_path / "LYN-OP1.pdf"


def test_a_draft_is_a_working_copy_with_its_doubts(library: Library, sheet: Path) -> None:
    folder = str(library.folder)
    made = answer("draft", folder, sheet, "--category", "ic", "--package", "SOIC-8", status=1)
    assert (made["part"], made["family"], made["dims"]) == ("LYN-OP1", "gullwing-dual", 8)
    assert made["values"]["E"] == "5.80–6.20"
    assert [doubt["reason"] for doubt in made["doubts"]] == ["no table of pins was found"]
    assert library.find("LYN-OP1").state == "draft"


def test_what_is_to_be_confirmed_is_told_with_its_page(library: Library, sheet: Path) -> None:
    said = eider("draft", str(library.folder), sheet, "--name", "LYN-OP2", status=1).stdout
    assert said.startswith("LYN-OP2: 0 pins, gullwing-dual, 8 dimensions")
    assert "to confirm: sheet.family: Dual gull-wing" in said and "(page 1)" in said


def test_a_second_draft_of_the_same_name_is_refused(library: Library, sheet: Path) -> None:
    eider("draft", str(library.folder), sheet, "--package", "SOIC-8", status=1)
    said = eider("draft", str(library.folder), sheet, "--package", "SOIC-8", status=2).stderr
    assert "There is a part LYN-OP1 already" in said


def test_auto_tells_what_a_document_holds(sheet: Path) -> None:
    found = answer("capture", sheet, "--auto")["found"]
    assert [(item["kind"], item["page"], item["rows"]) for item in found] == [("dimensions", 1, 8)]
    assert "page 1: dimensions, 8 rows" in eider("capture", sheet, "--auto").stdout


def test_explain_tells_every_stage_of_a_page_in_words_and_as_data(sheet: Path) -> None:
    said = eider("capture", sheet, "--auto", "--explain").stdout
    assert "page 1: 39 words" in said
    assert "grid: 9 rows, 4 columns, ruled" in said
    assert "columns: symbol, min, nom, max" in said
    assert "is: table of dimensions, confidence 1.00; 8 of 8 rows have a letter and a length" in said
    (page,) = answer("capture", sheet, "--auto", "--explain")["explained"]["pages"]
    (block,) = page["blocks"]
    assert (block["kind"], block["rows"], block["columns"], block["good"]) == ("dimensions", 9, 4, 8)
    assert "explained" not in answer("capture", sheet, "--auto")


def test_explain_without_auto_is_refused(sheet: Path) -> None:
    assert "--auto" in eider("capture", sheet, "--explain", "--page", "1", "--box", "0,0,9,9", status=2).stderr
