"""The joint view: a lead foot on its land from the side and from its end, at minimum, nominal and maximum material."""

from collections.abc import Iterator

from eider.drawings.primitives import Area, Drawing, Line, Primitive, Text
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.lands.joints import GroupJoints
from eider.model.pattern import Pad

# A foot is drawn as thick as a share of its land's width, a land thinner: only lengths along the board are to scale.
FOOT_SHARE, LAND_SHARE = 0.42, 0.10
ROW_SHARE = 1.75


def joint_drawing(group: GroupJoints, pad: Pad, outer: float, inner: float) -> Drawing:
    """Side and end view of one pad of a group; `outer` and `inner` are Z and G of the pad and its opposite (mm)."""
    width = pad.height if group.rows.axis == "x" else pad.width
    unit = max(width, 0.45 * (outer - inner) / 2)
    primitives: list[Primitive] = []
    land_length = (outer - inner) / 2
    end_x = land_length * 0.72 + width * 1.1
    for index, (name, pick) in enumerate((("minimum", _lower), ("nominal", _middle), ("maximum", _upper))):
        y = -index * unit * ROW_SHARE
        length, foot, lead = (pick(limits) for limits in (group.rows.length, group.rows.foot, group.rows.width))
        toe, heel = (outer - length) / 2, (length - 2 * foot - inner) / 2
        primitives += _section(-land_length / 2, land_length, toe, heel, foot, y, unit)
        side = (width - lead) / 2
        primitives += _section(end_x - width / 2, width, side, side, lead, y, unit)
        at = (-land_length / 2, y + unit * (FOOT_SHARE + 0.42))
        note = f"{name}: toe {toe:.3f}, heel {heel:.3f}, side {side:.3f} mm"
        primitives.append(Text(at, note, 7.4, "note", horizontal="left", in_points=True))
    low = -2 * unit * ROW_SHARE - unit * 0.35
    box: Box = (-land_length / 2, low, end_x + width / 2, unit * 1.05)
    side_view = Text((0.0, low), "side: heel, toe", 7.0, "note soft", vertical="top", in_points=True)
    end_view = Text((end_x, low), "end", 7.0, "note soft", vertical="top", in_points=True)
    return Drawing((*primitives, side_view, end_view), box)


def _lower(limits: Limits) -> float:
    return limits.lower


def _middle(limits: Limits) -> float:
    return limits.middle


def _upper(limits: Limits) -> float:
    return limits.upper


def _section(
    x: float, land: float, right: float, left: float, foot: float, y: float, unit: float
) -> Iterator[Primitive]:
    """A foot on a land that begins at x: solder to its right and left as far as the land shows there (mm)."""
    thick, copper = FOOT_SHARE * unit, LAND_SHARE * unit
    start, end = x + left, x + left + foot
    yield Line(((x - 0.08 * land, y - copper), (x + land * 1.08, y - copper)), "board")
    yield Area(box_outline((x, y - copper, x + land, y)), "copper")
    for edge, reach in ((end, right), (start, -left)):
        if reach * (1 if edge == end else -1) > 0:
            yield Area(((edge, y), (edge + reach, y), (edge, y + min(thick, abs(reach)))), "solder")
    yield Area(box_outline((start, y, end, y + thick)), "terminal")
