"""Named places and kept distances; places and distances worked by hand from the pattern's own numbers."""

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck, run_checks
from eider.commands.lands import footprint_edits
from eider.commands.lands.kept_distances import drop_distances, keep_distance, kept_of, set_distance
from eider.commands.parts.evaluation import rerun_recipes
from eider.drawings.ruler_snapping import Snap, measure_between
from eider.evidence.evidence_changes import put_value
from eider.lands.measure_anchors import AnchorError, Surroundings, anchor_point, distance_of, name_anchor, split_anchor
from eider.library import Library
from eider.model.address import KeptDistanceAddress, PadAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.footprint import Along, KeptDistance
from eider.model.pattern import Hole, Opening, Pad, Pattern
from eider.packages.family import Terminal
from eider.rulebooks import standard_rulebook
from eider.views.kept_distance_rows import distance_rows, kept_lines

# Two lands of 1 × 2 mm with their middles 3 mm apart, the second drilled, on a body of 4 × 2.5 mm.
PADS = (
    Pad("1", -1.5, 0.0, 1.0, 2.0, mask=(Opening(-1.5, 0.0, 1.1, 2.1),)),
    Pad("2", 1.5, 0.5, 1.0, 2.0, hole=Hole(0.6, 0.6)),
)
AROUND = Surroundings(Pattern("two", "B", "chip", PADS), (), (-2.0, -1.25, 2.0, 1.25))


@pytest.mark.parametrize(
    ("point", "where"),
    [
        ("pad 1", (-1.5, 0.0)),
        ("pad 1 left", (-2.0, 0.0)),
        ("pad 1 upper right", (-1.0, 1.0)),
        ("mask 1 lower left", (-2.05, -1.05)),
        ("hole 2 right", (1.8, 0.5)),
        ("body top", (0.0, 1.25)),
        ("origin", (0.0, 0.0)),
        ("pad 2 corner 1", (1.0, -0.5)),
    ],
)
def test_a_place_is_found_by_its_name(point: str, where: tuple[float, float]) -> None:
    assert anchor_point(AROUND, point) == pytest.approx(where)


@pytest.mark.parametrize(
    "point", ["", "pad", "pad 1 middle", "pad 9 left", "hole 1 centre", "pad 1 corner 9", "lid top"]
)
def test_what_is_no_place_is_told(point: str) -> None:
    with pytest.raises(AnchorError):
        anchor_point(AROUND, point)


@pytest.mark.parametrize("point", ["pad 1 left", "pad 1 upper right", "hole 2 centre", "body lower left"])
def test_naming_a_place_and_finding_it_again_agree(point: str) -> None:
    assert name_anchor(AROUND, split_anchor(point)[0], anchor_point(AROUND, point)) == point


def test_a_point_somewhere_on_an_edge_is_that_side_and_one_inside_is_none() -> None:
    assert name_anchor(AROUND, "pad 1", (-1.0, 0.37)) == "pad 1 right"
    with pytest.raises(AnchorError, match="cannot be found again"):
        name_anchor(AROUND, "pad 1", (-1.3, 0.37))


@pytest.mark.parametrize(
    ("along", "mm"), [("x", 3.0), ("y", 0.5), ("direct", 3.0413813), ("edge to edge", 2.0)]
)  # √(3² + 0.5²); the lands overlap in y, so their edges are 3 − 1 apart
def test_a_distance_in_each_of_its_ways(along: Along, mm: float) -> None:
    assert distance_of(AROUND, KeptDistance("pad 1", "pad 2", along)) == pytest.approx(mm)


def test_leads_have_places_too() -> None:
    lead = Terminal("1", (-1.6, -0.3, -0.9, 0.3), (-1.4, -0.3, -0.9, 0.3))
    around = replace(AROUND, terminals=(lead,))
    assert anchor_point(around, "lead 1 right") == pytest.approx((-0.9, 0.0))


def kept(sound: Bundle, text: str, along: Along = "x") -> Bundle:
    """The span over the converter's lands, Z = 7.30 mm."""
    return keep_distance(sound, KeptDistance("pad 1 left", "pad 16 right", along), text)


def findings(bundle: Bundle, library: Library) -> list[str]:
    view = PartUnderCheck(bundle, standard_rulebook(), library.settings)
    return [f"{f.severity} {f.measured} {f.expected}" for f in run_checks(view) if f.check == "lands.kept-distance"]


@pytest.mark.parametrize("text", ["7.30", "7.28–7.32", "7.30 ±0.02", "E + 0.9", "287.4016 mil"])
def test_a_distance_that_is_what_it_shall_be(text: str, sound: Bundle, library: Library) -> None:
    # The span E is 6.20–6.60, nominal 6.40; 7.30 mm is 287.4016 mil.
    assert findings(kept(sound, text), library) == []


def test_a_distance_that_is_not_blocks(sound: Bundle, library: Library) -> None:
    assert findings(kept(sound, "7.20 ±0.02"), library) == ["blocker 7.3000 mm 7.2 ±0.02 mm"]


def test_it_is_checked_after_the_sheet_changed(sound: Bundle, library: Library) -> None:
    changed = rerun_recipes(footprint_edits.set_level(kept(sound, "7.30"), "C"), standard_rulebook())
    # Toe goals of B and C are 0.35 and 0.15: Z is 0.40 shorter.
    assert findings(changed, library) == ["blocker 6.9000 mm 7.3 mm"]


def test_one_whose_pad_is_gone_or_whose_sum_cannot_be_read_says_so(sound: Bundle, library: Library) -> None:
    lost = keep_distance(sound, KeptDistance("pad 1", "pad 99", "x"), "7")
    assert findings(lost, library) == ["caution no such place 7 mm"]
    assert findings(kept(sound, "7.3x"), library) == ["blocker 7.3x a length"]


def test_a_distance_is_kept_once_typed_over_and_dropped(sound: Bundle, library: Library) -> None:
    bundle = kept(sound, "7.20")
    key = bundle.footprint.distances[0].key
    with pytest.raises(Exception, match="kept already"):
        kept(bundle, "7.30")
    typed = set_distance(bundle, key, "7.30")
    assert findings(typed, library) == []
    assert drop_distances(typed, [key]).footprint.distances == ()


def test_its_evidence_is_shown_and_stays_on_record(sound: Bundle, library: Library) -> None:
    bundle = kept(sound, "7.30")
    place = KeptDistanceAddress(bundle.footprint.distances[0].key)
    proof = Evidence(EvidenceKind.DATASHEET, document="0" * 64, page=3, text="7.30")
    proven = put_value(bundle, place, "7.30", proof)
    row = distance_rows(PartUnderCheck(proven, standard_rulebook(), library.settings))[0]
    assert (row.measured, row.evidence) == (pytest.approx(7.30), "page 3")
    typed = set_distance(proven, row.kept.key, "7.40")
    assert typed.footprint.distances[0].shall.former == proof


def test_what_the_ruler_measures_can_be_kept(sound: Bundle, library: Library) -> None:
    view = PartUnderCheck(sound, standard_rulebook(), library.settings)
    ends = [
        Snap(anchor_point(view.surroundings, s), "centre", PadAddress(n), role="copper")  # type: ignore[arg-type]
        for n, s in (("1", "pad 1"), ("8", "pad 8"))
    ]
    kept_one = kept_of(view, measure_between(*ends), "y")
    assert kept_one == KeptDistance("pad 1 centre", "pad 8 centre", "y")
    bundle = keep_distance(sound, kept_one, "7*e")
    assert findings(bundle, library) == []
    lines = list(kept_lines(PartUnderCheck(bundle, standard_rulebook(), library.settings)))
    # Seven pitches of 0.65 about the middle.
    assert [y for _, y in lines[0].points] == pytest.approx([2.275, -2.275])


def test_a_silkscreen_line_cannot_be_kept(sound: Bundle, library: Library) -> None:
    view = PartUnderCheck(sound, standard_rulebook(), library.settings)
    ends = [Snap((0.0, 0.0), "edge", "", role="silkscreen"), Snap((1.0, 0.0), "edge", "", role="silkscreen")]
    with pytest.raises(AnchorError, match="no place"):
        kept_of(view, measure_between(*ends), "x")
