"""Eider's drawing over the datasheet's: worked by hand for a span of 6.4 mm drawn 128 points wide."""

import pytest
from msgspec.structs import replace

from eider.demo.parts import converter_part
from eider.drawings.datasheet_overlay import overlay_drawing, place, scale_by
from eider.drawings.primitives import DimensionLine, Note, Text
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.package_sheet import DatasheetPicture
from eider.model.part import DatasheetLink

PICTURE = DatasheetPicture("0" * 64, 3, (100, 400, 400, 700))


@pytest.fixture
def made(library: Library) -> Bundle:
    return converter_part(library, DatasheetLink("0" * 64, "x.pdf"))


def scaled(a: tuple[float, float], b: tuple[float, float], letter: str = "", **more: object) -> DatasheetPicture:
    return replace(PICTURE, scale=scale_by(a, b, 6.4, letter), **more)


def test_without_a_scale_there_is_no_place(made: Bundle) -> None:
    assert place(PICTURE, made) is None


def test_a_letter_across_gives_scale_and_centre(made: Bundle) -> None:
    # 128 points are 6.4 mm: 20 points to the mm; the span's middle is the package's.
    found = place(scaled((172, 600), (300, 600), "E"), made)
    assert found is not None
    assert (found.scale, found.quarters) == (pytest.approx(20.0), 0)
    assert found.origin == (pytest.approx(236.0), pytest.approx(550.0))


def test_a_span_that_is_drawn_upright_turns_the_package(made: Bundle) -> None:
    found = place(scaled((200, 450), (200, 578), "E"), made)
    assert found is not None
    assert (found.quarters, found.origin) == (1, (pytest.approx(250.0), pytest.approx(514.0)))


def test_a_pitch_lies_off_the_centre(made: Bundle) -> None:
    # Between the first leads, whose middle lies 3 × 0.65 mm above the centre of eight leads.
    picture = replace(PICTURE, scale=scale_by((150, 600), (150, 613), 0.65, "e"))
    found = place(picture, made)
    assert found is not None
    assert found.scale == pytest.approx(20.0)
    assert found.origin[1] == pytest.approx(606.5 - 20 * 3 * 0.65)


def test_a_shift_is_added(made: Bundle) -> None:
    found = place(scaled((172, 600), (300, 600), "E", shift=(5.0, -7.0)), made)
    assert found is not None
    assert found.origin == (pytest.approx(241.0), pytest.approx(543.0))


def test_points_at_one_place_and_nonsense_lengths_are_refused() -> None:
    with pytest.raises(InputError, match="lie at one place"):
        scale_by((1, 1), (1, 1.5), 6.4)
    for length in (0.0, -1.0, float("inf"), float("nan")):
        with pytest.raises(InputError, match="above zero"):
            scale_by((1, 1), (100, 1), length)


@pytest.mark.parametrize("shows", ["top", "side", "lands"])
def test_what_is_laid_over_has_no_texts_and_dimensions(made: Bundle, shows: str) -> None:
    drawing = overlay_drawing(made, shows)
    assert drawing.primitives
    assert not any(isinstance(p, DimensionLine | Note | Text) for p in drawing.primitives)
