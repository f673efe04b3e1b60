"""Checks of what surrounds the lands: courtyard, silkscreen, the mark at pin 1."""

from collections.abc import Iterator

import numpy as np
import shapely
from msgspec.structs import replace
from shapely.geometry import LineString, Point, Polygon, box

from eider.checks.areas.land_joints import RUN_AGAIN
from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.geometry.plane import bounds
from eider.geometry.rounding import NOISE
from eider.geometry.shapes import FloatArray, GeometryArray, is_area
from eider.lands.pads import has_copper
from eider.lands.silkscreen_courtyard import mark_of, near_lines, stroke_box
from eider.model.address import FieldAddress, PadAddress
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.packages.pads.pad_shapes import pad_outline

# A share of a mark's ink that is too small to be seen or measured.
HIDDEN_LEAST = 0.01


def _boxes(sides: FloatArray) -> GeometryArray:
    """Boxes, shape (n, 4), as shapes; all in one call, as grids have a thousand of them."""
    made: GeometryArray = shapely.box(*sides.reshape(-1, 4).T)
    return made


@check("lands.courtyard", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"), quick_fix=RUN_AGAIN)
def courtyard(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The courtyard is there, closed, and holds lands, leads, lines and the largest body.

    It is what keeps other parts away; where it is too small, parts collide.
    """
    if view.pattern is None:
        return
    outline = view.pattern.courtyard
    if not is_area(outline):
        yield CheckHit(
            FieldAddress("lands", "courtyard"),
            "there is no closed courtyard",
            f"{len(outline)} corners",
            "a closed outline",
        )
        return
    area = Polygon(outline).buffer(NOISE)
    shapely.prepare(area)
    for place in np.flatnonzero(~shapely.contains(area, _boxes(view.pad_boxes))).tolist():
        pad = view.pads[place]
        message = f"pad {pad.number} extends beyond the courtyard"
        yield CheckHit(PadAddress(pad.number), message, f"pad {pad.number}", "inside")
    leads = shapely.contains(area, _boxes(np.array([t.whole for t in view.terminals])))
    if not leads.all():
        out = view.terminals[int(leads.argmin())].number
        yield CheckHit(
            FieldAddress("lands", "courtyard"), f"lead {out} extends beyond the courtyard", f"lead {out}", "inside"
        )
    if view.recipe and not area.contains(box(*view.recipe.body_max)):
        yield CheckHit(
            FieldAddress("lands", "courtyard"), "the largest body extends beyond the courtyard", "body", "inside"
        )
    for stroke in view.pattern.silkscreen:
        if stroke.points and not area.contains(LineString(stroke.points)):
            yield CheckHit(
                FieldAddress("lands", "courtyard"),
                "a silkscreen line extends beyond the courtyard",
                "line",
                "inside",
                Severity.CAUTION,
            )


@check("lands.silkscreen-over-opening", Severity.CAUTION, reads=("lands", "rulebook"), quick_fix=RUN_AGAIN)
def silkscreen_over_opening(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Silkscreen keeps clear of every mask opening.

    Ink on a land keeps solder off it.
    """
    if view.pattern is None:
        return
    smallest = view.rulebook.clearances.silkscreen_to_mask
    lines = [stroke.points for stroke in view.pattern.silkscreen]
    near = near_lines(view.pads, lines, smallest + view.rulebook.lines.silkscreen[0])
    owners = [pad.number for pad in near for _ in pad.mask]
    areas = [Polygon(pad_outline(opening)) for pad in near for opening in pad.mask]
    for stroke in view.pattern.silkscreen:
        if not areas or not stroke.points:
            continue
        distances = shapely.distance(LineString(stroke.points), areas) - stroke.width / 2
        nearest = int(distances.argmin())
        if distances[nearest] < smallest - 1e-5:
            over = "lies over" if distances[nearest] < 0 else "is too close to"
            message = f"a silkscreen line {over} the mask opening of pad {owners[nearest]}"
            measured = f"{distances[nearest]:.4f} mm"
            yield CheckHit(PadAddress(owners[nearest]), message, measured, f"≥ {smallest:.2f} mm")


@check("lands.silkscreen-hidden", Severity.CAUTION, reads=("sheet", "lands", "rulebook"), quick_fix=RUN_AGAIN)
def silkscreen_hidden(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Some of the silkscreen is seen when the part is mounted.

    Lines that lie under the body alone help nobody: neither to place the part nor to find it.
    """
    if view.pattern is None or view.recipe is None:
        return
    boxes = [stroke_box(stroke) for stroke in view.pattern.silkscreen if stroke.points]
    body = box(*view.recipe.body_max)
    if boxes and all(body.contains(box(*b)) for b in boxes):
        yield CheckHit(
            FieldAddress("lands"),
            "all of the silkscreen lies under the body",
            f"{len(boxes)} lines",
            "lines outside of it",
        )


def _draw_mark(view: PartUnderCheck, _finding: Finding) -> Bundle:
    """The recipe's own mark: hand changes of marks are switched off."""
    footprint = view.bundle.footprint
    overrides = tuple(
        replace(d, active=d.active and not (d.what == "mark" or (d.what == "hide" and d.text in ("", "mark"))))
        for d in footprint.overrides
    )
    return replace(view.bundle, footprint=replace(footprint, overrides=overrides, pattern=None))


@check(
    "lands.pin-1-mark",
    Severity.CAUTION,
    reads=("sheet", "lands", "rulebook"),
    quick_fix=QuickFix("Draw the recipe's mark", _draw_mark),
)
def pin_1_mark(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A mark is beside the real pin 1, outside the body, and is seen after mounting.

    Without it, or nearer to another pin, the part is mounted the wrong way round.
    """
    if view.pattern is None or view.recipe is None or not view.recipe.polarised or not view.pads:
        return
    first, mark = view.recipe.first_pin, mark_of(view.pattern.silkscreen)
    if mark is None:
        yield CheckHit(PadAddress(first), "there is no mark at pin 1", "none", f"a mark at pad {first}")
        return
    x0, y0, x1, y1 = bounds(mark.points)
    middle = Point((x0 + x1) / 2, (y0 + y1) / 2)
    nearest = view.pads[int(shapely.distance(middle, _boxes(view.pad_boxes)).argmin())]
    if nearest.number != first:
        message = f"the mark of pin 1 is nearest to pad {nearest.number}"
        yield CheckHit(PadAddress(nearest.number), message, f"pad {nearest.number}", f"pad {first}")
    ink = LineString(mark.points).buffer(mark.width / 2)
    hidden = ink.intersection(box(*view.recipe.body_max)).area / ink.area if ink.area else 0.0
    if hidden > HIDDEN_LEAST:
        message = "the mark of pin 1 is hidden under the body, in part or in whole"
        yield CheckHit(PadAddress(first), message, f"{hidden:.0%} of its ink", "all of it outside the largest body")


@check("lands.keep-out", Severity.BLOCKER, reads=("lands",))
def keep_out(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No copper lies in an area that is kept free of it, and no via in one kept free of vias.

    What is there needs the room: a post, a moving part, a place that would be short-circuited.
    """
    if view.pattern is None:
        return
    posts = [Point(pad.hole_centre) for pad in view.pads if not has_copper(pad)]
    areas = [(area.of, Polygon(area.outline).buffer(-NOISE)) for area in view.pattern.keep_outs]
    for kind, area in areas:
        # What is too close to a post's hole is told by a check of its own.
        if kind == "copper" and not any(area.contains(post) for post in posts):
            lands = [pad for pad in view.pads if has_copper(pad)]
            hit = next((pad for pad in lands if area.intersects(Polygon(pad_outline(pad)))), None)
            if hit is not None:
                yield CheckHit(
                    PadAddress(hit.number), f"pad {hit.number} extends into a copper keep-out", "inside", "outside"
                )
        elif kind == "vias":
            via = next((via for via in view.pattern.vias if area.intersects(Point(via.x, via.y))), None)
            if via is not None:
                address = PadAddress(via.number)
                yield CheckHit(address, f"a via of pad {via.number} is inside a via keep-out", "inside", "outside")
