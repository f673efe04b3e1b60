"""Thermal lands: copper of the pad's size, paste in windows, vias in the gaps between them. Lengths in mm."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from shapely.geometry import Polygon

from eider.geometry.plane import Outline, cut_corner, rectangle
from eider.geometry.rounding import round_to_step, tidy
from eider.model.pattern import Opening, Pad, SizeDerivation, Via
from eider.packages.family import LandRecipe, Plate, SheetError
from eider.rulebooks import Rulebook

# Thermal lands are rounded as the perimeter lands of their families are.
STEP = 0.05


class PlateLand(NamedTuple):
    """A thermal land without openings, and how it came about."""

    pad: Pad
    derivation: SizeDerivation


def full_size(plate: Plate) -> tuple[float, float]:
    """Width and height (mm) of the land that is as large as its pad."""
    return round_to_step(plate.width.middle, STEP), round_to_step(plate.height.middle, STEP)


def lay_plate(plate: Plate, rulebook: Rulebook, *, smaller: tuple[float, float] = (0.0, 0.0)) -> PlateLand:
    """The land of a thermal pad: its nominal size, less what the perimeter lands need (`smaller`, in x and y).

    Raises:
        SheetError: the perimeter lands leave no land.
    """
    raw = plate.width.middle, plate.height.middle
    full = full_size(plate)
    width, height = (tidy(size - less) for size, less in zip(full, smaller, strict=True))
    if min(width, height) <= 0:
        raise SheetError(f"the thermal pad of {raw[0]:g} × {raw[1]:g} mm leaves no land between the perimeter lands")
    notes = [
        f"{name} reduced from {before:g} to {after:g} mm: the perimeter lands need "
        f"{rulebook.clearances.pad_to_thermal:g} mm of gap"
        for name, before, after in (("width", full[0], width), ("height", full[1], height))
        if after < before
    ]
    outline = _chamfered(width, height, plate) if plate.chamfer else ()
    pad = Pad(
        plate.number,
        tidy(plate.x),
        tidy(plate.y),
        width,
        height,
        shape="outline" if outline else "rectangle",
        outline=outline,
    )
    derivation = SizeDerivation(
        group=f"thermal pad {plate.number}",
        numbers=(plate.number,),
        values={"width": width, "height": height},
        inputs={"pad width": raw[0], "pad height": raw[1]},
        formulas=(f"land = pad at nominal size, rounded to {STEP:g}: {full[0]:g} × {full[1]:g}",),
        notes=tuple(notes),
    )
    return PlateLand(pad, derivation)


def _chamfered(width: float, height: float, plate: Plate) -> Outline:
    """The land with the corner of pin 1 cut off, about its own centre, counter-clockwise."""
    x, y = width / 2, height / 2
    return cut_corner((-x, -y, x, y), min(plate.chamfer, x, y), plate.corner)


def thermal_pads(pads: Sequence[Pad], recipe: LandRecipe) -> tuple[Pad, ...]:
    """The thermal lands among the pads: where a lead shares the number, the larger one."""
    found = []
    for number in dict.fromkeys(area.number for area in recipe.thermal_areas):
        of_number = [pad for pad in pads if pad.number == number and pad.hole is None]
        if number in {plate.number for plate in recipe.plates}:
            found += of_number
        else:
            windows = sum(area.number == number for area in recipe.thermal_areas)
            found += sorted(of_number, key=lambda pad: pad.width * pad.height)[-windows:]
    return tuple(found)


def paste_windows(pad: Pad, rulebook: Rulebook) -> tuple[Opening, ...]:
    """The paste openings of a thermal land: equal windows, the rulebook's gap between and half of it at the edges."""
    rules = rulebook.thermal
    (nx, w), (ny, h) = (_split(size, rulebook) for size in (pad.width, pad.height))
    if nx == ny == 1 and w * h > rules.most_coverage * pad.width * pad.height:
        scale = math.sqrt(rules.single_share)
        w, h = pad.width * scale, pad.height * scale
    places = [
        (pad.x + (i - (nx - 1) / 2) * pad.width / nx, pad.y + (j - (ny - 1) / 2) * pad.height / ny)
        for j in range(ny)
        for i in range(nx)
    ]
    if pad.shape != "outline":
        return tuple(Opening(tidy(x), tidy(y), tidy(w), tidy(h)) for x, y in places)
    whole = [rectangle(x, y, w, h) for x, y in places]
    copper = Polygon([(x + pad.x, y + pad.y) for x, y in pad.outline])
    # Where a corner of the land is cut off, the window there is cut off with it.
    cut = (copper.intersection(Polygon(window)) for window in whole)
    return tuple(_cut_window(pad, piece, w, h) for piece in cut if isinstance(piece, Polygon) and not piece.is_empty)


def _cut_window(pad: Pad, piece: Polygon, width: float, height: float) -> Opening:
    outline = tuple((tidy(x - pad.x), tidy(y - pad.y)) for x, y in piece.exterior.coords[:-1])
    return Opening(pad.x, pad.y, tidy(width), tidy(height), shape="outline", outline=outline)


def _split(size: float, rulebook: Rulebook) -> tuple[int, float]:
    """How many windows stand along a side, and how long each is."""
    rules = rulebook.thermal
    if size <= rules.window_most + 2 * rules.gap:
        return 1, min(size - rules.gap, rules.window_most) if size > 2 * rules.gap else size / 2
    count = math.ceil(size / (rules.window_most + rules.gap))
    return count, size / count - rules.gap


def paste_coverage(pad: Pad) -> float:
    """The share of a thermal land that its paste openings cover."""
    copper = float(Polygon(pad.outline).area) if pad.shape == "outline" else pad.width * pad.height
    return float(sum(_opening_area(opening) for opening in pad.paste)) / copper


def _opening_area(opening: Opening) -> float:
    return float(Polygon(opening.outline).area) if opening.shape == "outline" else opening.width * opening.height


def thermal_vias(pad: Pad, rulebook: Rulebook) -> tuple[Via, ...]:
    """Vias where the gaps between windows cross, and between two crossings that are far enough apart."""
    rules = rulebook.thermal
    if not rules.vias or rules.via_drill >= rules.gap:
        return ()
    xs, ys = (_gap_lines(size, _split(size, rulebook)[0], rules.via_pitch) for size in (pad.width, pad.height))
    on_x, on_y = {x for x, is_gap in xs if is_gap}, {y for y, is_gap in ys if is_gap}
    return tuple(
        Via(pad.number, tidy(pad.x + x), tidy(pad.y + y), rules.via_drill)
        for y, _ in ys
        for x, _ in xs
        if x in on_x or y in on_y
    )


def _gap_lines(size: float, count: int, pitch: float) -> list[tuple[float, bool]]:
    """Places along a side: the gaps (true), and the middles of the windows where these are far enough from the gaps."""
    each = size / count
    gaps = [(tidy((i - count / 2) * each), True) for i in range(1, count)]
    middles = (
        [(tidy((i + 0.5 - count / 2) * each), False) for i in range(count)] if each / 2 >= pitch or count == 1 else []
    )
    return sorted(gaps + middles)
