"""The picture of a body on its lands, as an image for reports and files."""

import io
from collections.abc import Mapping, Sequence
from pathlib import Path

from PIL import Image

from eider.bodies.pictures.body_camera import Camera
from eider.bodies.pictures.body_mesh import Mesh
from eider.bodies.pictures.body_scene import BodyScene, body_scene
from eider.bodies.solids.materials import MaterialTable
from eider.bodies.step_files.step_process import import_step
from eider.drawings.role_styles import palette
from eider.errors import EiderError
from eider.model.bundle import Bundle


def body_picture(
    bundle: Bundle, width: int, height: int, documents: Mapping[str, Path], materials: MaterialTable | None = None
) -> Image.Image:
    """Render the body over its lands; `documents` has the file of its model by its sum.

    Raises:
        EiderError: the sheet is not complete, the model is not there, or OpenGL is not usable here.
    """
    return body_pictures(bundle, width, height, documents, (Camera(),), materials)[0]


def body_pictures(
    bundle: Bundle,
    width: int,
    height: int,
    documents: Mapping[str, Path],
    cameras: Sequence[Camera],
    materials: MaterialTable | None = None,
    *,
    with_board: bool = True,
) -> list[Image.Image]:
    """The same from several places, and without the board where it would hide the body.

    Raises:
        EiderError: as for one.
    """
    if bundle.footprint.pattern is None:
        raise EiderError("no picture of the body: there are no lands yet")
    scene = body_scene(bundle.sheet, bundle.body, bundle.footprint.pattern if with_board else None, materials)
    mesh = None
    if scene.model is not None:
        path = documents.get(scene.model.sha256)
        if path is None:
            raise EiderError("no picture of the body: its model is no longer in the library")
        mesh = import_step(path).fine
    return scene_pictures(scene, mesh, width, height, cameras)


def scene_picture(scene: BodyScene, model: Mesh | None, width: int, height: int) -> Image.Image:
    """Render a scene; `model` is the mesh of its STEP file.

    Raises:
        RenderError: OpenGL is not usable here.
    """
    return scene_pictures(scene, model, width, height, (Camera(),))[0]


def scene_pictures(
    scene: BodyScene, model: Mesh | None, width: int, height: int, cameras: Sequence[Camera]
) -> list[Image.Image]:
    """Render a scene from several places.

    Raises:
        RenderError: OpenGL is not usable here.
    """
    from eider.bodies.pictures.body_renderer import PictureStyle, Renderer
    from eider.bodies.pictures.scene_mesh import scene_mesh

    renderer = Renderer()
    try:
        renderer.show(scene_mesh(scene, model))
        style = PictureStyle(*(_rgb(palette()[name]) for name in ("paper", "ink")))
        return [Image.fromarray(renderer.picture(camera, width, height, style)) for camera in cameras]
    finally:
        renderer.close()


def scene_png(scene: BodyScene, model: Mesh | None, width: int, height: int) -> bytes:
    """The same as a PNG file."""
    stream = io.BytesIO()
    scene_picture(scene, model, width, height).save(stream, "PNG")
    return stream.getvalue()


def _rgb(colour: str) -> tuple[float, float, float]:
    red, green, blue = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    return red, green, blue
