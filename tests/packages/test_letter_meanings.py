"""What a letter is said to be is what the drawing shows: along the rows or across them."""

import pytest

from eider.lands.pattern import make_pattern
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

# Legs in a square have no rows.
IN_SQUARE = {"coaxial-socket"}


@pytest.mark.parametrize("key", sorted(SAMPLES.keys() - IN_SQUARE))
def test_across_and_along_are_as_they_are_drawn(key: str) -> None:
    sheet = sample(key)
    family = family_of(sheet.family)
    top = next(view for view in family.views(sheet, family.dims(sheet)) if view.name == "top")
    is_flat = {d.letter: d.side in ("top", "bottom") for d in top.dimensions}
    # The pitch lies along the rows; without one the rows stand upright.
    along_is_flat = is_flat.get("e", False)
    for letter in family.letters:
        if letter.key in is_flat and "along" in letter.meaning:
            assert is_flat[letter.key] == along_is_flat, letter.meaning
        if letter.key in is_flat and "across" in letter.meaning:
            assert is_flat[letter.key] != along_is_flat, letter.meaning


@pytest.mark.parametrize("key", ["gullwing-dual", "no-lead-dual"])
def test_a_thermal_land_lies_as_its_letters_say(key: str) -> None:
    sheet = sample(key, D2="1.0", E2="0.6")
    pattern = make_pattern(sheet, "B", standard_rulebook())
    land = next(pad for pad in pattern.pads if pad.number == str(sheet.pins + 1))
    rows_stand_upright = pattern.pads[0].x == pattern.pads[1].x
    letters = {letter.key: letter.meaning for letter in family_of(sheet.family).letters}
    assert rows_stand_upright
    assert (letters["D2"], letters["E2"]) == ("thermal pad, along the rows", "thermal pad, across the rows")
    assert land.height > land.width
