"""The pinout: every pin once at its lead, its place in words, names that do not touch, the view from below."""

from itertools import pairwise

import pytest
from msgspec.structs import replace

from eider.cli.packages.lands import bare_bundle
from eider.drawings.pinout_drawing import names_beside, pinout_drawing, place_words
from eider.drawings.primitives import Area, Drawing, Text
from eider.lands.pattern import make_pattern
from eider.model.address import PinAddress
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

RULEBOOK = standard_rulebook()
# Of copper alone there is no package with leads.
PACKAGES = [
    key for key in SAMPLES
    if not family_of(key).lands(sample(key), family_of(key).dims(sample(key))).bare
]  # fmt: skip


def part(key: str) -> Bundle:
    sheet = sample(key)
    family = family_of(key)
    numbers = dict.fromkeys(t.number for t in family.terminals(sheet, family.dims(sheet)))
    bundle = bare_bundle(sheet, make_pattern(sheet, "B", RULEBOOK), "B")
    pins = tuple(Pin(number, f"N{number}", "input") for number in numbers)
    return replace(bundle, symbol=replace(bundle.symbol, pins=pins))


def texts(drawing: Drawing) -> dict[str, Text]:
    return {p.text: p for p in drawing.primitives if isinstance(p, Text) and p.role == "pin name"}


@pytest.mark.parametrize("key", PACKAGES)
def test_every_pin_is_named_at_its_lead(key: str) -> None:
    bundle = part(key)
    drawing = pinout_drawing(bundle)
    found = texts(drawing)
    assert set(found) == {pin.name for pin in bundle.symbol.pins}
    areas = {p.address for p in drawing.primitives if isinstance(p, Area) and p.address}
    assert areas == {PinAddress(pin.number) for pin in bundle.symbol.pins}
    x0, y0, x1, y1 = drawing.box
    for text in found.values():
        assert x0 <= text.at[0] <= x1 and y0 <= text.at[1] <= y1


@pytest.mark.parametrize(
    ("key", "pin", "words"),
    [
        ("gullwing-dual", "1", "left row, first from the top"),
        ("gullwing-dual", "4", "left row, first from the bottom"),
        ("gullwing-dual", "5", "right row, first from the bottom"),
        ("gullwing-dual", "7", "right row, second from the top"),
        ("gullwing-quad", "9", "bottom row, first from the left"),
        ("gullwing-quad", "25", "top row, first from the right"),
        ("no-lead-quad", "25", "under the body"), ("ball-grid", "B7", "row B, column 7"),
        ("transistor", "3", "right row, alone"), ("j-lead-quad", "1", "top row, third from the left"),
        ("chip", "1", "left row, alone"),
    ],
)  # fmt: skip
def test_the_place_of_a_pin_in_words(key: str, pin: str, words: str) -> None:
    assert place_words(part(key))[pin] == words


def test_names_of_neighbours_do_not_touch() -> None:
    found = sorted(
        (t for t in texts(pinout_drawing(part("gullwing-dual"))).values() if t.at[0] < 0), key=lambda t: t.at[1]
    )
    for below, above in pairwise(found):
        assert above.at[1] - below.at[1] > below.height


def test_seen_from_below_left_and_right_are_exchanged() -> None:
    above, below = (texts(pinout_drawing(part("ball-grid"), from_below=flag)) for flag in (False, True))
    for name, text in above.items():
        assert below[name].at == pytest.approx((-text.at[0], text.at[1]))
    dual = texts(pinout_drawing(part("gullwing-dual"), from_below=True))
    assert dual["N1"].at[0] > 0 and dual["N1"].horizontal == "left"


def test_an_overbar_and_a_matched_pad_are_drawn() -> None:
    bundle = part("gullwing-dual")
    pins = (replace(bundle.symbol.pins[0], active_low=True, name="RESET"), *bundle.symbol.pins[1:])
    made = replace(
        bundle, symbol=replace(bundle.symbol, pins=pins), part=replace(bundle.part, match={"1": ("5",), "5": ("1",)})
    )
    text = texts(pinout_drawing(made))["RESET"]
    assert text.overbar and text.at[0] > 0
    assert place_words(made)["1"] == "right row, first from the bottom"


@pytest.mark.parametrize("key", ["gullwing-dual", "gullwing-quad"])
def test_names_beside_a_figure_leave_its_box_free(key: str) -> None:
    place = (-20.0, -15.0, 20.0, 15.0)
    drawing = names_beside(pinout_drawing(part(key)), place)
    for text in texts(drawing).values():
        if text.angle:
            assert text.at[1] >= 15.0 if text.horizontal == "left" else text.at[1] <= -15.0
        else:
            assert text.at[0] >= 20.0 if text.horizontal == "left" else text.at[0] <= -20.0
    x0, y0, x1, y1 = drawing.box
    assert x0 < -20.0 and x1 > 20.0 and y0 <= -15.0 and y1 >= 15.0


def test_names_of_a_grid_stand_below_those_of_the_figure() -> None:
    plain = pinout_drawing(part("ball-grid"))
    drawing = names_beside(plain, plain.box)
    before, after = texts(plain), texts(drawing)
    assert set(before) == set(after)
    assert all(after[name].at[1] < before[name].at[1] and after[name].height <= before[name].height for name in after)
    # The numbers are those of the figure's own headings.
    assert not [p for p in drawing.primitives if isinstance(p, Text) and p.role == "pinout number"]
