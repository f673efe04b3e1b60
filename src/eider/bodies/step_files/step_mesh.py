"""Meshes of STEP files that were read, in two levels of detail. Importing this module loads the kernel."""

import math

import numpy as np
from OCP.TopAbs import TopAbs_ShapeEnum

from eider.bodies.kernel.cad_kernel import explored
from eider.bodies.kernel.kernel_mesh import mesh_faces
from eider.bodies.pictures.body_mesh import Mesh, Vertices, mesh_block, placed_block
from eider.bodies.step_files.step_model import Rgb
from eider.bodies.step_files.step_reader import ReadStep, matrix_of
from eider.geometry.solids import Look

# Of the diagonal of the model, how far a facet may be from the true surface; and its limits (mm).
FINE_SHARE, FINEST, FINE_ANGLE = 1 / 1500, 0.003, 0.3
# The coarser level, for while a model is turned: the finest of these (how much coarser, angle) that is light enough.
COARSE_LEVELS = ((24.0, 2.5), (12.0, 1.6), (6.0, 0.9))
LIGHT = 40_000
# What has no colour is shown in this one.
PLAIN: Rgb = (0.62, 0.62, 0.6)


def step_meshes(read: ReadStep) -> tuple[Mesh, Mesh]:
    """The fine and the coarse mesh of a file, in its own frame."""
    low, high = read.model.bounds
    deflection = max(FINEST, math.dist(low, high) * FINE_SHARE)
    # The coarsest first: the kernel keeps a mesh that is fine enough already.
    coarse: Mesh | None = None
    for coarser, angle in COARSE_LEVELS:
        finer = _mesh(read, deflection * coarser, angle)
        if coarse is not None and finer.triangles > LIGHT:
            break
        coarse = finer
    return _mesh(read, deflection, FINE_ANGLE), coarse or finer


def _mesh(read: ReadStep, deflection: float, angle: float) -> Mesh:
    made: dict[tuple[int, Rgb | None], Vertices] = {}
    blocks: list[Vertices] = []
    for leaf in read.placed:
        turn, move = matrix_of(leaf.location)
        for solid in explored(leaf.shape, TopAbs_ShapeEnum.TopAbs_SOLID):
            colour = leaf.colour or read.tints.of(solid)
            key = (hash(solid), colour)
            if key not in made:
                faces = mesh_faces(solid, deflection, angle)
                tinted = [mesh_block(found, Look(read.tints.of(face) or colour or PLAIN)) for face, found in faces]
                made[key] = np.vstack(tinted)
            blocks.append(placed_block(made[key], turn, move))
    return Mesh(np.vstack(blocks))
