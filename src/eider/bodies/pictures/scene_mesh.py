"""The mesh of a scene: solids meshed by the kernel, and a model that was read before."""

import numpy as np

from eider.bodies.pictures.body_mesh import COLUMNS, Mesh, Vertices, make_mesh
from eider.bodies.pictures.body_scene import BodyScene
from eider.bodies.placement.model_placement import placed_mesh

# How far (mm) the generated body is drawn in where a model is compared with it.
HAIR = 0.01


def scene_mesh(scene: BodyScene, model: Mesh | None) -> Mesh:
    """The mesh of all that a scene shows; `model` is that of its STEP file, in the file's own frame."""
    return joined(make_mesh(scene.solids) if scene.solids else None, scene, model)


def _drawn_in(mesh: Mesh) -> Vertices:
    """The corners a hair inside of where they are, so that of two equal surfaces always the other one is seen."""
    corners = mesh.corners.copy()
    corners[:, :3] -= HAIR * corners[:, 3:6]
    return corners


def joined(solids: Mesh | None, scene: BodyScene, model: Mesh | None) -> Mesh:
    """The mesh of a scene, of which that of the solids is there already."""
    blocks = [_drawn_in(solids) if scene.compares else solids.corners] if solids is not None else []
    if scene.model is not None and model is not None:
        blocks.append(placed_mesh(model, scene.model.placement).corners)
    opaque = solids.opaque_corners if solids is not None and not scene.compares else 0
    return Mesh(np.vstack(blocks), opaque) if blocks else Mesh(np.zeros((0, COLUMNS), np.float32))
