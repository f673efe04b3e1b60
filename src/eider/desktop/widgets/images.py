"""Pictures made elsewhere, as Qt shows them."""

import numpy as np
import numpy.typing as npt
from PyQt6.QtGui import QImage


def to_image(pixels: npt.NDArray[np.uint8]) -> QImage:
    """An image of an array of shape (height, width, 3); it keeps nothing of the array."""
    height, width, _ = pixels.shape
    return QImage(pixels.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()
