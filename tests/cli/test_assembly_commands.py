"""From the land to the machine on the command line: diagnosis and holes of joints, paste, the turn in the tape."""

import json
from pathlib import Path

import pytest

from command_line import answer, eider
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle

SHEET = {
    "format": "eider-package/1", "name": "x", "family": "gullwing-dual", "pins": 8,
    "dims": {"E": "5.80–6.20", "E1": "3.8-4.0", "D": "4.8-5.0", "e": 1.27, "b": "0.31-0.51", "L": "0.4-1.27",
             "A": "max 1.75", "c": 0.2},
}  # fmt: skip
DIP = {
    "format": "eider-package/1", "name": "y", "family": "dual-in-line", "pins": 8,
    "dims": {"E": 7.62, "E1": "6.1-6.6", "D": "9.2-10.0", "e": 2.54, "b": "0.38-0.53", "A": "max 5.3", "c": "0.2-0.36"},
}  # fmt: skip


def written(path: Path, data: object) -> str:
    path.write_text(json.dumps(data), encoding="utf-8")
    return str(path)


def test_joints_tell_a_mirrored_pattern_before_its_fillets(tmp_path: Path) -> None:
    sheet = written(tmp_path / "sheet.json", SHEET)
    pattern = answer("lands", sheet)
    for pad in pattern["pads"]:
        pad["x"] = -pad["x"]
    given = written(tmp_path / "pattern.json", {"pads": pattern["pads"]})
    data = answer("joints", sheet, given, status=1)
    assert [d["slip"] for d in data["diagnosis"]] == ["mirrored"]
    assert data["diagnosis"][0]["action"] == "Mirror it left to right."
    assert data["pads"][0]["dx"] == pytest.approx(-2 * pattern["pads"][0]["x"], abs=10)
    text = eider("joints", sheet, given, status=1).stdout
    assert "mirrored" in text.splitlines()[0] and "toe" not in text


def test_joints_of_leads_through_the_board_speak_of_their_holes(tmp_path: Path) -> None:
    sheet = written(tmp_path / "sheet.json", DIP)
    pattern = answer("lands", sheet)
    for pad in pattern["pads"]:
        pad["hole"] = None
    given = written(tmp_path / "pattern.json", {"pads": pattern["pads"]})
    data = answer("joints", sheet, given, status=1)
    assert [d["slip"] for d in data["diagnosis"]] == ["no holes"]
    assert len(data["holes"]) == 8
    assert {hole["hole"] for hole in data["holes"]} == {None}


def test_paste_tells_volume_and_what_is_wanted(tmp_path: Path) -> None:
    data = answer("paste", written(tmp_path / "sheet.json", SHEET))
    assert [land["pad"] for land in data["lands"]] == [str(n) for n in range(1, 9)]
    assert all(land["volume"] > 0 and land["wanted"] > 0 and land["openings"] == 1 for land in data["lands"])


@pytest.fixture
def folder(sound: Bundle, library: Library) -> Path:
    """A library with the demo's converter as a working copy."""
    library.copies.save(WorkingCopy(bundle=sound))
    return library.folder


def test_tape_tells_the_turn_and_a_pocket_that_is_too_small(folder: Path) -> None:
    data = answer("tape", folder, "NVK-1216T", "--quadrant", "Q2", "--pocket", "6.0,5.4,1.6", status=1)
    assert (data["zero"], data["quadrant"], data["turn"]) == ("A", "Q2", 90)
    assert [f["check"] for f in data["findings"]] == ["tape.pocket"]
    unsaid = answer("tape", folder, "NVK-1216T")
    assert [f["check"] for f in unsaid["findings"]] == ["tape.quadrant"]


def test_a_pocket_of_two_lengths_is_refused(folder: Path) -> None:
    found = eider("tape", folder, "NVK-1216T", "--pocket", "6.0,5.4", status=2)
    assert "A0,B0,K0" in found.stderr
