"""Views of parts that lack something: what can be said is said, the rest is left out."""

import pytest
from msgspec.structs import replace

from eider.cli.packages.lands import bare_bundle
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.model.bundle import Bundle
from eider.rulebooks import standard_rulebook
from eider.views.body_alignment import body_alignment
from eider.views.part_values import DimensionRow, compose_limits, level_lands
from eider.views.sheet_comparison import compare_sheets
from family_samples import sample

RULEBOOK = standard_rulebook()


@pytest.fixture
def dual() -> Bundle:
    """The gull-wing of eight leads, computed."""
    return rerun_recipes(bare_bundle(sample("gullwing-dual"), None, "B"), RULEBOOK)


@pytest.mark.parametrize(
    ("cells", "which", "text", "composed"),
    [
        (("", "", ""), "nom", "0.65", "0.65"),
        (("", "0.65", ""), "max", "0.70", "nom 0.65 max 0.70"),
        (("0.60", "", "0.70"), "min", "", "max 0.70"),
        (("0.60", "", "0.70"), "min", " 0.61 ", "min 0.61 max 0.70"),
    ],
)
def test_a_typed_limit_joins_those_that_are_there(
    cells: tuple[str, str, str], which: str, text: str, composed: str
) -> None:
    low, nominal, high = cells
    row = DimensionRow("b", "", "", "", low, nominal, high, "", "", True, False, None, "")
    assert compose_limits(row, which, text) == composed


def test_levels_that_give_no_lands_are_left_out(dual: Bundle) -> None:
    assert set(level_lands(dual, RULEBOOK)) == {"A", "B", "C"}
    assert level_lands(package_edits.set_dimension(dual, "b", "0.5–0.3"), RULEBOOK) == {}


def test_a_letter_that_neither_sheet_has_is_not_compared(dual: Bundle) -> None:
    bare = replace(dual.sheet, dims={k: d for k, d in dual.sheet.dims.items() if k != "c"})
    letters = [found.letter for found in compare_sheets(bare, bare)]
    assert "c" not in letters
    assert "E" in letters
    (only,) = [found for found in compare_sheets(bare, dual.sheet) if found.letter == "c"]
    assert only.words == "only in the other sheet"


def test_a_terminal_without_a_land_does_not_agree(dual: Bundle) -> None:
    pattern = dual.footprint.pattern
    assert pattern is not None
    fewer = replace(pattern, pads=tuple(pad for pad in pattern.pads if pad.number != "3"))
    rows = body_alignment(replace(dual, footprint=replace(dual.footprint, pattern=fewer)), "mm")
    (lost,) = [row for row in rows if row.what == "Terminal 3 on its land"]
    assert (lost.measured, lost.agrees) == ("no land", False)
    # Without a sheet that can be drawn there is nothing to hold against each other.
    assert body_alignment(replace(dual, sheet=replace(dual.sheet, dims={})), "mm") == []
