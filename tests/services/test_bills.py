"""A design's list becomes a bill: columns assigned and kept, doubts told, written as a workbook with real numbers."""

from pathlib import Path

import openpyxl
import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.errors import InputError
from eider.library import Library
from eider.model.library import BillColumn
from eider.services.bills import bill_columns, keep_meanings, make_bill, open_list, write_bill

LIST = 'Item,Where,What,Qty\n1,"C1, C2",100 nF,2\n2,C3,nothing,1\n'


@pytest.fixture
def parts(tmp_path: Path) -> Path:
    path = tmp_path / "parts.csv"
    path.write_text(LIST, encoding="utf-8")
    return path


def test_columns_are_assigned_and_kept(library: Library, parts: Path) -> None:
    with pytest.raises(InputError, match="no column says which part"):
        make_bill(library, open_list(library, parts), bill_columns(library))
    opened = open_list(library, parts, {"Where": "reference", "What": "value"})
    assert opened.meanings == ("ignored", "reference", "value", "quantity")
    opened = open_list(library, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    keep_meanings(library, opened)
    # Another list with these headings is read so.
    assert open_list(library, parts).meanings == opened.meanings
    keep_meanings(library, opened)
    with pytest.raises(InputError, match="no column “Which”"):
        open_list(library, parts, {"Which": "part"})
    with pytest.raises(InputError, match="not a meaning"):
        open_list(library, parts, {"What": "colour"})


def test_templates_are_those_of_the_library(library: Library) -> None:
    columns = (BillColumn("N", "{quantity}", number=True), BillColumn("Maker", "{Manufacturer}"))
    library.settings = replace(library.settings, bills={"assembly": columns})
    assert bill_columns(library) == bill_columns(library, "assembly") == columns
    assert len(bill_columns(library, "standard")) > 2
    with pytest.raises(InputError, match="no template “x”"):
        bill_columns(library, "x")
    library.settings = replace(library.settings, bills={"assembly": (BillColumn("C", "{Smell}"),)})
    with pytest.raises(InputError, match="“Smell” is not a fact"):
        bill_columns(library)


def test_a_bill_is_written_with_real_numbers(library: Library, parts: Path, tmp_path: Path) -> None:
    opened = open_list(library, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    bill = make_bill(library, opened, bill_columns(library), boards=5)
    write_bill(tmp_path / "bill.xlsx", bill)
    sheet = openpyxl.load_workbook(tmp_path / "bill.xlsx").active
    assert [cell.value for cell in sheet[1]][:3] == ["Item", "Quantity", "References"]
    assert [cell.value for cell in sheet[2]][:3] == [1, 2, "C1, C2"]
    with pytest.raises(InputError, match="0 boards"):
        make_bill(library, opened, bill_columns(library), boards=0)


def test_the_command(library: Library, parts: Path, tmp_path: Path) -> None:
    assigned = ("--column", "Where=reference", "--column", "What=value", "--column", "Item=ignored")
    data = answer("bom", library.folder, parts, *assigned, "--out", tmp_path / "b.csv", "--keep-columns")
    assert (data["parts"], len(data["open"])) == (0, 2)
    assert data["columns"] == {"Item": "ignored", "Where": "reference", "What": "value", "Qty": "quantity"}
    said = eider("bom", library.folder, parts)
    assert "no part of the library is “nothing”" in str(data["open"]) and "2 open" in said.stdout
    assert (tmp_path / "b.csv").read_text(encoding="utf-8-sig").startswith("Item,Quantity,References")
    assert "is not there" in eider("bom", library.folder, tmp_path / "no.csv", status=2).stderr
    assert "HEADING=MEANING" in eider("bom", library.folder, parts, "--column", "x", status=2).stderr
