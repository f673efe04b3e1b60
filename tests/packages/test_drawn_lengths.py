"""Lengths at lines without letters: what the way in which their lines lie tells of them."""

import pytest
from tests.family_samples import SAMPLES

from eider.geometry.lengths import parse_limits
from eider.model.package_sheet import PackageSheet
from eider.packages.letters.drawing_witness import DrawnReach, DrawnSpan
from eider.packages.letters.drawn_lengths import propose_drawn_lengths
from eider.packages.letters.letter_proposals import DatasheetLetter
from eider.packages.registry import family_of

# For each line: the length, the view, along which axis, how far over it, and what it is.
Line = tuple[str, int, str, DrawnReach, str]
# An eight-lead DIP lying on its side: from above without its leads, from the front, and from the end.
DIP: list[Line] = [
    ("9.3–10.1", 1, "horizontal", "whole", "D"),
    ("6.1–6.6", 1, "vertical", "whole", "E1"),
    ("max 4.4", 0, "vertical", "edge", "A"),
    ("min 0.4", 0, "vertical", "inner", "A1"),
    ("2.54 BSC", 0, "horizontal", "inner", "e"),
    ("0.41–0.51", 0, "horizontal", "inner", "b"),
    ("7.62–8.26", 2, "horizontal", "whole", "E"),
]
# A module with half holes on two sides, and a small quad no-lead with its thermal pad.
MODULE: list[Line] = [
    ("15.0±0.2", 0, "horizontal", "whole", "D"),
    ("20.0±0.2", 0, "vertical", "whole", "E"),
    ("1.5", 0, "vertical", "inner", "e"),
    ("0.9±0.1", 0, "vertical", "inner", "b"),
    ("1.1±0.1", 0, "horizontal", "edge", "L"),
    ("2.6±0.2", 1, "vertical", "whole", "A"),
]
QUAD: list[Line] = [
    ("3.9–4.1", 0, "horizontal", "whole", "D"),
    ("4.9–5.1", 0, "vertical", "whole", "E"),
    ("2.6–2.8", 0, "horizontal", "inner", "D2"),
    ("3.6–3.8", 0, "vertical", "inner", "E2"),
    ("0.5 BSC", 0, "vertical", "inner", "e"),
    ("0.2–0.3", 0, "vertical", "inner", "b"),
    ("0.3–0.5", 0, "horizontal", "edge", "L"),
    ("0.8–1.0", 1, "vertical", "whole", "A"),
]
SO: list[Line] = [
    ("5.8–6.2", 0, "horizontal", "whole", "E"),
    ("3.8–4.0", 0, "horizontal", "inner", "E1"),
    ("4.8–5.0", 0, "vertical", "whole", "D"),
    ("1.27 BSC", 0, "vertical", "inner", "e"),
    ("0.31–0.51", 0, "vertical", "inner", "b"),
    ("0.4–1.27", 1, "horizontal", "edge", "L"),
    ("max 1.75", 1, "vertical", "whole", "A"),
]


def told(key: str, pins: int, lines: list[Line]) -> dict[str, str]:
    """By the length what its line was taken for."""
    rows = [DatasheetLetter(str(index), parse_limits(line[0])) for index, line in enumerate(lines)]
    spans = [
        DrawnSpan(str(index), view, "horizontal" if axis == "horizontal" else "vertical", reach)
        for index, (_text, view, axis, reach, _key) in enumerate(lines)
    ]
    best = propose_drawn_lengths(family_of(key), PackageSheet(name="", family=key, pins=pins), rows, spans)[0]
    return {lines[int(own)][0]: meant for own, meant in best.letters.items()}


def turned(lines: list[Line]) -> list[Line]:
    """The drawing with its view from above turned by a quarter."""
    other = {"horizontal": "vertical", "vertical": "horizontal"}
    return [(t, view, other[axis] if view == 0 else axis, reach, key) for t, view, axis, reach, key in lines]


@pytest.mark.parametrize(
    ("key", "pins", "lines"),
    [
        ("dual-in-line", 8, DIP),
        ("castellated", 24, MODULE),
        ("castellated", 24, turned(MODULE)),
        ("no-lead-quad", 24, QUAD),
        ("no-lead-quad", 24, turned(QUAD)),
        ("gullwing-dual", 8, SO),
        ("gullwing-dual", 8, turned(SO)),
    ],
)
def test_each_length_is_told_by_its_line(key: str, pins: int, lines: list[Line]) -> None:
    assert told(key, pins, lines) == {line[0]: line[4] for line in lines}


def test_a_height_is_never_taken_from_above() -> None:
    lines = [line for line in SO if line[4] != "A"]
    assert "A" not in told("gullwing-dual", 8, lines).values()


def test_every_family_takes_lengths_without_a_drawing_of_its_own() -> None:
    for key in SAMPLES:
        sheet = PackageSheet(name="", family=key, pins=family_of(key).default_pins)
        rows = [DatasheetLetter("0", parse_limits("5.0")), DatasheetLetter("1", parse_limits("1.0"))]
        spans = [DrawnSpan("0", 0, "horizontal", "whole"), DrawnSpan("1", 1, "vertical", "whole")]
        for proposal in propose_drawn_lengths(family_of(key), sheet, rows, spans):
            assert set(proposal.letters) <= {"0", "1"}
