"""Files that others made: by hand after the standards with their oddities, and by general tools; held to their truth.

What a file holds is in foreign/truth.json, worked out from what it was made of and not by reading it.
"""

import json
from pathlib import Path
from typing import Any

import pytest

from eider.exchange.found_parts import FoundPart
from eider.geometry.plane import Box, bounds
from eider.services.intake.arrivals import look_into

FOREIGN = Path(__file__).parent / "foreign"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text())


def _near(got: Box, wanted: list[float], within: float = 0.001) -> bool:
    return all(abs(a - b) <= within for a, b in zip(got, wanted, strict=True))


def _read(tmp_path: Path, truth: dict[str, Any]) -> tuple[FoundPart | None, str]:
    arrival = look_into([FOREIGN / truth["file"]], tmp_path)
    part = next((p for p in arrival.parts if p.name == truth.get("name")), None)
    return part, "\n".join([*arrival.log, *(part.log if part else ())])


@pytest.mark.parametrize("truth", TRUTH, ids=lambda t: f"{t['file']} {t.get('name', '')}")
def test_a_foreign_file_is_read_as_it_was_meant(truth: dict[str, Any], tmp_path: Path) -> None:
    part, log = _read(tmp_path, truth)
    for phrase in truth.get("log", ()):
        assert phrase in log
    if "name" not in truth:
        assert part is None
        return
    assert part is not None, log
    if "pads" in truth:
        boxes = {pad.number: pad.box for pad in part.pads}
        assert boxes.keys() == truth["pads"].keys()
        assert [n for n, box in truth["pads"].items() if not _near(boxes[n], box)] == []
    if "boxes" in truth:
        left = [pad.box for pad in part.pads]
        assert len(left) == len(truth["boxes"])
        assert all(any(_near(box, wanted) for box in left) for wanted in truth["boxes"])
    if "sizes" in truth:
        sizes = {pad.number: [pad.box[2] - pad.box[0], pad.box[3] - pad.box[1]] for pad in part.pads}
        assert sizes.keys() == truth["sizes"].keys()
        # The tool writes points with six digits of a page of 288 points.
        assert all(abs(a - b) < 0.005 for n, s in truth["sizes"].items() for a, b in zip(sizes[n], s, strict=True))


@pytest.mark.parametrize("truth", TRUTH, ids=lambda t: f"{t['file']} {t.get('name', '')}")
def test_what_surrounds_the_lands_of_a_foreign_file(truth: dict[str, Any], tmp_path: Path) -> None:
    part, _log = _read(tmp_path, truth)
    if part is None:
        assert "name" not in truth
        return
    assert part.facts == truth.get("facts", {})
    assert [f"{pin.number} {pin.name}" for pin in part.pins] == truth.get("pins", [])
    rows = [f"{row.kind} {row.points} {row.text}".strip() for row in part.graphic]
    starts = truth.get("graphic_starts", truth.get("graphic", []))
    assert len(rows) == len(starts) and all(row.startswith(start) for row, start in zip(rows, starts, strict=True))
    assert (part.height, bool(part.outline)) == (truth.get("height", 0.0), "outline" in truth)
    if part.outline:
        assert _near(bounds(part.outline), truth["outline"])
    if "silkscreen" in truth:
        drawn = [(bounds(stroke.points), stroke.width) for stroke in part.silkscreen]
        assert len(drawn) == len(truth["silkscreen"])
        for (box, width), (wanted, wide) in zip(drawn, truth["silkscreen"], strict=True):
            # An arc is drawn in chords, which leave it by less than a hundredth.
            assert _near(box, wanted, 0.01) and width == pytest.approx(wide)


def test_there_are_enough_foreign_files_and_each_has_its_truth() -> None:
    named = {truth["file"] for truth in TRUTH}
    read_elsewhere = {"inch-board.xml", "micron-package.xml", "stranger.edn", "truth.json"}
    there = {path.name for path in FOREIGN.iterdir()}
    assert there - read_elsewhere == named and len(there) > 20
