"""What a package usually looks like, from one length on."""

import pytest

from eider.drawings.package_drawing import begun_drawings
from eider.drawings.primitives import Area, DimensionLine
from eider.packages.family import SheetError
from eider.packages.letters.typical_dimensions import with_typical
from eider.packages.registry import all_families
from helpers import make_sheet


@pytest.mark.parametrize("family", [key for key, family in all_families().items() if not family.any_letters])
def test_one_length_is_enough_for_a_plausible_drawing(family: str) -> None:
    declared = all_families()[family]
    base = next(letter.key for letter in declared.letters if not letter.reference)
    sheet = make_sheet(family, declared.default_pins, **{base: "6.4"})
    typical_value = with_typical(sheet)
    assert typical_value.limits(base) == sheet.limits(base)
    for letter in declared.letters:
        if letter.optional and not letter.pictured:
            assert typical_value.limits(letter.key) is None
            continue
        limits = typical_value.limits(letter.key)
        assert limits is not None
        if letter.reference:
            other = typical_value.limits(letter.reference)
            assert other is not None
            low, high = letter.typical
            assert low <= limits.middle / other.middle <= high
    assert len(begun_drawings(sheet)) == 2


def test_the_reference_follows_from_what_is_compared_with_it() -> None:
    # A pitch alone gives the span it usually goes with, and from that all else.
    assert with_typical(make_sheet("gullwing-dual", 16, e="0.65")).limits("E") is not None


def test_what_is_given_stays_and_what_is_not_has_no_value() -> None:
    drawing = begun_drawings(make_sheet("gullwing-dual", 16, E="6.4", E1="4.3–4.5"))[0]
    texts = {p.letter: p.text for p in drawing.primitives if isinstance(p, DimensionLine)}
    assert (texts["E1"], texts["D"]) == ("4.3–4.5", "not given")


def test_a_body_wider_than_its_span_is_drawn_as_wide() -> None:
    # The slip must be seen: the body stands out over the tips of the leads.
    above, side = begun_drawings(make_sheet("gullwing-dual", 16, E="4.4", E1="6.4", D="5.0"))
    body = next(p for p in above.primitives if isinstance(p, Area) and p.role == "body")
    assert max(x for x, _ in body.outline) == pytest.approx(3.2)
    assert any(isinstance(p, Area) and p.role == "terminal" for p in side.primitives)


def test_nothing_given_is_told() -> None:
    with pytest.raises(SheetError, match="missing or cannot be read"):
        begun_drawings(make_sheet("gullwing-dual", 16))
