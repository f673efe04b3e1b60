"""The gull-wing lead, as all families that have it share it: profile, strip, side view."""

import msgspec

from eider.geometry.bends import bend_at
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, box_outline
from eider.geometry.rounding import tidy
from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Cylinder, Prism, Solid, Strip
from eider.packages.family import Dims, Letter, SheetError
from eider.packages.forms.moulding import mould_draft

# Where the lead bends down, as a share of the way from the body to the heel of the foot.
SHOULDER_SHARE = 0.35
# How far the lead is let into the body, and how far the pin 1 mark is sunk into it (mm): seen, not measured.
INTO_BODY = 0.05
MARK_DEPTH = 0.04

# Inner radius of a bend in a lead, as a share of its thickness.
INNER_RADIUS = 0.6
HEIGHT_A1 = 0.10
THICKNESS_C = 0.15


HEIGHT_LETTERS = (
    Letter(key="A", meaning="height", view="side", reference="E", typical=(0.08, 1.0), also=("H", "T")),
    Letter(key="A1", meaning="stand-off", view="side", assumed=HEIGHT_A1, reference="A", typical=(0.0, 0.6),
           also=("K", "S")),
    Letter(key="c", meaning="lead thickness", view="side", assumed=THICKNESS_C, reference="A", typical=(0.02, 0.5),
           also=("C", "T")),
)  # fmt: skip


def lead_profile(dims: Dims, span: Limits, body: Limits, own_foot: Limits | None = None) -> Outline:
    """The lead from the side, pointing to +x: foot on z = 0 from its heel to the tip at half the span (mm).

    Raises:
        SheetError: the foot reaches under the body.
    """
    tip, edge, foot = span.middle / 2, body.middle / 2, (own_foot or dims["L"]).middle
    thick = dims["c"].middle
    heel = tip - foot
    if heel <= edge:
        raise SheetError(f"the foot L ({foot:g} mm) reaches under the body: span and body leave {tip - edge:g} mm", "L")
    middle = (dims["A1"].middle + dims["A"].upper) / 2
    shoulder = edge + SHOULDER_SHARE * (heel - edge)
    slant = min(thick * 0.6, foot / 2)
    low, high = middle - thick / 2, middle + thick / 2
    inner = edge - INTO_BODY
    points = (
        (tip, 0.0),
        (tip, thick),
        (heel + slant, thick),
        (shoulder + slant, high),
        (inner, high),
        (inner, low),
        (shoulder, low),
        (heel, 0.0),
    )
    return tuple((tidy(x), tidy(z)) for x, z in points)


def seen_profile(dims: Dims, span: Limits, body: Limits) -> Outline:
    """The lead as a drawing shows it: where span and body cannot be so, its foot alone, so that the slip is seen."""
    try:
        return lead_profile(dims, span, body)
    except SheetError:
        tip = span.middle / 2
        return box_outline((tip - dims["L"].middle, 0.0, tip, dims["c"].middle))


def lead_strip(profile: Outline, thick: float, width: float) -> Strip:
    """The lead as a solid (mm): its profile, as wide as the lead, bent by radii where it is seen.

    The corner at the heel stays sharp, so that the foot is as long as the sheet says.
    """
    into_foot, over_shoulder, under_shoulder = 2, 3, 6
    bends = (
        bend_at(profile, into_foot, INNER_RADIUS * thick),
        bend_at(profile, over_shoulder, (1 + INNER_RADIUS) * thick),
        bend_at(profile, under_shoulder, INNER_RADIUS * thick),
    )
    return Strip(profile, width, bends)


def lead(dims: Dims, span: Limits, body: Limits) -> Strip:
    """The lead of a package whose leads are all alike.

    Raises:
        SheetError: the foot reaches under the body.
    """
    return lead_strip(lead_profile(dims, span, body), dims["c"].middle, dims["b"].middle)


class CornerMark(msgspec.Struct, frozen=True):
    """The round mark on top of a body beside pin 1: centre and radius in mm."""

    x: float
    y: float
    radius: float

    def outline(self) -> Outline:
        """The mark as seen from above."""
        return rounded_rectangle(self.x, self.y, 2 * self.radius, 2 * self.radius, self.radius)


def corner_mark(body: Box, share: float = 0.22, most: float = 0.8) -> CornerMark:
    """The mark in the upper left corner of a body, its size a share of the body's width, at most so many mm."""
    x0, y0, x1, y1 = body
    size = min(share * (x1 - x0), 0.5 * (y1 - y0), most)
    inset = 0.75 * size + min(0.08 * (x1 - x0), 0.25 * size)
    return CornerMark(x0 + inset, y1 - inset, size / 2)


def marked_body(dims: Dims, box: Box, mark: CornerMark, *, is_sawn: bool = False) -> tuple[Solid, Solid]:
    """The body from stand-off to height, with the mark sunk into its top; moulded one by one, unless it `is_sawn`."""
    return marked_block(dims["A1"].middle, dims["A"].upper, box, mark, is_sawn=is_sawn)


def marked_block(low: float, top: float, box: Box, mark: CornerMark, *, is_sawn: bool = False) -> tuple[Solid, Solid]:
    """The same between two heights (mm)."""
    pocket = Cylinder(mark.x, mark.y, mark.radius, top - MARK_DEPTH, top + MARK_DEPTH)
    ink = Cylinder(mark.x, mark.y, mark.radius, top - MARK_DEPTH, top - MARK_DEPTH / 2)
    body = Prism(box_outline(box), low, top, (pocket,), 0.0 if is_sawn else mould_draft(low, top))
    return Solid("body", "mould compound", body), Solid("pin 1 mark", "marking", ink)
