"""What makes a generated body look like the package: draft, bends, wells; each held to its formula."""

from math import pi, radians, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps

from eider.bodies.kernel.cad_kernel import make_shape
from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.geometry.bends import bend_at, inset_outline
from eider.geometry.plane import bounds, box_outline
from eider.geometry.solids import Prism, Shape, Solid, Strip, extent_fault
from eider.packages.orientation import mirrored_shape
from family_samples import sample
from helpers import make_sheet


def volume(shape: Shape) -> float:
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(make_shape(Solid("x", "tin", shape)), properties)
    return float(properties.Mass())


def test_a_drafted_block_is_two_frusta() -> None:
    """Each half is a frustum of height h: (A1 + 4 Am + A2) h / 6, with the sides of the middle between the two."""
    block = Prism(box_outline((-2.0, -1.0, 2.0, 1.0)), 0.5, 2.5, draft=0.2)
    half = (4 * 2 + 4 * 3.8 * 1.8 + 3.6 * 1.6) * 1.0 / 6
    assert volume(block) == pytest.approx(2 * half)
    assert measure_body((Solid("x", "tin", block),)).bounds == ((-2.0, -1.0, 0.5), (2.0, 1.0, 2.5))


def test_a_draft_that_leaves_no_top_is_told() -> None:
    block = Prism(box_outline((-2.0, -1.0, 2.0, 1.0)), 0.5, 2.5, draft=1.0)
    assert extent_fault(Solid("x", "tin", block)) == "no area on top"


def test_a_moulded_body_is_as_large_as_the_sheet_says_where_its_mould_parts() -> None:
    body = next(s for s in body_solids(sample("gullwing-dual")) if s.name == "body")
    assert isinstance(body.shape, Prism)
    assert body.shape.draft == pytest.approx(tan(radians(7)) * (body.shape.z1 - body.shape.z0) / 2, abs=1e-6)
    assert all(s.shape.draft == 0 for s in body_solids(sample("no-lead-quad")) if isinstance(s.shape, Prism))


@given(st.floats(0.01, 2.0), st.floats(0.2, 3.0), st.floats(0.2, 3.0))
def test_a_right_angle_is_rounded_by_what_its_sides_allow(wanted: float, along: float, up: float) -> None:
    profile = ((0.0, 0.0), (along, 0.0), (along, up))
    place, radius = bend_at(profile, 1, wanted)
    # A quarter round begins as far from the corner as its radius.
    assert place == (along, 0.0)
    assert radius == pytest.approx(min(wanted, 0.45 * min(along, up)))


def test_a_bent_strip_loses_or_gains_what_the_roundings_take() -> None:
    """An L of 0.2 mm: outside a corner loses (1 − π/4) R², inside it gains (1 − π/4) r²."""
    profile = ((0.0, 0.0), (2.0, 0.0), (2.0, 1.0), (1.8, 1.0), (1.8, 0.2), (0.0, 0.2))
    plain = volume(Strip(profile, 0.5))
    assert plain == pytest.approx(0.5 * (2 * 0.2 + 0.8 * 0.2))
    bent = Strip(profile, 0.5, (((2.0, 0.0), 0.3), ((1.8, 0.2), 0.1)))
    expected = plain - 0.5 * (1 - pi / 4) * (0.3**2 - 0.1**2)
    assert volume(bent) == pytest.approx(expected)
    assert volume(mirrored_shape(bent)) == pytest.approx(expected)


def test_a_bent_lead_keeps_its_foot_span_and_height() -> None:
    for family in ("gullwing-dual", "gullwing-quad", "transistor", "tab", "j-lead-dual", "j-lead-quad"):
        for solid in body_solids(sample(family)):
            if isinstance(solid.shape, Strip):
                assert solid.shape.bends
                xs, zs = zip(*(place for place, _ in solid.shape.bends), strict=True)
                # What lies on the board stays flat up to its corners.
                assert min(zs) > 0 and len(set(xs)) > 1


def test_insets_of_convex_and_hollow_outlines() -> None:
    assert bounds(inset_outline(box_outline((0.0, 0.0, 4.0, 2.0)), 0.5)) == pytest.approx((0.5, 0.5, 3.5, 1.5))
    # An L: its inner corner moves outwards of the corner, into the material.
    ell = ((0.0, 0.0), (4.0, 0.0), (4.0, 1.0), (1.0, 1.0), (1.0, 3.0), (0.0, 3.0))
    assert inset_outline(ell, 0.25)[3] == pytest.approx((0.75, 0.75))


def test_a_header_is_open_where_its_mate_comes_in() -> None:
    size = {"e": "2.54", "b": "0.64", "A": "8.5"}
    upright = make_sheet("header", 4, left="2", right="9.62", above="2", below="2", **size)
    body = next(s for s in body_solids(upright) if s.name == "body")
    (well,) = body.cuts
    assert isinstance(well, Prism) and well.z0 == pytest.approx(0.3 * 8.5) and well.z1 > 8.5
    assert bounds(well.outline)[3] < 2.0
    # Right-angled: the body lies in front of its pins, and its mate comes in from there.
    lying = make_sheet("header", 4, left="2", right="9.62", above="-1.5", below="9", **size)
    body = next(s for s in body_solids(lying) if s.name == "body")
    (well,) = body.cuts
    assert isinstance(well, Prism) and bounds(well.outline)[1] < -9.0 and well.z1 < 8.5
    # No room for walls: no well.
    narrow = make_sheet("header", 4, **size)
    assert next(s for s in body_solids(narrow) if s.name == "body").cuts != ()
    tight = make_sheet("header", 4, above="0.5", below="0.5", **size)
    assert next(s for s in body_solids(tight) if s.name == "body").cuts == ()
