"""What surrounds the lands: courtyard, silkscreen, assembly outline, and the mark at pin 1. Lengths in mm."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np
import shapely
from shapely.geometry import MultiPolygon

from eider.geometry.plane import Box, Outline, bounds, box_outline, cut_corner, inside_by, join_boxes
from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.geometry.shapes import cut_line, keep_out
from eider.lands.land_layout import courtyard_goals
from eider.model.pattern import Level, Pad, PatternStroke
from eider.packages.family import LandRecipe
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import BodySize, Rulebook

# The chamfer of the assembly outline at pin 1, as a share of the shorter side and at most, in mm.
CHAMFER_SHARE, CHAMFER_LARGEST = 0.25, 1.0
# How long the mark at pin 1 is where the pin is hidden under the body (mm).
UNDER_BODY_MARK = 0.6
# Mask openings reach no farther than this beyond their pads (mm).
MASK_REACH = 1.0


def courtyard(
    pads: Sequence[Pad], ink: Sequence[PatternStroke], recipe: LandRecipe, level: Level, rulebook: Rulebook
) -> Outline:
    """Round lands and largest body plus the level's excess, rounded outwards; no line reaches out of it.

    A rectangle or, where the rulebook says so, the contour of lands and body in right angles.
    """
    wanted = _kept_clear(pads, recipe, level, rulebook)
    lines = [stroke_box(stroke) for stroke in ink]
    wanted += lines + _images(lines, join_boxes(wanted), rulebook.lines.courtyard_step)
    step = rulebook.lines.courtyard_step
    if rulebook.lines.courtyard_form == "contour":
        return _contour([_outwards(box, step) for box in wanted])
    return box_outline(_outwards(join_boxes(wanted), step))


def _kept_clear(pads: Sequence[Pad], recipe: LandRecipe, level: Level, rulebook: Rulebook) -> list[Box]:
    """Lands and largest body, each with the level's excess around it."""
    excess = courtyard_goals(recipe, rulebook).courtyard["ABC".index(level)]
    solid = [recipe.body_max, *(pad.box for pad in pads)]
    return [(x0 - excess, y0 - excess, x1 + excess, y1 + excess) for x0, y0, x1, y1 in solid]


def _images(lines: Sequence[Box], whole: Box, step: float) -> list[Box]:
    """Lines that reach out of a courtyard that is symmetric about the origin, at its other sides as well."""
    x, y = whole[2], whole[3]
    is_symmetric = abs(whole[0] + x) < step and abs(whole[1] + y) < step
    if not is_symmetric:
        return []
    found = []
    for x0, y0, x1, y1 in lines:
        if x0 < -x - NOISE or x1 > x + NOISE:
            found.append((-x1, y0, -x0, y1))
        if y0 < -y - NOISE or y1 > y + NOISE:
            found.append((x0, -y1, x1, -y0))
    return found


def _outwards(box: Box, step: float) -> Box:
    low = (round_to_step(box[0], step, "down"), round_to_step(box[1], step, "down"))
    return (*low, round_to_step(box[2], step, "up"), round_to_step(box[3], step, "up"))


def _contour(boxes: Sequence[Box]) -> Outline:
    """The outline of boxes taken together, counter-clockwise; pieces that lie apart are boxed in with the first."""
    whole = shapely.union_all([shapely.box(*box) for box in boxes])
    while isinstance(whole, MultiPolygon):
        first, second, *_ = whole.geoms
        whole = shapely.union_all([whole, shapely.box(*shapely.union(first, second).bounds)])
    ring = shapely.Polygon(whole.exterior).normalize().simplify(0.0).exterior.coords[:-1]
    return tuple((tidy(x), tidy(y)) for x, y in ring)


def silkscreen(pads: Sequence[Pad], recipe: LandRecipe, level: Level, rulebook: Rulebook) -> tuple[PatternStroke, ...]:
    """The body outline outside the largest body, cut at mask openings, and the mark at pin 1."""
    if recipe.bare:
        return ()
    width = rulebook.lines.silkscreen["ABC".index(level)]
    out = width / 2 + rulebook.clearances.silkscreen_to_body
    x0, y0, x1, y1 = body_of(recipe, rulebook.lines.silkscreen_body)
    ring = box_outline((x0 - out, y0 - out, x1 + out, y1 + out))
    bar = _first_pin_mark(pads, recipe, width, level, rulebook) if recipe.polarised else ()
    clearance = rulebook.clearances.silkscreen_to_mask + width / 2 - NOISE
    openings = [pad_outline(o) for pad in near_lines(pads, [(*ring, ring[0]), bar], clearance) for o in pad.mask]
    hidden = keep_out(openings, clearance)
    shortest = rulebook.clearances.shortest_silkscreen
    strokes = [PatternStroke(piece, width, "body") for piece in cut_line((*ring, ring[0]), hidden, shortest)]
    strokes += [PatternStroke(piece, width, "mark") for piece in (cut_line(bar, hidden, shortest) if bar else ())]
    return tuple(strokes)


def body_of(recipe: LandRecipe, size: BodySize) -> Box:
    """The body at a size (mm): the smallest is as much smaller than the nominal one as the largest is larger."""
    if size == "largest":
        return recipe.body_max
    if size == "nominal":
        return recipe.body
    x0, y0, x1, y1 = (2 * nominal - most for nominal, most in zip(recipe.body, recipe.body_max, strict=True))
    return x0, y0, x1, y1


def near_lines(pads: Sequence[Pad], lines: Sequence[Outline], clearance: float) -> list[Pad]:
    """The pads whose openings may come within a clearance (mm) of lines, told by boxes: of a grid hardly any."""
    segments = np.array([(*a, *b) for line in lines for a, b in pairwise(line)]).reshape(-1, 4)
    if not len(segments) or not pads:
        return []
    low, high = np.minimum(segments[:, :2], segments[:, 2:]), np.maximum(segments[:, :2], segments[:, 2:])
    reach = clearance + max(MASK_REACH, clearance)
    boxes = np.array([pad.box for pad in pads])
    apart = (boxes[:, None, :2] - reach > high[None]) | (boxes[:, None, 2:] + reach < low[None])
    return [pad for pad, is_near in zip(pads, (~apart.any(axis=2)).any(axis=1), strict=True) if is_near]


def _first_pin_mark(pads: Sequence[Pad], recipe: LandRecipe, width: float, level: Level, rulebook: Rulebook) -> Outline:
    """A bar along pad 1 on the side away from its neighbours or, for end terminals, beyond its end.

    It stands outside the body with all of its ink and is seen after mounting; a shorter bar that stays within the
    courtyard is better than one for which that grows.
    """
    first = next((pad for pad in pads if pad.number == recipe.first_pin), None)
    if first is None:
        return ()
    x0, y0, x1, y1 = first.box
    bx0, by0, bx1, by1 = recipe.body_max
    if bx0 <= x0 and x1 <= bx1 and by0 <= y0 and y1 <= by1:
        # The pad lies under the body: the mark stands outside, at the corner or side that the pad is nearest to.
        out = 1.5 * width + rulebook.clearances.silkscreen_to_body + UNDER_BODY_MARK / 2
        return _tidied(_beside_body(first, recipe.body_max, out))
    clear = width / 2 + rulebook.clearances.silkscreen_to_body
    to_mask = rulebook.clearances.silkscreen_to_mask + width / 2 - NOISE
    shortest = rulebook.clearances.shortest_silkscreen
    inside = join_boxes(_kept_clear(pads, recipe, level, rulebook))
    found = []
    for rank, bar in enumerate(_bars(first, recipe, width, rulebook)):
        openings = [pad_outline(opening) for pad in near_lines(pads, [bar], to_mask) for opening in pad.mask]
        free = cut_line(bar, keep_out([box_outline(recipe.body_max)], clear - NOISE), shortest)
        pieces = [piece for line in free for piece in cut_line(line, keep_out(openings, to_mask), shortest)]
        piece = max(pieces, key=_length, default=())
        if piece:
            grows = inside_by(_ink_box(piece, width), inside) < -NOISE
            found.append((grows, rank, piece))
    return _tidied(min(found)[2]) if found else ()


def _bars(first: Pad, recipe: LandRecipe, width: float, rulebook: Rulebook) -> Iterator[Outline]:
    """Where a bar beside pad 1 may stand, the best place first: above it, or beyond its end where it is an end."""
    x0, y0, x1, y1 = first.box
    gap = rulebook.clearances.silkscreen_to_mask + width / 2
    # Openings of its own may be larger than those of the rulebook.
    openings = [opening.box for opening in first.mask] or [first.box]
    mx0, my0, mx1, my1 = join_boxes(openings)
    left, right, below, above = mx0 - gap, mx1 + gap, my0 - gap, my1 + gap
    sides: dict[str, Outline] = {
        "above": ((x0, above), (x1, above)),
        "left": ((left, y0), (left, y1)),
        "below": ((x0, below), (x1, below)),
        "right": ((right, y0), (right, y1)),
    }
    order = ["above", "left", "below", "right"]
    if recipe.rows and recipe.rows[0].pitch == 0:
        bx0, by0, bx1, by1 = recipe.body_max
        if recipe.rows[0].axis == "x":
            end = "left" if (x0 + x1) / 2 < (bx0 + bx1) / 2 else "right"
        else:
            end = "below" if (y0 + y1) / 2 < (by0 + by1) / 2 else "above"
        # Beside such a pad a bar would be taken for the outline of the body.
        order = [end]
    yield from (sides[side] for side in order)


def _tidied(bar: Outline) -> Outline:
    return tuple((tidy(x), tidy(y)) for x, y in bar)


def _length(line: Outline) -> float:
    return sum(math.dist(a, b) for a, b in pairwise(line))


def _ink_box(line: Outline, width: float) -> Box:
    x0, y0, x1, y1 = bounds(line)
    return x0 - width / 2, y0 - width / 2, x1 + width / 2, y1 + width / 2


def _beside_body(pad: Pad, body: Box, out: float) -> Outline:
    """A bar outside of the body: along the side that a pad beneath it is nearest to, at the pad's place."""
    x0, y0, x1, y1 = body
    distances = {"left": pad.x - x0, "right": x1 - pad.x, "top": y1 - pad.y, "bottom": pad.y - y0}
    side = min(distances, key=lambda name: distances[name])
    half = UNDER_BODY_MARK / 2
    if side in ("left", "right"):
        x = x0 - out if side == "left" else x1 + out
        return ((x, pad.y - half), (x, pad.y + half))
    y = y1 + out if side == "top" else y0 - out
    return ((pad.x - half, y), (pad.x + half, y))


def assembly(recipe: LandRecipe, rulebook: Rulebook) -> tuple[PatternStroke, ...]:
    """The body 1:1, as a rule at nominal size, with a chamfer at the corner of pin 1 where orientation matters."""
    if recipe.bare:
        return ()
    x0, y0, x1, y1 = body = body_of(recipe, rulebook.lines.assembly_body)
    outline: Outline = box_outline(body)
    if recipe.polarised:
        cut = min(CHAMFER_SHARE * min(x1 - x0, y1 - y0), CHAMFER_LARGEST)
        outline = cut_corner(body, cut, recipe.corner)
    return (PatternStroke((*outline, outline[0]), rulebook.lines.assembly, "body"),)


def mark_of(strokes: Sequence[PatternStroke]) -> PatternStroke | None:
    """The mark at pin 1; None where there is none."""
    return next((stroke for stroke in strokes if stroke.role == "mark" and stroke.points), None)


def stroke_box(stroke: PatternStroke) -> Box:
    """The box that the ink of a line covers."""
    return _ink_box(stroke.points, stroke.width)
