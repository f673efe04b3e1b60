"""Reading sheets, patterns and pin tables from outside; writing SVG and CSV."""

import csv
import io
import json
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError, InputError
from eider.exchange.formats.csv import pads_csv, pins_csv
from eider.exchange.package_sheet import read_package_sheet, sheet_from_data
from eider.exchange.pattern_file import pattern_data, read_pads
from eider.exchange.svg_drawings import svg_text
from eider.lands.pattern import make_pattern
from eider.model.codec import encode
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pattern
from eider.model.symbol import Pin, Symbol
from eider.rulebooks import standard_rulebook
from eider.symbols.arrangement import arrange

CONTRACT = {
    "format": "eider-package/1", "name": "SO8", "family": "gullwing-dual", "pins": 8,
    "dims": {
        "E": "5.80–6.20", "E1": "3.80..4.00", "D": {"min": 4.8, "max": 5.0}, "e": 1.27, "b": "0.31-0.51",
        "L": "0.40 – 1.27", "A": "max 1.75", "A1": "3..9 mil",
    },
    "aliases": {"H": "E"}, "missing": ["5"], "rows": None, "columns": None,
}  # fmt: skip


def test_the_contracts_example_is_read() -> None:
    sheet = sheet_from_data(CONTRACT, "test")
    limits = {letter: d.limits for letter, d in sheet.dims.items()}
    assert all(limits.values())
    assert (limits["D"].min, limits["D"].max) == (4.8, 5.0)  # type: ignore[union-attr]
    assert limits["e"].nom == 1.27  # type: ignore[union-attr]
    assert limits["A1"].max == pytest.approx(0.2286)  # type: ignore[union-attr]
    assert sheet.missing == ("5",)
    assert sheet.datasheet_letter("E") == "H"


def test_objects_count_in_the_sheets_unit() -> None:
    sheet = sheet_from_data({**CONTRACT, "units": "mil", "dims": {"E": {"min": 100, "max": 200}}}, "test")
    assert sheet.limits("E").max == pytest.approx(5.08)  # type: ignore[union-attr]


def test_a_sheet_survives_writing_and_reading(so8: PackageSheet) -> None:
    again = sheet_from_data(json.loads(encode(so8)), "test")
    assert again == so8


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"family": "gullwing"}, "unknown package family"),
        ({"format": "other/9"}, "format"),
        ({"units": "furlong"}, "furlong"),
        ({"pins": "many"}, "pins"),
        ({"pins": 10**9}, "5000"),
        ({"dims": [1, 2]}, "dims"),
        ({"dims": {"E": [1]}}, "dims.E"),
        ({"dims": {"E": True}}, "dims.E"),
        ({"dims": {"E": {"min": "x"}}}, "dims.E"),
        ({"dims": {"E": {}}}, "dims.E"),
        ({"aliases": 5}, "aliases"),
    ],
)
def test_what_is_no_sheet_is_refused_in_words(change: dict, says: str) -> None:
    with pytest.raises(InputError, match=says):
        sheet_from_data({**CONTRACT, **change}, "test")


@pytest.mark.parametrize(
    ("content", "says"),
    [(b"", "not JSON"), (b"{", "line 1"), (b"\xff\xfe\x00", "UTF-8"), (b"[]", "not a package sheet")],
)
def test_damaged_files(content: bytes, says: str, tmp_path: Path) -> None:
    path = tmp_path / "sheet.json"
    path.write_bytes(content)
    with pytest.raises(InputError, match=says):
        read_package_sheet(path)


JSON = st.recursive(
    st.none() | st.booleans() | st.floats(allow_nan=False) | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=6), inner, max_size=4),
    max_leaves=12,
)


@given(
    st.dictionaries(st.sampled_from(["format", "family", "pins", "dims", "aliases", "missing", "units", "kind"]), JSON)
)
def test_any_json_is_read_or_refused(data: dict) -> None:
    try:
        sheet_from_data({"family": "chip", **data}, "test")
    except EiderError as fault:
        assert str(fault)


def test_a_pattern_reads_back(so8: PackageSheet, tmp_path: Path) -> None:
    pattern = make_pattern(so8, "B", standard_rulebook())
    path = tmp_path / "pattern.json"
    path.write_text(json.dumps(pattern_data(pattern)))
    assert read_pads(path).pads == pattern.pads
    assert set(json.loads(path.read_text())) == set(Pattern.__struct_fields__) | {"findings"}


def test_a_pattern_without_pads_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "pattern.json"
    path.write_text('{"pads": []}')
    with pytest.raises(InputError, match="not a pattern"):
        read_pads(path)


def test_svg_is_xml_in_millimetres_with_every_pad(so8: PackageSheet) -> None:
    pattern = make_pattern(so8, "B", standard_rulebook())
    root = ElementTree.fromstring(svg_text(pattern_drawing(pattern), title="a < b & c"))
    places = [e.get("data-place") for e in root.iter() if e.tag.endswith("polygon")]
    assert {f"lands.pads.{n}" for n in range(1, 9)} <= set(places)
    pad = next(e for e in root.iter() if e.get("data-place") == "lands.pads.1" and e.tag.endswith("polygon"))
    corners = [tuple(map(float, pair.split(","))) for pair in (pad.get("points") or "").split()]
    # Pad 1: x from −3.45 to −1.5; y is turned down in SVG.
    assert (min(x for x, _ in corners), max(x for x, _ in corners)) == (-3.45, -1.5)
    assert max(y for _, y in corners) == -1.605


def test_names_in_svg_are_escaped() -> None:
    symbol = arrange(Symbol(id="", name="", pins=(Pin("1", "<&>", "input"),)))
    root = ElementTree.fromstring(svg_text(symbol_drawing(symbol, "x")))
    assert "<&>" in [e.text for e in root.iter()]


def test_tables_as_csv(so8: PackageSheet) -> None:
    rows = list(csv.DictReader(io.StringIO(pads_csv(make_pattern(so8, "B", standard_rulebook())))))
    assert (rows[0]["number"], rows[0]["x mm"], rows[0]["height mm"]) == ("1", "-2.475", "0.6")
    pins = Symbol(id="", name="", pins=(Pin("1", "CS", "input", active_low=True, description='say "x", y'),))
    assert next(iter(csv.DictReader(io.StringIO(pins_csv(pins)))))["description"] == 'say "x", y'
