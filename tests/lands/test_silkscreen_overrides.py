"""Changes of what surrounds the lands, on the worked dual gull-wing: body 4.00 × 5.00 at most, lands from x = ±1.50."""

import pytest
from msgspec import structs
from shapely.geometry import LineString, Polygon

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.errors import InputError
from eider.geometry.plane import bounds
from eider.lands.pattern import make_pattern
from eider.model.finding import Finding
from eider.model.footprint import SilkscreenOverride
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet, Post
from eider.model.pattern import Pattern, PatternStroke
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import standard_rulebook
from family_samples import sample

RULEBOOK = standard_rulebook()


def made(sheet: PackageSheet, *changes: SilkscreenOverride) -> Pattern:
    return make_pattern(sheet, "B", RULEBOOK, overrides=changes)


def findings(sheet: PackageSheet, pattern: Pattern) -> dict[str, Finding]:
    view = PartUnderCheck(bare_bundle(sheet, pattern, "B"), RULEBOOK, LibrarySettings(name=""))
    return {f.check: f for f in run_checks(view)}


def test_a_second_mark_stands_beside_the_first(so8: PackageSheet) -> None:
    pattern = made(
        so8,
        SilkscreenOverride("mark", "-1,0", "silkscreen"),
        SilkscreenOverride("mark", "-E/2-0.8,-1 -E/2-0.8,1", "silkscreen"),
    )
    marks = [s for s in pattern.silkscreen if s.role == "mark"]
    assert len(marks) == 3
    # A mark of one place is a ring of 0.30 round it; E is 6.00 in the middle.
    assert bounds(marks[1].points) == pytest.approx((-1.15, -0.15, -0.85, 0.15), abs=1e-3)
    assert {x for x, _ in marks[2].points} == {-3.8}
    assert marks[2].width == 0.12


def test_ink_is_cut_at_mask_openings(so8: PackageSheet) -> None:
    pattern = made(so8, SilkscreenOverride("line", "-3,3 -3,-3", "silkscreen", width="0.2"))
    lines = [LineString(s.points) for s in pattern.silkscreen if s.role == "line"]
    openings = [Polygon(pad_outline(o)) for pad in pattern.pads for o in pad.mask]
    assert len(lines) > 1
    assert all(line.distance(o) >= 0.15 + 0.1 - 1e-6 for line in lines for o in openings)
    assert "lands.silkscreen-over-opening" not in findings(so8, pattern)


def test_marks_and_lines_are_hidden(so8: PackageSheet) -> None:
    without_mark = made(so8, SilkscreenOverride("hide", layer="silkscreen", text="mark"))
    assert {s.role for s in without_mark.silkscreen} == {"body"}
    assert "lands.pin-1-mark" in findings(so8, without_mark)
    bare = made(so8, SilkscreenOverride("hide", layer="silkscreen"))
    assert bare.silkscreen == ()
    assert bare.assembly != ()


def test_a_mark_that_is_hidden_in_part_is_found(so8: PackageSheet) -> None:
    pattern = made(so8)
    # The body reaches to x = −2.0 at its largest: of a line 1.0 long with round ends 0.4 lie under it, 41 % of the ink.
    half_hidden = PatternStroke(((-2.6, 2.4), (-1.6, 2.4)), 0.12, "mark")
    assert "lands.pin-1-mark" not in findings(so8, pattern)
    found = findings(so8, structs.replace(pattern, silkscreen=(half_hidden,)))["lands.pin-1-mark"]
    assert found.measured == "41% of its ink"


def test_texts_are_placed(so8: PackageSheet) -> None:
    pattern = made(so8, SilkscreenOverride("text", "0,E1/2", "silkscreen", "8 V", "0.9"))
    typical, own = pattern.texts
    # The assembly drawing bears the reference: at most 1.2 high, half of 4.9 and 0.35 of 3.9 being more.
    assert (typical.text, typical.x, typical.y, typical.height, typical.layer) == ("REF", 0.0, 0.0, 1.2, "assembly")
    assert (own.text, own.x, own.y, own.height, own.layer) == ("8 V", 0.0, 1.95, 0.9, "silkscreen")


def test_the_reference_text_fits_in_the_body() -> None:
    chip = make_pattern(sample("chip"), "B", RULEBOOK)
    # The body is 1.6 × 0.8: half of the width is 0.4, below the least height of 0.5.
    assert chip.texts == ()


def test_an_own_body_outline_is_grown_for_the_ink(so8: PackageSheet) -> None:
    pattern = made(so8, SilkscreenOverride("outline", "-1.9,-2 1.9,-2 1.9,2.4 0,2.4 0,2 -1.9,2"))
    assembly = next(s for s in pattern.assembly if s.role == "body")
    assert Polygon(assembly.points).area == pytest.approx(3.8 * 4 + 1.9 * 0.4)
    ink = [s for s in pattern.silkscreen if s.role == "body"]
    # Half of the line of 0.12 outside of the outline.
    assert max(y for s in ink for _, y in s.points) == pytest.approx(2.46)


def test_keep_outs_are_checked(so8: PackageSheet) -> None:
    free = made(so8, SilkscreenOverride("keep-out", "-1,-1 1,-1 1,1 -1,1", text="copper"))
    assert [k.of for k in free.keep_outs] == ["copper"]
    assert "lands.keep-out" not in findings(so8, free)
    hit = made(so8, SilkscreenOverride("keep-out", "-2,1 0,1 0,2 -2,2", text="copper"))
    assert "lands.keep-out" in findings(so8, hit)


def test_vias_keep_out_of_their_keep_outs() -> None:
    # Above 2.50 mm the paste is in two windows each way, with a via where the gaps cross.
    quad = sample("no-lead-quad", D2="2.7", E2="2.7")
    assert "lands.keep-out" not in findings(quad, made(quad))
    hit = made(quad, SilkscreenOverride("keep-out", "-0.3,-0.3 0.3,-0.3 0.3,0.3 -0.3,0.3", text="vias"))
    assert "lands.keep-out" in findings(quad, hit)


def test_posts_bring_their_keep_out() -> None:
    header = structs.replace(sample("header"), posts=(Post(20.0, 0.0, 1.5),))
    (area,) = made(header).keep_outs
    # Hole 1.5 + 0.15, then 0.25 round it: a radius of 1.075; 20 mm from pin 1, which stands 3.5 × 2.54 left.
    assert bounds(area.outline) == pytest.approx((11.11 - 1.075, -1.075, 11.11 + 1.075, 1.075), abs=1e-3)
    assert "lands.keep-out" not in findings(header, made(header))


def test_a_change_that_is_switched_off_changes_nothing(so8: PackageSheet) -> None:
    off = SilkscreenOverride("hide", layer="silkscreen", active=False)
    assert made(so8, off) == made(so8)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (SilkscreenOverride("line", "0,0", "silkscreen"), "two places"),
        (SilkscreenOverride("line", "0;0 1;1", "silkscreen"), "x,y"),
        (SilkscreenOverride("line", "0,Q 1,1", "silkscreen"), "Q"),
        (SilkscreenOverride("line", "0,0 1,1", "copper"), "unknown layer"),
        (SilkscreenOverride("line", "0,0 1,1", "silkscreen", width="-1"), "width -1 mm"),
        (SilkscreenOverride("text", "0,0", "silkscreen"), "what it says"),
        (SilkscreenOverride("keep-out", "0,0 1,0 1,1", text="parking"), "what is kept out"),
        (SilkscreenOverride("keep-out", "0,0 1,1 1,0 0,1", text="copper"), "do not cross"),
        (SilkscreenOverride("outline", "0,0 1,0"), "is an area"),
    ],
)
def test_a_change_that_cannot_be_drawn_is_refused_with_its_row(
    so8: PackageSheet, change: SilkscreenOverride, says: str
) -> None:
    with pytest.raises(InputError, match=f"silkscreen, row 1.*{says}"):
        made(so8, change)
