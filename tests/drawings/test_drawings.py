"""Drawings as data: to scale, complete, laid out with room for every label, without a pixel."""

import itertools

import pytest

from eider.drawings.drawing_layout import extent, fit_view, resolve_primitives, text_box
from eider.drawings.finding_balloons import with_balloons
from eider.drawings.highlighting import highlighted
from eider.drawings.joint_drawing import joint_drawing
from eider.drawings.land_drawing import LandOptions, pattern_drawing
from eider.drawings.package_drawing import package_drawings
from eider.drawings.primitives import Area, Balloon, DimensionLine, Disc, Drawing, Line, Note, Text, costs_more_than
from eider.drawings.role_styles import palette, styles
from eider.drawings.symbol_drawing import symbol_drawing
from eider.lands.joints import pattern_joints
from eider.lands.pattern import make_pattern
from eider.model.address import DimensionAddress, PadAddress
from eider.model.finding import Finding, Severity
from eider.model.package_sheet import PackageSheet
from eider.model.symbol import Pin, Symbol
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from eider.symbols.arrangement import arrange
from helpers import make_sheet

RULEBOOK = standard_rulebook()


@pytest.fixture
def lands(so8: PackageSheet) -> Drawing:
    family = family_of(so8.family)
    return pattern_drawing(make_pattern(so8, "B", RULEBOOK), family.terminals(so8, family.dims(so8)))


def drawings(so8: PackageSheet, chip: PackageSheet) -> list[Drawing]:
    made = [*package_drawings(so8, wrong=("b",)), *package_drawings(chip)]
    made.append(highlighted(made[0], DimensionAddress("E")))
    pattern = make_pattern(so8, "B", RULEBOOK)
    made.append(
        pattern_drawing(pattern, (), LandOptions(frozenset(("assembly", "paste", "copper")), "mil", frozenset("1")))
    )
    made.append(
        symbol_drawing(arrange(Symbol(id="", name="", pins=(Pin("1", "CS", "input", active_low=True),))), "x", "1")
    )
    made.append(symbol_drawing(arrange(Symbol(id="", name="", graphic="resistor", pins=(Pin("1"), Pin("2")))), "x"))
    group = pattern_joints(so8, pattern.pads, RULEBOOK)[0]
    made.append(joint_drawing(group, pattern.pads[0], 6.9, 3.0))
    findings = [Finding("x", severity, "", PadAddress("1"), "") for severity in Severity]
    made.append(with_balloons(made[4], findings))
    return made


def test_every_role_has_a_style(so8: PackageSheet, chip2012: PackageSheet) -> None:
    for drawing in drawings(so8, chip2012):
        for item in resolve_primitives(drawing, 0.02):
            assert item.role in styles("light")
            assert item.role in styles("dark")


def test_dimensions_say_the_derived_lengths(lands: Drawing) -> None:
    shown = {d.letter: d.text for d in lands.primitives if isinstance(d, DimensionLine) and d.letter}
    assert shown == {"Z": "6.9", "G": "3", "C": "4.95", "X": "0.6", "e": "1.27"}


def test_a_dimension_measures_what_it_says(lands: Drawing) -> None:
    for d in lands.primitives:
        if isinstance(d, DimensionLine) and d.letter:
            axis = 0 if d.side in ("top", "bottom") else 1
            assert abs(d.a[axis] - d.b[axis]) == pytest.approx(float(d.text), abs=1e-6)


@pytest.mark.parametrize("size", [(640, 520), (400, 300), (1200, 900)])
def test_labels_do_not_overlap_and_all_is_in_view(lands: Drawing, size: tuple[int, int]) -> None:
    scale, centre, annotation = fit_view(lands, *size)
    box = extent(lands, scale, annotation)
    for low, high, middle, room in ((box[0], box[2], centre[0], size[0]), (box[1], box[3], centre[1], size[1])):
        assert (high - low) / scale <= room
        assert middle == pytest.approx((low + high) / 2)
    labels = [
        text_box(t)
        for t in resolve_primitives(lands, scale, annotation)
        if isinstance(t, Text) and t.role == "dimension text"
    ]
    assert len(labels) >= 5
    for a, b in itertools.combinations(labels, 2):
        assert a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]


def test_the_dimension_in_hand_is_highlighted_in_both_letters(so8: PackageSheet) -> None:
    from msgspec.structs import replace

    drawn, _ = package_drawings(replace(so8, aliases={"H": "E"}), wrong=("e",))
    assert highlighted(drawn, None) is drawn
    top = highlighted(highlighted(drawn, DimensionAddress("E")), DimensionAddress("e"))
    roles = {d.letter: (d.role, d.text) for d in top.primitives if isinstance(d, DimensionLine)}
    assert roles["E"] == ("hand", "5.8–6.2 (sheet: H)")
    assert roles["e"][0] == "wrong"


def test_the_package_is_to_scale(so8: PackageSheet) -> None:
    top, side = package_drawings(so8)
    assert top.box == (-3.0, -2.45, 3.0, 2.45)
    assert (side.box[1], side.box[3]) == (0.0, 1.75)


def test_layers_can_be_switched_off(so8: PackageSheet) -> None:
    drawing = pattern_drawing(make_pattern(so8, "B", RULEBOOK), (), LandOptions(frozenset(("courtyard",))))
    assert {item.role for item in drawing.primitives} == {"courtyard"}  # type: ignore[union-attr]


def test_the_joint_view_shows_the_fillets_by_hand(so8: PackageSheet) -> None:
    # Minimum material L 5.80, T 0.40 on Z 6.90, G 3.00: toe (6.90 − 5.80)/2 = 0.55, heel (5.80 − 0.80 − 3.00)/2 = 1.
    pattern = make_pattern(so8, "B", RULEBOOK)
    drawing = joint_drawing(pattern_joints(so8, pattern.pads, RULEBOOK)[0], pattern.pads[0], 6.9, 3.0)
    notes = [t.text for t in drawing.primitives if isinstance(t, Text)]
    assert notes[0] == "minimum: toe 0.550, heel 1.000, side 0.145 mm"
    feet = [a for a in drawing.primitives if isinstance(a, Area) and a.role == "terminal"]
    assert len(feet) == 6


def test_active_low_has_a_bar() -> None:
    symbol = arrange(Symbol(id="", name="", pins=(Pin("1", "CS", "input", active_low=True), Pin("2", "CLK", "input"))))
    texts = {t.text: t.overbar for t in symbol_drawing(symbol, "x").primitives if isinstance(t, Text)}
    assert texts["CS"] and not texts["CLK"]


def test_balloons_stand_where_the_finding_is(lands: Drawing) -> None:
    findings = [
        Finding("a", Severity.NOTE, "", "nowhere", ""),
        Finding("b", Severity.BLOCKER, "", PadAddress("8"), ""),
    ]
    balloons = [b for b in with_balloons(lands, findings).primitives if isinstance(b, Balloon)]
    assert [(b.number, b.address) for b in balloons] == [(2, PadAddress("8"))]
    assert balloons[0].at == (3.45, 2.205)


def test_lines_and_pads_come_from_the_pattern(so8: PackageSheet, lands: Drawing) -> None:
    pattern = make_pattern(so8, "B", RULEBOOK)
    copper = [a for a in lands.primitives if isinstance(a, Area) and a.role == "copper"]
    assert [a.address for a in copper] == [PadAddress(p.number) for p in pattern.pads]
    ink = [line for line in lands.primitives if isinstance(line, Line) and line.role == "silkscreen"]
    assert [line.points for line in ink] == [s.points for s in pattern.silkscreen]


def luminance(colour: str) -> float:
    """WCAG 2 relative luminance."""
    channels = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("appearance", ["light", "dark"])
@pytest.mark.parametrize("name", ["ink", "accent", "red", "blue"])
def test_texts_have_the_contrast_of_wcag_aa(appearance: str, name: str) -> None:
    colours = palette(appearance)
    light, dark = sorted((luminance(colours[name]), luminance(colours["paper"])), reverse=True)
    assert (light + 0.05) / (dark + 0.05) >= 4.5


def test_a_quad_dimensions_both_directions() -> None:
    sheet = make_sheet(
        "gullwing-quad",
        32,
        D="8.8–9.2",
        D1="6.9–7.1",
        E="8.8–9.2",
        E1="6.9–7.1",
        e="0.8",
        b="0.3–0.45",
        L="0.45–0.75",
        A="max 1.6",
    )
    drawing = pattern_drawing(make_pattern(sheet, "B", RULEBOOK))
    sides = {(d.letter, d.side) for d in drawing.primitives if isinstance(d, DimensionLine)}
    assert {("Z", "top"), ("Z", "right"), ("G", "top"), ("G", "right")} <= sides


@pytest.mark.parametrize("graphic", ["capacitor", "resistor", "nand/2"])
def test_the_numbers_of_pins_lie_inside_the_box_of_a_symbol(graphic: str) -> None:
    from eider.drawings.drawing_layout import text_box
    from eider.symbols.graphics import graphic_pins

    drawn = symbol_drawing(arrange(Symbol(id="", name="", graphic=graphic, pins=graphic_pins(graphic))), "x")
    x0, y0, x1, y1 = drawn.box
    for item in drawn.primitives:
        if isinstance(item, Text):
            a0, b0, a1, b1 = text_box(item)
            assert x0 <= a0 and y0 <= b0 and a1 <= x1 and b1 <= y1, item.text


# A land of a land grid is as large as its terminal, which is then not drawn once more under it.
@pytest.mark.parametrize(
    ("family", "kind", "circles", "lines"),
    [("ball-grid", "", 32, 0), ("land-grid", "round lands", 16, 0), ("land-grid", "square lands", 0, 16)],
)
def test_balls_and_round_lands_of_a_package_are_circles(family: str, kind: str, circles: int, lines: int) -> None:
    sheet = make_sheet(family, 16, kind, D="8", E="8", e="1.5", b="0.62", A="1.2", A1="0.3")
    terminals = family_of(family).terminals(sheet, family_of(family).dims(sheet))
    options = LandOptions(frozenset(("package", "limits")), extremes=(terminals,))
    drawn = pattern_drawing(make_pattern(sheet, "B", RULEBOOK), terminals, options).primitives
    ghosts = [item for item in drawn if not isinstance(item, Note) and item.role in ("ghost", "ghost least")]
    found = [item for item in ghosts if isinstance(item, Disc)]
    assert (len(found), sum(isinstance(item, Line) for item in ghosts)) == (circles, lines)
    assert {round(circle.radius, 9) for circle in found} <= {0.31}
    assert all(circle.centre == (-2.25, 2.25) for circle in found[::16])


def test_what_a_drawing_costs_is_counted_no_further_than_asked() -> None:
    dot, box = Disc((0.0, 0.0), 1.0, "copper"), (-1.0, -1.0, 1.0, 1.0)
    square = Area(((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)), "body")
    line = Line(((0.0, 0.0), (1.0, 0.0)), "silkscreen")
    label = DimensionLine((0.0, 0.0), (1.0, 0.0), "top", "D", "1")
    # 1 for the disc, the corners of the others, and 400 for finding room for a label.
    assert not costs_more_than(Drawing((dot, square, line, label), box), 407)
    assert costs_more_than(Drawing((dot, square, line, label), box), 406)
    assert costs_more_than(Drawing((dot,) * 12, box), 11)
