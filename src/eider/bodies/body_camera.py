"""From where a picture of a body is taken."""

import msgspec


class Camera(msgspec.Struct, frozen=True):
    """Where one looks from: turn and height in degrees, and how much of the scene fills the picture (1 is all).

    `pan` moves the scene to the right and up, as shares of half the picture. `section` cuts away what lies farther
    along x than this share of the scene; 1 cuts nothing.
    """

    turn: float = -35.0
    height: float = 30.0
    zoom: float = 1.0
    pan: tuple[float, float] = (0.0, 0.0)
    section: float = 1.0
