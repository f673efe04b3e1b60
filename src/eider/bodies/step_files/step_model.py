"""What is known of a STEP file without a CAD kernel: its solids and the faces that alignment goes by."""

import enum

import msgspec
import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]
IntArray = npt.NDArray[np.int32]
Rgb = tuple[float, float, float]


class FaceKind(enum.IntEnum):
    """The surface under a face."""

    PLANE = 0
    CYLINDER = 1
    SPHERE = 2
    OTHER = 3


class FaceTable(msgspec.Struct, frozen=True):
    """All faces of a model, in its own frame, mm; each array has one row for each of n faces.

    Attributes:
        kind: `FaceKind`, shape (n,).
        low, high: corners of the exact box around the face, shape (n, 3).
        direction: outward normal of a plane, axis of a cylinder, else zero; shape (n, 3).
        centre: middle of the area of a plane, point of a cylinder's axis beside the face, middle of a sphere, else of
            the box; shape (n, 3).
        radius: of cylinders and spheres, else zero; shape (n,).
        area: mm², shape (n,).
        colour: index into the model's colours, −1 without one; shape (n,).
        solid: index into the model's solids, −1 for a face of none; shape (n,).
    """

    kind: IntArray
    low: FloatArray
    high: FloatArray
    direction: FloatArray
    centre: FloatArray
    radius: FloatArray
    area: FloatArray
    colour: IntArray
    solid: IntArray


class StepSolid(msgspec.Struct, frozen=True):
    """One instance of a solid: name, colour (index, −1 without one), and whether it is closed and sound."""

    name: str
    colour: int
    is_sound: bool


class StepModel(msgspec.Struct, frozen=True):
    """A STEP file as it was read, in mm.

    `unit` is the file's own, `protocol` one of AP203, AP214, AP242 or the schema's name. `doubts` tell what was left
    out or guessed.
    """

    name: str
    unit: str
    protocol: str
    solids: tuple[StepSolid, ...]
    colours: tuple[Rgb, ...]
    faces: FaceTable
    doubts: tuple[str, ...] = ()

    @property
    def bounds(self) -> tuple[FloatArray, FloatArray]:
        """The lowest and the highest corner of the box around all faces, mm."""
        return self.faces.low.min(axis=0), self.faces.high.max(axis=0)
