"""Undo over every change, merging of keystrokes, late results."""

import tomllib
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.edit_history import LONGEST, EditHistory
from eider.commands.parts.evaluation import rerun_recipes
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.library import Category, LibrarySettings
from eider.rulebooks import standard_rulebook

SETTINGS = LibrarySettings(name="", categories={"ic": Category("IC", "U")})


def part() -> Bundle:
    return new_parts.new_part("NVK-1", "ic", SETTINGS)


@given(st.lists(st.sampled_from(["a", "b", "undo", "redo"]), max_size=30))
def test_undo_and_redo_follow_a_plain_model(moves: list[str]) -> None:
    session = EditHistory(part())
    done, undone = [""], []
    for move in moves:
        if move == "undo":
            assert session.undo() == (len(done) > 1)
            if len(done) > 1:
                undone.append(done.pop())
        elif move == "redo":
            assert session.redo() == bool(undone)
            if undone:
                done.append(undone.pop())
        else:
            text = done[-1] + move
            session.change("type", fact_edits.set_about(session.bundle, description=text))
            done.append(text)
            undone.clear()
        assert session.bundle.part.description == done[-1]


def test_keystrokes_of_one_entry_are_one_step() -> None:
    session = EditHistory(part())
    for text in ("5", "5.", "5.8"):
        session.change("Change E", package_edits.set_dimension(session.bundle, "E", text), "dim:E")
    session.end_merge()
    session.change("Change E", package_edits.set_dimension(session.bundle, "E", "5.9"), "dim:E")
    session.undo()
    assert session.bundle.sheet.dims["E"].text == "5.8"
    session.undo()
    assert "E" not in session.bundle.sheet.dims


def test_a_late_result_is_dropped() -> None:
    session = EditHistory(part())
    session.change("a", fact_edits.set_about(session.bundle, description="a"))
    number, late = session.number, session.bundle
    session.change("b", fact_edits.set_about(session.bundle, description="b"))
    assert not session.settle(number, late)
    assert session.settle(session.number, fact_edits.set_about(session.bundle, description="b, made"))
    assert session.bundle.part.description == "b, made"


def test_no_change_is_no_step_and_read_only_takes_none() -> None:
    session = EditHistory(part())
    assert not session.change("nothing", session.bundle)
    locked = EditHistory(part(), read_only=True)
    assert not locked.change("x", fact_edits.set_about(locked.bundle, description="x"))
    assert locked.undo_label == ""


def test_undo_is_bounded() -> None:
    session = EditHistory(part())
    for count in range(LONGEST + 50):
        session.change("c", fact_edits.set_about(session.bundle, description=str(count)))
    steps = 0
    while session.undo():
        steps += 1
    assert steps <= LONGEST
    assert session.bundle.part.description == ""


def test_the_last_good_drawing_stays_while_a_value_cannot_be_read(library: Library) -> None:
    from eider.demo.parts import converter_part
    from eider.model.part import DatasheetLink

    good = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    broken = rerun_recipes(package_edits.set_dimension(good, "b", "0.19–"), standard_rulebook())
    assert broken.footprint.pattern == good.footprint.pattern
    assert broken.sheet.dims["b"].text == "0.19–"


@pytest.mark.parametrize(
    ("text", "kind"), [("5.8–6.2", None), ("(D - 0.1)*2", "calculated"), ("5.8 +", None), ("Q", None)]
)
def test_a_sum_of_letters_is_its_own_evidence(text: str, kind: str | None) -> None:
    bundle = package_edits.set_dimension(part(), "D", "3.0")
    evidence = package_edits.set_dimension(bundle, "E", text).sheet.dims["E"].evidence
    assert (evidence.kind if evidence else None) == kind


def test_a_copy_shares_no_ids_and_is_not_released() -> None:
    original = part()
    copy = new_parts.start_from_part(original, "NVK-2")
    ids = [{i.id for _, i in bundle.items()} for bundle in (original, copy)]
    assert not ids[0] & ids[1]
    assert copy.part.release is None
    assert copy.footprint.package.id == copy.sheet.id


@pytest.mark.parametrize(
    "make",
    [
        lambda: new_parts.new_part(" ", "ic", SETTINGS),
        lambda: new_parts.new_part("x", "nonsense", SETTINGS),
        lambda: package_edits.set_pins(part(), "many"),
        lambda: package_edits.set_pins(part(), "0"),
        lambda: new_parts.start_from_part(part(), ""),
    ],
)
def test_what_cannot_be_is_refused_in_words(make) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(Exception, match=r"name|category|number"):
        make()


def test_an_own_letter_of_the_sheet_stands_for_one_of_the_standards() -> None:
    bundle = package_edits.set_alias(package_edits.set_alias(part(), "E", "H"), "E1", "E")
    assert bundle.sheet.aliases == {"H": "E", "E": "E1"}
    assert (
        bundle.sheet.datasheet_letter("E"),
        bundle.sheet.datasheet_letter("E1"),
        bundle.sheet.datasheet_letter("D"),
    ) == ("H", "E", "")
    # Typed again it moves; emptied it goes.
    assert package_edits.set_alias(bundle, "E", "HE").sheet.aliases == {"E": "E1", "HE": "E"}
    assert package_edits.set_alias(bundle, "E", " ").sheet.aliases == {"E": "E1"}


DEFAULTS = tomllib.loads((resources.files("eider.library") / "default.toml").read_text(encoding="utf-8"))


@pytest.mark.parametrize("category", list(DEFAULTS["categories"]))
def test_a_part_of_every_category_begins_with_its_graphic(category: str, library: Library) -> None:
    made = rerun_recipes(new_parts.new_part("LYN-1", category, library.settings), library.rulebook())
    known = library.settings.categories[category]
    assert made.symbol.reference == known.reference
    assert made.symbol.graphic == known.graphic
    if known.graphic:
        assert made.symbol.units[0].graphic == known.graphic
        assert made.sheet.family == ("chip" if len(made.symbol.pins) == 2 else "gullwing-dual")
