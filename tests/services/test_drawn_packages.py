"""Packages that drawings and tables tell together: crystals, connectors over ways, switches on drawing sheets."""

from pathlib import Path

import pytest
from reportlab.lib.pagesizes import A4, landscape
from reportlab.pdfgen.canvas import Canvas

from drawn_figures import dimension, ruled_table
from eider.demo.parts import LIBRARIAN
from eider.library import Library, init_library
from eider.model.evidence import EvidenceKind
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)


def drafted(library: Library, path: Path, package: str = "") -> DatasheetDraft:
    return draft_from_datasheet(library, path, DraftChoice(name="LYN-X1", category="ic", package=package))


def lengths_of(draft: DatasheetDraft) -> dict[str, str]:
    return {key: dimension.text for key, dimension in draft.bundle.sheet.dims.items()}


def titled(path: Path, title: str, pagesize: tuple[float, float] = A4) -> Canvas:
    canvas = Canvas(str(path), pagesize=pagesize, invariant=1)
    canvas.setFont("Helvetica-Bold", 14)
    canvas.drawString(50, pagesize[1] - 60, title)
    return canvas


def crystal(path: Path, inset: float = 0.0) -> Path:
    """A crystal of 3.2 by 2.5 mm on a scale of 30 points a mm; its pads stand so far (mm) from the corners."""
    canvas = titled(path, "LYN-X1 crystal unit")
    canvas.setFont("Helvetica-Bold", 10)
    canvas.drawString(50, 740, "Dimensions (mm)")
    canvas.rect(60, 620, 96, 75)
    dimension(canvas, "x", (60, 156), 698, 712, "3.20±0.10")
    dimension(canvas, "y", (620, 695), 159, 172, "2.50±0.10")
    canvas.rect(300, 620, 96, 75)
    for x in (300 + 30 * inset, 396 - 30 - 30 * inset):
        for y in (620 + 30 * inset, 695 - 27 - 30 * inset):
            canvas.rect(x, y, 30, 27)
    dimension(canvas, "y", (620 + 30 * inset, 647 + 30 * inset), 399, 412, "0.90±0.10")
    dimension(canvas, "x", (300 + 30 * inset, 330 + 30 * inset), 617, 604, "1.00±0.10")
    canvas.rect(60, 540, 96, 21)
    dimension(canvas, "y", (540, 561), 159, 172, "0.70 max")
    canvas.setFont("Helvetica-Bold", 10)
    canvas.drawString(50, 500, "Recommended land pattern (mm)")
    for x in (60, 126):
        for y in (380, 431):
            canvas.rect(x, y, 42, 36, fill=0)
    dimension(canvas, "x", (81, 147), 470, 482, "2.2")
    dimension(canvas, "y", (398, 449), 171, 190, "1.7")
    dimension(canvas, "x", (126, 168), 377, 366, "1.4")
    dimension(canvas, "y", (380, 416), 57, 30, "1.2")
    canvas.save()
    return path


def test_the_pitch_of_pads_at_the_corners_follows_from_body_and_pad(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, crystal(tmp_path / "crystal.pdf"))
    assert draft.bundle.sheet.family == "castellated"
    read = {"D": "3.20±0.10", "E": "2.50±0.10", "b": "0.90±0.10", "L": "1.00±0.10", "A": "0.70 max", "e": "E - b"}
    assert lengths_of(draft) == read
    evidence = draft.bundle.sheet.dims["e"].evidence
    assert evidence
    assert (evidence.kind, evidence.page) == (EvidenceKind.CALCULATED, 1)
    assert [d.reading for d in draft.doubts if d.address == "sheet.dims.e"] == ["E - b"]


def test_the_pitch_of_pads_within_the_body_is_measured_in_the_drawing(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, crystal(tmp_path / "crystal.pdf", inset=0.2))
    # Between the middles: 2.5 less two insets and one pad.
    assert lengths_of(draft)["e"] == "1.20"
    evidence = draft.bundle.sheet.dims["e"].evidence
    assert evidence
    assert evidence.kind == EvidenceKind.MEASURED
    assert any("measured in the drawing" in d.reason for d in draft.doubts if d.address == "sheet.dims.e")


def test_two_by_two_lands_lie_as_the_pitch_of_the_package_does(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, crystal(tmp_path / "crystal.pdf"))
    (lands,) = draft.bundle.footprint.suggested
    texts = {key: length.text for key, length in lands.lengths.items()}
    # Along the rows of e = 1.6 the lands are 1.7 apart; across them 2.2.
    assert texts == {"C": "2.2", "Y": "1.4", "X": "1.2"}


WAYS = [
    ["Part No.", "Circuits", "A", "B"],
    *([f"OHC-{n:02}", str(n), f"{2.5 * (n - 1):.1f}", f"{2.5 * n + 2.4:.1f}"] for n in (2, 3, 4, 6, 8)),
]


def ways_sheet(path: Path, title: str) -> Path:
    canvas = titled(path, title)
    canvas.setFont("Helvetica", 9)
    canvas.drawString(50, 700, "Dimensions (mm)")
    ruled_table(canvas, WAYS, (50, 580))
    canvas.save()
    return path


@pytest.mark.parametrize(
    ("title", "doubts"),
    [
        ("OHC wire to board header, 2.5 mm pitch", []),
        ("OHC wire to board header", ["not written: A and B grow by 2.5 mm for each way"]),
        ("OHC header, 1.25 mm pitch", ["not written: A and B grow by 2.5 mm for each way"]),
    ],
)
def test_the_pitch_of_a_connector_is_by_what_its_lengths_grow(
    library: Library, tmp_path: Path, title: str, doubts: list[str]
) -> None:
    draft = drafted(library, ways_sheet(tmp_path / "ways.pdf", title), "6")
    assert draft.bundle.sheet.family == "header"
    assert (draft.bundle.sheet.pins, lengths_of(draft)["e"]) == (6, "2.5")
    assert [d.reason for d in draft.doubts if d.address == "sheet.dims.e"] == doubts


def switch_sheet(path: Path) -> Path:
    """A switch with four leads on a framed sheet, on a scale of 15 points a mm; the lands stand under the outline."""
    width, height = landscape(A4)
    canvas = Canvas(str(path), pagesize=(width, height), invariant=1)
    canvas.setFillGray(1)
    canvas.rect(25, 25, width - 50, height - 50, fill=1)
    canvas.setFillGray(0)
    for y in (30, 46):
        canvas.line(30, y, width - 30, y)
    canvas.setFont("Helvetica", 8)
    canvas.drawString(40, 35, "BRM-TS6")
    canvas.drawString(140, 35, "Tactile switch, surface mount")
    canvas.drawString(450, 35, "UNIT: mm")
    canvas.drawString(560, 35, "SHEET 1/1")
    canvas.rect(60, 400, 90, 90)
    for x in (66, 134):
        for y in (377, 490):
            canvas.rect(x, y, 10, 23)
    dimension(canvas, "x", (60, 150), 516, 530, "6.0±0.2")
    dimension(canvas, "y", (400, 490), 153, 168, "6.0±0.2")
    dimension(canvas, "y", (377, 513), 155, 205, "9.0±0.3")
    dimension(canvas, "x", (71, 139), 375, 352, "4.5")
    dimension(canvas, "x", (134, 144), 375, 330, "0.7±0.1")
    canvas.rect(400, 400, 90, 60)
    dimension(canvas, "y", (400, 460), 493, 508, "4.0±0.2")
    for x in (60, 128):
        for y in (160, 250):
            canvas.rect(x, y, 20, 30)
    dimension(canvas, "x", (70, 138), 282, 293, "4.5")
    dimension(canvas, "y", (175, 265), 151, 168, "6.0")
    dimension(canvas, "y", (160, 190), 57, 40, "2.0")
    dimension(canvas, "x", (128, 148), 157, 140, "1.3")
    canvas.setFont("Helvetica", 8)
    canvas.drawString(60, 110, "RECOMMENDED LAND PATTERN")
    canvas.save()
    return path


def test_a_drawing_sheet_tells_the_package_and_its_lands_how_many_leads_it_has(
    library: Library, tmp_path: Path
) -> None:
    draft = drafted(library, switch_sheet(tmp_path / "switch.pdf"))
    assert (draft.bundle.sheet.family, draft.bundle.sheet.pins) == ("gullwing-dual", 4)
    read = {"D": "6.0±0.2", "E": "9.0±0.3", "E1": "6.0±0.2", "e": "4.5", "b": "0.7±0.1", "A": "4.0±0.2"}
    assert lengths_of(draft) == read
    assert [d.reading for d in draft.doubts if d.address == "sheet.dims.L"] == [""]
    (lands,) = draft.bundle.footprint.suggested
    assert {key: length.text for key, length in lands.lengths.items()} == {"C": "6.0", "Y": "2.0", "X": "1.3"}


def positions_sheet(path: Path) -> Path:
    """A switch whose table gives its length by positions, and whose drawing all other lengths (20 points a mm)."""
    canvas = titled(path, "BRM-DS slide switch, gull wing")
    canvas.setFont("Helvetica-Bold", 10)
    canvas.drawString(50, 760, "OUTLINE mm")
    canvas.rect(80, 600, 176, 108)
    for n in range(6):
        for y in (567, 708):
            canvas.rect(100.5 + 25.4 * n, y, 8, 33)
    dimension(canvas, "x", (80, 256), 711, 752, "A")
    dimension(canvas, "x", (104.5, 231.5), 743, 732, "B")
    dimension(canvas, "y", (600, 708), 259, 275, "5.4±0.1")
    dimension(canvas, "y", (567, 741), 259, 320, "8.7±0.3")
    dimension(canvas, "x", (104.5, 129.9), 565, 545, "1.27")
    dimension(canvas, "x", (227.5, 235.5), 565, 545, "0.4")
    canvas.rect(400, 600, 140, 50)
    dimension(canvas, "y", (600, 650), 543, 556, "2.5")
    canvas.drawString(559, 612, "MAX.")
    rows = [
        ["Positions", "2", "4", "6", "8"],
        ["A", "3.7", "6.3", "8.8", "11.3"],
        ["B", "1.27", "3.81", "6.35", "8.89"],
    ]
    ruled_table(canvas, rows, (50, 440))
    canvas.drawString(50, 420, "Tolerance ±0.05 where none is given")
    canvas.setFont("Helvetica-Bold", 10)
    canvas.drawString(50, 390, "P.C.B. LAYOUT")
    for n in range(6):
        for y in (180, 310):
            canvas.rect(80 + 25.4 * n, y, 15, 44)
    dimension(canvas, "x", (87.5, 112.9), 357, 368, "1.27")
    dimension(canvas, "y", (202, 332), 225, 240, "6.5")
    dimension(canvas, "y", (180, 224), 77, 55, "2.2")
    dimension(canvas, "x", (207, 222), 177, 160, "0.75")
    canvas.save()
    return path


def test_a_table_over_positions_and_a_drawing_make_one_package(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, positions_sheet(tmp_path / "positions.pdf"), "6")
    sheet = draft.bundle.sheet
    assert (sheet.family, sheet.pins, sheet.aliases) == ("gullwing-dual", 12, {"A": "D"})
    # The tolerance for all is no pitch's; B is five pitches, and says nothing new.
    read = {"D": "8.8", "E": "8.7±0.3", "E1": "5.4±0.1", "e": "1.27", "b": "0.4±0.05", "A": "2.5 max"}
    assert lengths_of(draft) == read
    evidence = sheet.dims["D"].evidence
    assert evidence
    assert evidence.text == "8.8"


def lands_table(path: Path, rows: list[list[str]]) -> Path:
    canvas = titled(path, "LYN-MF thin film MELF resistors")
    canvas.setFont("Helvetica", 9)
    canvas.drawString(50, 720, "Dimensions (mm)")
    ruled_table(canvas, [["Type", "D", "L", "K min"], ["0102", "1.1 ±0.1", "2.2 ±0.1", "0.4"],
                         ["0204", "1.4 ±0.1", "3.6 ±0.2", "0.5"]], (50, 650))  # fmt: skip
    canvas.drawString(50, 600, "Recommended solder pad dimensions (mm)")
    ruled_table(canvas, rows, (50, 520))
    canvas.save()
    return path


@pytest.mark.parametrize(
    ("heads", "values", "taken", "told"),
    [
        (["G", "Y", "X", "Z"], ["2.4", "1.3", "1.7", "5.0"], {"Z": "5.0", "G": "2.4", "X": "1.7"}, ""),
        (["G", "Y", "X"], ["2.4", "1.3", "1.7"], {"G": "2.4", "Y": "1.3", "X": "1.7"}, "in the sense of IPC-7351"),
        (["G", "Y", "X", "Z"], ["2.4", "1.3", "1.7", "6.0"], None, "enter them under Lands"),
        (["G", "Y", "X"], ["6.4", "1.3", "1.7"], None, "enter them under Lands"),
        (["a", "b", "c"], ["2.4", "1.3", "1.7"], None, "enter them under Lands"),
    ],
)
def test_lands_of_a_table_are_taken_by_the_letters_of_the_standard(
    library: Library, tmp_path: Path, heads: list[str], values: list[str], taken: dict[str, str] | None, told: str
) -> None:
    small = {"2.4": "1.3", "1.3": "0.9", "1.7": "1.3", "5.0": "3.1"}
    rows = [["Type", *heads], ["0102", *(small.get(v, v) for v in values)], ["0204", *values]]
    draft = drafted(library, lands_table(tmp_path / "melf.pdf", rows), "0204")
    found = [{key: x.text for key, x in lands.lengths.items()} for lands in draft.bundle.footprint.suggested]
    assert found == ([taken] if taken else [])
    reasons = [d.reason for d in draft.doubts if d.address == "lands"]
    assert any(told in reason for reason in reasons) if told else reasons == []
