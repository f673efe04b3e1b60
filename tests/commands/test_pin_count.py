"""Another number of pins of a whole part: pins, package, pads by hand, graphic and kept distances follow."""

import pytest
from msgspec.structs import replace

from eider.commands.packages import package_edits
from eider.commands.parts.new_parts import new_part
from eider.commands.pins import pin_edits, symbol_edits
from eider.commands.pins.pin_count import numbered_pins, with_pin_count
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.footprint import KeptDistance
from eider.model.library import Category, LibrarySettings
from eider.model.outline import PadSpec
from eider.model.symbol import Pin

SETTINGS = LibrarySettings(name="x", categories={"connector": Category("Connector", "J")})


def _connector(ways: int = 4) -> Bundle:
    bundle = package_edits.set_family(new_part("OHC", "connector", SETTINGS), "custom")
    pads = (PadSpec("1", width="0.6", height="1.6", count=str(ways), dx="1.25"), PadSpec("MP", width="1", height="1"))
    bundle = package_edits.set_pads(bundle, pads)
    pins = [*(Pin(str(n), type="passive") for n in range(1, ways + 1)), Pin("MP", "hold-down", "passive")]
    bundle = symbol_edits.set_graphic(pin_edits.set_pin_table(bundle, pins), f"connector-pins/1x{ways}-shield")
    kept = KeptDistance("pad 1 centre", f"pad {ways} centre", "x")
    return replace(bundle, footprint=replace(bundle.footprint, distances=(kept,)))


@pytest.mark.parametrize("count", [1, 2, 4, 7, 40])
def test_all_that_counts_pins_follows(count: int) -> None:
    made, doubts = with_pin_count(_connector(), count)
    assert doubts == ()
    assert [pin.number for pin in made.symbol.pins] == [*map(str, range(1, count + 1)), "MP"]
    assert numbered_pins(made) == count
    assert made.sheet.pads[0].count == str(count) and made.sheet.pins == count + 1
    assert made.symbol.graphic == f"connector-pins/1x{count}-shield"
    assert made.footprint.distances[0].second == f"pad {count} centre"
    assert made.footprint.distances[0].first == "pad 1 centre"


def test_there_and_back_is_the_same() -> None:
    before = _connector()
    assert with_pin_count(with_pin_count(before, 9).bundle, 4).bundle == before


def test_names_go_on_where_they_count_and_are_told_where_they_do_not(sound: Bundle) -> None:
    four = replace(sound, symbol=replace(sound.symbol, pins=tuple(Pin(str(n), f"IO{n - 1}") for n in range(1, 5))))
    made, doubts = with_pin_count(replace(four, sheet=replace(four.sheet, pins=4)), 6)
    assert [pin.name for pin in made.symbol.pins] == ["IO0", "IO1", "IO2", "IO3", "IO4", "IO5"]
    assert doubts == ()
    named = replace(four, symbol=replace(four.symbol, pins=(*four.symbol.pins[:3], Pin("4", "GND", "power input"))))
    made, doubts = with_pin_count(replace(named, sheet=replace(named.sheet, pins=4)), 6)
    assert [(pin.name, pin.type) for pin in made.symbol.pins[4:]] == [("", "undecided")] * 2
    assert doubts == ("pins 5 to 6 have no name; the base ends with GND",)


def test_two_rows_keep_their_rows_and_odd_numbers_are_refused(sound: Bundle) -> None:
    sheet = replace(sound.sheet, family="header", pins=8, rows=2, columns=4)
    pins = tuple(Pin(str(n)) for n in range(1, 9))
    header = replace(sound, sheet=sheet, symbol=replace(sound.symbol, pins=pins, graphic="connector-pins/2x4"))
    made = with_pin_count(header, 12).bundle
    assert (made.sheet.rows, made.sheet.columns, made.sheet.pins) == (2, 6, 12)
    assert made.symbol.graphic == "connector-pins/2x6"
    with pytest.raises(InputError, match="family"):
        with_pin_count(sound, 7)


@pytest.mark.parametrize("count", [0, -1, 5001])
def test_a_count_that_is_none_is_refused(sound: Bundle, count: int) -> None:
    with pytest.raises(InputError, match="not a number of pins"):
        with_pin_count(sound, count)


def test_a_part_without_numbered_pins_is_refused() -> None:
    with pytest.raises(InputError, match="no pins numbered"):
        with_pin_count(new_part("X", "connector", SETTINGS), 4)
