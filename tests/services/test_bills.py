"""A design's list becomes a bill: columns assigned and kept, doubts told, written as a workbook with real numbers."""

from pathlib import Path

import openpyxl
import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.catalogue.answer_cache import AnswerCache, cache_path
from eider.catalogue.protocol import CatalogueEntry, Price, SupplierOffer
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import InputError
from eider.library import Library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.errors import ConflictError
from eider.model.library import BillColumn
from eider.model.part import DatasheetLink
from eider.services.facts.bills import bill_columns, keep_meanings, make_bill, open_list, save_template, write_bill

LIST = 'Item,Where,What,Qty\n1,"C1, C2",100 nF,2\n2,C3,nothing,1\n'


@pytest.fixture
def parts(tmp_path: Path) -> Path:
    path = tmp_path / "parts.csv"
    path.write_text(LIST, encoding="utf-8")
    return path


def test_columns_are_assigned_and_kept(library: Library, parts: Path) -> None:
    with pytest.raises(InputError, match="no column says which part"):
        make_bill(library, open_list(library, parts), bill_columns(library))
    opened = open_list(library, parts, {"Where": "reference", "What": "value"})
    assert opened.meanings == ("ignored", "reference", "value", "quantity")
    opened = open_list(library, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    keep_meanings(library, opened)
    # Another list with these headings is read so.
    assert open_list(library, parts).meanings == opened.meanings
    keep_meanings(library, opened)
    with pytest.raises(InputError, match="no column “Which”"):
        open_list(library, parts, {"Which": "part"})
    with pytest.raises(InputError, match="not a meaning"):
        open_list(library, parts, {"What": "colour"})


def test_templates_are_those_of_the_library(library: Library) -> None:
    columns = (BillColumn("N", "{quantity}", number=True), BillColumn("Maker", "{Manufacturer}"))
    library.settings = replace(library.settings, bills={"assembly": columns})
    assert bill_columns(library) == bill_columns(library, "assembly") == columns
    assert len(bill_columns(library, "standard")) > 2
    with pytest.raises(InputError, match="no template “x”"):
        bill_columns(library, "x")
    library.settings = replace(library.settings, bills={"assembly": (BillColumn("C", "{Smell}"),)})
    with pytest.raises(InputError, match="“Smell” is not a fact"):
        bill_columns(library)


def test_a_bill_is_written_with_real_numbers(library: Library, parts: Path, tmp_path: Path) -> None:
    opened = open_list(library, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    bill = make_bill(library, opened, bill_columns(library), boards=5)
    write_bill(tmp_path / "bill.xlsx", bill)
    sheet = openpyxl.load_workbook(tmp_path / "bill.xlsx").active
    assert [cell.value for cell in sheet[1]][:3] == ["Item", "Quantity", "References"]
    assert [cell.value for cell in sheet[2]][:3] == [1, 2, "C1, C2"]
    with pytest.raises(InputError, match="0 boards"):
        make_bill(library, opened, bill_columns(library), boards=0)


def test_the_command(library: Library, parts: Path, tmp_path: Path) -> None:
    assigned = ("--column", "Where=reference", "--column", "What=value", "--column", "Item=ignored")
    data = answer("bom", library.folder, parts, *assigned, "--out", tmp_path / "b.csv", "--keep-columns")
    assert (data["parts"], len(data["open"])) == (0, 2)
    assert data["columns"] == {"Item": "ignored", "Where": "reference", "What": "value", "Qty": "quantity"}
    said = eider("bom", library.folder, parts)
    assert "no part of the library is “nothing”" in str(data["open"]) and "2 open" in said.stdout
    assert (tmp_path / "b.csv").read_text(encoding="utf-8-sig").startswith("Item,Quantity,References")
    assert "is not there" in eider("bom", library.folder, tmp_path / "no.csv", status=2).stderr
    assert "HEADING=MEANING" in eider("bom", library.folder, parts, "--column", "x", status=2).stderr


@pytest.fixture
def stocked(library: Library) -> Library:
    """The library with one capacitor, which is being worked on."""
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    bundle = chip_part(library, series, size, "100 nF", DatasheetLink("0" * 64, "LYN-C.pdf", 2))
    library.copies.save(WorkingCopy(bundle=bundle))
    return library


def _priced(library: Library, parts: Path, boards: int, template: str = "with prices") -> dict[str, list[object]]:
    """The cells of the line of C1 and C2, by heading, and the findings."""
    opened = open_list(library, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    bill = make_bill(library, opened, bill_columns(library, template), boards, address=ADDRESS)
    found = dict(zip(bill.table.rows[0], bill.table.rows[1], strict=True))
    return {str(heading): [cell] for heading, cell in found.items()} | {"findings": list(bill.table.findings)}


ADDRESS = "http://catalogue.skerry.example"


def test_prices_at_the_quantity_are_those_that_were_last_heard(stocked: Library, parts: Path) -> None:
    nothing = _priced(stocked, parts, 1)
    assert nothing["Unit price"] == [""]
    assert any("no price is known" in str(text) for text in nothing["findings"])
    offers = (
        SupplierOffer("Kelp & Sons", "K1", 15, "EUR", (Price(1, "0.10"), Price(10, "0.08"))),
        SupplierOffer("Farewell Depot", "F1", 9000, "USD", (Price(1, "0.01"),)),
    )
    (name,) = [r.name for r in stocked.search("100 nF")]
    entry = CatalogueEntry(name, "lyng passive", offers=offers)
    AnswerCache(cache_path(ADDRESS)).keep_parts([entry], 0.0)
    stocked.settings = replace(stocked.settings, currency="EUR")
    # Two of them on a board: 2 at 0.10, 10 at 0.08, 20 at 0.08 with 15 in stock.
    for boards, each, cost, doubts in ((1, 0.1, 0.2, 0), (5, 0.08, 0.8, 0), (10, 0.08, 1.6, 1)):
        found = _priced(stocked, parts, boards)
        assert (found["Unit price"], found["Cost"], found["To order"]) == ([each], [cost], [2 * boards])
        assert (found["Supplier"], found["Currency"], found["Asked"]) == (["Kelp & Sons"], ["EUR"], ["1970-01-01"])
        assert sum("Kelp & Sons has 15 of 20 in stock" in str(t) for t in found["findings"]) == doubts
    stocked.settings = replace(stocked.settings, currency="NOK")
    assert any("no supplier offers it" in str(t) for t in _priced(stocked, parts, 1)["findings"])


def test_alternates_have_value_and_land_pattern_in_common(stocked: Library, parts: Path) -> None:
    (row,) = stocked.search("100 nF")
    twin = replace(stocked.load(row.id), part=replace(stocked.load(row.id).part, id="f" * 16, name="TWIN-100N"))
    stocked.copies.save(WorkingCopy(bundle=twin))
    chosen = {2: row}
    opened = open_list(stocked, parts, {"Where": "reference", "What": "value", "Item": "ignored"})
    bill = make_bill(stocked, opened, (BillColumn("Others", "{alternates}"),), 1, chosen)
    assert bill.table.rows[1] == ("TWIN-100N",)


def test_a_template_is_saved_in_the_settings_and_what_is_wrong_with_it_told(library: Library) -> None:
    columns = (
        BillColumn("Ref", "{references}", required=True),
        BillColumn("With “spare”", "= total * 1.05", number=True),
    )
    save_template(library, "for buying", columns)
    again = open_library(library.folder)
    assert bill_columns(again, "for buying") == columns
    assert again.settings == library.settings
    save_template(library, "for buying", columns[:1])
    assert bill_columns(open_library(library.folder), "for buying") == columns[:1]
    for wrong, says in (
        ((BillColumn("X", "{Smell}"),), "“Smell” is not a fact"),
        ((BillColumn("X", "= totale"),), "column X"),
        ((BillColumn(" ", "{part}"),), "has no heading"),
        ((), "has no columns"),
    ):
        with pytest.raises(InputError, match=says):
            save_template(library, "new", wrong)
    with pytest.raises(InputError, match="a name"):
        save_template(library, " ", columns)
    again.settings = replace(again.settings, bills={})
    with pytest.raises(ConflictError):
        save_template(again, "other", columns)
