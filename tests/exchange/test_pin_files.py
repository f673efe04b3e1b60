"""Pins from workbooks, boundary-scan descriptions and buffer models."""

import zipfile
from pathlib import Path

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.demo.data import buffer_text, printed_pins
from eider.demo.scan import scan_text
from eider.errors import InputError
from eider.exchange.formats.bsdl import read_bsdl
from eider.exchange.formats.ibis import read_ibis
from eider.exchange.formats.xlsx import read_workbook
from eider.model.symbol import Pin
from eider.services.publishing.format_registry import read_pin_file

SCAN = """-- a comment with "strings" and (brackets
ENTITY perch IS
  generic (PHYSICAL_PIN_MAP : string := "DIP8");
  PORT (
    D      : inout bit_vector(3 downto 0);  -- data
    nCS    : IN bit;
    VCC, GND : linkage bit;
    NCP    : linkage bit_vector(1 to 2);
    V18    : power_pos bit
  );
  constant DIP8 : PIN_MAP_STRING := "D:(1, 2,3,4), " &   -- in order
     "nCS:5," &
     "VCC:6, GND:7";
  constant BGA9 : PIN_MAP_STRING :=
     "D:(A1,A2,A3,B1),nCS:B2,VCC:B3,GND:C1,NCP:(C2,C3),V18:A9";
  attribute TAP_SCAN_MODE of nCS : signal is true;
end perch;
"""


def by_number(pins: tuple[Pin, ...]) -> dict[str, Pin]:
    return {pin.number: pin for pin in pins}


def test_a_description_gives_a_table_for_each_package() -> None:
    dip, bga = read_bsdl(SCAN)
    assert [source.title for source in (dip, bga)] == ["perch, package DIP8", "perch, package BGA9"]
    pins = by_number(dip.reading.pins)
    # D(3 downto 0) on 1 to 4: the first pin is D3.
    assert [(pins[n].name, pins[n].type) for n in "1234"] == [(f"D{i}", "bidirectional") for i in (3, 2, 1, 0)]
    assert (pins["5"].name, pins["5"].active_low, pins["5"].type, pins["5"].group) == (
        "CS",
        True,
        "input",
        "test access",
    )
    assert (pins["6"].type, pins["6"].assumed) == ("power input", True)
    assert [pin.number for pin in bga.reading.pins] == ["A1", "A2", "A3", "A9", "B1", "B2", "B3", "C1", "C2", "C3"]
    assert (by_number(bga.reading.pins)["A9"].type, by_number(bga.reading.pins)["A9"].assumed) == ("power input", False)


def test_ports_without_a_pin_are_told_with_their_line() -> None:
    dip, bga = read_bsdl(SCAN)
    assert [(f.line, f.message) for f in dip.reading.faults] == [
        (8, "NCP has no pin in this package"),
        (9, "V18 has no pin in this package"),
    ]
    assert bga.reading.faults == ()


@pytest.mark.parametrize(
    ("wrong", "right", "line", "said"),
    [
        ("nCS    : IN bit;", "nCS    IN bit;", 6, "is not a port; expected NAME"),
        ('"nCS:5,"', '"nCS 5,"', 12, "maps no port; expected PORT:PIN"),
        ('"nCS:5,"', '"nXX:5,"', 12, "is not a port"),
        ("(1, 2,3,4)", "(1, 2,3)", 11, "has 4 members but 3 pins"),
    ],
)
def test_a_bad_line_is_told_and_the_others_come_in(wrong: str, right: str, line: int, said: str) -> None:
    reading = read_bsdl(SCAN.replace(wrong, right, 1))[0].reading
    assert any(f.line == line and said in f.message for f in reading.faults), reading.faults
    assert len(reading.pins) >= 5


def test_the_demos_controller_has_all_its_pins() -> None:
    (source,) = read_bsdl(scan_text())
    assert source.reading.faults == ()
    pins = by_number(source.reading.pins)
    assert len(pins) == 100
    for printed in printed_pins("nvk-u100p"):
        if printed.type != "bidirectional":
            assert pins[printed.number].name == printed.name
            assert pins[printed.number].active_low == printed.active_low


BUFFERS = """[IBIS Ver] 4.1
[Comment Char] #_char
[Component] Perch          # a comment
[Manufacturer] Norrvik Semi
[Pin] signal_name model_name R_pin L_pin C_pin
1  CLK    clk_in
2  D0     data_sel   0.1 2n 1p
3  nIRQ   irq
4  VDD    POWER
5  GND    GND
6  SPARE  NC
7  broken
8  X      unheard_of
[Model Selector] data_sel
io_fast  fast one
io_slow  slow one
[Model] clk_in
Model_type Input
[Model] io_fast
Model_type I/O
[Model] irq
model_type Open_drain
[End]
"""


def test_a_buffer_model_gives_types_through_models_and_selectors() -> None:
    (source,) = read_ibis(BUFFERS)
    pins = by_number(source.reading.pins)
    assert [(n, pins[n].type) for n in "123456"] == [
        ("1", "input"),
        ("2", "bidirectional"),
        ("3", "open collector"),
        ("4", "power input"),
        ("5", "power input"),
        ("6", "not connected"),
    ]
    assert (pins["3"].name, pins["3"].active_low) == ("IRQ", True)
    assert not pins["1"].assumed
    assert pins["8"].type == "undecided"
    assert [(f.line, f.message[:9]) for f in source.reading.faults] == [(12, "“7  broke")]


def test_the_demos_gates_come_from_their_buffer_model() -> None:
    (source,) = read_ibis(buffer_text())
    assert [(p.number, p.name, p.type) for p in source.reading.pins] == [
        (p.number, p.name, p.type) for p in printed_pins("nvk-4gt")
    ]


@pytest.mark.parametrize("read", [read_bsdl, read_ibis])
@given(text=st.text(max_size=200))
def test_any_text_is_read_or_refused(read, text: str) -> None:  # type: ignore[no-untyped-def]
    try:
        assert read(text)
    except InputError as fault:
        assert "this is no" in str(fault)


def book(path: Path) -> Path:
    made = openpyxl.Workbook()
    first = made.active
    first.title = "pins"
    for row in (["Function", "Pin", "Name"], ["Supply", 1.0, "VDD"], ["Chip select", 2, "nCS"], [None, None, None]):
        first.append(row)
    made.create_sheet("empty")
    notes = made.create_sheet("notes")
    notes.append(["nothing of interest"])
    made.save(path)
    return path


def test_a_workbook_gives_a_table_for_each_sheet(tmp_path: Path) -> None:
    pins, notes = read_workbook(book(tmp_path / "a.xlsx"))
    assert (pins.title, notes.title) == ("pins", "notes")
    assert [(p.number, p.name, p.active_low, p.description) for p in pins.reading.pins] == [
        ("1", "VDD", False, "Supply"),
        ("2", "CS", True, "Chip select"),
    ]
    assert notes.reading.pins == ()
    assert pins.rows[0] == ("Function", "Pin", "Name")


def test_a_workbook_that_is_none_or_huge_is_refused(tmp_path: Path) -> None:
    (tmp_path / "a.xlsx").write_bytes(b"not an archive")
    with pytest.raises(InputError, match="is not a workbook, or is damaged"):
        read_workbook(tmp_path / "a.xlsx")
    with zipfile.ZipFile(tmp_path / "b.xlsx", "w") as archive:
        archive.writestr("xl/workbook.xml", "<broken")
    with pytest.raises(InputError, match=r"b\.xlsx is damaged"):
        read_workbook(tmp_path / "b.xlsx")
    with zipfile.ZipFile(tmp_path / "c.xlsx", "w", zipfile.ZIP_DEFLATED) as archive:
        for index in range(3):
            archive.writestr(f"{index}.xml", b"0" * (90 * 2**20))
    with pytest.raises(InputError, match="unpacks to 270 MB, more than 200"):
        read_workbook(tmp_path / "c.xlsx")


def test_files_are_read_by_their_suffix(tmp_path: Path) -> None:
    (tmp_path / "a.csv").write_text("1,VDD\n2,GND\n")
    (tmp_path / "b.BSD").write_text(SCAN)
    (tmp_path / "c.ibs").write_text(BUFFERS)
    (tmp_path / "d.csv").write_text("\n")
    assert [len(read_pin_file(tmp_path / name)[0].reading.pins) for name in ("a.csv", "b.BSD", "c.ibs")] == [2, 7, 7]
    with pytest.raises(InputError, match="holds no pins"):
        read_pin_file(tmp_path / "d.csv")
    with pytest.raises(InputError, match="is not there"):
        read_pin_file(tmp_path / "gone.bsdl")


def test_two_thousand_pins_come_in(tmp_path: Path) -> None:
    ports = ";\n".join(f"P{i} : inout bit_vector(0 to 99)" for i in range(20))
    maps = ",".join(f"P{i}:({','.join(str(100 * i + k + 1) for k in range(100))})" for i in range(20))
    text = f'entity big is\nport (\n{ports}\n);\nconstant PKG : PIN_MAP_STRING := "{maps}";\nend big;'
    reading = read_bsdl(text)[0].reading
    assert len(reading.pins) == 2000
    assert (reading.pins[1999].number, reading.pins[1999].name) == ("2000", "P1999")
