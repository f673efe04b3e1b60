"""Lengths of connectors over their ways: the step by which they grow is the pitch."""

from hypothesis import given
from hypothesis import strategies as st

from eider.datasheets.tables.dimension_tables import ReadDimension
from eider.datasheets.tables.ways_table import WaysPitch, pitch_over_ways
from eider.geometry.limits import Limits


def rows(letter: str, by_ways: dict[int, float]) -> list[ReadDimension]:
    box = (0.0, 0.0, 1.0, 1.0)
    return [
        ReadDimension(letter, f"{value:g}", Limits(nom=value), box, box, f"{value:g}", str(ways))
        for ways, value in by_ways.items()
    ]


@given(st.floats(0.4, 10), st.floats(0, 20), st.sets(st.integers(2, 40), min_size=3, max_size=12))
def test_what_grows_evenly_gives_its_step_whatever_stands_beside_it(pitch: float, ends: float, ways: set[int]) -> None:
    grown = {n: round(pitch * (n - 1) + ends, 2) for n in ways}
    found = pitch_over_ways([*rows("A", grown), *rows("C", dict.fromkeys(ways, 3.5))])
    assert found is not None
    # Both ends are printed to a hundredth.
    assert abs(found.pitch - pitch) <= 0.011
    assert found.letters == ("A",)


def test_a_body_that_is_rounded_to_tenths_is_not_the_witness() -> None:
    body = rows("A", {2: 3.7, 4: 6.3, 6: 8.8, 8: 11.3, 10: 13.9})
    row = rows("B", {2: 1.27, 4: 3.81, 6: 6.35, 8: 8.89, 10: 11.43})
    assert pitch_over_ways([*body, *row]) == WaysPitch(1.27, ("B",))


def test_two_members_and_uneven_steps_prove_nothing() -> None:
    assert pitch_over_ways(rows("A", {2: 2.5, 3: 5.0})) is None
    assert pitch_over_ways(rows("A", {2: 2.5, 3: 5.0, 4: 9.0})) is None
    assert pitch_over_ways(rows("A", {2: 3.5, 3: 3.5, 4: 3.5})) is None
