"""What lands from elsewhere are for, and what is wrong with them: by value, over all families, and by property."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from carried_lands import family_lands
from eider.lands.pad_faults import CORRECTIONS, PadCorrection, corrected_pads, pad_faults
from eider.lands.pattern_reading import read_pattern
from eider.library import Library
from eider.model.pattern import Hole, Opening, Pad
from eider.packages.registry import all_families

SOIC = (
    *(Pad(str(i + 1), -2.7, 1.905 - 1.27 * i, 1.5, 0.6) for i in range(4)),
    *(Pad(str(8 - i), 2.7, 1.905 - 1.27 * i, 1.5, 0.6) for i in range(4)),
)
# Families whose lands tell what they are.
TELLING = {
    "axial", "ball-grid", "can", "castellated", "chip", "chip-array", "cylinder", "dual-in-line", "flat-lead",
    "gullwing-diode", "gullwing-dual", "gullwing-quad", "header", "j-lead-dual", "j-lead-quad", "land-grid", "moulded",
    "no-lead-dual", "no-lead-quad", "radial", "single-in-line", "tab", "tab-through-hole", "transistor", "butt-lead",
}  # fmt: skip


def test_two_rows_are_read_with_their_lengths() -> None:
    reading = read_pattern(SOIC)
    assert (reading.form, reading.pins, reading.thermal, reading.families[0]) == ("two rows", 8, "", "gullwing-dual")
    (row,) = reading.rows
    # Z = 2·2.7 + 1.5, G = 2·2.7 − 1.5
    assert (row.pitch, row.outer, row.inner, row.width, row.axis) == (1.27, 6.9, 3.9, 0.6, "x")
    assert reading.words.startswith("8 pins in two rows; pitch 1.27, Z 6.9, G 3.9, X 0.6 mm along y; laid as for")


@pytest.mark.parametrize("family", sorted(all_families()))
def test_lands_of_a_family_are_read_as_such_and_have_no_fault(library: Library, family: str) -> None:
    pads = family_lands(library, family).pads
    reading = read_pattern(pads)
    assert (family in reading.families) is (family in TELLING)
    assert [f for f in pad_faults(pads) if "overlap" not in f.words] == []


def test_a_thermal_land_is_none_of_the_rows() -> None:
    reading = read_pattern((*SOIC, Pad("9", 0, 0, 2.4, 3.0)))
    assert reading.thermal == "9" and len(reading.rows[0].numbers) == 8 and reading.families[0] == "no-lead-dual"


@pytest.mark.parametrize(
    ("pads", "says", "corrections"),
    [
        ([replace(pad, x=1.0, y=2.0) for pad in SOIC], "all 8 pads lie at one place, 1, 2", ("spread",)),
        (corrected_pads(SOIC, "mirror"), "counted clockwise", ("mirror",)),
        (
            corrected_pads(SOIC, "mm"),
            "50 mm apart, a pitch that no package has; in another unit it is 1.27 mm",
            ("mil",),
        ),
        ([replace(p, x=p.x / 25.4, y=p.y / 25.4, width=0.05, height=0.02) for p in SOIC], "1.27 mm", ("inch",)),
        ([replace(pad, height=1.3) for pad in SOIC], "pads 1, 2, 3, 4, 5, 6 and 2 others overlap", ()),
        (SOIC, "", ()),
        (SOIC[:1], "", ()),
    ],
)
def test_what_is_wrong_is_found_with_what_mends_it(
    pads: list[Pad], says: str, corrections: tuple[PadCorrection, ...]
) -> None:
    faults = pad_faults(pads)
    assert (says in faults[0].words) if says else faults == ()
    assert not faults or faults[0].corrections == corrections


def test_a_mend_takes_openings_holes_and_outlines_along() -> None:
    opening = Opening(100, 0, 60, 30, 30.0, "outline", outline=((-30, -15), (30, -15), (0, 15)))
    hole = Hole(10, 20, 5, 0)
    pad = Pad(
        "1", 100, 0, 50, 20, 30.0, "outline", hole=hole, mask=(opening,), outline=((-25, -10), (25, -10), (0, 10))
    )
    (mil,) = corrected_pads([pad], "mil")
    assert (mil.x, mil.width, mil.hole) == (2.54, 1.27, Hole(0.254, 0.508, 0.127, 0.0))
    assert mil.mask[0].x == 2.54 and mil.outline == ((-0.635, -0.254), (0.635, -0.254), (0.0, 0.254))
    (mirrored,) = corrected_pads([pad], "mirror")
    assert (mirrored.x, mirrored.rotation, mirrored.mask[0].x, mirrored.mask[0].rotation) == (-100, 330, -100, 330)
    assert mirrored.hole is not None and mirrored.hole.x == -5 and mirrored.outline == ((0, 10), (-25, -10), (25, -10))


@given(st.lists(st.tuples(st.floats(-20, 20), st.floats(-20, 20), st.floats(0.1, 5)), min_size=2, max_size=12))
def test_mirroring_twice_is_nothing_and_spread_pads_do_not_overlap(places: list[tuple[float, float, float]]) -> None:
    pads = tuple(Pad(str(i), round(x, 3), round(y, 3), round(w, 3), 0.5) for i, (x, y, w) in enumerate(places))
    assert corrected_pads(corrected_pads(pads, "mirror"), "mirror") == pads
    spread = corrected_pads(pads, "spread")
    assert all(a.box[2] < b.box[0] for a, b in pairwise(spread))


def test_every_mend_has_a_title() -> None:
    assert all(title and title[0].isupper() for title in CORRECTIONS.values())
