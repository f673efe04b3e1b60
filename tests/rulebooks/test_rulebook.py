import pytest

from eider.rulebooks import standard_rulebook
from eider.rulebooks.rulebook import RulebookError, parse_rulebook, standard_text

FAMILIES = {
    "gullwing", "j-lead", "chip", "cylinder", "castellated", "chip-array", "no-lead", "no-lead-pulled-back", "can",
    "moulded", "tab-leads", "tab", "flat-lead", "concave-oscillator", "butt-lead", "ball-grid", "through-hole",
}  # fmt: skip


def test_the_standard_has_every_row_of_the_table() -> None:
    rulebook = standard_rulebook()
    assert {row.family for row in rulebook.goals} == FAMILIES
    assert len(rulebook.goals) == 20


@pytest.mark.parametrize(
    ("family", "measures", "outer", "courtyard"),
    [
        ("gullwing", {"pitch": 0.625}, (0.55, 0.35, 0.15), (0.5, 0.25, 0.1)),
        ("chip", {"length": 1.6}, (0.55, 0.35, 0.15), (0.5, 0.25, 0.1)),
        ("chip", {"length": 1.0}, (0.30, 0.20, 0.10), (0.2, 0.15, 0.1)),
        ("can", {"height": 10.0}, (1.0, 0.7, 0.4), (1.0, 0.5, 0.25)),
        ("moulded", {}, (0.8, 0.5, 0.2), (0.5, 0.25, 0.1)),
    ],
)
def test_goals_by_measure(family: str, measures: dict[str, float], outer: tuple, courtyard: tuple) -> None:
    row = standard_rulebook().goal_row(family, measures)
    assert (row.outer, row.courtyard) == (outer, courtyard)


def test_fine_pitch_has_its_own_side_goals() -> None:
    assert standard_rulebook().goal_row("gullwing", {"pitch": 0.65}).side == (0.05, 0.03, 0.01)
    assert standard_rulebook().goal_row("gullwing", {"pitch": 0.5}).side == (0.01, -0.02, -0.04)


def test_a_family_without_goals_is_told() -> None:
    with pytest.raises(RulebookError, match="has no goals for unheard-of"):
        standard_rulebook().goal_row("unheard-of", {})


@pytest.mark.parametrize(
    ("damage", "says"),
    [
        (("placement = 0.05", "placement = "), "line"),
        (('method = "statistical"', 'method = "hopeful"'), "method"),
        (("fabrication = 0.10", 'fabrication = "much"'), "fabrication"),
    ],
)
def test_a_damaged_rulebook_says_where(damage: tuple[str, str], says: str) -> None:
    with pytest.raises(Exception, match=says):
        parse_rulebook(standard_text().replace(*damage), "mine.toml")


def test_single_values_can_be_replaced() -> None:
    changed = standard_rulebook().with_values({"tolerances.placement": "0.03", "rounding.Z": "up"})
    assert (changed.tolerances.placement, changed.rounding.Z) == (0.03, "up")
    with pytest.raises(RulebookError, match="no “nowhere.at”"):
        standard_rulebook().with_values({"nowhere.at": "1"})
