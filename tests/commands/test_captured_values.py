"""What was read goes into the part; sheets beside each other; values looked for in a newer datasheet."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.commands.datasheets.captured_values import family_members, member_rows, proposals, use_dimensions, use_pins
from eider.commands.packages import package_edits
from eider.commands.packages.sheet_copies import copy_sheet, paste_by_letter
from eider.commands.parts import new_parts
from eider.datasheets import Datasheet
from eider.datasheets.tables.table_capture import TableCapture
from eider.demo.parts import captures, converter_part
from eider.demo.sheets import write_converter_datasheet
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.services.datasheets.datasheet_rechecking import move_evidence, recheck_values
from eider.services.datasheets.reading_positions import MOST, ReadingPosition, ReadingPositions
from eider.views.sheet_comparison import compare_sheets

SHA = "a" * 64
WHO = "Skerry engineer"


@pytest.fixture
def made(library: Library) -> Bundle:
    return converter_part(library, DatasheetLink(SHA, "x.pdf"))


@pytest.fixture
def fresh(library: Library) -> Bundle:
    return new_parts.new_part("NVK-9", "ic", library.settings)


def table(name: str, kind: str) -> TableCapture:
    return next(found for found in captures(name) if found.kind == kind)


def test_dimensions_come_with_letter_value_and_place(fresh: Bundle) -> None:
    found = table("NVK-1216T", "dimensions")
    taken = use_dimensions(fresh, found, {"H": "E", "E": "E1"}, SHA, WHO)
    assert set(taken.sheet.dims) == {"E", "E1"}
    assert taken.sheet.aliases == {"H": "E", "E": "E1"}
    evidence = taken.sheet.dims["E"].evidence
    assert evidence is not None
    assert (evidence.page, evidence.text, evidence.by, evidence.document) == (3, "6.20 6.60", WHO, SHA)
    assert evidence.box is not None


def test_taking_again_with_other_letters_leaves_no_old_alias(fresh: Bundle) -> None:
    found = table("NVK-1216T", "dimensions")
    wrong = use_dimensions(fresh, found, {"E": "E", "H": "E1"}, SHA, WHO)
    right = use_dimensions(wrong, found, {"H": "E", "E": "E1"}, SHA, WHO)
    assert right.sheet.aliases == {"H": "E", "E": "E1"}
    assert right.sheet.limits("E").max == 6.6  # type: ignore[union-attr]


def test_the_members_of_a_family_table_are_kept_apart(fresh: Bundle) -> None:
    found = table("LYN-C", "dimensions")
    assert family_members(found) == ["1005", "1608", "2012"]
    chip = package_edits.set_family(fresh, "chip")
    letters = proposals(chip, found, "1608")[0].letters
    assert letters == {"L": "D", "W": "E", "B": "L", "T": "A"}
    taken = use_dimensions(chip, found, letters, SHA, WHO, "1608")
    assert taken.sheet.dims["D"].text == "1.60±0.10"
    assert {row.member for _, row in member_rows(found, "2012")} == {"2012"}


def test_pins_come_with_a_place_each_and_keep_their_groups(made: Bundle, fresh: Bundle) -> None:
    found = table("NVK-1216T", "pins")
    taken = use_pins(made, found, SHA, WHO)
    assert [p.group for p in taken.symbol.pins] == [p.group for p in made.symbol.pins]
    boxes = [p.evidence.box for p in taken.symbol.pins if p.evidence]
    assert len(set(boxes)) == 16
    with pytest.raises(InputError, match="dimensions, not as pins"):
        use_pins(fresh, table("NVK-1216T", "dimensions"), SHA, WHO)


def test_a_table_with_further_numbers_adds_its_pins(fresh: Bundle) -> None:
    whole = table("NVK-1216T", "pins")
    assert whole.pins

    def half(rows: slice) -> TableCapture:
        assert whole.pins
        return replace(whole, pins=replace(whole.pins, rows=whole.pins.rows[rows]), places=whole.places[rows])

    first = use_pins(fresh, half(slice(0, 8)), SHA, WHO)
    both = use_pins(first, half(slice(8, None)), SHA, WHO)
    assert [pin.number for pin in both.symbol.pins] == [str(number) for number in range(1, 17)]
    # The same table again, one that overlaps, and one of another document take their place.
    assert len(use_pins(both, half(slice(8, None)), SHA, WHO).symbol.pins) == 8
    assert len(use_pins(first, half(slice(4, None)), SHA, WHO).symbol.pins) == 12
    assert len(use_pins(first, half(slice(8, None)), "b" * 64, WHO).symbol.pins) == 8


def test_a_copied_sheet_is_assumed_until_its_own_datasheet_shows_it(made: Bundle, fresh: Bundle) -> None:
    copied = copy_sheet(fresh, made)
    assert copied.sheet.id == fresh.sheet.id
    assert {k: d.limits for k, d in copied.sheet.dims.items()} == {k: d.limits for k, d in made.sheet.dims.items()}
    assert {d.evidence.text for d in copied.sheet.dims.values() if d.evidence} == {"copied from NVK-1216T"}


def test_two_sheets_are_compared_letter_by_letter(made: Bundle) -> None:
    other = package_edits.set_dimension(package_edits.set_dimension(made, "b", "0.21–0.34"), "c", "").sheet
    found = {d.letter: d for d in compare_sheets(made.sheet, other)}
    # The middle of 0.21–0.34 is 0.275, that of 0.19–0.30 is 0.245.
    assert (found["b"].this, found["b"].other, found["b"].words) == ("0.19–0.3", "0.21–0.34", "middle 0.03 mm")
    assert found["c"].words == "only in this sheet"
    assert found["E"].is_same


def test_rows_that_begin_with_letters_go_to_their_letters(made: Bundle) -> None:
    pasted, unknown = paste_by_letter(made, "H\t6.1\t6.5\nb\t0.2\t0.25\t0.3\ne\t0.65 BSC\nQ\t1\nA\t\t1.1")
    assert unknown == ["Q"]
    assert pasted.sheet.dims["E"].text == "min 6.1 max 6.5"
    assert pasted.sheet.dims["b"].text == "min 0.2 nom 0.25 max 0.3"
    assert pasted.sheet.dims["e"].text == "0.65 BSC"
    assert pasted.sheet.dims["A"].text == "max 1.1"
    with pytest.raises(InputError, match="do not begin with letters"):
        paste_by_letter(made, "1\tVDD\n2\tGND")


def test_values_are_looked_for_in_a_newer_datasheet(made: Bundle, tmp_path: Path) -> None:
    write_converter_datasheet(tmp_path / "old.pdf")
    old = Datasheet(tmp_path / "old.pdf")
    steps: list[str] = []
    found = recheck_values(made, SHA, old, old, lambda _share, words: steps.append(words))
    assert len(found) == 25  # nine dimensions and sixteen pins have a place; facts only a page
    assert {c.found.outcome for c in found} == {"same"}
    assert steps[-1] == "page 4 of 4"
    assert all("unchanged at" in c.words for c in found)
    moved = move_evidence(made, found, "b" * 64, WHO)
    evidence = moved.sheet.dims["E"].evidence
    assert evidence is not None
    assert (evidence.document, evidence.by, evidence.text) == ("b" * 64, WHO, "6.20 6.60")
    assert recheck_values(made, "c" * 64, old, old) == []
    old.close()


def test_a_place_in_a_document_is_remembered(tmp_path: Path) -> None:
    (tmp_path / ".eider").mkdir()
    ReadingPositions(tmp_path).keep("one", ReadingPosition(7, 0.25, 1.5, 1, True))
    assert ReadingPositions(tmp_path).of("one") == ReadingPosition(7, 0.25, 1.5, 1, True)
    assert ReadingPositions(tmp_path).of("other") is None


def test_a_damaged_memory_of_places_is_as_good_as_none(tmp_path: Path) -> None:
    (tmp_path / ".eider").mkdir()
    (tmp_path / ".eider" / "places.json").write_text("{")
    places = ReadingPositions(tmp_path)
    assert places.of("one") is None
    for number in range(MOST + 2):
        places.keep(f"d{number}", ReadingPosition())
    assert places.of("d0") is None
    assert places.of(f"d{MOST + 1}") is not None
