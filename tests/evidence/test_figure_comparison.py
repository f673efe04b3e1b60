"""Symbols and packages against pinout figures that were laid out by hand."""

from collections.abc import Callable, Mapping, Sequence

import pytest

from eider.evidence.figure_comparison import figure_on_package, name_differences, place_differences
from eider.model.part import FigurePin, PinoutFigure
from eider.model.symbol import Pin
from eider.packages.family import Terminal


def figure(
    at: Mapping[str, tuple[float, float]], names: Mapping[str, str] | None = None, seen: str = "above"
) -> PinoutFigure:
    """Places in lines of ten points, as a figure of text 6 points high has them."""
    pins = tuple(FigurePin(n, (names or {}).get(n, n), 10.0 * x, 10.0 * y) for n, (x, y) in at.items())
    return PinoutFigure(document="", page=2, box=(0, 0, 100, 100), pins=pins, size=6.0, seen=seen)


def terminals(at: Mapping[str, tuple[float, float]]) -> list[Terminal]:
    boxes = {n: (x - 0.2, y - 0.1, x + 0.2, y + 0.1) for n, (x, y) in at.items()}
    return [Terminal(n, box, box) for n, box in boxes.items()]


def rows(left: Sequence[str], right: Sequence[str], apart: float = 4.0) -> dict[str, tuple[float, float]]:
    return {n: (x, -float(i)) for x, row in ((0.0, left), (apart, right)) for i, n in enumerate(row)}


ROUND = rows("1234", "8765")
GRID = {f"{row}{column}": (float(column), -float("ABC".index(row))) for row in "ABC" for column in (1, 2, 3)}


def symbol(names: Mapping[str, str]) -> tuple[Pin, ...]:
    return tuple(Pin(number=number, name=name) for number, name in names.items())


def test_alike_pinouts_do_not_differ() -> None:
    names = {"1": "IN+", "2": "IN−", "3": "~RESET", "4": "PA0/TX"}
    drawn = {"1": "IN+", "2": "IN-", "3": "RESET", "4": "PA0"}
    found = name_differences(symbol(names), figure(rows("12", "43"), drawn))
    assert found == ((), None, ())


def test_a_sign_is_part_of_the_name() -> None:
    found = name_differences(symbol({"1": "IN+", "2": "IN-"}), figure(rows("1", "2"), {"1": "IN-", "2": "IN+"}))
    assert found.pairs == (("1", "2"),)


def test_an_exchanged_pair_and_a_name_that_is_nowhere() -> None:
    names = {str(n): f"P{n}" for n in range(1, 9)}
    drawn = {**names, "2": "P3", "3": "P2", "7": "VREF"}
    found = name_differences(symbol(names), figure(ROUND, drawn))
    assert (found.pairs, found.whole, found.left) == ((("2", "3"),), None, ("7",))


@pytest.mark.parametrize(
    ("order", "words"),
    [
        ("12348765", "down both sides instead of round the package"),
        ("18765432", "clockwise"),
        ("87654321", "mirrored, as seen from below or from the mating side"),
        ("21436587", "with the two rows exchanged, as on the mating half"),
        ("34567812", "starting at pin 3"),
    ],
)
def test_a_table_read_in_a_wrong_direction_is_one_mistake(order: str, words: str) -> None:
    drawn = {str(n): f"P{n}" for n in range(1, 9)}
    # The row of the table that was taken for pin n is that of another pin.
    names = {str(n): f"P{other}" for n, other in enumerate(order, start=1)}
    found = name_differences(symbol(names), figure(ROUND, drawn))
    assert found.whole is not None
    assert (found.whole.words, found.pairs, found.left) == (words, (), ())


@pytest.mark.parametrize(
    ("place", "words"),
    [
        (lambda row, column: ("ABC"[column - 1], "ABC".index(row) + 1), "with rows and columns exchanged"),
        (lambda row, column: (row, 4 - column), "mirrored, as seen from below"),
        (lambda row, column: ("CBA"["ABC".index(row)], column), "from the last row up"),
    ],
)
def test_a_ball_map_that_was_read_otherwise(place: Callable[[str, int], tuple[str, int]], words: str) -> None:
    drawn = {number: f"N{number}" for number in GRID}
    names = {}
    for number in GRID:
        row, column = place(number[0], int(number[1]))
        names[number] = f"N{row}{column}"
    found = name_differences(symbol(names), figure(GRID, drawn))
    assert found.whole is not None
    assert found.whole.words == words


@pytest.mark.parametrize("turn", range(4))
def test_a_figure_that_is_turned_or_drawn_to_another_scale_is_alike(turn: int) -> None:
    at = {number: (3.0 * x, 0.7 * y) for number, (x, y) in ROUND.items()}
    for _ in range(turn):
        at = {number: (-y, x) for number, (x, y) in at.items()}
    assert place_differences(terminals(ROUND), figure({n: (2 * x, 2 * y) for n, (x, y) in at.items()})) == (
        (),
        None,
        (),
    )


def test_a_figure_from_below_is_mirrored_unless_it_is_said() -> None:
    mirrored = {number: (-x, y) for number, (x, y) in ROUND.items()}
    found = place_differences(terminals(ROUND), figure(mirrored))
    assert found is not None and found.whole is not None
    assert "mirrored" in found.whole.words
    assert place_differences(terminals(ROUND), figure(mirrored, seen="below")) == ((), None, ())


def test_a_figure_numbered_down_both_sides() -> None:
    found = place_differences(terminals(ROUND), figure(rows("1234", "5678")))
    assert found is not None and found.whole is not None
    assert found.whole.words == "down both sides instead of round the package"


def test_a_grid_with_rows_for_columns() -> None:
    exchanged = {number: (-y, -x) for number, (x, y) in GRID.items()}
    found = place_differences(terminals(GRID), figure(exchanged))
    assert found is not None and found.whole is not None
    assert found.whole.taken_for["A2"] in ("B1", "B3", "C2", "A2")
    assert place_differences(terminals(GRID), figure(GRID)) == ((), None, ())


def test_two_exchanged_places() -> None:
    exchanged = {**ROUND, "2": ROUND["3"], "3": ROUND["2"]}
    found = place_differences(terminals(ROUND), figure(exchanged))
    assert found is not None
    assert found.pairs == (("2", "3"),)


def test_four_sides_with_a_thermal_pad_that_the_figure_leaves_out() -> None:
    sides = {
        **{str(1 + i): (0.0, -1.0 - i) for i in range(4)},
        **{str(5 + i): (1.0 + i, -5.0) for i in range(4)},
        **{str(9 + i): (5.0, -4.0 + i) for i in range(4)},
        **{str(13 + i): (4.0 - i, 0.0) for i in range(4)},
    }
    package = terminals({**sides, "17": (2.5, -2.5)})
    assert place_differences(package, figure(sides)) == ((), None, ())
    clockwise = {str(17 - int(number)): at for number, at in sides.items()}
    found = place_differences(package, figure(clockwise))
    assert found is not None and found.whole is not None


def test_a_figure_is_laid_upon_its_terminals_by_a_scale_for_each_axis() -> None:
    # Lines 10 points apart; the package has 4 mm between its rows and 1 mm from lead to lead, about its middle.
    package = terminals({number: (x - 2.0, y + 1.5) for number, (x, y) in ROUND.items()})
    place = figure_on_package(package, figure({n: (1.5 * x, 2.0 * y) for n, (x, y) in ROUND.items()}))
    # Numbers are at x 0 and 60, y 0 to -60: 4/60 mm and 3/60 mm a point; the box reaches from 0 to 100 of both.
    assert place == pytest.approx((-2.0, 1.5, -2.0 + 100 * 4 / 60, 1.5 + 100 * 3 / 60))


def test_a_turned_figure_is_not_laid_over_and_a_single_row_is() -> None:
    turned = {number: (-y, x) for number, (x, y) in ROUND.items()}
    assert figure_on_package(terminals(ROUND), figure(turned)) is None
    row = {str(n): (float(n), 0.0) for n in range(1, 5)}
    assert figure_on_package(terminals(row), figure(row)) == pytest.approx((0.0, 0.0, 10.0, 10.0))


def test_a_figure_of_another_shape_is_not_compared() -> None:
    assert place_differences(terminals(ROUND), figure(rows("12345", "876"))) is None
    assert place_differences(terminals(ROUND), figure(rows("123", "876"))) is None
