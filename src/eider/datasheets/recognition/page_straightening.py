"""By how much a scanned page stands askew, and the page straightened."""

from collections.abc import Callable
from typing import Any

import numpy as np
import numpy.typing as npt
from PIL import Image

from eider.geometry.plane import Box

# Degrees: a sheet on a scanner lies no farther askew; how fine it is told, first and in the end.
MOST_ASKEW, COARSE, FINE = 3.0, 0.5, 0.05
# A page out of a program stands straight: so little is within the measure's own error, and no reason to turn it.
STRAIGHT = 0.1
# A page is looked at so many pixels high; more tells no more.
HEIGHT = 1000
# Less ink than this share of the picture says nothing of lines.
LEAST_INK = 0.0005
WHITE = 255
Picture = npt.NDArray[np.uint8]


def askew_by(picture: Picture) -> float:
    """Degrees by which a grey picture, of shape (height, width), has to be turned counter-clockwise to stand straight.

    Lines of text and rules that lie straight make rows of much ink and rows of none: the angle is the one at which the
    ink of the rows differs most from row to row.
    """
    small = Image.fromarray(picture)
    small.thumbnail((HEIGHT, HEIGHT), Image.Resampling.BOX)
    grey = np.asarray(small, dtype=np.float64)
    ink = grey < 0.75 * np.median(grey)
    if ink.mean() < LEAST_INK:
        return 0.0
    points = np.argwhere(ink).astype(np.float64)
    coarse = _best(points, np.arange(-MOST_ASKEW, MOST_ASKEW + COARSE / 2, COARSE))
    near = _best(points, np.arange(coarse - COARSE, coarse + COARSE + FINE / 2, FINE))
    return 0.0 if abs(near) <= STRAIGHT else round(near, 2)


def _best(points: npt.NDArray[np.float64], angles: npt.NDArray[np.float64]) -> float:
    return float(max(angles, key=lambda angle: _unevenness(points, float(angle))))


def _unevenness(points: npt.NDArray[np.float64], degrees: float) -> float:
    """How much the ink of rows differs from that of the rows beside, with the page turned counter-clockwise."""
    angle = np.radians(degrees)
    rows = points[:, 0] * np.cos(angle) - points[:, 1] * np.sin(angle)
    counts = np.bincount(np.round(rows - rows.min()).astype(np.int64))
    return float(np.square(np.diff(counts.astype(np.float64))).sum())


def straightened(picture: Picture, degrees: float, background: int = WHITE) -> Picture:
    """A picture, of shape (height, width) or (height, width, 3), turned counter-clockwise about its middle."""
    if not degrees:
        return picture
    fill: Any = background if picture.ndim == 2 else (background,) * 3
    return np.asarray(Image.fromarray(picture).rotate(degrees, Image.Resampling.BICUBIC, fillcolor=fill))


def straight_cut_out(
    box: Box, page: tuple[float, float], degrees: float, scale: float, draw: Callable[[Box], Picture]
) -> Picture:
    """The cut-out of a page that is turned counter-clockwise about its middle, within a box of the turned page.

    `box` is left, top, right, bottom in points from the upper left corner, `page` its width and height; `draw` draws at
    `scale` what is left of the page once so much is cut off on the left, below, on the right and above, in points.
    """
    left, top, right, bottom = box
    wide, high = right - left, bottom - top
    angle = np.radians(degrees)
    sine, cosine = float(np.sin(angle)), float(np.cos(angle))
    # Where the middle of the box is on the page before it is turned; y runs down.
    x, y = (left + right - page[0]) / 2, (top + bottom - page[1]) / 2
    x, y = page[0] / 2 + x * cosine - y * sine, page[1] / 2 + x * sine + y * cosine
    half_wide = (wide * cosine + high * abs(sine)) / 2
    half_high = (high * cosine + wide * abs(sine)) / 2
    crop = (x - half_wide, page[1] - y - half_high, page[0] - x - half_wide, y - half_high)
    room = (max(crop[0], 0.0), max(crop[1], 0.0), max(crop[2], 0.0), max(crop[3], 0.0))
    pixels = draw(room)
    if not degrees:
        return pixels
    turned = straightened(pixels, degrees)
    rows, columns = min(round(high * scale), turned.shape[0]), min(round(wide * scale), turned.shape[1])
    upper, side = (turned.shape[0] - rows) // 2, (turned.shape[1] - columns) // 2
    return np.ascontiguousarray(turned[upper : upper + rows, side : side + columns])
