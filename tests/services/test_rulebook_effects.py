"""A changed rulebook: which footprints would change and by how much, before it is kept; revisions in the library."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from eider.commands.lands.rulebook_draft import changes_of, with_change
from eider.demo.build import build_library
from eider.errors import InputError
from eider.lands.pattern import make_pattern
from eider.library import Library, open_library
from eider.library.documents.stored_rulebooks import new_rulebook, rulebook_history, rulebook_names, save_rulebook
from eider.rulebooks import standard_rulebook
from eider.rulebooks.rulebook import RulebookError
from eider.services.releasing.rulebook_effects import open_draft, rulebook_effects
from eider.services.tasks import CancelledError, Task
from helpers import make_sheet


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Library:
    """The demo's library of sixty chip capacitors: 1005, 1608 and 2012."""
    return build_library(tmp_path_factory.mktemp("demo"))


def test_a_goal_of_small_chips_changes_those_alone(demo: Library) -> None:
    row = next(i for i, g in enumerate(standard_rulebook().goals) if g.title == "chip, body below 1608")
    # 0.20 becomes 0.30 at level B: 0.10 more at each end, the middle of the land 0.05 further out.
    found = rulebook_effects(demo, with_change(open_draft(demo, "standard"), f"goals.{row}.outer.1", "0.30"))
    assert found.looked_at == 60
    assert {e.part[:9] for e in found.changed} == {"LYN-C1005"}
    assert len(found.changed) == 20
    first = found.changed[0]
    assert (first.pads, first.most) == (2, pytest.approx(0.10))
    assert "x -0.050, width +0.100" in first.words


def test_a_mask_changes_no_pad(demo: Library) -> None:
    found = rulebook_effects(demo, with_change(open_draft(demo, "standard"), "pads.mask_expansion", "0.06"))
    assert {(e.pads, e.lines, e.besides) for e in found.changed} == {(0, True, "lines or openings")}


def test_a_name_template_renames_and_changes_nothing_else(demo: Library) -> None:
    found = rulebook_effects(demo, with_change(open_draft(demo, "standard"), "naming.chip", "C{D:mm}x{E:mm}_{density}"))
    small = next(e for e in found.changed if e.part == "LYN-C1005-100N")
    assert (small.names, small.lines) == (("CAPC1005X55N", "C1x0.5_B"), False)
    assert ("LYN-C1005-100N", "C1x0.5_B") in found.examples


def test_lands_that_are_no_more_are_told(demo: Library) -> None:
    found = rulebook_effects(demo, with_change(open_draft(demo, "standard"), "tolerances.placement", "3"))
    assert any("no lands are possible" in e.fault for e in found.changed)


def test_a_value_put_back_is_no_change(demo: Library) -> None:
    draft = with_change(open_draft(demo, "standard"), "pads.stencil", "0.1")
    assert [(c.path, c.before, c.after, c.standard) for c in changes_of(draft)] == [
        ("pads.stencil", "0.125", "0.10", "0.125")
    ]
    assert with_change(draft, "pads.stencil", "0.125").changes == {}
    with pytest.raises(RulebookError):
        with_change(draft, "pads.stencil", "x")


def test_looking_through_the_library_can_be_cancelled(demo: Library) -> None:
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError):
        rulebook_effects(demo, open_draft(demo, "standard"), task)


def test_rules_are_kept_as_revisions_with_a_note(library: Library) -> None:
    draft = with_change(open_draft(library, "standard"), "pads.stencil", "0.1")
    with pytest.raises(InputError, match="few words"):
        save_rulebook(library, "standard", draft.changed_text, " ")
    assert library.rulebook("standard").revision == 1
    kept = save_rulebook(library, "standard", draft.changed_text, "thinner stencil")
    assert (kept.revision, library.rulebook("standard").pads.stencil) == (2, 0.1)
    again = with_change(open_draft(library, "standard"), "pads.stencil", "0.08")
    assert save_rulebook(library, "standard", again.changed_text, "thinner still").revision == 3
    assert [entry.note for entry in rulebook_history(library, "standard")] == ["thinner stencil", "thinner still"]
    assert open_library(library.folder).rulebook("standard").pads.stencil == 0.08


def test_a_rulebook_is_begun_from_another_under_a_free_name(library: Library) -> None:
    made = new_rulebook(library, "dense")
    assert (made.name, made.revision) == ("dense", 1)
    assert rulebook_names(library) == ["standard", "dense"]
    for name in ("dense", "standard", "", "../up", "a b"):
        with pytest.raises(InputError):
            new_rulebook(library, name)
    assert not (Path(library.folder).parent / "up.toml").exists()


def test_a_footprint_says_by_which_revision_it_was_made(demo: Library) -> None:
    bundle = demo.load(demo.search("LYN-C1005-100N")[0].id)
    assert (bundle.footprint.rulebook, bundle.footprint.rulebook_revision) == ("standard", 1)


def test_a_ball_of_the_table_gets_another_land() -> None:
    # Balls of 0.50 have lands of 0.40 in the table.
    rules = standard_rulebook()
    row = next(i for i, (ball, _) in enumerate(rules.grids.lands) if ball == 0.5)
    sheet = make_sheet("ball-grid", 4, D="2.9–3.1", E="2.9–3.1", e="0.8", b="0.45–0.55", A="max 1.2", A1="0.2–0.3")
    pads = make_pattern(
        replace(sheet, rows=2, columns=2), "B", rules.with_values({f"grids.lands.{row}.1": "0.38"})
    ).pads
    assert {pad.width for pad in pads} == {0.38}
