"""Pictures of meshes by OpenGL into an image, without a window: for the 3D view and for the proof."""

import math
from typing import Any

import moderngl
import numpy as np
import numpy.typing as npt

from eider.bodies.body_camera import Camera
from eider.bodies.body_mesh import Mesh
from eider.errors import EiderError

Matrix = npt.NDArray[np.float32]
Image = npt.NDArray[np.uint8]

_VERTEX = """
#version 330
uniform mat4 view;
in vec3 position; in vec3 normal; in vec3 colour;
out vec3 n; out vec3 c; out float x;
void main() { gl_Position = view * vec4(position, 1.0); n = normal; c = colour; x = position.x; }
"""
_FRAGMENT = """
#version 330
uniform vec3 light; uniform float section;
in vec3 n; in vec3 c; in float x;
out vec4 result;
void main() {
    if (x > section) discard;
    float key = max(dot(normalize(n), light), 0.0);
    float sky = 0.5 + 0.5 * normalize(n).z;
    result = vec4(c * (0.45 + 0.25 * sky + 0.45 * key), 1.0);
}
"""


class RenderError(EiderError):
    """OpenGL cannot be used on this machine; the message says what is missing."""


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
        self._program: Any = self._context.program(vertex_shader=_VERTEX, fragment_shader=_FRAGMENT)
        self._array: moderngl.VertexArray | None = None
        self._centre = np.zeros(3)
        self._radius, self._low_x, self._high_x = 1.0, 0.0, 0.0

    def show(self, mesh: Mesh) -> None:
        """Put a mesh in place of the one before."""
        if self._array is not None:
            self._array.release()
        buffer = self._context.buffer(mesh.corners.tobytes())
        self._array = self._context.vertex_array(self._program, [(buffer, "3f 3f 3f", "position", "normal", "colour")])
        low, high = (np.array(corner) for corner in mesh.bounds)
        self._centre, self._radius = (low + high) / 2, float(np.linalg.norm(high - low)) / 2
        self._low_x, self._high_x = float(low[0]), float(high[0])

    def picture(
        self, camera: Camera, width: int, height: int, background: tuple[float, float, float], *, smooth: bool = True
    ) -> Image:
        """An image of shape (height, width, 3), 0 to 255, top row first; edges that are not `smooth` are quicker."""
        samples = self._samples() if smooth else 0
        colour = self._context.renderbuffer((width, height), samples=samples)
        depth = self._context.depth_renderbuffer((width, height), samples=samples)
        drawn = self._context.framebuffer([colour], depth)
        flat = self._context.simple_framebuffer((width, height))
        try:
            drawn.use()
            self._context.enable(moderngl.DEPTH_TEST)
            drawn.clear(*background)
            if self._array is not None:
                matrix, eye = self._view(camera, width / height)
                self._program["view"].write(matrix.T.astype("f4").tobytes())
                self._program["section"].value = self._section(camera.section)
                self._program["light"].value = tuple(_unit(eye + np.array([0.3, 0.5, 0.9])).tolist())
                self._array.render()
            self._context.copy_framebuffer(flat, drawn)
            data = np.frombuffer(flat.read(components=3), np.uint8).reshape(height, width, 3)
        finally:
            for item in (drawn, colour, depth, flat):
                item.release()
        return np.ascontiguousarray(data[::-1])

    def _section(self, share: float) -> float:
        """The x (mm) beyond which the scene is cut away."""
        return math.inf if share >= 1 else self._low_x + share * (self._high_x - self._low_x)

    def close(self) -> None:
        """Give the context back."""
        self._context.release()

    def _samples(self) -> int:
        return min(4, int(self._context.max_samples))

    def _view(self, camera: Camera, aspect: float) -> tuple[Matrix, npt.NDArray[np.float64]]:
        """Parallel projection, as in a drawing: lengths can be compared anywhere in the picture."""
        turn, height = math.radians(camera.turn), math.radians(camera.height)
        eye = np.array([math.sin(turn) * math.cos(height), -math.cos(turn) * math.cos(height), math.sin(height)])
        right = np.array([math.cos(turn), math.sin(turn), 0.0])
        up = np.cross(eye, right)
        scale = camera.zoom / (self._radius * 1.02)
        rows = np.eye(4)
        for index, (axis, factor) in enumerate(
            ((right, scale / max(aspect, 1.0)), (up, scale * min(aspect, 1.0)), (-eye, 0.2 / self._radius))
        ):
            rows[index, :3] = axis * factor
            rows[index, 3] = -float(axis @ self._centre) * factor
        rows[:2, 3] += camera.pan
        return rows.astype(np.float32), eye


def _unit(vector: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    return np.asarray(vector / np.linalg.norm(vector))
