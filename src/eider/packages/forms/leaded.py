"""What parts with leads through the board share: terminals and solids of their leads."""

from typing import Literal

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement
from eider.packages.family import FloatArray, Leads, Terminal
from eider.packages.forms.dual import Numbered

# How far leads reach through the board (mm).
THROUGH = 2.5


def lead_terminals(places: list[tuple[str, float, float]], width: float, thick: float) -> tuple[Terminal, ...]:
    """Leads from above: number and place, wide along x and thick along y (mm)."""
    boxes = ((n, (x - width / 2, y - thick / 2, x + width / 2, y + thick / 2)) for n, x, y in places)
    return tuple(Terminal(n, box, box) for n, box in boxes)


def round_leads(places: list[tuple[str, float, float]], diameter: float, top: float) -> Solid:
    """Round leads from under the board up to `top`."""
    at = tuple(SolidPlacement(x=x, y=y) for _, x, y in places)
    return Solid("lead", "tin", Cylinder(0.0, 0.0, diameter / 2, -THROUGH, top), at)


def flat_leads(places: list[tuple[str, float, float]], width: float, thick: float, top: float) -> Solid:
    """Flat leads from under the board up to `top`, wide along x and thick along y."""
    outline = box_outline((-width / 2, -thick / 2, width / 2, thick / 2))
    return Solid("lead", "tin", Prism(outline, -THROUGH, top), tuple(SolidPlacement(x=x, y=y) for _, x, y in places))


def leads(
    places: list[tuple[str, float, float]],
    width: Limits,
    thickness: Limits | None = None,
    pitch: float = 0.0,
    *,
    along: Literal["x", "y"] = "x",
) -> Leads:
    """The leads as the land recipe wants them, wide along x unless told otherwise."""
    return Leads(
        group="leads",
        numbers=tuple(n for n, _, _ in places),
        x=_array(places, 1),
        y=_array(places, 2),
        width=width,
        thickness=thickness,
        along=along,
        pitch=pitch,
    )


def _array(places: list[tuple[str, float, float]], index: int) -> FloatArray:
    return np.array([place[index] for place in places], dtype=np.float64)


def grown(box: Box, by: float) -> Box:
    """A box larger by so much on each side."""
    return box[0] - by, box[1] - by, box[2] + by, box[3] + by


def in_line(count: int, pitch: float, missing: tuple[str, ...]) -> list[Numbered]:
    """Numbers along x from the left; missing ones left out."""
    return [Numbered(str(i + 1), (i - (count - 1) / 2) * pitch) for i in range(count) if str(i + 1) not in missing]
