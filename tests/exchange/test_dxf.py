"""DXF: lands of every family come back; files with other units, layers, blocks and curves are read or told."""

import io
import math
from pathlib import Path
from typing import Any

import ezdxf.filemanagement
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from carried_lands import carried_pad, family_lands, form_extent
from command_line import answer
from eider.errors import InputError
from eider.exchange.formats.dxf.reader import read_dxf
from eider.exchange.formats.dxf.writer import dxf_text
from eider.exchange.found_parts import FoundPart, grouped_parts
from eider.library import Library
from eider.model.pattern import Pad, Pattern
from eider.packages.registry import all_families
from family_samples import each_family

CHIP = dxf_text(
    Pattern(
        "P", "B", "chip", (Pad("1", -0.8, 0, 0.9, 1.0), Pad("2", 0.8, 0, 0.9, 1.0, shape="rounded", corner_radius=0.2))
    )
).encode()


def _read(tmp_path: Path, text: str | bytes) -> FoundPart:
    path = tmp_path / "P-lands.dxf"
    path.write_bytes(text.encode() if isinstance(text, str) else text)
    (part,) = grouped_parts(read_dxf(path).parts)
    return part


@pytest.mark.parametrize("family", each_family(sorted(all_families())))
def test_lands_of_every_family_come_back(library: Library, family: str, tmp_path: Path) -> None:
    pattern = family_lands(library, family)
    found = sorted(carried_pad(pad) for pad in _read(tmp_path, dxf_text(pattern)).pads)
    assert found == sorted(carried_pad(pad) for pad in pattern.pads)


def _drawn(unit: int = 4) -> tuple[Any, Any]:
    document: Any = ezdxf.filemanagement.new("R2000")
    document.header["$INSUNITS"] = unit
    return document, document.modelspace()


def _text(document: Any) -> str:
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue()


def test_the_same_lands_give_the_same_file(library: Library) -> None:
    pattern = family_lands(library, "gullwing-dual")
    assert dxf_text(pattern) == dxf_text(pattern)


def test_a_file_in_inches_with_blocks_and_other_names_is_read(tmp_path: Path) -> None:
    document, space = _drawn(1)
    block = document.blocks.new("PAD")
    block.add_lwpolyline([(-0.05, -0.02), (0.05, -0.02), (0.05, 0.02), (-0.05, 0.02)], close=True,
                         dxfattribs={"layer": "Top-Pads"})  # fmt: skip
    block.add_circle((0, 0), 0.01, dxfattribs={"layer": "drill"})
    for x, number in ((-0.1, "A1"), (0.1, "A2")):
        space.add_blockref("PAD", (x, 0), dxfattribs={"rotation": 90 if number == "A2" else 0})
        space.add_mtext(number, dxfattribs={"insert": (x, 0), "layer": "whatever"})
    space.add_line((0, 0), (1, 1), dxfattribs={"layer": "Top-Pads"})
    space.add_circle((5, 5), 1, dxfattribs={"layer": "frame"})
    part = _read(tmp_path, _text(document))
    first, second = part.pads
    # 0.1 in is 2.54 mm; the second is turned by 90°.
    assert (first.number, first.x, first.width, first.height, first.layers) == ("A1", -2.54, 2.54, 1.016, "all")
    assert first.hole is not None and first.hole.width == 0.508 and first.plated
    assert second.number == "A2" and form_extent(second) == (2.032, -1.27, 3.048, 1.27)
    assert part.log == ("1 LINE on Top-Pads left out: not a closed shape",)


def test_curves_become_chords_within_five_micrometres(tmp_path: Path) -> None:
    document, space = _drawn()
    space.add_ellipse((1, 2), (2, 0), 0.5, dxfattribs={"layer": "COPPER"})
    space.add_hatch(dxfattribs={"layer": "LAND"}).paths.add_polyline_path([(10, 0), (12, 0), (11, 3)], is_closed=True)
    ellipse, hatch = _read(tmp_path, _text(document)).pads
    assert form_extent(ellipse) == pytest.approx((-1, 1, 3, 3), abs=0.005)
    # Every corner lies on the ellipse, and every chord nearly so.
    middles = [
        ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2) for a, b in zip(ellipse.outline, ellipse.outline[1:], strict=False)
    ]
    assert all(abs(math.hypot(x / 2, y) - 1) < 0.006 for x, y in middles)
    assert hatch.shape == "outline" and form_extent(hatch) == (10, 0, 12, 3)


def test_a_file_without_a_unit_is_taken_in_mm_and_says_so(tmp_path: Path) -> None:
    document, space = _drawn(0)
    space.add_lwpolyline([(0, 0), (1, 0), (1, 2), (0, 2)], close=True, dxfattribs={"layer": "COPPER_TOP"})
    part = _read(tmp_path, _text(document))
    assert "taken in mm" in part.log[0] and "1 pads have no number" in part.log[1]
    assert part.pads[0].height == 2


@pytest.mark.parametrize("text", ["", "words", "0\nSECTION\n2\nHEADER\n", "\0" * 100])
def test_what_is_no_dxf_is_refused(text: str, tmp_path: Path) -> None:
    with pytest.raises(InputError, match="not a DXF file|no closed shape"):
        _read(tmp_path, text)


def test_what_is_farther_than_a_metre_is_refused(tmp_path: Path) -> None:
    document, space = _drawn(6)
    space.add_circle((0, 0), 1, dxfattribs={"layer": "COPPER"})
    with pytest.raises(InputError, match="more than a metre; check the unit"):
        _read(tmp_path, _text(document))


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_damaged_file_is_read_or_refused(tmp_path: Path, data: st.DataObject) -> None:
    text = bytearray(CHIP)
    for _ in range(data.draw(st.integers(1, 5))):
        at = data.draw(st.integers(0, len(text) - 1))
        text[at : at + data.draw(st.integers(0, 6))] = data.draw(st.binary(max_size=6))
    try:
        pads = _read(tmp_path, bytes(text)).pads
    except InputError:
        return
    assert all(abs(pad.x) <= 1000 and 0 < pad.width <= 2000 for pad in pads)


def test_lands_are_taken_in_from_the_command_line(library: Library, tmp_path: Path) -> None:
    (tmp_path / "OHC-9-lands.dxf").write_text(dxf_text(family_lands(library, "header")))
    told = answer("intake", library.folder, tmp_path / "OHC-9-lands.dxf", "--accept", "new")
    assert told["taken"] == ["OHC-9"]
    pattern = library.load(library.find("OHC-9").id).footprint.pattern
    assert pattern is not None and len(pattern.pads) == len(family_lands(library, "header").pads)
