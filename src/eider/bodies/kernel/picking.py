"""What a click into a picture of a body means: a point, edge or face of its solids, and how far two of them are apart.

Everything is worked out by the CAD kernel on the exact shapes, not on the triangles of the picture. The requests can be
handed to another process.
"""

import msgspec

from eider.bodies.kernel.picked_items import MeasuredGap, PickedItem
from eider.bodies.pictures.body_camera import SightLine
from eider.bodies.pictures.body_scene import BodyScene


class PickRequest(msgspec.Struct, frozen=True):
    """Which item of a scene a line of sight meets first; None where it meets none.

    `model` is the path of the scene's STEP file. What lies beyond `section` along x is cut away (mm).
    """

    scene: BodyScene
    model: str
    line: SightLine
    section: float

    def __call__(self) -> PickedItem | None:
        """Ask the kernel, which is loaded here."""
        from eider.bodies.kernel.kernel_picking import pick

        return pick(self.scene, self.model, self.line, self.section)


class GapRequest(msgspec.Struct, frozen=True):
    """How far two items of a scene are apart."""

    scene: BodyScene
    model: str
    first: PickedItem
    second: PickedItem

    def __call__(self) -> MeasuredGap:
        """Ask the kernel, which is loaded here."""
        from eider.bodies.kernel.kernel_picking import gap

        return gap(self.scene, self.model, self.first, self.second)
