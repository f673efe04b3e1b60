"""Tables in the encodings, with the delimiters and the damage that are met; what is written opens as a table again."""

import zipfile
from pathlib import Path

import openpyxl
import pytest

from eider.errors import InputError
from eider.exchange.table_files import read_csv_bytes, read_table, read_tables, write_csv, write_table, write_workbook

TEXT = "Part;Resistance\nR1;4,7 kΩ\nR2;10 kΩ\n"


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be"])
def test_every_usual_encoding_is_read(encoding: str) -> None:
    read = read_csv_bytes(TEXT.encode(encoding), "x.csv")
    assert read.rows == (("Part", "Resistance"), ("R1", "4,7 kΩ"), ("R2", "10 kΩ"))
    assert bool(read.doubts) == encoding.endswith(("-le", "-be"))


def test_an_old_encoding_is_read_and_told() -> None:
    read = read_csv_bytes("Part,Tolerance\nR1,±5 %\nC1,µF\n".encode("cp1252"), "old.csv")
    assert read.rows[1:] == (("R1", "±5 %"), ("C1", "µF"))
    assert "line 2" in read.doubts[0] and "Windows-1252" in read.doubts[0]


@pytest.mark.parametrize(
    ("text", "cells"),
    [
        ("a,b,c\n1,2,3\n", ("1", "2", "3")), ("a;b\n1,5;2,5\n", ("1,5", "2,5")), ("a\tb\n1\t2\n", ("1", "2")),
        ("a|b|c\n1|2|3\n", ("1", "2", "3")), ('a,b\n"x, y",2\n', ("x, y", "2")), ("only\none\n", ("one",)),
        ('a,b\n"two\nlines",2\n', ("two lines", "2")),
    ],
)  # fmt: skip
def test_the_delimiter_is_told_from_the_rows(text: str, cells: tuple[str, ...]) -> None:
    assert read_csv_bytes(text.encode(), "x.csv").rows[1] == cells


def test_a_delimiter_that_could_be_another_is_told() -> None:
    assert "another sign" in " ".join(read_csv_bytes(b"a,b;c\n1,2;3\n", "x.csv").doubts)


@pytest.mark.parametrize(
    ("data", "told"),
    [
        (b"\x89PNG\r\n\x1a\n\x00\x01\x02", "not text"), (b'a,b\n"' + b"x" * 200_000 + b"\n", "quotes"),
        (b"\xff\xfea", "damaged"),
    ],
)  # fmt: skip
def test_what_is_no_table_is_refused_with_a_reason(data: bytes, told: str) -> None:
    with pytest.raises(InputError, match=told):
        read_csv_bytes(data, "x.csv")


def test_a_million_rows_are_refused() -> None:
    with pytest.raises(InputError, match="200,000 rows"):
        read_csv_bytes(b"a,b\n" + b"1,2\n" * 1_000_000, "x.csv")


def test_files_that_are_not_there_or_empty(tmp_path: Path) -> None:
    with pytest.raises(InputError, match="is not there"):
        read_tables(tmp_path / "no.csv")
    (tmp_path / "empty.csv").write_bytes(b"\n\n")
    with pytest.raises(InputError, match="has no rows"):
        read_tables(tmp_path / "empty.csv")
    with pytest.raises(InputError, match="regular file"):
        read_tables(tmp_path)


ROWS = [("Part", "Value", "Count"), ("R1", "=1+1", 3), ("R2", "-40 to 85 °C", 0.25), ("Ω\x07", "@x", 1)]


def test_a_workbook_holds_texts_as_texts_and_numbers_as_numbers(tmp_path: Path) -> None:
    path = tmp_path / "t.xlsx"
    write_workbook(path, "Bill: of/materials", ROWS)
    book = openpyxl.load_workbook(path)
    sheet = book.active
    assert (sheet.title, sheet.freeze_panes) == ("Bill  of materials", "A2")
    assert [cell.value for cell in sheet[2]] == ["R1", "=1+1", 3]
    assert sheet["B2"].data_type == "s" and sheet["C3"].value == 0.25
    assert sheet["A1"].font.bold and not sheet["A2"].font.bold
    assert sheet.column_dimensions["B"].width > sheet.column_dimensions["C"].width
    assert read_table(path).rows[1] == ("R1", "=1+1", "3")


def test_csv_runs_nothing_in_a_spreadsheet(tmp_path: Path) -> None:
    path = tmp_path / "t.csv"
    write_csv(path, ROWS)
    lines = path.read_text(encoding="utf-8-sig").splitlines()
    assert lines[1:3] == ["R1,'=1+1,3", "R2,-40 to 85 °C,0.25"]
    assert lines[3].endswith("'@x,1")
    assert path.read_bytes().startswith(b"\xef\xbb\xbf")


def test_the_suffix_says_what_is_written(tmp_path: Path) -> None:
    for name in ("a.xlsx", "a.csv"):
        write_table(tmp_path / name, "T", [("a", "b"), ("1", "x")])
        assert read_table(tmp_path / name).rows == (("a", "b"), ("1", "x"))
    assert zipfile.is_zipfile(tmp_path / "a.xlsx") and not zipfile.is_zipfile(tmp_path / "a.csv")


def test_further_sheets_are_told(tmp_path: Path) -> None:
    book = openpyxl.Workbook()
    book.active.append(["Part"])
    book.create_sheet("Second").append(["Other"])
    book.save(tmp_path / "two.xlsx")
    assert [table.title for table in read_tables(tmp_path / "two.xlsx")] == ["Sheet", "Second"]
    assert "1 more" in read_table(tmp_path / "two.xlsx").doubts[0]
