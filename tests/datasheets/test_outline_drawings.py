"""Outline drawings that other programs drew (tools/foreign/drawings), read against what they were drawn from."""

import json
from pathlib import Path
from typing import Any

import pytest
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import Open, tables_of
from eider.cli.packages.lands import bare_bundle
from eider.datasheets import Datasheet
from eider.datasheets.documents.click_capture import read_length
from eider.datasheets.figures.drawings_nearby import with_letters_drawn
from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing, lettered_spans, read_outline
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.tables.table_capture import capture_table
from eider.geometry.limits import Limits
from eider.model.package_sheet import DatasheetPicture, PackageSheet
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter
from eider.packages.registry import family_of
from eider.services.parts.drawing_scaling import with_scale

FOREIGN = Path(__file__).parent / "foreign_drawings"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text(encoding="utf-8"))
PAGE = (0.0, 0.0, 595.0, 842.0)
AXES = {"x": "horizontal", "y": "vertical"}
SAME_POINTS = 1.6


def read(path: Path) -> OutlineDrawing:
    datasheet = Datasheet(path)
    try:
        return read_outline(datasheet, 1, PAGE)
    finally:
        datasheet.close()


def is_length(found: DrawnLength, typed: dict[str, Any]) -> bool:
    """Whether a line has the text, the axis, the extent and the reach that it was drawn with."""
    text = (found.letter or found.text).replace(" ", "").removesuffix("mm")
    extent = found.span.stop - found.span.start
    is_same = abs(extent - typed["points"]) <= SAME_POINTS and found.reach == typed["reach"]
    return text == typed["text"] and found.span.axis == AXES[typed["axis"]] and is_same


@pytest.mark.parametrize("truth", TRUTH, ids=lambda truth: truth["file"])
def test_what_is_read_of_a_strangers_drawing_stands_at_its_line(truth: dict[str, Any]) -> None:
    lengths = read(FOREIGN / truth["file"]).lengths
    wrong = [x for x in lengths if not x.doubt and not any(is_length(x, typed) for typed in truth["dimensions"])]
    assert wrong == []


def test_hardly_a_length_of_strangers_drawings_is_missed() -> None:
    missed = [
        (truth["file"], typed["text"])
        for truth in TRUTH
        for lengths in [read(FOREIGN / truth["file"]).lengths]
        for typed in truth["dimensions"]
        if not any(is_length(found, typed) for found in lengths)
    ]
    assert len(missed) <= 0.03 * sum(len(truth["dimensions"]) for truth in TRUTH), missed


def drawn(path: Path, *, arrows_outside: bool = False, two_texts: bool = False) -> OutlineDrawing:
    """A box of 100 by 60 points with one length under it, from end to end."""
    canvas = Canvas(str(path), invariant=1)
    canvas.rect(100, 300, 100, 60)
    for x in (100, 200):
        canvas.line(x, 298, x, 270)
    ends = ((70, 100), (200, 230)) if arrows_outside else ((100, 200),)
    for a, b in ends:
        canvas.line(a, 275, b, 275)
    for tip, way in ((100, -1), (200, 1)):
        back = tip + (way if arrows_outside else -way) * 6
        path_of_arrow = canvas.beginPath()
        path_of_arrow.moveTo(tip, 275)
        path_of_arrow.lineTo(back, 276.2)
        path_of_arrow.lineTo(back, 273.8)
        path_of_arrow.close()
        canvas.drawPath(path_of_arrow, stroke=0, fill=1)
    canvas.setFont("Helvetica", 8)
    canvas.drawCentredString(150, 278, "7.0 ±0.1")
    if two_texts:
        canvas.drawCentredString(150, 264, "NOTE 1")
    canvas.save()
    return read(path)


def test_a_length_is_told_with_its_limits_and_from_where_to_where(tmp_path: Path) -> None:
    (found,) = drawn(tmp_path / "a.pdf", two_texts=True).lengths
    assert found.limits
    assert (found.limits.min, found.limits.max) == (6.9, 7.1)
    assert (round(found.span.start), round(found.span.stop), found.reach) == (100, 200, "whole")


def test_arrows_that_point_at_each_other_from_afar_are_no_length(tmp_path: Path) -> None:
    drawing = drawn(tmp_path / "a.pdf", arrows_outside=True)
    assert drawing.lengths == ()


def test_a_page_without_a_drawing_has_no_lengths(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"))
    canvas.drawString(100, 700, "A 6.40 B 5.00")
    canvas.save()
    assert read(tmp_path / "a.pdf") == OutlineDrawing((), (), 0)


def test_letters_get_their_meaning_with_the_drawing() -> None:
    lettered = [truth for truth in TRUTH if truth["letters"]]
    wrong = []
    for truth in lettered:
        own = {letter: truth["own"].get(letter, letter) for letter in truth["values"]}
        rows = [
            DatasheetLetter(
                own[letter], Limits(nom=value) if letter == "e" else Limits(0.97 * value, None, 1.03 * value)
            )
            for letter, value in truth["values"].items()
        ]
        sheet = PackageSheet(name="", family=truth["family"], pins=truth["pins"])
        spans = lettered_spans(read(FOREIGN / truth["file"]))
        first = propose_drawn_letters(family_of(truth["family"]), sheet, rows, spans)[0]
        wrong += [truth["file"]] if first.letters != {own[letter]: letter for letter in own} else []
    assert len(lettered) > 6
    assert wrong == []


def test_the_drawing_beside_a_table_is_found(opened: Open, sheets: Path) -> None:
    datasheet = opened("NVK-1216T")
    place = next(t for t in tables_of(sheets, "NVK-1216T") if t["as"] == "dimensions")["places"][0]
    plain = capture_table(datasheet, place["page"], tuple(place["box"]), "dimensions")
    found = with_letters_drawn(datasheet, plain)
    assert {"H", "E", "D"} <= {span.letter for span in found.drawn}
    pins = next(t for t in tables_of(sheets, "NVK-1216T") if t["as"] == "pins")["places"][0]
    of_pins = capture_table(datasheet, pins["page"], tuple(pins["box"]), "pins")
    assert with_letters_drawn(datasheet, of_pins) == of_pins


def test_a_picture_of_strokes_is_refused_at_once_and_kept_without_a_scale(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), invariant=1)
    for index in range(5_000):
        x, y = 50 + index % 100 * 5, 50 + index // 100 * 12
        canvas.line(x, y, x + 4, y + 4)
        canvas.line(x, y, x + 4, y)
    canvas.save()
    with pytest.raises(DatasheetError, match="5,000 lines and 0 arrows in this rectangle"):
        read(tmp_path / "a.pdf")
    datasheet = Datasheet(tmp_path / "a.pdf")
    picture = DatasheetPicture("", 1, PAGE)
    assert (
        with_scale(datasheet, bare_bundle(PackageSheet(name="a", family="chip", pins=2), None, "B"), picture) == picture
    )
    datasheet.close()


def test_a_click_on_a_length_of_a_drawing_takes_just_that_or_asks() -> None:
    wrong, asked, clicks = [], 0, 0
    for truth in (t for t in TRUTH if not t["letters"]):
        datasheet = Datasheet(FOREIGN / truth["file"])
        page = datasheet.read(1)
        for found in read_outline(datasheet, 1, PAGE).lengths:
            x0, y0, x1, y1 = found.box
            click = read_length(page, (x0 + x1) / 2, (y0 + y1) / 2)
            clicks += 1
            asked += not click.is_clear
            wrong += [found.text] if click.is_clear and click.candidates[0].limits != found.limits else []
        datasheet.close()
    assert clicks > 20
    assert asked <= 0.05 * clicks
    assert wrong == []
