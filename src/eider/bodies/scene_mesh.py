"""The mesh of a scene: solids meshed by the kernel, and a model that was read before."""

import numpy as np

from eider.bodies.body_mesh import Mesh, make_mesh
from eider.bodies.body_scene import BodyScene
from eider.bodies.model_placement import placed_mesh


def scene_mesh(scene: BodyScene, model: Mesh | None) -> Mesh:
    """The mesh of all that a scene shows; `model` is that of its STEP file, in the file's own frame."""
    return joined(make_mesh(scene.solids) if scene.solids else None, scene, model)


def joined(solids: Mesh | None, scene: BodyScene, model: Mesh | None) -> Mesh:
    """The mesh of a scene, of which that of the solids is there already."""
    blocks = [solids.corners] if solids is not None else []
    if scene.model is not None and model is not None:
        blocks.append(placed_mesh(model, scene.model.placement).corners)
    return Mesh(np.vstack(blocks)) if blocks else Mesh(np.zeros((0, 9), np.float32))
