"""How much paste the openings of a pattern give, and how much solder its joints want (IPC-7525). Volumes in mm³.

A joint wants its fillets and what lies under the terminal; half of the paste is metal by volume.
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import msgspec
import numpy as np
from shapely import Polygon

from eider.lands.joints import GroupJoints
from eider.model.pattern import Opening, Pad
from eider.packages.family import Dims, LandRecipe
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import Rulebook


class OpeningVolume(NamedTuple):
    """An opening of the stencil: its area (mm²), the area over that of its walls, and the paste that it lets go."""

    area: float
    area_ratio: float
    volume: float


class PastedLand(msgspec.Struct, frozen=True):
    """The paste on one land: its openings, the least area ratio of these, the paste that they give, and what the joint
    wants, None where no joint tells it; `share` is the first over the second."""

    pad: str
    openings: int
    area_ratio: float | None
    volume: float
    wanted: float | None
    share: float | None


def released(area_ratio: float, rulebook: Rulebook) -> float:
    """The share of its paste that an opening lets go, by the rulebook's table, straight between its rows."""
    ratios, shares = zip(*rulebook.paste.release, strict=True)
    return float(np.interp(area_ratio, ratios, shares))


def opening_volume(opening: Opening, rulebook: Rulebook) -> OpeningVolume:
    """What an opening gives: its area times the stencil, less what stays in it."""
    shape, thick = Polygon(pad_outline(opening)), rulebook.pads.stencil
    area, walls = float(shape.area), float(shape.length) * thick
    ratio = area / walls if walls > 0 else 0.0
    return OpeningVolume(area, ratio, area * thick * released(ratio, rulebook))


def pasted_lands(
    dims: Dims, pads: Sequence[Pad], joints: Sequence[GroupJoints], recipe: LandRecipe, rulebook: Rulebook
) -> tuple[PastedLand, ...]:
    """The paste of each land with a number, in the order of the pads."""
    wanted = {**_joint_wants(dims, joints, rulebook), **_plate_wants(pads, recipe, rulebook)}
    found = []
    for pad in pads:
        if pad.number:
            openings = [opening_volume(opening, rulebook) for opening in pad.paste]
            volume, wants = sum(o.volume for o in openings), wanted.get(pad.number)
            ratio = min((o.area_ratio for o in openings), default=None)
            share = volume / wants if wants else None
            found.append(PastedLand(pad.number, len(openings), ratio, volume, wants, share))
    return tuple(found)


def _joint_wants(dims: Dims, joints: Sequence[GroupJoints], rulebook: Rulebook) -> Mapping[str, float]:
    """The paste that each joint of opposing rows wants: four fillets of triangular section round the foot, and the gap
    under it."""
    rules = rulebook.paste
    found: dict[str, float] = {}
    for group in joints:
        rows = group.rows
        foot, width = rows.foot.middle, rows.width.middle
        high = min(_thickness(dims) * rules.fillet_height, rules.most_height)
        for joint in group.pads:
            toe, heel, side = (max(fillet, 0.0) for fillet in (joint.toe, joint.heel, joint.side))
            fillets = 0.5 * high * ((toe + heel) * width + 2 * side * foot)
            found[joint.number] = (fillets + rules.gap * foot * width) / rules.metal
    return found


def _thickness(dims: Dims) -> float:
    """How high solder can rise at the end of a terminal: the lead's thickness, or of chips the height of the body."""
    return dims["c"].middle if "c" in dims else dims["A"].middle if "A" in dims else 0.0


def _plate_wants(pads: Sequence[Pad], recipe: LandRecipe, rulebook: Rulebook) -> Mapping[str, float]:
    """The paste that thermal lands and tabs want: the gap under the whole plate."""
    sizes = {plate.number: plate.width.middle * plate.height.middle for plate in recipe.plates}
    rules = rulebook.paste
    return {pad.number: rules.gap * sizes[pad.number] / rules.metal for pad in pads if pad.number in sizes}
