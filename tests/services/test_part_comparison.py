"""Two states of a part compared: words with figures, drawings, pins, and the PDF of it."""

from pathlib import Path

import msgspec
import pypdfium2
import pytest

from command_line import answer, eider
from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import InputError, NotFoundError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.footprint import Adjustment
from eider.model.part import DatasheetLink
from eider.services.releasing.part_comparison import compare_states, state_choices
from eider.services.releasing.part_releasing import release_part
from eider.symbols.pin_table import make_pin

replace = msgspec.structs.replace
NAME = "LYN-C1608-100N"


@pytest.fixture
def changed(library: Library) -> Library:
    """A part with two revisions and a working copy: pad 1 0.05 mm wider, then a tolerance."""
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    first = chip_part(library, series, size, "100 nF", DatasheetLink("0" * 64, "LYN-C.pdf", 2))
    release_part(library, first, "first")
    part = library.load(library.find(NAME).id)
    pattern = part.footprint.pattern
    assert pattern is not None
    wide = Adjustment("1", "width", f"{pattern.pads[0].width + 0.05:.3f}")
    release_part(library, rerun_recipes(footprint_edits.adjust_pad(part, wide), library.rulebook()), "wider")
    now = library.load(library.find(NAME).id)
    library.copies.save(WorkingCopy(bundle=fact_edits.set_fact(now, "Tolerance", "5 %"), findings={}))
    return library


def test_states_are_the_working_copy_and_the_revisions(changed: Library) -> None:
    assert [state.words for state in state_choices(changed, NAME)] == [
        f"{NAME}, working copy",
        f"{NAME}, revision 2",
        f"{NAME}, revision 1",
    ]


def test_a_pad_that_is_wider_is_told_with_its_figures_and_drawn(changed: Library) -> None:
    _, second, first = state_choices(changed, NAME)
    found = compare_states(changed, first, second)
    # 0.9 mm is what the lands of CAPC1608X90N come out at (docs of the standard's equations, level B).
    assert "Width of pad 1 changed from 0.9 to 0.95" in found.differences
    assert not any("id" in words.split(" changed")[0].split(".")[-1:] for words in found.differences)
    same = {drawn.title: drawn.is_same for drawn in found.drawings}
    assert same == {
        "Lands": False,
        "Symbol": True,
        "Package from the top": True,
        "Package and body, side view": True,
        "Body, isometric": True,
    }
    assert all(pin.is_same for pin in found.pins)


def test_pins_are_compared_by_number(changed: Library) -> None:
    row = changed.find(NAME)
    copy = changed.load(row.id)
    pins_now = tuple(make_pin(number, name, "passive")[0] for number, name in (("1", "A"), ("3", "C")))
    named = replace(copy, symbol=replace(copy.symbol, pins=pins_now))
    changed.copies.save(WorkingCopy(bundle=named, findings={}))
    working, newest, _ = state_choices(changed, NAME)
    pins = {pin.name: pin for pin in compare_states(changed, newest, working).pins}
    assert set(pins) == {"1", "2", "3"}
    assert pins["2"].right == "" and pins["3"].left == "" and pins["3"].right == "C, passive"


def test_one_state_with_itself_and_a_state_that_is_not_there_are_refused(changed: Library) -> None:
    working, newest, _ = state_choices(changed, NAME)
    with pytest.raises(InputError, match="both sides are"):
        compare_states(changed, newest, newest)
    changed.copies.discard(working.part)
    with pytest.raises(NotFoundError, match="no working copy"):
        compare_states(changed, newest, working)


def test_the_command_compares_with_the_working_copy_and_writes_a_page(changed: Library, tmp_path: Path) -> None:
    page = tmp_path / "compared.pdf"
    told = answer("diff", changed.folder, NAME, "1", "2", "--out", page)
    assert told["drawings"]["Lands"] == "differs" and told["file"] == str(page)
    assert "Width of pad 1 changed from 0.9 to 0.95" in told["words"]
    document = pypdfium2.PdfDocument(page)
    text = document[0].get_textpage().get_text_range()
    assert len(document) == 1 and "revision 1 (dashed)" in text and "Width of pad 1 changed" in text
    document.close()
    working = answer("diff", changed.folder, NAME, "2", "working")
    assert (working["from"], working["to"]) == (2, "working")
    assert (
        working["words"] == ["Tolerance changed from 10 % to 5 %"]
        or "Evidence of Tolerance changed" in working["words"]
    )
    assert "not a revision" in eider("diff", changed.folder, NAME, "1", "newest", status=2).stderr
    assert "no revision 9" in eider("diff", changed.folder, NAME, "1", "9", status=2).stderr


def test_values_are_compared_with_where_they_came_from(changed: Library) -> None:
    working, newest, _ = state_choices(changed, NAME)
    rows = {row.name: row for row in compare_states(changed, newest, working).values}
    assert (rows["Tolerance"].left.split(":")[0], rows["Tolerance"].right) == (
        "10 %",
        "5 %: changed by hand from 10 %, page 1",
    )
    assert all(row.is_same for name, row in rows.items() if name != "Tolerance")


def test_another_body_is_drawn_over_this_one(changed: Library) -> None:
    working, newest, _ = state_choices(changed, NAME)
    copy = changed.load(newest.part)
    changed.copies.save(WorkingCopy(bundle=package_edits.set_dimension(copy, "A", "1.2 max"), findings={}))
    drawings = {drawn.title: drawn for drawn in compare_states(changed, newest, working).drawings}
    body = drawings["Body, isometric"]
    assert not body.is_same and body.right.box[3] > body.left.box[3]
