"""Packages turned by quarters and mirrored: all follows, as a turn of the plain pattern worked out on its own."""

import math

import pytest
from msgspec.structs import replace

from eider.bodies.solids.body_solids import measure_body
from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.geometry.plane import bounds
from eider.lands.joints import pattern_joints
from eider.lands.pattern import make_pattern
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.packages.orientation import PackageOrientation, placed_solids, terminals_on
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from eider.views.body_alignment import body_alignment
from family_samples import each_family, sample

PLACINGS = [
    PackageOrientation(1),
    PackageOrientation(2),
    PackageOrientation(3),
    PackageOrientation(0, True),
    PackageOrientation(1, True),
]
RULEBOOK = standard_rulebook()


def turned(x: float, y: float, orientation: PackageOrientation) -> tuple[float, float]:
    """By the rotation matrix, after the mirroring."""
    angle = math.radians(90 * orientation.quarters)
    x = -x if orientation.mirrored else x
    return x * math.cos(angle) - y * math.sin(angle), x * math.sin(angle) + y * math.cos(angle)


def turned_box(pad: Pad, orientation: PackageOrientation) -> tuple[float, ...]:
    x0, y0, x1, y1 = pad.box
    return bounds([turned(x, y, orientation) for x in (x0, x1) for y in (y0, y1)])


@pytest.mark.parametrize("orientation", PLACINGS, ids=str)
@pytest.mark.parametrize("family", each_family())
def test_every_pad_lies_where_the_turn_brings_it(family: str, orientation: PackageOrientation) -> None:
    sheet = sample(family)
    plain = make_pattern(sheet, "B", RULEBOOK).pads
    made = make_pattern(sheet, "B", RULEBOOK, orientation=orientation)
    assert [pad.number for pad in made.pads] == [pad.number for pad in plain]
    for pad in made.pads:
        same = [turned_box(other, orientation) for other in plain if other.number == pad.number]
        assert pytest.approx(pad.box, abs=1e-6) in same
    assert (made.turn, made.mirrored) == (90 * orientation.quarters, orientation.mirrored)


@pytest.mark.parametrize("orientation", PLACINGS, ids=str)
@pytest.mark.parametrize("family", each_family())
def test_joints_and_findings_are_those_of_the_plain_pattern(family: str, orientation: PackageOrientation) -> None:
    sheet = sample(family)

    def joints(how: PackageOrientation) -> dict[str, tuple[float, ...]]:
        pads = make_pattern(sheet, "B", RULEBOOK, orientation=how).pads
        groups = pattern_joints(sheet, pads, RULEBOOK, how)
        return {j.number: (j.toe, j.heel, j.side) for g in groups for j in g.pads}

    plain, found = joints(PackageOrientation()), joints(orientation)
    assert set(found) == set(plain)
    for number, fillets in plain.items():
        assert found[number] == pytest.approx(fillets, abs=1e-6)
    assert checks_of(sheet, orientation) == checks_of(sheet, PackageOrientation())


def checks_of(sheet: PackageSheet, orientation: PackageOrientation) -> set[str]:
    bundle = bare_bundle(sheet, make_pattern(sheet, "B", RULEBOOK, orientation=orientation), "B")
    footprint = replace(bundle.footprint, turn=90 * orientation.quarters, mirrored=orientation.mirrored)
    view = PartUnderCheck(replace(bundle, footprint=footprint), RULEBOOK, LibrarySettings(name=""))
    return {f.check for f in run_checks(view) if f.check.startswith("lands.")}


@pytest.mark.parametrize("orientation", PLACINGS, ids=str)
@pytest.mark.parametrize("family", ["gullwing-dual", "chip", "tab", "can", "dual-in-line", "no-lead-quad"])
def test_the_body_stands_on_its_lands(family: str, orientation: PackageOrientation) -> None:
    def disagreements(how: PackageOrientation) -> list[str]:
        bundle = bare_bundle(sample(family), make_pattern(sample(family), "B", RULEBOOK, orientation=how), "B")
        return [row.what for row in body_alignment(bundle, "mm") if not row.agrees]

    assert disagreements(orientation) == disagreements(PackageOrientation())


def test_orientation_2_has_pin_1_lower_left(so8: PackageSheet) -> None:
    made = make_pattern(so8, "B", RULEBOOK.with_values({"orientation": "2"}))
    first = next(pad for pad in made.pads if pad.number == "1")
    # Orientation 1 has it at (−2.475, 1.905); a quarter counter-clockwise brings (x, y) to (−y, x).
    assert (first.x, first.y) == pytest.approx((-1.905, -2.475))
    assert (first.width, first.height) == pytest.approx((0.6, 1.95))
    mark = next(s for s in made.silkscreen if s.role == "mark")
    # Beside the pad, away from its neighbours, as it is above it in orientation 1.
    assert max(x for x, _ in mark.points) < first.box[0]
    cut = made.assembly[0].points
    # The corner of pin 1, lower left, is the one that is cut off.
    assert len(cut) == 6
    assert min(abs(x) + abs(y) for x, y in cut) < abs(cut[0][0]) + abs(cut[0][1]) + 1e-9
    assert (bounds(cut)[0], bounds(cut)[1]) not in cut


@pytest.mark.parametrize("orientation", PLACINGS, ids=str)
@pytest.mark.parametrize("family", ["gullwing-dual", "transistor", "tab", "header"])
def test_solids_are_turned_as_the_terminals_are(family: str, orientation: PackageOrientation) -> None:
    sheet, found = sample(family), family_of(family)
    solids = found.solids(sheet, found.dims(sheet))
    (x0, y0, _), (x1, y1, _) = measure_body(solids).bounds
    low, high = measure_body(placed_solids(solids, orientation)).bounds
    corners = bounds([turned(x, y, orientation) for x in (x0, x1) for y in (y0, y1)])
    assert (*low[:2], *high[:2]) == pytest.approx(corners, abs=1e-6)
    plain = {t.number: t.whole for t in found.terminals(sheet, found.dims(sheet))}
    for terminal in terminals_on(sheet, make_pattern(sheet, "B", RULEBOOK, orientation=orientation)):
        a, b, c, d = plain[terminal.number]
        wanted = bounds([turned(x, y, orientation) for x in (a, c) for y in (b, d)])
        assert terminal.whole == pytest.approx(wanted, abs=1e-6)
