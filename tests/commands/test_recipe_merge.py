"""A part made again keeps what someone changed by hand; what both changed stays as the hand has it, and is told."""

import msgspec
from hypothesis import given
from hypothesis import strategies as st

from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import without_results
from eider.commands.parts.recipe_merge import merge_recipes, with_identity_of
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.part import Fact
from eider.model.symbol import Pin

replace = msgspec.structs.replace
FACTS = st.dictionaries(st.sampled_from("ABCD"), st.sampled_from("xyz"), max_size=4)


def _with(bundle: Bundle, **facts: str) -> Bundle:
    for name, value in facts.items():
        bundle = fact_edits.set_fact(bundle, name, value)
    return bundle


def test_what_one_side_changed_is_taken_and_what_the_hand_changed_is_told(sound: Bundle) -> None:
    old = without_results(_with(sound, Value="1", Rating="2", Gone="3"))
    mine = footprint_edits.adjust_pad(_with(old, Rating="hand", Gone=""), Adjustment("3", "width", "0.9"))
    new = package_edits.set_dimension(_with(old, Value="made", Rating="made"), "E", "7.00")
    merged = merge_recipes(old, mine, new)
    facts = {name: fact.value for name, fact in merged.bundle.part.facts.items()}
    assert (facts["Value"], facts["Rating"]) == ("made", "hand")
    assert "Gone" not in facts
    assert merged.bundle.sheet.dims["E"].text == "7.00"
    assert merged.bundle.footprint.adjustments == mine.footprint.adjustments
    assert set(merged.by_hand) >= {
        "part.facts[Rating].value",
        "part.facts[Gone]",
        "footprint.adjustments[3 width]",
    }


def test_pins_are_merged_by_their_number(sound: Bundle) -> None:
    pins = sound.symbol.pins
    mine_pins = (replace(pins[0], name="MINE"), *pins[1:-1])
    new_pins = (*pins[:2], replace(pins[2], name="MADE"), *pins[3:], Pin("99", "NEW"))

    def with_pins(made: tuple[Pin, ...]) -> Bundle:
        return without_results(replace(sound, symbol=replace(sound.symbol, pins=made)))

    merged = merge_recipes(with_pins(pins), with_pins(mine_pins), with_pins(new_pins))
    by_number = {pin.number: pin.name for pin in merged.bundle.symbol.pins}
    assert by_number[pins[0].number] == "MINE" and by_number[pins[2].number] == "MADE"
    assert pins[-1].number not in by_number and by_number["99"] == "NEW"
    assert merged.by_hand == (f"symbol.pins[{pins[0].number}].name", f"symbol.pins[{pins[-1].number}]")


@given(FACTS, FACTS, FACTS)
def test_every_value_comes_from_where_it_changed(
    old: dict[str, str], mine: dict[str, str], new: dict[str, str]
) -> None:
    def part_with(facts: dict[str, str]) -> Bundle:
        made = {name: Fact(value) for name, value in facts.items()}
        return replace(EMPTY, part=replace(EMPTY.part, facts=made))

    merged = merge_recipes(part_with(old), part_with(mine), part_with(new))
    found = {name: fact.value for name, fact in merged.bundle.part.facts.items()}
    for name in "ABCD":
        before, own, now = old.get(name), mine.get(name), new.get(name)
        assert found.get(name) == (now if own == before else own)
        is_told = any(place.startswith(f"part.facts[{name}]") for place in merged.by_hand)
        assert is_told == (own not in (before, now))


def test_identity_is_all_but_the_recipe(sound: Bundle) -> None:
    other = replace(sound, part=replace(sound.part, id="other", name="OTHER"))
    made = with_identity_of(other, sound)
    assert made.part.id == sound.part.id and made.part.name == "OTHER"


def _empty() -> Bundle:
    from eider.commands.parts.new_parts import new_part
    from eider.model.library import Category, LibrarySettings

    return without_results(new_part("X", "ic", LibrarySettings(name="x", categories={"ic": Category("IC", "U")})))


EMPTY = _empty()
