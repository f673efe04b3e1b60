"""From where a picture of a body is taken, and which place of the scene is where in it."""

import math

import msgspec
import numpy as np
import numpy.typing as npt

FloatArray = npt.NDArray[np.float64]
Place = tuple[float, float, float]
# The scene fills the picture but for this much, and lies within a fifth of the depth that can be drawn.
MARGIN, DEPTH = 1.02, 0.2
LEAST_ZOOM, MOST_ZOOM = 0.3, 20.0


class Camera(msgspec.Struct, frozen=True):
    """Where one looks from: turn and height in degrees, and how much of the scene fills the picture (1 is all).

    `pan` moves the scene to the right and up, as shares of half the picture. `section` cuts away what lies farther
    along x than this share of the scene; 1 cuts nothing. `see_through` shows what lies behind and under the body.
    """

    turn: float = -35.0
    height: float = 30.0
    zoom: float = 1.0
    pan: tuple[float, float] = (0.0, 0.0)
    section: float = 1.0
    see_through: bool = False

    def orbited(self, turn: float, height: float) -> "Camera":
        """Turned further round the scene, and higher (degrees)."""
        higher = min(max(self.height + height, -90.0), 90.0)
        return msgspec.structs.replace(self, turn=(self.turn + turn) % 360, height=higher)

    def moved(self, right: float, up: float) -> "Camera":
        """With the scene moved in the picture, by shares of half of it."""
        return msgspec.structs.replace(self, pan=(self.pan[0] + right, self.pan[1] + up))

    def zoomed(self, factor: float, at: tuple[float, float] = (0.0, 0.0)) -> "Camera":
        """Zoomed, so that what lies at a place of the picture (shares of half of it, from the middle) stays there."""
        zoom = min(max(self.zoom * factor, LEAST_ZOOM), MOST_ZOOM)
        grown = zoom / self.zoom
        pan = at[0] - (at[0] - self.pan[0]) * grown, at[1] - (at[1] - self.pan[1]) * grown
        return msgspec.structs.replace(self, zoom=zoom, pan=pan)


class SightLine(msgspec.Struct, frozen=True):
    """The line of sight through a place of the picture: where it begins, its direction, and how near (mm) is on it."""

    start: Place
    direction: Place
    reach: float


class Framing(msgspec.Struct, frozen=True):
    """A scene in a picture: the box around it (mm), and the width and height of the picture in any unit."""

    low: Place
    high: Place
    width: float
    height: float

    def rows(self, camera: Camera) -> FloatArray:
        """From a place of the scene (x, y, z, 1) to shares of half the picture and depth; shape (4, 4).

        Parallel projection, as in a drawing: lengths can be compared anywhere in the picture.
        """
        axes, scales = _axes(camera), self._scales(camera)
        rows = np.eye(4)
        for index in range(3):
            rows[index, :3] = axes[index] * scales[index]
            rows[index, 3] = -float(axes[index] @ self._centre) * scales[index]
        rows[:2, 3] += camera.pan
        return rows

    def in_picture(self, camera: Camera, places: FloatArray) -> FloatArray:
        """Where places of the scene, shape (n, 3), are in the picture: from its upper left corner, shape (n, 2)."""
        rows = self.rows(camera)
        seen = places @ rows[:2, :3].T + rows[:2, 3]
        return np.column_stack([(seen[:, 0] + 1) / 2 * self.width, (1 - seen[:, 1]) / 2 * self.height])

    def sight_line(self, camera: Camera, x: float, y: float, reach: float) -> SightLine:
        """The line of sight through a place of the picture; `reach` is in its unit."""
        right, up, ahead = _axes(camera)
        across, along, _ = self._scales(camera)
        u, v = 2 * x / self.width - 1 - camera.pan[0], 1 - 2 * y / self.height - camera.pan[1]
        start = self._centre + right * (u / across) + up * (v / along) - ahead * (4 * self._radius)
        return SightLine(_place(start), _place(ahead), reach * 2 / self.width / across)

    def section_at(self, camera: Camera) -> float:
        """The x (mm) beyond which the scene is cut away."""
        return math.inf if camera.section >= 1 else self.low[0] + camera.section * (self.high[0] - self.low[0])

    @property
    def _centre(self) -> FloatArray:
        return np.asarray((np.array(self.low) + np.array(self.high)) / 2)

    @property
    def _radius(self) -> float:
        return max(math.dist(self.low, self.high) / 2, 1e-6)

    def _scales(self, camera: Camera) -> tuple[float, float, float]:
        scale, aspect = camera.zoom / (self._radius * MARGIN), self.width / self.height
        return scale / max(aspect, 1.0), scale * min(aspect, 1.0), DEPTH / self._radius


def eye_of(camera: Camera) -> FloatArray:
    """The direction from the scene to the eye, shape (3,)."""
    return -_axes(camera)[2]


def _axes(camera: Camera) -> tuple[FloatArray, FloatArray, FloatArray]:
    """To the right, up, and ahead."""
    turn, height = math.radians(camera.turn), math.radians(camera.height)
    eye = np.array([math.sin(turn) * math.cos(height), -math.cos(turn) * math.cos(height), math.sin(height)])
    right = np.array([math.cos(turn), math.sin(turn), 0.0])
    return right, np.cross(eye, right), -eye


def _place(values: FloatArray) -> Place:
    x, y, z = (float(value) for value in values)
    return x, y, z
