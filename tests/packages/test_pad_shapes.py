"""Lands of other shapes, offset holes, sides, openings of their own; areas and places worked by hand."""

import math

import pytest
from msgspec.structs import replace
from shapely.geometry import Polygon

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.errors import InputError
from eider.lands.pads import has_copper, hole_outline, ring_of
from eider.lands.pattern import make_pattern
from eider.library import Library
from eider.library.documents.shared_outlines import library_outlines, save_outline
from eider.model.library import LibrarySettings
from eider.model.outline import OutlinePart, OutlineSpec, PadSpec, Step
from eider.model.pattern import Pattern
from eider.packages.orientation import PackageOrientation
from eider.packages.pads.outlines import OutlineError, make_outline
from eider.packages.pads.pad_shapes import cornered, corners_of, d_shape, pad_outline
from eider.rulebooks import standard_rulebook
from helpers import make_sheet

SQUARE = OutlineSpec("-1", "-1", (Step("right", "2"), Step("up", "2"), Step("left", "2"), Step("down", "2")))


def laid(*pads: PadSpec, orientation: PackageOrientation | None = None, **outlines: OutlineSpec) -> Pattern:
    numbers = {pad.number for pad in pads if pad.number}
    sheet = replace(
        make_sheet("custom", max(len(numbers), 1), D="20", E="20", A="2"), pads=pads, outlines=dict(outlines)
    )
    return make_pattern(sheet, "B", standard_rulebook(), orientation=orientation)


def test_corners_are_cut_one_by_one() -> None:
    outline = cornered(2.0, 1.0, 0.3, ("upper left", "lower right"), round_off=False)
    # Each corner takes away a triangle of 0.3 × 0.3.
    assert Polygon(outline).area == pytest.approx(2.0 - 2 * 0.045)
    assert {(-0.7, 0.5), (-1.0, 0.2), (0.7, -0.5), (1.0, -0.2), (-1.0, -0.5), (1.0, 0.5)} == set(outline)


def test_corners_are_rounded_one_by_one() -> None:
    outline = cornered(2.0, 1.0, 0.4, ("upper right",), round_off=True)
    # A square of r × r less a quarter of a circle, which is drawn by pieces of 7.5°.
    assert Polygon(outline).area == pytest.approx(2.0 - 0.16 * (1 - math.pi / 4), abs=5e-4)
    assert {(-1.0, -0.5), (1.0, -0.5), (-1.0, 0.5)} <= set(outline)


@pytest.mark.parametrize(("end", "size"), [("right", (2.0, 1.0)), ("top", (1.0, 2.0)), ("left", (2.0, 1.0))])
def test_a_d_has_one_round_end(end: str, size: tuple[float, float]) -> None:
    shape = Polygon(d_shape(*size, end))
    assert shape.is_valid and shape.exterior.is_ccw
    assert shape.area == pytest.approx(1.5 + math.pi / 8, abs=2e-3)
    assert shape.bounds == pytest.approx((-size[0] / 2, -size[1] / 2, size[0] / 2, size[1] / 2))


@pytest.mark.parametrize(
    "make",
    [
        lambda: cornered(1.0, 1.0, 0.6, ("upper left",), round_off=False),
        lambda: d_shape(1.0, 3.0, "right"),
        lambda: d_shape(2.0, 1.0, "middle"),
        lambda: corners_of("ul xx"),
    ],
)
def test_a_shape_that_cannot_be_is_refused(make) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(InputError):
        make()


def test_shapes_of_given_pads() -> None:
    pads = laid(
        PadSpec("1", x="-5", width="2", height="1", shape="chamfered", corner_radius="0.2", corners="ul"),
        PadSpec("2", x="0", width="2", height="1", shape="D", corners="left"),
        PadSpec("3", x="5", width="2", height="1", shape="rounded", corner_radius="0.3", corners="ur lr"),
    ).pads
    areas = [Polygon(pad_outline(pad)).area for pad in pads]
    assert areas == pytest.approx([2 - 0.02, 1.5 + math.pi / 8, 2 - 2 * 0.09 * (1 - math.pi / 4)], abs=2e-3)
    assert [pad.shape for pad in pads] == ["outline"] * 3


def test_a_hole_beside_the_middle_of_its_land() -> None:
    spec = PadSpec("1", x="3", y="1", width="3", height="2", rotation="90", hole="1", hole_x="0.6")
    (pad,) = laid(spec).pads
    # Turned by 90°, what lay 0.6 to the right lies 0.6 up.
    assert pad.hole_centre == pytest.approx((3.0, 1.6))
    # Half of the length is 1.5; 0.6 + 0.5 of it is used towards the end.
    assert ring_of(pad) == pytest.approx(0.4, abs=1e-2)
    assert Polygon(hole_outline(pad)).centroid.coords[0] == pytest.approx((3.0, 1.6))


def test_a_hole_over_the_edge_has_no_ring() -> None:
    (pad,) = laid(PadSpec("1", width="2", height="2", hole="1", hole_x="0.8")).pads
    # The hole reaches to 1.3, the land to 1.0.
    assert ring_of(pad) == pytest.approx(-0.3, abs=1e-2)


def test_openings_of_another_outline_with_their_own_expansion() -> None:
    spec = PadSpec("1", x="5", width="4", height="4", mask="sq 0.1", paste="sq", rotation="90", mirror="y")
    pads = laid(spec, sq=SQUARE).pads
    for pad in pads:
        (mask,), (paste,) = pad.mask, pad.paste
        assert Polygon(pad_outline(paste)).area == pytest.approx(4.0)
        assert Polygon(pad_outline(mask)).bounds == pytest.approx((pad.x - 1.1, -1.1, pad.x + 1.1, 1.1))


def test_a_pad_of_two_shapes_is_two_rows_on_two_sides() -> None:
    specs = (
        PadSpec("1", width="2", height="2", layers="top"),
        PadSpec("1", width="1", height="1", layers="bottom"),
        PadSpec("2", x="1.6", width="1", height="1", layers="bottom"),
    )
    pattern = laid(*specs)
    sheet = replace(make_sheet("custom", 2, D="20", E="20", A="2"), pads=specs)
    view = PartUnderCheck(bare_bundle(sheet, pattern, "B"), standard_rulebook(), LibrarySettings(name=""))
    # Pad 2 ends 0.1 from the land above it, on the other side of the board, and 0.6 from that on its own.
    assert "lands.gap-between-lands" not in {f.check for f in run_checks(view)}
    with pytest.raises(InputError, match="unknown side"):
        laid(replace(specs[0], layers="inside"))


def test_parts_are_added_and_cut_out() -> None:
    tee = replace(SQUARE, parts=(OutlinePart("rectangle", "0", "1.5", "1", "1"),))
    assert Polygon(make_outline(tee, {})).area == pytest.approx(5.0)
    bitten = replace(SQUARE, parts=(OutlinePart("circle", "1", "0", "1", cut=True),))
    # Half of a circle of 1 mm, drawn by 48 corners.
    assert Polygon(make_outline(bitten, {})).area == pytest.approx(4 - math.pi / 8, abs=2e-3)
    of_parts = OutlineSpec(parts=(OutlinePart("rectangle", width="a", height="1"), OutlinePart("sq", "a/2")))
    assert Polygon(make_outline(of_parts, {"a": 4.0}, {"sq": SQUARE})).area == pytest.approx(4 + 4 - 1)


@pytest.mark.parametrize(
    ("part", "says"),
    [
        (OutlinePart("circle", "0", "0", "1", cut=True), "leaves a hole"),
        (OutlinePart("rectangle", "0", "0", "0.5", "9", cut=True), "falls into pieces"),
        (OutlinePart("rectangle", "5", "0", "1", "1"), "falls into pieces"),
        (OutlinePart("rectangle", "0", "0", "9", "9", cut=True), "leaves nothing"),
        (OutlinePart("rectangle", "0", "0", "0", "1"), "size 0 × 1 mm"),
        (OutlinePart("star", "0", "0", "1"), "not a rectangle"),
    ],
)
def test_a_part_that_gives_no_land_is_refused(part: OutlinePart, says: str) -> None:
    with pytest.raises(OutlineError, match=says):
        make_outline(replace(SQUARE, parts=(part,)), {})


def test_outlines_are_kept_in_the_library(library: Library) -> None:
    save_outline(library, "tee", SQUARE)
    save_outline(library, "comb", replace(SQUARE, corner="0.1"))
    assert library_outlines(library) == {"tee": SQUARE, "comb": replace(SQUARE, corner="0.1")}
    with pytest.raises(InputError, match="uses tee"):
        save_outline(library, "two", OutlineSpec(parts=(OutlinePart("tee"),)))
    (library.folder / "outlines.json").write_text("{broken")
    assert library_outlines(library) == {}
    with pytest.raises(InputError, match=r"outlines\.json is damaged"):
        save_outline(library, "tee", SQUARE)


def test_lands_that_are_no_boxes_are_measured_by_their_outline() -> None:
    # Two discs of 2 mm at (0, 0) and (1.6, 1.6): √5.12 − 2 = 0.263 apart, while their boxes overlap.
    specs = tuple(PadSpec(str(i + 1), x=f"{i * 1.6}", y=f"{i * 1.6}", width="2", shape="circle") for i in range(2))
    sheet = replace(make_sheet("custom", 2, D="20", E="20", A="2"), pads=specs)
    view = PartUnderCheck(bare_bundle(sheet, laid(*specs), "B"), standard_rulebook(), LibrarySettings(name=""))
    found = {f.check for f in run_checks(view)}
    assert not {"lands.pads-overlap", "lands.gap-between-lands"} & found


def test_a_ring_makes_the_land_of_a_hole() -> None:
    (pad,) = laid(PadSpec("1", hole="1.0", ring="0.35", shape="circle")).pads
    assert (pad.width, pad.height, ring_of(pad)) == (1.7, 1.7, pytest.approx(0.35))


@pytest.mark.parametrize(("width", "size"), [("", 1.5), ("0", 1.5), ("1.2", 1.2)])
def test_a_post_has_no_land_or_one_smaller_than_its_hole(width: str, size: float) -> None:
    (_, post) = laid(PadSpec("1", x="5", width="1"), PadSpec("", hole="1.5", plated=False, width=width)).pads
    assert (post.width, post.hole.width if post.hole else 0) == (size, 1.5)
    assert not has_copper(post)


def test_paste_of_a_given_pad_in_windows() -> None:
    (pad,) = laid(PadSpec("1", width="4", height="4", paste="windows")).pads
    # Two windows each way: 4.00 is above 2.00 + 2 × 0.25.
    assert len(pad.paste) == 4


def test_a_header_with_numbers_of_its_own() -> None:
    sheet = replace(make_sheet("header", 3, e="2.54", b="0.62–0.66", A="8"), left=("10", "", "20", "30"))
    pads = {pad.number: pad.x for pad in make_pattern(sheet, "B", standard_rulebook()).pads}
    # Four positions at 2.54 about the middle, the second of them empty.
    assert pads == {"10": pytest.approx(-3.81), "20": pytest.approx(1.27), "30": pytest.approx(3.81)}


def test_a_turn_that_is_no_angle_is_refused_for_outlines_too() -> None:
    with pytest.raises(InputError, match=r"pads, row 1 \(1\): “north” is not an angle"):
        laid(PadSpec("1", outline="square", rotation="north"), square=SQUARE)
