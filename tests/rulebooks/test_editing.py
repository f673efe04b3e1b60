"""Changing rulebooks: the text keeps its comments, values are read by their kind, the standard's is beside."""

import tomllib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.commands.lands.rulebook_draft import differing_rows, section_rows
from eider.commands.lands.rulebook_draft import editor_sections as all_sections
from eider.packages.registry import all_families
from eider.rulebooks import standard_rulebook
from eider.rulebooks.rule_editing import edited, standard_value, value_text
from eider.rulebooks.rule_rows import GOALS, rule_rows, section_titles, sections
from eider.rulebooks.rulebook import parse_rulebook, standard_text


def test_only_the_value_changes_in_the_text() -> None:
    made = edited(standard_text(), {"pads.stencil": "0.1"}, "mine.toml")
    before, after = standard_text().splitlines(), made.splitlines()
    assert [(a, b) for a, b in zip(before, after, strict=True) if a != b] == [("stencil = 0.125", "stencil = 0.1")]


def test_a_value_that_the_text_leaves_out_is_written_into_it() -> None:
    bare = 'format = "eider-rulebook/1"\nname = "bare"\ngoals = []\n'
    made = edited(bare, {"tolerances.placement": "0.03", "naming.chip": "{standard}"}, "bare.toml")
    assert tomllib.loads(made)["tolerances"] == {"placement": 0.03}
    assert parse_rulebook(made, "bare.toml").naming == {"chip": "{standard}"}
    assert "naming" not in edited(made, {"naming.chip": ""}, "bare.toml").split("{")[1:]


@pytest.mark.parametrize(
    ("path", "text", "says"),
    [
        ("pads.stencil", "thin", "takes a number"),
        ("pads.stencil", "nan", "takes a number"),
        ("holes.square_first", "perhaps", "yes or no"),
        ("orientation", "3", "orientation"),
        ("goals.99.outer.1", "0.3", "there is no"),
        ("goals.0.outer", "0.3", "not a single value"),
        ("nowhere", "1", "there is no"),
    ],
)
def test_what_does_not_fit_is_told(path: str, text: str, says: str) -> None:
    with pytest.raises(Exception, match=says):
        edited(standard_text(), {path: text}, "mine.toml")


@given(
    st.sampled_from([r for s in section_titles() for r in rule_rows(standard_rulebook(), s) if not r.choices]),
    st.floats(0.01, 2.0),
)
def test_any_figure_can_be_changed_and_read_back(row, value: float) -> None:  # type: ignore[no-untyped-def]
    path = row.paths[-1]
    if path.startswith("naming"):
        return
    made = parse_rulebook(edited(standard_text(), {path: f"{value:.4f}"}, "mine.toml"), "mine.toml")
    assert float(value_text(made, path)) == pytest.approx(value, abs=1e-4)


def test_the_editor_shows_every_value_of_a_rulebook() -> None:
    shown = {
        path for section in all_sections() for row in section_rows(standard_rulebook(), section) for path in row.paths
    }
    rulebook = standard_rulebook()
    groups = (
        "tolerances",
        "rounding",
        "clearances",
        "pads",
        "lines",
        "holes",
        "thermal",
        "posts",
        "bodies",
        "joint_yield",
    )
    for group in groups:
        for name in getattr(rulebook, group).__struct_fields__:
            assert {f"{group}.{name}", f"{group}.{name}.0"} & shown, f"{group}.{name}"
    assert {"orientation", "default_level", "naming.*", "grids.step"} <= shown
    assert {f"grids.lands.{i}.1" for i in range(len(rulebook.grids.lands))} <= shown
    assert {f"grids.steps.{i}.{key}" for i in range(3) for key in ("collapsing", "non_collapsing")} <= shown
    assert {f"naming.{key}" for key in all_families()} <= shown


def test_goals_stand_beside_the_standards() -> None:
    changed = standard_rulebook().with_values({"goals.0.outer.1": "0.40"})
    row = rule_rows(changed, GOALS)[0]
    # Gull-wing above 0.625: outer .55/.35/.15.
    assert (row.group, row.values, row.standard) == (
        "gull-wing, pitch above 0.625",
        ("0.55", "0.40", "0.15"),
        ("0.55", "0.35", "0.15"),
    )
    assert row.differs
    assert sum(r.differs for r in rule_rows(changed, GOALS)) == 1
    assert standard_value("goals.99.step") == ""


def test_every_field_of_the_editor_is_in_a_rulebook() -> None:
    for section in sections():
        for field in section.fields:
            path = f"{field.path}.0" if field.levels else field.path
            value_text(standard_rulebook(), path)


def test_a_field_stands_in_one_section_of_the_editor() -> None:
    titles = [section.title for section in all_sections()]
    paths = [
        path for section in all_sections() for row in section_rows(standard_rulebook(), section) for path in row.paths
    ]
    assert len(set(titles)) == len(titles) and len(set(paths)) == len(paths)


def test_a_rulebook_says_where_it_differs_from_the_standard() -> None:
    book = parse_rulebook(edited(standard_text(), {"pads.mask_expansion": "0.07"}, "mine"), "mine")
    assert list(differing_rows(standard_rulebook())) == []
    ((section, row),) = differing_rows(book)
    assert section == "Lands, mask and paste"
    assert row.paths == ("pads.mask_expansion",)
    assert (row.values, row.standard) == (("0.07",), ("0.05",))
