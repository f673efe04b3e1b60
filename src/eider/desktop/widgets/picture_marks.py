"""Marks over a picture of a body: lines and points in places of the scene, with their labels."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from eider.bodies.pictures.body_camera import Camera, Framing, Place
from eider.desktop.theme import Theme

LABEL_GAP = 6.0


class PictureMark(NamedTuple):
    """Lines over the picture, in places of the scene (mm), and a text beside the middle of the first of them."""

    lines: tuple[tuple[Place, ...], ...]
    colour: str
    label: str = ""
    is_dimension: bool = False


def paint_marks(
    painter: QPainter, marks: Sequence[PictureMark], framing: Framing, camera: Camera, theme: Theme
) -> None:
    """Draw marks over a picture of that framing, as the camera sees them."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for mark in marks:
        colour = theme.colour(mark.colour)
        painter.setPen(QPen(colour, 1.6 if mark.is_dimension else 2.4))
        painter.setBrush(colour)
        lines = [framing.in_picture(camera, np.array(line)) for line in mark.lines if line]
        for line in lines:
            points = [QPointF(x, y) for x, y in line.tolist()]
            painter.drawPolyline(QPolygonF(points))
            if mark.is_dimension or len(points) == 1:
                for end in (points[0], points[-1]):
                    painter.drawEllipse(end, 3.0, 3.0)
        if mark.label and lines:
            _paint_label(painter, mark.label, lines[0].mean(axis=0).tolist(), theme)


def _paint_label(painter: QPainter, text: str, at: list[float], theme: Theme) -> None:
    """Draw a text on a background of paper, to keep it legible over the body."""
    metrics = painter.fontMetrics()
    box = QRectF(0, 0, metrics.horizontalAdvance(text) + 2 * LABEL_GAP, metrics.height() + LABEL_GAP)
    box.moveCenter(QPointF(at[0], at[1] - metrics.height()))
    paper = theme.colour("paper")
    paper.setAlphaF(0.9)
    painter.fillRect(box, paper)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
