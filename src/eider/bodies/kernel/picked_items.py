"""What a click into a picture of a body can meet: a point, edge or face of its solids, and the gap between two."""

from typing import Literal

import msgspec

from eider.bodies.pictures.body_camera import Place

PickKind = Literal["point", "edge", "face"]


class PickedItem(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """A point, edge or face of a scene; lengths in mm, areas in mm².

    Attributes:
        piece: which instance of a solid in the scene, `index` which of its points, edges or faces.
        solid: the name of the solid.
        at: where it was hit.
        centre: of a face the middle of its area, or of its axis or ball; of an edge its middle, or that of its circle.
        direction: outward normal of a plane, axis of a cylinder or circle, direction of a straight edge.
        radius: of cylinders, balls and circles.
        size: area of a face, length of an edge.
        low, high: the box around it.
        lines: its outline, for drawing.
    """

    kind: PickKind
    piece: int
    index: int
    solid: str
    at: Place
    centre: Place
    direction: Place | None = None
    is_flat: bool = False
    radius: float = 0.0
    size: float = 0.0
    low: Place
    high: Place
    lines: tuple[tuple[Place, ...], ...] = ()


class MeasuredGap(msgspec.Struct, frozen=True):
    """How far two picked items are apart: the least distance (mm), from where to where, and between their centres.

    `angle` is that between their directions (degrees, 0 to 90), None where one of them has none.
    """

    least: float
    start: Place
    end: Place
    between_centres: Place
    angle: float | None
