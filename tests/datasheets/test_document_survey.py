"""A document read through: every table of the demo is found, what is none is not, and the work can be ended."""

from pathlib import Path

import pypdfium2
import pypdfium2.raw as pdfium
import pytest
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import DUAL_ROWS, Open, draw, tables_of
from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.package_names import packages_named
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.table_capture import capture_table
from eider.services.tasks import CancelledError, Task

SINGLE = ("NVK-1216T", "NVK-3301Q", "NVK-4GT", "BRM-L18", "BRM-PT6", "LYN-X25", "NVK-U100P")


@pytest.mark.parametrize("name", SINGLE)
def test_the_tables_of_a_datasheet_are_found_where_they_begin(name: str, opened: Open, sheets: Path) -> None:
    found = [item for item in survey(opened(name)) if item.kind in ("pins", "dimensions")]
    wanted = [(table["as"], table["places"][0]) for table in tables_of(sheets, name)]
    for kind, place in wanted:
        x, y = (place["box"][0] + place["box"][2]) / 2, (place["box"][1] + place["box"][3]) / 2
        here = [item.kind for item in found if item.page == place["page"] and holds(item.box, (x, y, x, y))]
        assert here == [kind]
    assert len(found) == len(wanted)


def test_a_letter_of_the_drawing_above_is_no_heading(opened: Open) -> None:
    datasheet = opened("BRM-PT6")
    (found,) = [item for item in survey(datasheet) if item.kind == "dimensions"]
    read = capture_table(datasheet, found.page, found.box, "dimensions").dimensions
    assert read
    assert {row.letter: row.text for row in read.rows}["A"] == ".280–.300 in"


def test_order_codes_and_sizes_of_a_family_are_called_so(opened: Open) -> None:
    kinds = {item.kind: item.page for item in survey(opened("LYN-C"))}
    assert kinds == {"ordering": 1, "outline": 2, "family": 2}


def test_the_bits_of_a_register_are_no_pins(tmp_path: Path) -> None:
    rows = [["Bit", "Name", "Access", "Reset", "Description"]]
    rows += [[str(bit), f"EN{bit}", "R/W", "0", "enables the channel"] for bit in range(8)]
    draw(tmp_path / "a.pdf", rows)
    datasheet = Datasheet(tmp_path / "a.pdf")
    assert list(survey(datasheet)) == []
    datasheet.close()


def test_a_table_over_pages_is_one(opened: Open) -> None:
    (pins,) = [item for item in survey(opened("NVK-U100P")) if item.kind == "pins"]
    assert pins.rows == 100


def test_reading_through_can_be_ended(tmp_path: Path) -> None:
    draw(tmp_path / "sheet.pdf", DUAL_ROWS, page=3)
    task, seen = Task(), []

    def report(share: float, what: str) -> None:
        seen.append(what)
        task.cancel()
        task.report(share, what)

    with pytest.raises(CancelledError):
        list(survey(Datasheet(tmp_path / "sheet.pdf"), report))
    assert seen == ["reading page 1"]


@pytest.mark.parametrize(
    ("text", "named"),
    [
        ("The LYN-OP2 comes in SOIC-8 and MSOP-8.", ["SOIC-8", "MSOP-8"]),
        ("16-lead TSSOP, 24 pin VQFN", ["TSSOP-16", "VQFN-24"]),
        ("Supply of 5 V; see page 12.", []),
    ],
)
def test_packages_are_known_by_their_names(text: str, named: list[str]) -> None:
    assert sorted(packages_named(text)) == sorted(named)


def test_numbers_in_columns_that_run_together_are_a_doubt(opened: Open) -> None:
    """With a stray letter above the headings the first columns cannot be told apart."""
    found = capture_table(opened("BRM-L18"), 2, (67, 208, 475, 422), "dimensions")
    assert found.dimensions
    assert found.dimensions.doubt == "numbers are in columns that could not be told apart"


def turned_by_a_quarter(path: Path, made: Path) -> Path:
    """A document whose pages all lie on their side, as landscape tables do."""
    source, turned = pypdfium2.PdfDocument(path), pypdfium2.PdfDocument.new()
    for index in range(len(source)):
        width, height = source[index].get_size()
        drawn = pdfium.FPDF_NewXObjectFromPage(turned.raw, source.raw, index)
        form = pdfium.FPDF_NewFormObjectFromXObject(drawn)
        pdfium.FPDFPageObj_SetMatrix(form, pdfium.FS_MATRIX(0, 1, -1, 0, height, 0))
        page = turned.new_page(height, width)
        pdfium.FPDFPage_InsertObject(page.raw, form)
        pdfium.FPDFPage_GenerateContent(page.raw)
    turned.save(made)
    return made


@pytest.mark.parametrize("name", ["NVK-1216T", "NVK-U100P", "LYN-C"])
def test_what_lies_on_its_side_is_found_as_well(name: str, opened: Open, sheets: Path, tmp_path: Path) -> None:
    datasheet = Datasheet(turned_by_a_quarter(sheets / f"{name}.pdf", tmp_path / "turned.pdf"))
    upright = [(item.kind, item.page) for item in survey(opened(name))]
    assert [(item.kind, item.page) for item in survey(datasheet)] == upright
    rows = {item.page: item.rows for item in survey(opened(name)) if not item.is_figure}
    assert {item.page: item.rows for item in survey(datasheet) if not item.is_figure} == rows
    datasheet.close()


def test_a_turned_table_among_upright_text_is_found(opened: Open) -> None:
    assert [(item.kind, item.page, item.rows) for item in survey(opened("OHC-125"))] == [
        ("dimensions", 1, 5),
        ("family", 2, 33),
        ("lands", 3, 7),
    ]


def test_views_under_one_title_are_one_drawing_and_lands_another(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), invariant=1)
    canvas.setFont("Helvetica", 9)

    def view(y: float) -> None:
        for n in range(4):
            canvas.rect(200 + 30 * n, y, 20, 50)
        for n, text in enumerate(("0.50", "1.20", "2.40")):
            canvas.line(200, y - 8 * n - 6, 290, y - 8 * n - 6)
            canvas.drawString(295, y - 8 * n - 8, text)

    canvas.drawString(200, 760, "Package outline")
    view(690)
    view(580)
    canvas.drawString(200, 520, "Recommended land pattern")
    view(450)
    canvas.save()
    datasheet = Datasheet(tmp_path / "a.pdf")
    found = [(item.kind, item.is_figure) for item in survey(datasheet)]
    datasheet.close()
    assert found == [("outline", True), ("lands", True)]


def test_a_text_far_outside_of_the_page_is_of_no_drawing(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), invariant=1)
    canvas.drawString(200, 760, "Package outline")
    for n, text in enumerate(("0.50", "1.20", "2.40")):
        canvas.rect(200 + 40 * n, 600, 30, 80)
        canvas.drawString(200 + 40 * n, 690, text)
    # Close to the drawing where it begins, and ten thousand points wide.
    canvas.setFont("Helvetica", 4000)
    canvas.drawString(300, 650, "8.00")
    canvas.save()
    datasheet = Datasheet(tmp_path / "a.pdf")
    (found,) = survey(datasheet)
    datasheet.close()
    assert found.kind == "outline"
    assert found.box[2] < 400
