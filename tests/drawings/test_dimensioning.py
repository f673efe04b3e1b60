"""Dimensions as datasheets draw them: no label over another thing, at any zoom; what they measure is what is there."""

import pytest
from msgspec.structs import replace

from eider.drawings.dimensioning import lay_dimensions, primitive_box, text_box
from eider.drawings.drawing_layout import extent, fit_view, resolve_primitives
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.package_drawing import begun_drawings, package_drawings
from eider.drawings.primitives import DimensionLine, Disc, Drawing, Line, Text
from eider.geometry.plane import Box, bounds
from eider.lands.pattern import make_pattern
from eider.model.outline import PadSpec
from eider.packages.orientation import PackageOrientation, terminals_on
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample
from helpers import make_sheet

ZOOMS = (0.25, 0.5, 1.0, 2.0, 8.0)


def drawings(family: str) -> list[Drawing]:
    sheet = sample(family)
    patterns = [make_pattern(sheet, "B", standard_rulebook(), orientation=PackageOrientation(turn)) for turn in (0, 1)]
    return [*(pattern_drawing(p, terminals_on(sheet, p)) for p in patterns), *package_drawings(sheet)]


def labels(drawing: Drawing, scale: float, size: float) -> list[Box]:
    found = []
    for item in resolve_primitives(drawing, scale, size):
        if isinstance(item, Disc) and item.role.endswith(" letter"):
            found.append(primitive_box(item))
        elif isinstance(item, Text) and item.role in ("dimension text", "note soft"):
            found.append(text_box(item))
    return found


def meet(a: Box, b: Box, slack: float) -> bool:
    return a[0] < b[2] - slack and b[0] < a[2] - slack and a[1] < b[3] - slack and b[1] < a[3] - slack


@pytest.mark.parametrize("family", SAMPLES)
def test_no_label_lies_over_another_or_on_a_line_at_any_zoom(family: str) -> None:
    for drawing in drawings(family):
        fitted = fit_view(drawing, 620, 460)
        for zoom in ZOOMS:
            scale = fitted.scale / zoom
            boxes, slack = labels(drawing, scale, fitted.size), 0.5 * scale
            assert not [1 for i, a in enumerate(boxes) for b in boxes[:i] if meet(a, b, slack)], (zoom, drawing.box)
            lines = [
                bounds(item.points)
                for item in resolve_primitives(drawing, scale, fitted.size)
                if isinstance(item, Line) and item.role in ("dimension", "dimension extension")
            ]
            inner = [(x0 + slack, y0 + slack, x1 - slack, y1 - slack) for x0, y0, x1, y1 in boxes]
            assert not [1 for line in lines for box in inner if meet(line, box, -1e-9)], (zoom, drawing.box)


@pytest.mark.parametrize("turn", [0, 1, 2, 3])
@pytest.mark.parametrize("family", ["gullwing-dual", "gullwing-quad", "chip", "tab", "transistor"])
def test_what_is_written_is_what_is_measured(family: str, turn: int) -> None:
    sheet = sample(family)
    pattern = make_pattern(sheet, "B", standard_rulebook(), orientation=PackageOrientation(turn))
    shown = [p for p in pattern_drawing(pattern).primitives if isinstance(p, DimensionLine)]
    assert {"Z", "X"} <= {d.letter for d in shown}
    for dimension in shown:
        k = 1 if dimension.side in ("left", "right") else 0
        length = abs(dimension.a[k] - dimension.b[k])
        assert float(dimension.text.split()[-1]) == pytest.approx(length, abs=5e-4), dimension


def test_z_goes_from_end_to_end_of_the_lands_however_they_lie() -> None:
    for turn in range(4):
        pattern = make_pattern(sample("gullwing-dual"), "B", standard_rulebook(), orientation=PackageOrientation(turn))
        z = next(p for p in pattern_drawing(pattern).primitives if isinstance(p, DimensionLine) and p.letter == "Z")
        k = 1 if z.side in ("left", "right") else 0
        ends = sorted((z.a[k], z.b[k]))
        boxes = [pad.box for pad in pattern.pads]
        assert ends == pytest.approx([min(b[k] for b in boxes), max(b[k + 2] for b in boxes)])


def test_a_label_without_room_stands_at_the_other_end_of_its_line() -> None:
    box = (0.0, 0.0, 20.0, 10.0)
    narrow = [DimensionLine((4.0 + 4 * i, 10.0), (4.5 + 4 * i, 10.0), "top", "b", "0.31–0.51") for i in range(2)]
    first, second = lay_dimensions(Drawing(tuple(narrow), box), 0.05)
    # Behind the first line stands the second; before it there is room for a label of 4.4 mm.
    assert first.label[2] < 4.0
    assert second.label[0] > 8.5


@pytest.mark.parametrize("family", SAMPLES)
@pytest.mark.parametrize("view", [(620, 460), (480, 320)])
def test_none_is_left_out_where_the_drawing_fits_its_view(family: str, view: tuple[int, int]) -> None:
    for drawing in drawings(family):
        fitted = fit_view(drawing, *view)
        laid = lay_dimensions(drawing, fitted.scale * fitted.size)
        needed = [p for p in drawing.primitives if isinstance(p, DimensionLine) and not p.optional]
        assert len(laid) >= len(needed)


def test_an_optional_dimension_without_room_is_left_out() -> None:
    drawing = Drawing((DimensionLine((0, 0), (1, 0), "bottom", "", "courtyard 1.00", optional=True),), (0, 0, 1, 1))
    assert lay_dimensions(drawing, 0.1) == ()
    assert len(lay_dimensions(drawing, 0.005)) == 1


def test_pads_by_hand_are_dimensioned_group_by_group() -> None:
    # Four contacts of 0.60 × 1.60 at 1.25, two hold-downs of 1.20 × 1.80 2.70 below, 1.80 beyond the outer contacts.
    pads = (
        PadSpec("1", y="1.35", width="0.6", height="1.6", count="4", dx="1.25"),
        PadSpec("MP", x="-3.675", y="-1.35", width="1.2", height="1.8", mirror="y"),
    )
    sheet = replace(make_sheet("custom", 5, D="8.35", E="4.2", A="3.4"), pads=pads)
    drawing = pattern_drawing(make_pattern(sheet, "B", standard_rulebook()))
    shown = {(p.side, p.letter, p.text) for p in drawing.primitives if isinstance(p, DimensionLine) and not p.optional}
    assert shown == {
        ("bottom", "", "0.6"),
        ("right", "", "1.6"),
        ("top", "e", "1.25"),
        ("top", "", "3.75"),
        ("bottom", "", "1.2"),
        ("right", "", "1.8"),
        ("top", "", "7.35"),
        ("top", "", "1.8"),
        ("left", "", "2.7"),
    }


@pytest.mark.parametrize("width", range(230, 300, 3))
def test_in_a_small_view_what_has_room_is_not_cut(width: int) -> None:
    side = begun_drawings(sample("gullwing-dual"))[1]
    fit = fit_view(side, width, 110)
    x0, _, x1, _ = extent(side, fit.scale, fit.size)
    if (x1 - x0) / fit.scale <= width:
        assert x0 >= fit.centre[0] - width / 2 * fit.scale - 1e-6
        assert x1 <= fit.centre[0] + width / 2 * fit.scale + 1e-6
