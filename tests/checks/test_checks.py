"""Every check: none of it on a sound part, exactly its finding on one with its flaw, and its mend mends."""

import pytest
from msgspec.structs import replace
from shapely.geometry import Polygon

from eider.checks import PartUnderCheck, all_checks, apply_quick_fix, run_checks
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts import body_edits, review_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.build import MADE
from eider.demo.data import chips, sheet_data
from eider.demo.flaws import FLAWS
from eider.demo.flaws.changes import Flaw, adjusted
from eider.demo.parts import chip_part, connector_part, holder_part
from eider.library import Library
from eider.model.body import ComposedSolid
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.footprint import Adjustment
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook

BY_CHECK = {flaw.check: flaw for flaw in FLAWS if not flaw.variant}


def found(bundle: Bundle, library: Library) -> tuple[Finding, ...]:
    return run_checks(PartUnderCheck(bundle, standard_rulebook(), library.settings))


def test_a_sound_part_has_no_findings(sound: Bundle, library: Library) -> None:
    assert found(sound, library) == ()


@pytest.mark.parametrize("name", [name for name, _, _ in MADE[1:]])
def test_the_other_parts_of_the_demo_are_sound_too(name: str, library: Library) -> None:
    make = next(make for key, make, _ in MADE if key == name)
    assert found(make(library, DatasheetLink("0" * 64, "x.pdf")), library) == ()


@pytest.mark.parametrize("ways", sheet_data("ohc-125").ways)
def test_every_member_of_the_connector_family_is_sound(ways: int, library: Library) -> None:
    part = connector_part(library, ways, DatasheetLink("0" * 64, "OHC-125.pdf", 3))
    assert found(part, library) == ()
    contacts = [pad for pad in part.footprint.pattern.pads if pad.number != "MP"]  # type: ignore[union-attr]
    # The sum of the pitch over the row: 1.25 × (ways − 1), about the middle.
    assert contacts[-1].x - contacts[0].x == pytest.approx(1.25 * (ways - 1))
    assert contacts[0].x == pytest.approx(-contacts[-1].x)


@pytest.mark.parametrize("key", ["lyn-c", "lyn-r"])
def test_each_size_of_the_chip_series_is_sound(key: str, library: Library) -> None:
    series = chips(key)
    assert (len(series.sizes), len(series.values)) == (3, 20)
    for size, value in zip(series.sizes, series.values[::9], strict=True):
        part = chip_part(library, series, size, value, DatasheetLink("0" * 64, f"{series.name}.pdf", 2))
        assert found(part, library) == ()
        assert part.sheet.kind == series.category


def test_the_lands_of_the_coin_cell_holder_are_those_of_its_datasheet(library: Library) -> None:
    part = holder_part(library, DatasheetLink("0" * 64, "BRM-CH16.pdf", 2))
    tee, comb, *posts = part.footprint.pattern.pads  # type: ignore[union-attr]
    # A bar of 1.40 × 4.20 and a stem of 2.20 × 1.60; a back of 1.20 × 4.00 and three teeth of 1.60 × 0.80.
    assert Polygon(tee.outline).area == pytest.approx(1.4 * 4.2 + 2.2 * 1.6)
    assert Polygon(comb.outline).area == pytest.approx(1.2 * 4.0 + 3 * 1.6 * 0.8)
    assert (tee.x, comb.x) == (-9.6, 9.6)
    assert [(post.x, post.y, post.plated) for post in posts] == [(0.0, 5.5, False), (0.0, -5.5, False)]
    assert [k.of for k in part.footprint.pattern.keep_outs] == ["copper", "copper"]  # type: ignore[union-attr]


def test_every_check_has_a_flaw_a_title_and_a_reason() -> None:
    assert list(BY_CHECK) == [flaw.check for flaw in FLAWS if not flaw.variant]
    assert len({flaw.part_name for flaw in FLAWS}) == len(FLAWS)
    assert set(all_checks()) == set(BY_CHECK)
    for entry in all_checks().values():
        assert entry.title.endswith(".") and len(entry.title) > 10, entry.id
        assert len(entry.why) > 20, entry.id


@pytest.fixture(scope="module")
def demo(flawed_demo: Library) -> Library:
    """The demo's flawed library."""
    return flawed_demo


@pytest.mark.parametrize("flaw", FLAWS, ids=lambda flaw: flaw.part_name)
def test_each_flaw_gives_exactly_its_finding(flaw: Flaw, demo: Library) -> None:
    row = next(row for row in demo.search() if row.description.endswith(flaw.slip))
    flawed = demo.load(row.id)
    hits = found(flawed, demo)
    assert {f.check for f in hits} == {flaw.check, *flaw.brings}
    own = [f for f in hits if f.check == flaw.check]
    assert all(f.item == flawed.part.name and f.address and f.message for f in own)
    assert flaw.severity is None or own[0].severity == flaw.severity


@pytest.mark.parametrize("check_id", [key for key, entry in all_checks().items() if entry.quick_fix])
def test_a_mend_mends(check_id: str, demo: Library) -> None:
    row = next(row for row in demo.search() if row.description.endswith(BY_CHECK[check_id].slip))
    flawed = demo.load(row.id)
    hit = next(f for f in found(flawed, demo) if f.check == check_id)
    mended = rerun_recipes(
        apply_quick_fix(PartUnderCheck(flawed, standard_rulebook(), demo.settings), hit), standard_rulebook()
    )
    assert hit.key not in {f.key for f in found(mended, demo)}


def test_the_mend_of_a_mixed_unit_reads_mil(sound: Bundle, library: Library) -> None:
    # 2–6 mil is 0.0508–0.1524 mm.
    flawed = rerun_recipes(package_edits.set_dimension(sound, "A1", "2–6"), standard_rulebook())
    hit = next(f for f in found(flawed, library) if f.check == "sheet.mixed-unit")
    limits = apply_quick_fix(PartUnderCheck(flawed, standard_rulebook(), library.settings), hit).sheet.limits("A1")
    assert limits is not None
    assert (limits.min, limits.max) == pytest.approx((0.0508, 0.1524))


def test_below_c_is_a_blocker_and_says_by_how_much(sound: Bundle, library: Library) -> None:
    flawed = rerun_recipes(adjusted(("3", "width", "0.8"))(sound), standard_rulebook())
    hits = [f for f in found(flawed, library) if f.check == "lands.joint-below-level"]
    # Pad 3 is 0.8 long about −2.875: Z 3.275 + 3.65 = 6.925, G 2.475 + 2.1 = 4.575. Toe (6.925 − 6.2 − 0.4153)/2 is
    # above C; heel (5.4915 − 4.575 − 0.5937)/2 = 0.1614 is 0.089 short of the 0.25 of C.
    by_fillet = {f.message.split()[0].lower(): f for f in hits}
    assert by_fillet["toe"].severity == "caution"
    assert by_fillet["heel"].severity == "blocker"
    assert "0.089 mm below level C" in by_fillet["heel"].message


def test_a_pitch_on_the_wrong_grid_adds_up(sound: Bundle, library: Library) -> None:
    # 0.65 drawn as 25 mil (0.635): 0.015 each, 7 × 0.015 = 0.105 over the row of eight.
    flawed = sound
    for number in range(1, 9):
        y = (4.5 - number) * 0.635
        flawed = footprint_edits.adjust_pad(flawed, Adjustment(str(number), "y", f"{y:.4f}"))
    hits = [f for f in found(rerun_recipes(flawed, standard_rulebook()), library) if f.check == "lands.pitch"]
    assert len(hits) == 1
    assert "0.105 mm" in hits[0].message
    assert hits[0].severity == "blocker"


def test_a_waiver_holds_until_the_thing_changes(sound: Bundle, library: Library) -> None:
    flawed = rerun_recipes(adjusted(("3", "height", "0.55"))(sound), standard_rulebook())
    hit = next(f for f in found(flawed, library) if f.check == "lands.gap-between-lands")
    accepted = review_edits.waive(flawed, hit, "the maker's own pattern", "Skerry reviewer")
    assert hit.check not in {f.check for f in found(accepted, library)}
    changed = rerun_recipes(adjusted(("3", "height", "0.57"))(accepted), standard_rulebook())
    assert hit.check in {f.check for f in found(changed, library)}


def test_a_blocker_cannot_be_waived(sound: Bundle, library: Library) -> None:
    flawed = rerun_recipes(package_edits.set_dimension(sound, "b", ""), standard_rulebook())
    blocker = next(f for f in found(flawed, library) if f.severity == "blocker")
    with pytest.raises(Exception, match="correct it, it cannot be accepted"):
        review_edits.waive(flawed, blocker, "no time", "Skerry engineer")


def test_a_finding_of_two_pads_names_both_addresses(sound: Bundle, library: Library) -> None:
    flawed = rerun_recipes(adjusted(("3", "height", "0.3"), ("14", "height", "0.3"))(sound), standard_rulebook())
    hit = next(f for f in found(flawed, library) if f.check == "lands.joint-below-level")
    assert {str(a) for a in (hit.address, *hit.also)} == {"lands.pads.3", "lands.pads.14"}


def test_the_holder_is_named_for_what_it_is_and_drawn_as_a_battery(library: Library) -> None:
    part = holder_part(library, DatasheetLink("0" * 64, "BRM-CH16.pdf", 2))
    assert part.footprint.name == "BATTHOLDER2100X1660X520-2N"
    assert part.symbol.graphic == "battery"


def composed(bundle: Bundle, **changes: str) -> Bundle:
    """The converter of a block and sixteen feet, some of which is changed."""
    rows = (
        ComposedSolid(name="body", length="E1", width="D", height="A-0.1", z="0.1"),
        ComposedSolid(
            name="lead", material="tin", x="-(E-L)/2", y="0", length="L", width="b", height="c", count="8", dy="-e",
            mirror="y",
        ),
        ComposedSolid(
            name="dot", shape="cylinder", material="marking", x="-1.2", y="1.8", z="A", length="0.5", height="0.01"
        ),
    )  # fmt: skip
    made = tuple(replace(row, **changes) if row.name == "lead" else row for row in rows)
    return rerun_recipes(body_edits.compose(bundle, made), standard_rulebook())


def test_a_composed_body_is_held_to_the_same_rules(sound: Bundle, library: Library) -> None:
    of_body = {f.check for f in found(composed(sound), library) if f.check.startswith("body.")}
    assert of_body == set()
    fewer = [f.check for f in found(composed(sound, count="7", dy="-e"), library) if f.check.startswith("body.")]
    assert "body.terminal-count" in fewer
    raised = composed(sound, z="-0.2")
    (finding,) = [f for f in found(raised, library) if f.check == "body.seating"]
    assert finding.message == "The body stands 0.200 mm below the board."
    mended = apply_quick_fix(PartUnderCheck(raised, standard_rulebook(), library.settings), finding)
    assert "body.seating" not in {f.check for f in found(mended, library)}
