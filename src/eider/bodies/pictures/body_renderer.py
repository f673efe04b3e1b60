"""Pictures of meshes by OpenGL into an image, without a window: for the 3D view and for the proof."""

from typing import Any

import moderngl
import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.pictures.body_camera import Camera, Framing, eye_of
from eider.bodies.pictures.body_mesh import Mesh
from eider.errors import EiderError
from eider.packaged_data import packaged_path

Image = npt.NDArray[np.uint8]
Colour = tuple[float, float, float]
# A smooth picture is drawn so many times larger and drawn together.
SUPERSAMPLED = 2
# Cosine of the angle from which an edge between facets is drawn: those of a rounded face lean less. The coarse mesh,
# which is shown while it moves, has larger facets.
CREASE, COARSE_CREASE = 0.80, 0.45
SEEN_THROUGH = 0.28
# Which of a scene's two images are written: colours, and shapes (normals and depths).
_ON, _OFF = (True,) * 4, (False,) * 4
COLOURS_ONLY, SHAPES_ONLY, ALL, NOTHING = (_ON, _OFF), (_OFF, _ON), (_ON, _ON), (_OFF, _OFF)


class RenderError(EiderError):
    """OpenGL cannot be used on this machine; the message says what is missing."""


class PictureStyle(msgspec.Struct, frozen=True):
    """Colours of the paper and of the lines along edges and silhouettes, red, green, blue from 0 to 1."""

    paper: Colour = (1.0, 1.0, 1.0)
    ink: Colour = (0.14, 0.19, 0.23)


class Renderer:
    """An OpenGL context of its own with one mesh in it; use it from the thread that made it."""

    def __init__(self) -> None:
        try:
            # Its stubs do not know that a backend is named by a string.
            create: Any = moderngl.create_context
            self._context: moderngl.Context = create(
                standalone=True, backend="egl", libgl="libGL.so.1", libegl="libEGL.so.1"
            )
        except Exception as fault:  # the binding raises bare exceptions of several kinds
            raise RenderError(
                f"no 3D picture: OpenGL through EGL is not usable here ({fault}); install libegl1 and libgl1"
            ) from fault
        self._solid = self._program("solid")
        self._lines = self._program("lines")
        self._sheet = self._context.vertex_array(self._lines, [])
        self._array: moderngl.VertexArray | None = None
        self._mesh: Mesh | None = None

    def show(self, mesh: Mesh) -> None:
        """Put a mesh in place of the one before."""
        if self._array is not None:
            self._array.release()
        buffer = self._context.buffer(mesh.corners.tobytes())
        self._array = self._context.vertex_array(self._solid, [(buffer, "3f 3f 4f", "position", "normal", "colour")])
        self._mesh = mesh

    def picture(self, camera: Camera, width: int, height: int, style: PictureStyle, *, smooth: bool = True) -> Image:
        """An image of shape (height, width, 3), 0 to 255, top row first; edges that are not `smooth` are quicker."""
        factor = SUPERSAMPLED if smooth else 1
        large = (width * factor, height * factor)
        context = self._context
        colour, shape = context.texture(large, 4), context.texture(large, 4, dtype="f4")
        depth = context.depth_renderbuffer(large)
        lined = context.texture(large, 4)
        scene, outlined = context.framebuffer([colour, shape], depth), context.framebuffer([lined])
        try:
            self._draw_scene(scene, camera, width / height, style)
            self._draw_lines(outlined, colour, shape, factor, style, smooth=smooth)
            data = np.frombuffer(outlined.read(components=3), np.uint8).reshape(large[1], large[0], 3)
        finally:
            for item in (scene, outlined, colour, shape, depth, lined):
                item.release()
        return np.ascontiguousarray(_reduced(data, factor)[::-1])

    def _draw_scene(self, scene: Any, camera: Camera, aspect: float, style: PictureStyle) -> None:
        """Colours, and the normal and depth of what is seen at each place."""
        scene.use()
        self._context.enable(moderngl.DEPTH_TEST)
        scene.color_mask = COLOURS_ONLY
        scene.clear(*style.paper, 1.0)
        scene.color_mask = SHAPES_ONLY
        # The paper has no normal, and lies behind everything.
        scene.clear(0.0, 0.0, 0.0, 1.0)
        if self._array is None or self._mesh is None or not len(self._mesh.corners):
            return
        framing = Framing(*self._mesh.bounds, aspect, 1.0)
        eye = eye_of(camera)
        light = eye + np.array([0.3, 0.5, 0.9])
        self._solid["view"].write(framing.rows(camera).T.astype("f4").tobytes())
        self._solid["section"].value = framing.section_at(camera)
        self._solid["light"].value = tuple((light / np.linalg.norm(light)).tolist())
        self._solid["eye"].value = tuple(eye.tolist())
        self._solid["opacity"].value = 1.0
        opaque = self._mesh.opaque_corners
        if not camera.see_through or opaque == len(self._mesh.corners):
            scene.color_mask = ALL
            self._array.render()
            return
        # Lines are those of the outside; then the colours from behind to in front.
        self._array.render()
        scene.color_mask = NOTHING
        scene.clear()
        scene.color_mask = COLOURS_ONLY
        if opaque:
            self._array.render(vertices=opaque)
        self._draw_through(scene, self._mesh)

    def _draw_through(self, scene: Any, mesh: Mesh) -> None:
        """What comes after the opaque corners, so that what lies behind it is seen. The stubs know of one mask only."""
        assert self._array is not None
        self._context.enable(moderngl.BLEND | moderngl.CULL_FACE)
        self._context.blend_func = moderngl.SRC_ALPHA, moderngl.ONE_MINUS_SRC_ALPHA
        scene.depth_mask = False
        self._solid["opacity"].value = SEEN_THROUGH
        try:
            self._array.render(vertices=len(mesh.corners) - mesh.opaque_corners, first=mesh.opaque_corners)
        finally:
            scene.depth_mask = True
            self._context.disable(moderngl.BLEND | moderngl.CULL_FACE)

    def _draw_lines(
        self,
        outlined: moderngl.Framebuffer,
        colour: moderngl.Texture,
        shape: moderngl.Texture,
        width: int,
        style: PictureStyle,
        *,
        smooth: bool,
    ) -> None:
        """The colours with lines where normal or depth leap: edges and silhouettes."""
        outlined.use()
        self._context.disable(moderngl.DEPTH_TEST)
        colour.use(0)
        shape.use(1)
        self._lines["colours"].value, self._lines["shapes"].value = 0, 1
        self._lines["width"].value = width
        self._lines["crease"].value = CREASE if smooth else COARSE_CREASE
        self._lines["ink"].value = style.ink
        self._sheet.render(moderngl.TRIANGLES, vertices=3)

    def _program(self, name: str) -> Any:
        folder = packaged_path("bodies/shaders")
        return self._context.program(
            vertex_shader=(folder / f"{name}.vert").read_text(encoding="utf-8"),
            fragment_shader=(folder / f"{name}.frag").read_text(encoding="utf-8"),
        )

    def close(self) -> None:
        """Give the context back."""
        self._context.release()


def _reduced(image: Image, factor: int) -> Image:
    """An image drawn together to the mean of so many pixels each way."""
    if factor == 1:
        return image
    height, width, parts = image.shape
    total = np.zeros((height // factor, width // factor, parts), np.uint16)
    for row in range(factor):
        for column in range(factor):
            total += image[row::factor, column::factor]
    return (total // factor**2).astype(np.uint8)
