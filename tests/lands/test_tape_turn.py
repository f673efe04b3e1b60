"""The turn from the tape to the footprint, worked by hand for all quadrants; pockets beside parts."""

import pytest

from eider.geometry.plane import box_centre
from eider.lands.pattern import zero_orientation
from eider.lands.tape_turn import Pocket, Quadrant, TapeLie, pocket_faults, tape_lie
from eider.packages.orientation import placed_recipe, placed_terminals
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from family_samples import sample

CORNERS = ["gullwing-dual", "gullwing-quad", "no-lead-quad", "no-lead-dual", "ball-grid", "transistor"]
ENDS = ["chip", "moulded"]
# Pin 1 upper left in the footprint is at 135°. In the tape it is at 135° (Q1), 45° (Q2), 225° (Q3) or 315° (Q4); the
# turn is the first less the second. Lower left, by zero orientation B, is 90° more.
TURNS: dict[Quadrant, tuple[int, int]] = {"Q1": (0, 90), "Q2": (90, 180), "Q3": (270, 0), "Q4": (180, 270)}
# Two terminals lie across the tape, pin 1 at the holes (90°) or away from them (270°); in the footprint it is left
# (180°) or, by B, at the bottom (270°).
END_TURNS: dict[Quadrant, tuple[int, int]] = {"Q1": (90, 180), "Q2": (90, 180), "Q3": (270, 0), "Q4": (270, 0)}


def lie_of(key: str, quadrant: Quadrant | None, orientation: int = 1) -> TapeLie:
    sheet, rulebook = sample(key), standard_rulebook().with_values({"orientation": str(orientation)})
    family, way = family_of(sheet.family), zero_orientation(rulebook)
    dims = family.dims(sheet)
    recipe = placed_recipe(family.lands(sheet, dims), way)
    terminals = placed_terminals(family.terminals(sheet, dims), way)
    return tape_lie(recipe, terminals, orientation, quadrant, dims["A"].upper)


@pytest.mark.parametrize("quadrant", ["Q1", "Q2", "Q3", "Q4"])
@pytest.mark.parametrize("key", [*CORNERS, *ENDS])
def test_the_turn_is_the_footprint_less_the_tape(key: str, quadrant: Quadrant) -> None:
    turns = (END_TURNS if key in ENDS else TURNS)[quadrant]
    found = [lie_of(key, quadrant, orientation) for orientation in (1, 2)]
    assert tuple(lie.turn for lie in found) == turns
    assert [lie.zero for lie in found] == ["A", "B"]


def test_without_a_quadrant_there_is_no_turn() -> None:
    assert lie_of("gullwing-dual", None).turn is None


def test_a_part_is_picked_up_at_the_middle_of_its_body() -> None:
    sheet = sample("tab")
    family = family_of(sheet.family)
    body = family.lands(sheet, family.dims(sheet)).body
    lie = lie_of("tab", "Q1")
    assert lie.pick == pytest.approx(box_centre(body))
    # A tab reaches out at one end, so that the body is beside the middle of the lands.
    assert abs(lie.pick[0]) > 0.1


@pytest.mark.parametrize(
    ("pocket", "words"),
    [
        (Pocket(5.4, 6.9, 1.6), []),
        (Pocket(6.9, 5.4, 1.6), []),
        (Pocket(5.0, 6.9, 1.6), ["the shorter side of the pocket is smaller than the part"]),
        (Pocket(5.4, 7.6, 1.6), ["the longer side of the pocket leaves the part room to turn"]),
        (Pocket(5.4, 6.9, 1.0), ["the depth of the pocket is smaller than the part"]),
    ],
)
def test_a_pocket_takes_its_part_and_does_not_let_it_turn(pocket: Pocket, words: list[str]) -> None:
    lie = TapeLie("A", "Q1", 0, (0.0, 0.0), 1.2, (6.4, 5.1))
    assert [message for message, _measured, _expected in pocket_faults(lie, pocket)] == words
