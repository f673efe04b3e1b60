"""Lands from Z, G and X: the limits that act after the equations, the pads of a row, their mask and paste."""

import math
from collections import Counter
from collections.abc import Collection, Sequence

import msgspec
import numpy as np
from shapely.geometry import Point, Polygon

from eider.geometry.plane import Outline, bounds, rotated
from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.geometry.shapes import grow, rounded_rectangle
from eider.lands.solver import Extents, Lands, extents, reached_joints, rounded, rounding_step, solve_lands
from eider.lands.thermal_lands import paste_windows
from eider.model.pattern import Derivation, Goals, Level, Opening, Pad
from eider.packages.family import ManualPad, OpposedRows, SheetError
from eider.packages.pads.pad_shapes import cornered, d_shape, pad_outline
from eider.rulebooks import GoalRow, Rulebook

replace = msgspec.structs.replace
# How much of its length an opening in the form of a home plate takes to come to its point.
HOME_PLATE = 0.4


class RowLands(msgspec.Struct, frozen=True):
    """The pads of two opposing rows, and how they came about."""

    pads: tuple[Pad, ...]
    derivation: Derivation
    lands: Lands


def lay_rows(rows: OpposedRows, level: Level, rulebook: Rulebook) -> RowLands:
    """Solve the equations for two rows and lay their pads."""
    goal_row = rulebook.goal_row(rows.goals, rows.measures)
    goals, terminals = goal_row.goals(level), extents(rows, rulebook)
    raw = solve_lands(terminals, goals)
    lands, notes = _limit(rounded(raw, goal_row, rulebook), rows, goal_row, rulebook)
    require_land(rows, lands)
    derivation = Derivation(
        group=rows.group,
        numbers=(*rows.first, *rows.second),
        Z=lands.Z,
        G=lands.G,
        X=lands.X,
        Z_raw=raw.Z,
        G_raw=raw.G,
        X_raw=raw.X,
        goals=goals,
        inputs=_inputs(rows, terminals, rulebook),
        formulas=_formulas(terminals, goals, rulebook.tolerances.method),
        notes=(*rows.remarks, *terminals.notes, *notes),
        reached=_rounded_goals(reached_joints(terminals, lands)),
    )
    return RowLands(row_pads(rows, lands, rulebook), derivation, lands)


def _rounded_goals(goals: Goals) -> Goals:
    return Goals(tidy(goals.toe), tidy(goals.heel), tidy(goals.side))


def with_lands(rows: OpposedRows, row: RowLands, lands: Lands, note: str, rulebook: Rulebook) -> RowLands:
    """The same rows with other lands, and a note of why.

    Raises:
        SheetError: the lengths are no land.
    """
    require_land(rows, lands)
    reached = _rounded_goals(reached_joints(extents(rows, rulebook), lands))
    notes = (*row.derivation.notes, note)
    derivation = replace(row.derivation, Z=lands.Z, G=lands.G, X=lands.X, notes=notes, reached=reached)
    return RowLands(row_pads(rows, lands, rulebook), derivation, lands)


def require_land(rows: OpposedRows, lands: Lands) -> None:
    """Refuse lengths that are no land; the land of a side without an opposite may reach over the middle.

    Raises:
        SheetError: the lengths are no land.
    """
    opposed = bool(rows.first) and bool(rows.second)
    if not (lands.Z > lands.G and lands.X > 0 and (lands.G > 0 or not opposed)):
        raise SheetError(
            f"{rows.group}: the equations give Z {lands.Z:g}, G {lands.G:g}, X {lands.X:g} mm, which is not a land "
            "(Z > G > 0 and X > 0 are needed); look at span, foot length and width in the sheet"
        )


def _limit(lands: Lands, rows: OpposedRows, goal_row: GoalRow, rulebook: Rulebook) -> tuple[Lands, tuple[str, ...]]:
    """Between neighbours the gap of the rulebook stays free: X gives way, never the pitch."""
    smallest, apart = rulebook.clearances.pad_to_pad, nearest_neighbours(rows)
    if apart - lands.X >= smallest - NOISE:
        return lands, ()
    width = round_to_step(apart - smallest, rounding_step(goal_row, rulebook), "down")
    note = f"X reduced from {lands.X:g} to {width:g} mm: the gap between neighbours would fall below {smallest:g} mm"
    return replace(lands, X=width), (note,)


def nearest_neighbours(rows: OpposedRows) -> float:
    """How far the nearest two terminals of a row are apart, middle to middle (mm); infinite where each is alone.

    Not the pitch: of a package with three leads the two on one side are two pitches apart.
    """
    steps = [np.diff(np.sort(at)).min() for at in (rows.at_first, rows.at_second) if len(at) > 1]
    return float(min(steps, default=math.inf))


def _inputs(rows: OpposedRows, terminals: Extents, rulebook: Rulebook) -> dict[str, float]:
    return {
        "Lmin": terminals.l_min,
        "Lmax": rows.length.upper,
        "Tmin": rows.foot.lower,
        "Tmax": rows.foot.upper,
        "Wmin": terminals.w_min,
        "Wmax": rows.width.upper,
        "Smax": terminals.s_max,
        "CL": terminals.c_l,
        "CS": terminals.c_s,
        "CW": terminals.c_w,
        "F": rulebook.tolerances.fabrication,
        "P": rulebook.tolerances.placement,
    }


def _formulas(t: Extents, goals: Goals, method: str) -> tuple[str, ...]:
    """The three equations with the numbers put in, in the words of the standard."""

    def root(tolerance: float, name: str) -> str:
        if method == "statistical":
            return f"√({name}² + F² + P²) = {tolerance:.4f}"
        return f"({name} + F + P) = {tolerance:.4f}"

    def goal(fillet: float) -> str:
        return f"{fillet:.2f}" if fillet >= 0 else f"(−{-fillet:.2f})"

    return (
        f"Z = Lmin + 2·JT + root = {t.l_min:.4f} + 2·{goal(goals.toe)} + {t.root_l:.4f}, root {root(t.root_l, 'CL')}",
        f"G = Smax − 2·JH − root = {t.s_max:.4f} − 2·{goal(goals.heel)} − {t.root_s:.4f}, root {root(t.root_s, 'CS')}",
        f"X = Wmin + 2·JS + root = {t.w_min:.4f} + 2·{goal(goals.side)} + {t.root_w:.4f}, root {root(t.root_w, 'CW')}",
    )


def row_pads(rows: OpposedRows, lands: Lands, rulebook: Rulebook) -> tuple[Pad, ...]:
    """Two rows of equal pads, centred at ± (Z + G)/4 across and at the terminals along."""
    across, long = (lands.Z + lands.G) / 4, (lands.Z - lands.G) / 2
    near = -across if rows.axis == "x" else across
    at = np.concatenate([rows.at_first, rows.at_second])
    offsets = np.concatenate([np.full(len(rows.at_first), near), np.full(len(rows.at_second), -near)])
    x, y = (offsets, at) if rows.axis == "x" else (at, offsets)
    width, height = (long, lands.X) if rows.axis == "x" else (lands.X, long)
    # The first row lies left or on top: its inner end is the right or the lower one.
    inner = ("right", "left") if rows.axis == "x" else ("bottom", "top")
    templates = [_template(tidy(width), tidy(height), end, rulebook) for end in inner]
    numbers = (*rows.first, *rows.second)
    return tuple(
        replace(templates[index >= len(rows.first)], number=number, x=tidy(px), y=tidy(py))
        for index, (number, px, py) in enumerate(zip(numbers, x.tolist(), y.tolist(), strict=True))
    )


def _template(width: float, height: float, inner: str, rulebook: Rulebook) -> Pad:
    """A land of the rulebook's shape; `inner` names its end towards the middle of the package."""
    plain = Pad("", 0.0, 0.0, width, height)
    shape = rulebook.pads.shape
    if shape == "d":
        return replace(plain, shape="outline", outline=d_shape(width, height, inner))
    if shape == "oval":
        return replace(plain, shape="oval")
    radius = corner_radius(width, height, rulebook)
    return replace(plain, shape="rounded", corner_radius=radius) if radius else plain


def corner_radius(width: float, height: float, rulebook: Rulebook) -> float:
    """25 % of the shorter side, at most 0.25 mm (rulebook); 0 where lands are rectangles."""
    if rulebook.pads.shape != "rounded":
        return 0.0
    return tidy(min(rulebook.pads.corner_share * min(width, height), rulebook.pads.corner_largest))


def opening_of(pad: Pad, expansion: float) -> Opening | None:
    """The opening over a pad, grown by `expansion` mm; None where nothing is left of it."""
    width, height = pad.width + 2 * expansion, pad.height + 2 * expansion
    if pad.shape == "outline":
        outline = grow(pad.outline, expansion) if expansion else pad.outline
        return Opening(pad.x, pad.y, width, height, pad.rotation, "outline", outline=outline) if outline else None
    if width <= 0 or height <= 0:
        return None
    radius = pad.corner_radius + expansion if pad.shape == "rounded" else 0.0
    return Opening(pad.x, pad.y, tidy(width), tidy(height), pad.rotation, pad.shape, tidy(max(radius, 0.0)))


def with_openings(pads: Sequence[Pad], rulebook: Rulebook, thermal: Collection[str] = ()) -> tuple[Pad, ...]:
    """The pads with the mask and paste openings of the rulebook; leaded pads get no paste, thermal ones windows."""
    rules = rulebook.pads
    masks, pastes = _Openings(rules.mask_expansion), _Openings(rules.paste_expansion)

    def paste(pad: Pad) -> tuple[Opening, ...]:
        if pad.hole is not None:
            return ()
        is_large = 0 < rules.paste_split < min(pad.width, pad.height)
        if pad.number in thermal or is_large:
            return paste_windows(pad, rulebook)
        openings = pastes.over(pad)
        return tuple(map(_home_plate, openings)) if rules.paste_form == "home-plate" else openings

    return tuple(replace(pad, mask=masks.over(pad), paste=paste(pad)) for pad in pads)


def _home_plate(opening: Opening) -> Opening:
    """An opening that narrows to a point towards the middle of the package: less paste squeezed out under a chip."""
    if opening.shape == "outline" or opening.rotation:
        return opening
    across = abs(opening.x) >= abs(opening.y)
    long, short = (opening.width, opening.height) if across else (opening.height, opening.width)
    if across:
        end = "right" if opening.x < 0 else "left"
        corners = (f"upper {end}", f"lower {end}")
    else:
        end = "lower" if opening.y > 0 else "upper"
        corners = (f"{end} left", f"{end} right")
    cut = min(HOME_PLATE * long, short / 2 - NOISE)
    outline = cornered(opening.width, opening.height, cut, corners, round_off=False)
    return replace(opening, shape="outline", corner_radius=0.0, outline=outline)


class _Openings:
    """The openings over pads, grown by one expansion; pads of one form, which are many, share the work."""

    def __init__(self, expansion: float) -> None:
        self._expansion = expansion
        self._forms: dict[tuple[object, ...], Opening | None] = {}

    def over(self, pad: Pad) -> tuple[Opening, ...]:
        form = (pad.shape, pad.width, pad.height, pad.corner_radius, pad.rotation, pad.outline)
        if form not in self._forms:
            self._forms[form] = opening_of(pad, self._expansion)
        like = self._forms[form]
        if like is None:
            return ()
        width, height, radius = like.width, like.height, like.corner_radius
        return (Opening(pad.x, pad.y, width, height, like.rotation, like.shape, radius, like.outline),)


def _one(opening: Opening | None) -> tuple[Opening, ...]:
    return () if opening is None else (opening,)


def manual_openings(pads: Sequence[Pad], manual_pads: Sequence[ManualPad], rulebook: Rulebook) -> tuple[Pad, ...]:
    """The openings of pads by hand that are not the rulebook's.

    Several pads may bear one number, or none: the last of those are by hand, in their order.
    """
    by_number: dict[str, list[ManualPad]] = {}
    for each in manual_pads:
        by_number.setdefault(each.pad.number, []).append(each)
    # Those that a family lays come first.
    before = Counter(pad.number for pad in pads)
    before.subtract(each.pad.number for each in manual_pads)
    seen: Counter[str] = Counter()
    made = []
    for pad in pads:
        mine = by_number.get(pad.number, ())
        place, seen[pad.number] = seen[pad.number] - max(before[pad.number], 0), seen[pad.number] + 1
        manual = mine[place] if 0 <= place < len(mine) else None
        made.append(_with_manual_openings(pad, manual, rulebook) if manual and _has_manual_openings(manual) else pad)
    return tuple(made)


def _has_manual_openings(g: ManualPad) -> bool:
    return g.no_mask or g.no_paste or g.windows or g.mask is not None or g.paste is not None


def _with_manual_openings(pad: Pad, manual: ManualPad, rulebook: Rulebook) -> Pad:
    def opening(free: Outline, by: float) -> tuple[Opening, ...]:
        if not free:
            return _one(opening_of(pad, by))
        outline = grow(free, by) if by else free
        x0, y0, x1, y1 = bounds(outline)
        return (Opening(pad.x, pad.y, tidy(x1 - x0), tidy(y1 - y0), pad.rotation, "outline", outline=outline),)

    mask, paste = pad.mask, pad.paste
    if manual.no_mask or manual.mask is not None:
        mask = () if manual.no_mask else opening(manual.mask_outline, manual.mask or 0.0)
    if manual.windows:
        paste = paste_windows(pad, rulebook)
    elif manual.no_paste or manual.paste is not None:
        paste = () if manual.no_paste else opening(manual.paste_outline, manual.paste or 0.0)
    return replace(pad, mask=mask, paste=paste)


def area(pad: Pad) -> float:
    """Copper area of a pad in mm², the hole not taken off."""
    if pad.shape == "outline":
        return float(Polygon(pad.outline).area)
    if pad.shape in ("oval", "circle"):
        short, long = sorted((pad.width, pad.height))
        return math.pi * short**2 / 4 + (long - short) * short
    return pad.width * pad.height


def hole_outline(pad: Pad) -> Outline:
    """The hole of a pad in the pattern's coordinates; empty without one."""
    if pad.hole is None:
        return ()
    (x, y), width, height = pad.hole_centre, pad.hole.width, pad.hole.height
    slot = rounded_rectangle(x, y, width, height, min(width, height) / 2)
    return rotated(slot, pad.rotation, (x, y)) if width != height and pad.rotation else slot


def ring_of(pad: Pad) -> float:
    """The least copper between a hole and the edge of its land (mm); below zero where the hole reaches beyond it."""
    hole = pad.hole
    if hole is None:
        return 0.0
    if not (hole.x or hole.y or pad.shape == "outline"):
        return min(pad.width - hole.width, pad.height - hole.height) / 2
    land, drilled = Polygon(pad_outline(pad)), Polygon(hole_outline(pad))
    if land.contains(drilled):
        return float(land.exterior.distance(drilled))
    return -max(float(land.distance(Point(at))) for at in drilled.exterior.coords)


def share_side(a: Pad, b: Pad) -> bool:
    """Whether two lands lie on a common side of the board."""
    return a.layers == b.layers or "all" in (a.layers, b.layers)


def has_copper(pad: Pad) -> bool:
    """Whether a pad is a land; a bare hole is none."""
    return pad.plated or pad.hole is None or pad.width > pad.hole.width or pad.height > pad.hole.height
