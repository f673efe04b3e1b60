"""A drawing of the datasheet gets its scale by the lengths in it: strangers' drawings against how they were drawn."""

import json
import math
from pathlib import Path
from typing import Any

import msgspec
import pytest

from eider.cli.packages.lands import bare_bundle
from eider.commands.packages.outline_scale import scale_from_outline
from eider.datasheets import Datasheet
from eider.datasheets.figures.outline_drawings import OutlineDrawing, read_outline
from eider.drawings.datasheet_overlay import place
from eider.errors import InputError
from eider.geometry.limits import Limits
from eider.model.bundle import Bundle
from eider.model.package_sheet import DatasheetPicture, Dimension, PackageSheet

FOREIGN = Path(__file__).parent.parent / "datasheets" / "foreign_drawings"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text(encoding="utf-8"))
# The pages of one program are smaller than drawn; those that are stretched are not to scale.
TO_SCALE = [t for t in TRUTH if not t["stretched"] and "-pic" not in t["file"]]
PAGE = (0.0, 0.0, 595.0, 842.0)
# Where the middle of the upper view was drawn.
MIDDLE = (300.0, 540.0)
PICTURE = DatasheetPicture("", 1, PAGE)


def part_of(truth: dict[str, Any]) -> Bundle:
    own = {truth["own"].get(letter, letter): letter for letter in truth["values"]}
    sheet = PackageSheet(
        name="",
        family=truth["family"],
        pins=truth["pins"],
        dims={letter: Dimension(limits=Limits(nom=value)) for letter, value in truth["values"].items()},
        aliases={letter: standard for letter, standard in own.items() if letter != standard},
    )
    return bare_bundle(sheet, None, "B")


def drawing_of(truth: dict[str, Any]) -> OutlineDrawing:
    datasheet = Datasheet(FOREIGN / truth["file"])
    try:
        return read_outline(datasheet, 1, PAGE)
    finally:
        datasheet.close()


@pytest.mark.parametrize("truth", TO_SCALE, ids=lambda truth: truth["file"])
def test_the_scale_and_the_place_are_those_of_the_drawing(truth: dict[str, Any]) -> None:
    part = part_of(truth)
    made = scale_from_outline(part, PICTURE, drawing_of(truth))
    placement = place(made, part)
    assert placement
    assert placement.scale == pytest.approx(truth["scale"], rel=0.02)
    if made.shows == "top":
        assert math.dist(placement.origin, MIDDLE) < 2.0


def test_a_drawing_that_is_not_to_scale_says_so() -> None:
    truth = next(t for t in TO_SCALE if t["family"] == "chip" and t["letters"])
    wrong = {
        **truth,
        "values": {letter: value * (2 if letter == "D" else 1) for letter, value in truth["values"].items()},
    }
    lengths = [
        x for x in drawing_of(truth).lengths if x.letter in (truth["own"].get("D", "D"), truth["own"].get("E", "E"))
    ]
    drawing = msgspec.structs.replace(drawing_of(truth), lengths=tuple(lengths))
    with pytest.raises(InputError, match="not to scale"):
        scale_from_outline(part_of(wrong), PICTURE, drawing)


def test_a_drawing_without_known_lengths_stays_without_a_scale() -> None:
    part = part_of({**TO_SCALE[0], "values": {}})
    with pytest.raises(InputError, match="fewer than two lengths"):
        scale_from_outline(part, PICTURE, drawing_of(TO_SCALE[0]))
