"""What surrounds the lands: courtyard, silkscreen, assembly outline, and the mark at pin 1. Lengths in mm."""

from collections.abc import Sequence

from eider.geometry.rounding import round_to_step, tidy
from eider.geometry.shapes import Box, Outline, bounds, box_outline, cut_lines, join_boxes
from eider.model.pattern import Level, Pad, Stroke
from eider.packages.family import LandRecipe
from eider.rulebooks import Rulebook

# The pin 1 mark is a small triangle that points at the pad; the figures are its size and its distance in line widths.
MARK_SIZE = 4.0
# The chamfer of the assembly outline at pin 1, as a share of the shorter side and at most, in mm.
CHAMFER_SHARE, CHAMFER_LARGEST = 0.25, 1.0


def courtyard(pads: Sequence[Pad], recipe: LandRecipe, level: Level, rulebook: Rulebook) -> Outline:
    """A rectangle round lands and largest body plus the level's excess, rounded outwards."""
    row = recipe.rows[0]
    excess = rulebook.goal_row(row.goals, row.measures).courtyard["ABC".index(level)]
    x0, y0, x1, y1 = join_boxes([recipe.body_max, *(pad.box for pad in pads)])
    step = rulebook.lines.courtyard_step
    return box_outline(
        (
            round_to_step(x0 - excess, step, "down"),
            round_to_step(y0 - excess, step, "down"),
            round_to_step(x1 + excess, step, "up"),
            round_to_step(y1 + excess, step, "up"),
        )
    )


def silkscreen(pads: Sequence[Pad], recipe: LandRecipe, level: Level, rulebook: Rulebook) -> tuple[Stroke, ...]:
    """The body outline outside the largest body, cut at mask openings, and the mark at pin 1."""
    width = rulebook.lines.silkscreen["ABC".index(level)]
    out = width / 2 + rulebook.clearances.silkscreen_to_body
    x0, y0, x1, y1 = recipe.body_max
    ring = box_outline((x0 - out, y0 - out, x1 + out, y1 + out))
    openings = [outline for pad in pads for outline in pad.mask]
    clearance = rulebook.clearances.silkscreen_to_mask + width / 2
    pieces = cut_lines([(*ring, ring[0])], openings, clearance, rulebook.clearances.shortest_silkscreen)
    strokes = [Stroke(piece, width, "body") for piece in pieces]
    if recipe.polarised:
        strokes.append(_first_pin_mark(pads, recipe, width, rulebook))
    return tuple(strokes)


def _first_pin_mark(pads: Sequence[Pad], recipe: LandRecipe, width: float, rulebook: Rulebook) -> Stroke:
    """A triangle beyond the outer end of pad 1 or, for end terminals, a bar: seen after mounting."""
    first = next((pad for pad in pads if pad.number == recipe.first_pin), None)
    if first is None:
        return Stroke((), width, "mark")
    mask = rulebook.pads.mask_expansion + rulebook.clearances.silkscreen_to_mask + width / 2
    x0, _, x1, y1 = first.box
    size = tidy(MARK_SIZE * width)
    row = recipe.rows[0]
    if row.pitch == 0:
        x = tidy(x0 - mask)
        _, y0, _, y1 = first.box
        return Stroke(((x, y0), (x, y1)), width, "mark")
    middle, top = (x0 + x1) / 2, y1 + mask
    points = ((middle, top), (middle + size / 2, top + size), (middle - size / 2, top + size), (middle, top))
    return Stroke(tuple((tidy(x), tidy(y)) for x, y in points), width, "mark")


def assembly(recipe: LandRecipe, rulebook: Rulebook) -> tuple[Stroke, ...]:
    """The nominal body 1:1, with a chamfer at the corner of pin 1 where orientation matters."""
    x0, y0, x1, y1 = recipe.body
    outline: Outline = box_outline(recipe.body)
    if recipe.polarised:
        cut = min(CHAMFER_SHARE * min(x1 - x0, y1 - y0), CHAMFER_LARGEST)
        outline = ((x0, y0), (x1, y0), (x1, y1), (tidy(x0 + cut), y1), (x0, tidy(y1 - cut)))
    return (Stroke((*outline, outline[0]), rulebook.lines.assembly, "body"),)


def mark_of(strokes: Sequence[Stroke]) -> Stroke | None:
    """The mark at pin 1; None where there is none."""
    return next((stroke for stroke in strokes if stroke.role == "mark" and stroke.points), None)


def stroke_box(stroke: Stroke) -> Box:
    """The box that the ink of a line covers."""
    x0, y0, x1, y1 = bounds(stroke.points)
    half = stroke.width / 2
    return x0 - half, y0 - half, x1 + half, y1 + half
