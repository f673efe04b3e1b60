"""align and body --from on a manufacturer's STEP file, as a script calls them."""

import json
import struct
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from command_line import answer, eider
from eider.demo.maker_models import CONVERTER, placed_model, step_of

# NVK-1216T: the converter of the demo.
SHEET = {
    "format": "eider-package/1", "name": "NVK-1216T", "family": "gullwing-dual", "pins": 16,
    "dims": {
        "E": "6.20–6.60", "E1": "4.30–4.50", "D": "4.90–5.10", "e": 0.65, "b": "0.19–0.30", "L": "0.45–0.75",
        "A": "max 1.20", "A1": "0.05–0.15", "c": "0.09–0.20",
    },
}  # fmt: skip


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "sheet.json").write_text(json.dumps(SHEET))
    (tmp_path / "model.step").write_bytes(step_of(CONVERTER))
    return tmp_path


def test_align_tells_where_each_terminal_stands(folder: Path) -> None:
    found = answer("align", folder / "model.step", folder / "sheet.json")
    assert (found["unit"], found["protocol"], found["solids"]) == ("in", "AP214", 18)
    (placement,) = found["placements"]
    assert placement["rotation"] == [list(row) for row in placed_model(CONVERTER).rotation]
    assert placement["offset"] == pytest.approx(placed_model(CONVERTER).offset)
    assert (placement["pin1"], placement["seating"], placement["score"]) == ("found", 0, pytest.approx(1, abs=0.01))
    assert {terminal["pad"] for terminal in placement["terminals"]} == {str(n) for n in range(1, 17)}
    assert all(abs(t["dx"]) < 0.01 and abs(t["dy"]) < 0.01 for t in placement["terminals"])
    assert found["findings"] == []


def test_align_on_a_pattern_and_in_a_unit_that_is_told(folder: Path) -> None:
    pattern = eider("lands", folder / "sheet.json", "--json").stdout
    (folder / "pattern.json").write_text(pattern)
    (placement,) = answer("align", folder / "model.step", folder / "pattern.json")["placements"]
    assert placement["offset"] == pytest.approx(placed_model(CONVERTER).offset)
    assert all(terminal["inside"] > 0 for terminal in placement["terminals"])
    wrong = answer("align", folder / "model.step", folder / "sheet.json", "--unit", "mm")
    assert wrong["placements"][0]["scale"] == pytest.approx(25.4)
    assert {finding["check"] for finding in wrong["findings"]} >= {"body.unit"}


@pytest.mark.parametrize("protocol", ["AP214", "AP242"])
def test_body_writes_the_placed_file_and_a_picture(folder: Path, protocol: str) -> None:
    out, picture = folder / "placed.step", folder / "placed.png"
    made = answer(
        "body", folder / "sheet.json", "--from", folder / "model.step", "--out", out, "--protocol", protocol,
        "--picture", picture,
    )  # fmt: skip
    assert made["bounds"] == [[-3.2, -2.5, 0.0], [3.2, 2.5, 1.2]]
    assert made["findings"] == []
    again = answer("align", out, folder / "sheet.json")
    assert (again["protocol"], again["unit"]) == (protocol, "mm")
    assert again["placements"][0]["rotation"] == [[1, 0, 0], [0, 1, 0], [0, 0, 1]]
    assert len(np.unique(np.asarray(Image.open(picture)).reshape(-1, 3), axis=0)) > 20


def test_body_writes_gltf(folder: Path) -> None:
    out = folder / "placed.glb"
    answer("body", folder / "sheet.json", "--from", folder / "model.step", "--out", out)
    data = out.read_bytes()
    # glTF 2.0, 4.4: magic, version, length; then a chunk of JSON and one of binary, each with its length.
    magic, version, length = struct.unpack_from("<4sII", data)
    assert (magic, version, length) == (b"glTF", 2, len(data))
    size, kind = struct.unpack_from("<I4s", data, 12)
    document = json.loads(data[20 : 20 + size])
    assert kind == b"JSON"
    assert struct.unpack_from("<I4s", data, 20 + size) == (document["buffers"][0]["byteLength"], b"BIN\0")
    places = [document["accessors"][p["attributes"]["POSITION"]] for p in document["meshes"][0]["primitives"]]
    # Metres, y upwards: the height of 1.2 mm is along y, the length of 5 mm along z.
    low = np.min([accessor["min"] for accessor in places], axis=0)
    high = np.max([accessor["max"] for accessor in places], axis=0)
    assert low == pytest.approx((-0.0032, 0.0, -0.0025), abs=1e-6)
    assert high == pytest.approx((0.0032, 0.0012, 0.0025), abs=1e-6)
    assert len(document["materials"]) == 3


def test_what_cannot_be_done_is_one_line(folder: Path) -> None:
    assert "not a STEP file" in eider("align", folder / "sheet.json", folder / "sheet.json", status=2).stderr
    said = eider(
        "body", folder / "sheet.json", "--from", folder / "model.step", "--placement", "9", "--out", folder / "x.step",
        status=2,
    )  # fmt: skip
    assert "--placement 9: model.step has 1; eider align lists them" in said.stderr
    gone = eider("align", folder / "gone.step", folder / "sheet.json", status=2).stderr
    assert "gone.step cannot be read" in gone
