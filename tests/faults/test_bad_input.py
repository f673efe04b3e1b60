"""Input that is nonsense, huge or damaged: one line that says what and where, quickly, and nothing is made of it."""

import json
import os
import random
from pathlib import Path
from typing import Any

import pytest
from reportlab.pdfgen import canvas

from command_line import eider
from eider.datasheets.pages.document import Datasheet, DatasheetError
from eider.datasheets.pages.page_trial import try_pages
from eider.errors import EiderError
from eider.exchange.formats.bsdl import read_bsdl
from eider.exchange.formats.ibis import read_ibis
from eider.exchange.formats.xlsx import read_workbook
from eider.exchange.json_files import read_json
from eider.geometry.lengths import LengthError, parse_limits
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.model.codec import DocumentError, parse_json, parse_toml
from eider.packages.registry import all_families
from eider.symbols.pin_table import MOST_PINS, read_pins, split_table

SHEET: dict[str, Any] = {
    "format": "eider-package/1",
    "name": "X",
    "family": "gullwing-dual",
    "pins": 8,
    "dims": {
        "E": "5.80–6.20", "E1": "3.80..4.00", "D": "4.8–5.0", "e": 1.27, "b": "0.31-0.51", "L": "0.40 – 1.27",
        "A": "max 1.75", "A1": "0.1..0.25",
    },
}  # fmt: skip


def sheet(folder: Path, text: str = "", **changes: Any) -> Path:
    path = folder / "sheet.json"
    path.write_text(text or json.dumps({**SHEET, **changes}))
    return path


@pytest.mark.parametrize("text", ["NaN", "Infinity", "-Infinity", "1e999", "[1, NaN]", '{"a": 1e400}', '"\\ud800"'])
def test_numbers_and_characters_that_are_none_are_refused_where_json_is_read(text: str, tmp_path: Path) -> None:
    with pytest.raises(DocumentError, match="in line 1, column"):
        parse_json(text, "x.json")
    (tmp_path / "x.json").write_text(text)
    with pytest.raises(DocumentError, match=r"x\.json"):
        read_json(tmp_path / "x.json")


@pytest.mark.parametrize("text", ["a = nan", "a = inf", "a = [1, [-inf]]", "[b]\nc = nan", "a = " + "[" * 50_000, "="])
def test_numbers_that_are_none_are_refused_where_toml_is_read(text: str) -> None:
    with pytest.raises(DocumentError, match=r"x\.toml"):
        parse_toml(text, "x.toml")


def test_the_place_of_a_fault_in_json_is_told() -> None:
    with pytest.raises(DocumentError, match="in line 3, column 8"):
        parse_json('{\n "a": 1,\n "b": [,]\n}', "x.json")


@pytest.mark.parametrize("text", ["+".join(["1"] * 100_000), "(" * 100_000, "1" * 100_000, "1-" * 50_000, "E+" * 1001])
def test_a_sum_without_end_is_refused_at_once_and_not_repeated(text: str) -> None:
    with pytest.raises(LengthError) as told:
        parse_limits(text, {"E": 1.0})
    assert len(str(told.value)) < 400


@pytest.mark.parametrize(
    "changes",
    [
        {"pins": 0}, {"pins": 8.5}, {"pins": 10**30}, {"pins": "8"}, {"family": ["x"]}, {"name": 5}, {"units": ["mm"]},
        {"dims": [1]}, {"dims": {**SHEET["dims"], "e": [1]}}, {"dims": {**SHEET["dims"], "e": -1.27}},
        {"dims": {**SHEET["dims"], "e": 1e300}}, {"dims": {**SHEET["dims"], "E": {"min": 6.2, "max": 5.8}}},
        {"dims": {**SHEET["dims"], "E": "6.2–5.8"}}, {"missing": ["1"] * 20_000}, {"missing": "1-400"},
        {"format": {"a": 1}}, {"aliases": {"H": 5}}, {"options": 7}, {"left": 3},
    ],
)  # fmt: skip
@pytest.mark.parametrize("command", ["lands", "body"])
def test_a_sheet_of_nonsense_is_refused_in_one_line(command: str, changes: dict[str, Any], tmp_path: Path) -> None:
    more = ["--out", tmp_path / "body.step"] if command == "body" else []
    said = eider(command, sheet(tmp_path, **changes), *more, status=2)
    assert "unexpectedly" not in said.stderr
    assert said.stderr.count("\n") == 1
    assert len(said.stderr) < 1100
    assert not (tmp_path / "body.step").exists()


@pytest.mark.parametrize("text", ["[" * 200_000, '{"a":' * 100_000, "null", "[]", "\0", "{", " "])
def test_what_is_no_sheet_is_refused(text: str, tmp_path: Path) -> None:
    said = eider("lands", sheet(tmp_path, text), status=2)
    assert "unexpectedly" not in said.stderr


def test_only_regular_files_are_read(tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "pipe")
    for path in (tmp_path / "pipe", tmp_path, tmp_path / ("a" * 5000), tmp_path / "a\0b"):
        with pytest.raises(EiderError) as told:
            read_json(path)
        assert len(str(told.value)) < 300


def test_more_pins_than_there_may_be_are_told_and_left_out() -> None:
    rows = [("number", "name"), *(("1-400", "N") for _ in range(20_000))]
    reading = read_pins(rows)
    assert len(reading.pins) <= MOST_PINS
    assert any("at most 5000 pins" in fault.message for fault in reading.faults)
    ports = ";\n".join(f"P{n}: in bit" for n in range(20_000))
    maps = ",".join(f"P{n}:{n}" for n in range(20_000))
    text = f'entity X is\n port (\n{ports});\n constant PKG: PIN_MAP_STRING := "{maps}";\nend X;'
    source = read_bsdl(text)[0]
    assert len(source.reading.pins) == MOST_PINS
    assert any("at most 5000 pins" in fault.message for fault in source.reading.faults)
    # After one line of the entity, one of the port clause and one for each port.
    assert source.reading.lines[0] == 20_003
    rows_of_pins = "\n".join(f"{n} S{n} M" for n in range(200_000))
    made = read_ibis(f"[IBIS Ver] 4.0\n[Component] X\n[Pin] signal_name model_name\n{rows_of_pins}")[0]
    assert len(made.reading.pins) == MOST_PINS
    assert any("at most 5000 pins" in fault.message for fault in made.reading.faults)


def test_a_cell_without_end_is_told() -> None:
    with pytest.raises(EiderError, match="not a table of cells.*quotation mark"):
        split_table('number,name\n1,"' + "x" * 200_000)


@pytest.fixture(scope="module")
def workbook(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    import openpyxl

    book = openpyxl.Workbook()
    for row in (("number", "name", "type"), *((str(n), f"N{n}", "input") for n in range(8))):
        book.active.append(row)
    path = tmp_path_factory.mktemp("book") / "pins.xlsx"
    book.save(path)
    return path.read_bytes()


def test_a_damaged_workbook_is_read_or_refused_in_words(workbook: bytes, tmp_path: Path) -> None:
    chance, refused = random.Random(20), 0
    path = tmp_path / "pins.xlsx"
    for _ in range(120):
        damaged = bytearray(workbook)
        for _ in range(chance.randint(1, 40)):
            damaged[chance.randrange(len(damaged))] = chance.randrange(256)
        path.write_bytes(bytes(damaged[: chance.choice([len(damaged), len(damaged) // 2])]))
        try:
            read_workbook(path)
        except EiderError as fault:
            refused += 1
            assert "pins.xlsx" in str(fault)
    assert refused > 60


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["export", "{library}", "x", "--to", "", "--out", "{out}"], "names no format"),
        (["export", "{library}", "x", "--to", "json", "--out", "{out}", "--revision=-1"], "-1 is not in the range"),
        (["init", "{out}", "--user", "A <>"], "git cannot begin here"),
        (["rulebook", "{library}", "../x"], "../x"),
        (["diff", "{library}", "x", "1", "99999999999999999999"], "no part"),
        (["search", "{library}/none"], "not an Eider library"),
        (["demo", "--headless", "--out", "{library}"], "not a new or empty folder"),
        (["init", "{library}"], "not empty"),
    ],
)
def test_commands_that_ask_for_nonsense(arguments: list[str], words: str, tmp_path: Path) -> None:
    eider("init", tmp_path / "library")
    places = {"library": tmp_path / "library", "out": tmp_path / "out"}
    said = eider(*(text.format(**places) for text in arguments), status=2)
    assert words in said.stderr
    assert "unexpectedly" not in said.stderr
    assert not (tmp_path / "out").exists()


def test_the_name_of_a_rulebook_stays(tmp_path: Path) -> None:
    eider("init", tmp_path / "library")
    said = eider("rulebook", tmp_path / "library", "standard", "--set", "name=../../x", "--keep", "why", status=2)
    assert "the name of rulebook standard stays" in said.stderr
    assert sorted(path.name for path in tmp_path.iterdir()) == ["library"]


@pytest.mark.parametrize("crop", ["5000 5000 6000 6000", "-100 -100 -50 -50", "0 0 0 0", "0 0 1e9 1e9", "600 800 0 0"])
def test_a_page_whose_crop_box_lies_outside_of_it_is_shown_whole(crop: str, tmp_path: Path) -> None:
    drawn = canvas.Canvas(str(tmp_path / "x.pdf"), pagesize=(595, 842), pageCompression=0)
    drawn.drawString(100, 700, "1.27 mm")
    drawn.save()
    data = (tmp_path / "x.pdf").read_bytes()
    (tmp_path / "x.pdf").write_bytes(data.replace(b"/MediaBox", b"/CropBox [ " + crop.encode() + b" ] /MediaBox", 1))
    document = Datasheet(tmp_path / "x.pdf")
    try:
        height, width, _ = document.picture(1, 1.0).shape
        assert (width, height) in ((595, 842), (595, 800))
        assert [word.text for word in document.read(1).words] == ["1.27", "mm"]
    finally:
        document.close()


def _document(content: bytes, form: bytes = b"<<>>") -> bytes:
    """A PDF of one page with a content and a form X."""
    objects = [
        b"<</Type/Catalog/Pages 2 0 R>>",
        b"<</Type/Pages/Kids[3 0 R]/Count 1>>",
        b"<</Type/Page/Parent 2 0 R/MediaBox[0 0 600 800]/Contents 4 0 R/Resources<</XObject<</X 5 0 R>>>>>>",
        b"<</Length %d>>stream\n%s\nendstream" % (len(content), content),
        form,
    ]
    made, places = b"%PDF-1.5\n", []
    for number, body in enumerate(objects, start=1):
        places.append(len(made))
        made += b"%d 0 obj\n%s\nendobj\n" % (number, body)
    table = b"".join(b"%010d 00000 n \n" % place for place in places)
    end = b"trailer<</Size 6/Root 1 0 R>>\nstartxref\n%d\n%%%%EOF" % len(made)
    return made + b"xref\n0 6\n0000000000 65535 f \n" + table + end


def test_a_page_that_takes_all_memory_or_time_is_found_out_elsewhere(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.datasheets.pages.page_trial.LONGEST_PAGE_S", 1)
    monkeypatch.setattr("eider.datasheets.pages.page_trial.MOST_MEMORY", 2**29)
    path = tmp_path / "x.pdf"
    path.write_bytes(_document(b"0 0 m 100 100 l S"))
    try_pages(path)
    draws_itself = (
        b"<</Type/XObject/Subtype/Form/BBox[0 0 600 800]/Resources<</XObject<</X 5 0 R>>>>/Length 30>>stream\n"
    )
    path.write_bytes(_document(b"/X Do", draws_itself + b"/X Do /X Do /X Do /X Do /X Do \nendstream"))
    with pytest.raises(DatasheetError, match=r"page 1 of x\.pdf takes more than"):
        try_pages(path)
    lines = b"".join(b"%d %d m %d %d l S\n" % (i * 7 % 600, i * 13 % 800, i % 600, i % 800) for i in range(300_000))
    path.write_bytes(_document(lines))
    with pytest.raises(DatasheetError, match=r"page 1 of x\.pdf takes more than"):
        try_pages(path)


PAD = {"number": "1", "x": 0, "y": 0, "width": 1, "height": 1, "rotation": 0, "shape": "rectangle"}


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"shape": "outline"}, "its outline encloses no area"),
        ({"shape": "outline", "outline": [[0, 0], [1, 1]]}, "its outline encloses no area"),
        ({"shape": "outline", "outline": [[0, 0], [1, 1], [0, 1e300]]}, "more than a metre"),
        ({"x": 1e9}, "more than a metre"),
        ({"mask": 5}, "mask"),
        ({"mask": [[]]}, "its outline encloses no area"),
        ({"hole": {"width": 1e30, "height": 1}}, "more than a metre"),
    ],
)
def test_a_pad_that_no_board_can_have_is_refused(tmp_path: Path, change: dict[str, Any], says: str) -> None:
    path = tmp_path / "pattern.json"
    path.write_text(json.dumps({"pads": [{**PAD, **change}]}))
    assert says in eider("joints", sheet(tmp_path), path, status=2).stderr


def test_a_pattern_of_pads_that_all_lie_at_one_place_is_told_so(tmp_path: Path) -> None:
    path = tmp_path / "pattern.json"
    path.write_text(json.dumps({"pads": [{**PAD, "number": str(k)} for k in range(1500)]}))
    assert "overlap" in eider("joints", sheet(tmp_path), path, status=1).stdout


@pytest.mark.parametrize("argument", ["\udcff", "a\0b"])
def test_an_argument_that_is_no_text_is_refused(library: Library, argument: str) -> None:
    said = eider("used", library.folder, argument, status=2).stderr
    assert said.startswith("eider: ") and "unexpectedly" not in said and "an argument" in said


def test_numbers_beyond_every_count_are_told_in_words(library: Library, sound: Bundle, tmp_path: Path) -> None:
    library.copies.save(WorkingCopy(bundle=sound))
    huge = str(10**20)
    for arguments in (("diff", huge, huge), ("restore", huge)):
        command, *rest = arguments
        assert "no" in eider(command, library.folder, "NVK-1216T", *rest, status=2).stderr
    address = ("catalogue", "search", "x", "--address", "http://127.0.0.1:99999")
    assert "has a port above 65535" in eider(*address, status=2).stderr


@pytest.mark.parametrize("family", sorted(all_families()))
def test_a_package_without_pins_fails_in_no_family(tmp_path: Path, family: str) -> None:
    said = eider("lands", sheet(tmp_path, family=family, pins=0), status=2).stderr
    assert "unexpectedly" not in said


@pytest.mark.parametrize("family", ["ball-grid", "land-grid", "header", "gullwing-quad", "dual-in-line"])
@pytest.mark.parametrize(("rows", "columns"), [(3000, 3000), (10**9, 10**9)])
def test_a_grid_of_millions_is_refused_before_it_takes_all_memory(
    tmp_path: Path, family: str, rows: int, columns: int
) -> None:
    dims = {"D": 30, "E": 30, "e": 1, "b": 0.5, "A": 1.2, "A1": 0.3}
    path = sheet(tmp_path, family=family, pins=rows * columns, rows=rows, columns=columns, dims=dims)
    said = eider("lands", path, status=2).stderr
    assert said.count("\n") == 1 and "unexpectedly" not in said and len(said) < 1200


@pytest.mark.parametrize("command", ["init", "draft", "intake", "capture"])
def test_a_name_that_is_too_long_is_told_in_words(library: Library, command: str) -> None:
    name = "x" * 5000
    arguments = {"init": (name,), "capture": (name, "--auto")}.get(command, (str(library.folder), name))
    said = eider(command, *arguments, status=2).stderr
    assert "File name too long" in said and "unexpectedly" not in said and len(said) < 200
