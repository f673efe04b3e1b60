"""Suggested lands that other programs drew (tools/foreign/drawings), read against what they were drawn from."""

import json
from pathlib import Path
from typing import Any

import msgspec
import pytest
from reportlab.pdfgen.canvas import Canvas

from eider.cli.packages.lands import bare_bundle
from eider.commands.datasheets.drafted_lands import suggestion_of, use_suggestion
from eider.commands.lands.manufacturer_lands import set_suggested
from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.figures.land_drawings import LandDrawing, LetterValue, read_land_drawing, with_letter_values
from eider.datasheets.pages.document import DatasheetError
from eider.errors import InputError
from eider.geometry.limits import Limits
from eider.lands.manufacturer_pattern import land_lengths
from eider.model.bundle import Bundle
from eider.model.package_sheet import Dimension, PackageSheet
from eider.rulebooks import standard_rulebook
from eider.services.datasheets.suggested_lands import lands_of_sheet, suggested_lands

FOREIGN = Path(__file__).parent / "foreign_lands"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text(encoding="utf-8"))
PAGE = (0.0, 0.0, 595.0, 842.0)
# Half of a distance between middles is written with two places.
SAME = 0.011


def part_of(truth: dict[str, Any]) -> Bundle:
    dims = {key: Dimension(f"{value:g}") for key, value in truth["package"].items()}
    return bare_bundle(PackageSheet(name="", family=truth["family"], pins=truth["pins"], dims=dims), None, "B")


def read(truth: dict[str, Any]) -> tuple[Bundle, list[str]]:
    """The part with what its drawing gives, and what is in doubt."""
    bundle, datasheet = part_of(truth), Datasheet(FOREIGN / truth["file"])
    laid = lands_of_sheet(bundle.sheet, "B", standard_rulebook())
    found = suggested_lands(datasheet, tuple(survey(datasheet)), laid)
    datasheet.close()
    for _, suggestion in found:
        bundle = use_suggestion(bundle, suggestion, "0" * 64, "Skerry librarian")
    return bundle, [doubt for _, suggestion in found for doubt in suggestion.doubts]


def is_drawn(lengths: dict[str, float], truth: dict[str, Any]) -> bool:
    """Whether the lengths of a group are those of one of the rows that were drawn, or of the land in the middle."""
    wanted = [truth["middle"] or ()] if "width" in lengths else [[row[k] for k in "ZGX"] for row in truth["rows"]]
    return any(
        len(w) == len(lengths) and max(abs(a - b) for a, b in zip(lengths.values(), w, strict=True)) < SAME
        for w in wanted
    )


@pytest.mark.parametrize("truth", TRUTH, ids=lambda truth: truth["file"])
def test_what_is_taken_of_a_strangers_lands_was_drawn_so_and_the_rest_is_said(truth: dict[str, Any]) -> None:
    bundle, doubts = read(truth)
    given = [land_lengths(lands, {}) for lands in bundle.footprint.suggested]
    assert all(lengths is not None and is_drawn(lengths, truth) for lengths in given)
    assert doubts or len(given) == len(truth["rows"]) + (truth["middle"] is not None)


def test_hardly_a_pattern_of_strangers_is_left_out() -> None:
    assert sum(bool(read(truth)[1]) for truth in TRUTH) <= 1


def test_each_suggested_length_has_its_place_and_the_lands_stay_computed() -> None:
    bundle, _ = read(next(truth for truth in TRUTH if truth["letters"]))
    lengths = [length for lands in bundle.footprint.suggested for length in lands.lengths.values()]
    assert lengths
    assert all(length.evidence and length.evidence.page == 1 and length.evidence.box for length in lengths)
    assert bundle.footprint.source == "computed"
    assert bundle.footprint.has_suggestion


def arrow(canvas: Canvas, tip: tuple[float, float], way: float) -> None:
    """A filled arrow on a line across, whose point looks to where `way` says."""
    path = canvas.beginPath()
    path.moveTo(*tip)
    path.lineTo(tip[0] - 6 * way, tip[1] + 1.2)
    path.lineTo(tip[0] - 6 * way, tip[1] - 1.2)
    path.close()
    canvas.drawPath(path, stroke=0, fill=1)


def drawn(path: Path, *, gap: str = "0.60", lands: int = 2, outside: str = "2.85") -> Path:
    """Two lands, 41.1 by 68.5 points on a scale of 36 points a mm, with the outside and the gap written at lines."""
    canvas = Canvas(str(path), invariant=1)
    canvas.setFont("Helvetica", 8)
    canvas.drawString(150, 520, "Recommended land pattern, mm")
    edges = (100.0, 140.5, 162.1, 202.6)
    for n in range(lands):
        canvas.rect(edges[0] + 62.1 * n, 300, 40.5, 68.5)
    for y, a, b, text in ((400, edges[0], edges[3], outside), (420, edges[1], edges[2], gap)):
        for x in (a, b):
            canvas.line(x, 370, x, y + 3)
        canvas.line(a, y, b, y)
        arrow(canvas, (a, y), -1)
        arrow(canvas, (b, y), 1)
        canvas.drawCentredString((a + b) / 2, y + 3, text)
    canvas.line(202.6, 300, 240, 300)
    canvas.line(202.6, 368.5, 240, 368.5)
    canvas.line(235, 300, 235, 368.5)
    for y, way in ((300, 1), (368.5, -1)):
        path_of_arrow = canvas.beginPath()
        path_of_arrow.moveTo(235, y)
        path_of_arrow.lineTo(233.8, y + 6 * way)
        path_of_arrow.lineTo(236.2, y + 6 * way)
        path_of_arrow.close()
        canvas.drawPath(path_of_arrow, stroke=0, fill=1)
    canvas.drawString(238, 332, "1.40")
    canvas.save()
    return path


def drawing(path: Path, letters: dict[str, tuple[LetterValue, ...]] | None = None) -> LandDrawing:
    datasheet = Datasheet(path)
    try:
        return with_letter_values(read_land_drawing(datasheet, 1, PAGE), letters or {})
    finally:
        datasheet.close()


CHIP = {"family": "chip", "pins": 2, "package": {"D": 2.0, "E": 1.25, "L": 0.5, "A": 0.6}}


def test_lines_measure_outside_gap_and_width(tmp_path: Path) -> None:
    found = drawing(drawn(tmp_path / "two.pdf"))
    told = {x.drawn.text: (x.distance.axis, x.distance.kind) for x in found.lengths if x.distance}
    assert told == {"2.85": ("x", "outer"), "0.60": ("x", "gap"), "1.40": ("y", "size")}


def test_another_count_of_lands_than_the_package_has_is_refused(tmp_path: Path) -> None:
    found = drawing(drawn(tmp_path / "three.pdf", lands=3))
    laid = lands_of_sheet(part_of(CHIP).sheet, "B", standard_rulebook())
    with pytest.raises(InputError, match="the drawing has 3 lands, the package 2"):
        suggestion_of(found, laid)


def test_lengths_of_no_common_scale_are_doubted(tmp_path: Path) -> None:
    # A slipped digit: lands of 0.025 mm, where 1.12 is drawn.
    found = drawing(drawn(tmp_path / "slip.pdf", gap="2.80"))
    suggestion = suggestion_of(found, lands_of_sheet(part_of(CHIP).sheet, "B", standard_rulebook()))
    assert any("mm are drawn on different scales" in doubt for doubt in suggestion.doubts)


def test_a_letter_without_a_value_or_with_two_is_said(tmp_path: Path) -> None:
    path = drawn(tmp_path / "letters.pdf", gap="G", outside="Z")
    two = tuple(LetterValue(t, Limits(nom=float(t)), 1, PAGE, t) for t in ("0.60", "0.65"))
    told = {x.letter: x.doubt for x in drawing(path, {"G": two}).lengths if x.letter}
    assert told == {"G": "tables give 0.60 and 0.65 for G", "Z": "no table gives Z"}


def test_a_range_is_no_length_of_a_land(tmp_path: Path) -> None:
    value = LetterValue("0.55–0.65", Limits(0.55, None, 0.65), 1, PAGE, "0.55 0.65")
    found = drawing(drawn(tmp_path / "range.pdf", gap="G"), {"G": (value,)})
    suggestion = suggestion_of(found, lands_of_sheet(part_of(CHIP).sheet, "B", standard_rulebook()))
    assert "G: 0.55–0.65 is a range; a land needs one length" in suggestion.doubts


def test_a_rectangle_without_lands_is_refused(tmp_path: Path) -> None:
    with pytest.raises(DatasheetError, match="1 land drawn in this rectangle; two or more needed"):
        drawing(drawn(tmp_path / "one.pdf", lands=1))


def test_what_is_read_anew_keeps_what_was_typed_before_on_record(tmp_path: Path) -> None:
    truth = TRUTH[0]
    bundle, _ = read(truth)
    lands = bundle.footprint.suggested[0]
    key = next(iter(lands.lengths))
    typed = set_suggested(bundle, lands.group, key, "9.99")
    changed = next(s for s in typed.footprint.suggested if s.group == lands.group).lengths[key]
    assert (changed.evidence, changed.former_text) == (None, lands.lengths[key].text)
    assert msgspec.structs.replace(typed, footprint=bundle.footprint) == bundle
