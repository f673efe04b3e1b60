"""A drawing in the window: laid out and painted, heavy ones in another thread, with things lit over it."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.scene import Scene, SceneRequest, paint_scene
from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.highlighting import lit
from eider.drawings.primitives import Drawing, Plain, costs_more_than
from eider.geometry.plane import Point
from eider.model.address import Address

# A drawing that takes longer (in corners, about 5 ms) is laid out and painted in another thread.
HEAVY = 1000


class PaintedDrawing(QWidget):
    """Shows a drawing at a zoom; without one it shows a text that says what to do first."""

    def __init__(self, theme: Theme, hint: str = "", jobs: Jobs | None = None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._hint = theme, hint
        self._jobs = jobs.owned(self) if jobs else None
        self.drawing: Drawing | None = None
        # The scene as it was painted last; while a newer one is being painted it is shown moved and scaled.
        self.scene: Scene | None = None
        self._is_painting = self._is_stale = False
        # Millimetres per pixel, and the mm at the middle of the view.
        self.scale, self._centre = 0.05, (0.0, 0.0)
        self._fitted = True
        # A small drawing is not blown up beyond this when it is fitted (mm per pixel).
        self.closest_fit = 0.0
        self._mark: tuple[Plain, ...] = ()
        self._lit: tuple[Plain, ...] = ()
        self._lit_addresses: frozenset[Address] = frozenset()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    @property
    def plain(self) -> tuple[Plain, ...]:
        """What is shown, as plain primitives."""
        return self.scene.items if self.scene else ()

    def minimumSizeHint(self) -> QSize:
        return QSize(160, 110)

    def sizeHint(self) -> QSize:
        return QSize(360, 280)

    def show_drawing(self, drawing: Drawing | None) -> None:
        """Show a drawing; the user's zoom stays, else it is fitted."""
        if drawing is self.drawing:
            return
        self.drawing = drawing
        self._paint_anew()

    def light(self, items: tuple[Plain, ...]) -> None:
        """Draw these items again on top of the drawing, as selected."""
        self._lit = items
        self.update()

    def light_addresses(self, addresses: frozenset[Address]) -> None:
        """Select the items with these addresses."""
        self._lit_addresses = addresses
        self.light(lit(self.plain, addresses) if addresses else ())

    def show_mark(self, mark: tuple[Plain, ...]) -> None:
        """Show something over the drawing for a moment, such as the place of a drop."""
        self._mark = mark
        self.update()

    def set_hint(self, hint: str) -> None:
        """What is said while there is no drawing."""
        self._hint = hint
        self.update()

    def to_mm(self, view_point: QPointF) -> Point:
        """The place in the drawing under a point of the view."""
        x = self._centre[0] + (view_point.x() - self.width() / 2) * self.scale
        y = self._centre[1] - (view_point.y() - self.height() / 2) * self.scale
        return x, y

    def to_view(self, point: Point) -> QPointF:
        """Where a point of the drawing lies in the view."""
        x = self.width() / 2 + (point[0] - self._centre[0]) / self.scale
        y = self.height() / 2 - (point[1] - self._centre[1]) / self.scale
        return QPointF(x, y)

    def _paint_anew(self) -> None:
        """Lay out and paint the drawing: at once, or if it is heavy in another thread, of the newest wish only."""
        if self.drawing is None or not self.drawing.primitives:
            self.scene = None
            self.light_addresses(self._lit_addresses)
            return
        request = self._request(self.drawing)
        if self._jobs is None or not costs_more_than(self.drawing, HEAVY):
            self._take(request, paint_scene(request))
            return
        if self._is_painting:
            self._is_stale = True
            return
        self._is_painting = True
        self._jobs.run(
            "drawing", lambda: paint_scene(request), lambda scene: self._painted(request, scene), self._unpainted
        )
        self.update()

    def _request(self, drawing: Drawing) -> SceneRequest:
        return SceneRequest(
            drawing,
            (self.width(), self.height()),
            self.devicePixelRatioF(),
            self._theme.name,
            self.font().toString(),
            None if self._fitted else (self.scale, self._centre, self.scene.size if self.scene else 1.0),
            self.closest_fit,
        )

    def _painted(self, request: SceneRequest, scene: Scene) -> None:
        self._is_painting = False
        if self.drawing is not None:
            self._take(request, scene)
            if self._jobs is not None:
                # The index is made while the scene is already seen, so that the first move of the pointer need not.
                self._jobs.run("drawing", scene.prepare)
        if self._is_stale:
            self._is_stale = False
            self._paint_anew()

    def _unpainted(self, fault: Exception) -> None:
        """The drawing cannot be shown: say so, and stay usable."""
        self._is_painting = self._is_stale = False
        self.scene, self._hint = None, f"The drawing cannot be painted: {fault}"
        self.update()

    def _take(self, request: SceneRequest, scene: Scene) -> None:
        self.scene = scene
        if self._fitted and request.zoom is None:
            self.scale, self._centre = scene.scale, scene.centre
        self.light_addresses(self._lit_addresses)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        scene = self.scene
        if scene is None:
            painter.setPen(self._theme.colour("soft"))
            area = self.rect().adjusted(24, 24, -24, -24)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self._hint)
            return
        if scene.appearance != self._theme.name and not self._is_painting:
            self._paint_anew()
            scene = self.scene or scene
        self._draw_scene(painter, scene)
        size = (float(self.width()), float(self.height()))
        ScenePainter(painter, self.scale, self._centre, size, self._theme.name).paint([*self._lit, *self._mark])
        if self.hasFocus():
            painter.setOpacity(1.0)
            painter.setPen(self._theme.colour("accent"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _draw_scene(self, painter: QPainter, scene: Scene) -> None:
        """The painted scene where it belongs at the present zoom."""
        width, height = scene.view
        zoom = scene.scale / self.scale
        middle = self.to_view(scene.centre)
        target = QRectF(middle.x() - width * zoom / 2, middle.y() - height * zoom / 2, width * zoom, height * zoom)
        if zoom != 1.0:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(target, scene.image)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._paint_anew()
