"""The datasheet's own drawings beside the package sheet: given a scale, with Eider's drawing laid over them."""

from contextlib import closing

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.commands.packages import package_edits
from eider.commands.packages.outline_scale import scale_from_outline
from eider.datasheets.figures.outline_drawings import read_outline
from eider.datasheets.pages.page_frame import PageFrame
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.images import to_image
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row, set_choices
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.datasheet_overlay import OverlayPlacement, overlay_drawing, place, scale_by
from eider.drawings.drawing_layout import resolve_primitives
from eider.drawings.primitives import Drawing
from eider.errors import EiderError
from eider.geometry.lengths import parse_length
from eider.geometry.plane import Point
from eider.model.package_sheet import DatasheetPicture
from eider.packages.registry import family_of
from eider.services.datasheets.datasheet_opening import open_datasheet

SHOWS = ("top", "side", "lands")
# Pixels per PDF point in which a drawing is kept, and how much of Eider's drawing is seen over it.
SCALE, OPACITY = 3.0, 0.5


class PictureView(QWidget):
    """One drawing of a datasheet; `measured` gives two points, `moved` by how much the overlay was dragged."""

    measured = pyqtSignal(object, object)
    moved = pyqtSignal(float, float)

    def __init__(self, context: DesktopContext) -> None:
        super().__init__()
        self._theme = context.theme
        self.hint = ""
        self._image: QImage | None = None
        self._frame: PageFrame | None = None
        self.picture: DatasheetPicture | None = None
        self._drawing: Drawing | None = None
        self._place: OverlayPlacement | None = None
        self.measuring = False
        self._points: list[Point] = []
        self._drag: QPointF | None = None
        self._dragged = QPointF(0, 0)
        self.setMinimumSize(QSize(160, 160))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_picture(self, image: QImage | None, frame: PageFrame | None, picture: DatasheetPicture | None) -> None:
        """Show a cut-out of a page."""
        self._image, self._frame, self.picture = image, frame, picture
        self._points = []
        self.update()

    def lay_over(self, drawing: Drawing | None, placement: OverlayPlacement | None) -> None:
        """Show a drawing over it, half transparent; None takes it away."""
        self._drawing, self._place = drawing, placement
        self.update()

    def _box(self) -> QRectF:
        """Where the picture lies in the widget."""
        if self._image is None:
            return QRectF()
        size = self._image.size().scaled(self.size(), Qt.AspectRatioMode.KeepAspectRatio)
        return QRectF(
            (self.width() - size.width()) / 2, (self.height() - size.height()) / 2, size.width(), size.height()
        )

    def _factor(self) -> float:
        """Pixels of the widget per PDF point."""
        image = self._image
        return self._box().width() / (image.width() / SCALE) if image is not None else 1.0

    def to_page(self, view_point: QPointF) -> Point:
        """A point of the widget in PDF points."""
        if self._frame is None or self.picture is None:
            return 0.0, 0.0
        left, top, _, _ = self._frame.box_to_picture(self.picture.box)
        box, factor = self._box(), self._factor()
        return self._frame.to_page(
            left + (view_point.x() - box.x()) / factor, top + (view_point.y() - box.y()) / factor
        )

    def to_view(self, point: Point) -> QPointF:
        """A point of the page in the widget."""
        if self._frame is None or self.picture is None:
            return QPointF()
        left, top, _, _ = self._frame.box_to_picture(self.picture.box)
        u, v = self._frame.to_picture(*point)
        box, factor = self._box(), self._factor()
        return QPointF(box.x() + (u - left) * factor, box.y() + (v - top) * factor)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        if self._image is None or self.picture is None:
            painter.setPen(self._theme.colour("soft"))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(16, 16, -16, -16), int(flags), self.hint)
            return
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(self._box(), self._image)
        self._paint_over(painter)
        painter.setPen(QPen(self._theme.colour("red" if self.measuring else "blue"), 2))
        scale = self.picture.scale
        for point in self._points or ((scale.a, scale.b) if scale else ()):
            at = self.to_view(point)
            painter.drawLine(at + QPointF(-7, 0), at + QPointF(7, 0))
            painter.drawLine(at + QPointF(0, -7), at + QPointF(0, 7))

    def _paint_over(self, painter: QPainter) -> None:
        placement, drawing = self._place, self._drawing
        if placement is None or drawing is None or self._frame is None:
            return
        layer = QPixmap(self.size())
        layer.fill(QColor(0, 0, 0, 0))
        over = QPainter(layer)
        mm_per_pixel = 1 / (placement.scale * self._factor())
        over.translate(self.to_view(placement.origin) + self._dragged)
        over.rotate(90 * (self._frame.quarters - placement.quarters))
        ScenePainter(over, mm_per_pixel, (0.0, 0.0), (0.0, 0.0), self._theme.name).paint(
            resolve_primitives(drawing, mm_per_pixel, 1.0)
        )
        over.end()
        painter.setOpacity(OPACITY)
        painter.drawPixmap(0, 0, layer)
        painter.setOpacity(1.0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._image is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if not self.measuring:
            self._drag = event.position()
            return
        self._points.append(self.to_page(event.position()))
        if len(self._points) == 2:
            self.measured.emit(*self._points)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._drag is not None:
            self._dragged = event.position() - self._drag
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._drag is None:
            return
        a, b = self.to_page(self._drag), self.to_page(event.position())
        self._drag, self._dragged = None, QPointF(0, 0)
        if a != b:
            self.moved.emit(b[0] - a[0], b[1] - a[1])


class DatasheetPictures(QWidget):
    """All drawings that were kept, and what can be done with the selected one."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self._jobs = context.jobs.owned(self)
        self._shown: tuple[object, ...] = ()
        self.choice, self._shows, self.letter = QComboBox(), QComboBox(), QComboBox()
        self.choice.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.choice.activated.connect(lambda _i: self.refresh())
        self._shows.addItems(SHOWS)
        self._shows.activated.connect(lambda _i: self._change(shows=self._shows.currentText()))
        self.length = QLineEdit()
        self.length.setPlaceholderText("length")
        self.length.setFixedWidth(64)
        self.letter.activated.connect(lambda _i: self._fill_length())
        self.view = PictureView(context)
        self.view.hint = (
            "Draw a rectangle around the outline drawing in the datasheet (F4) and choose “Keep as a picture”."
        )
        self.view.measured.connect(self._measured)
        self.view.moved.connect(self._moved)
        self.measure_button = button("Set scale", self._begin_measuring, checkable=True)
        self.find_button = button("Find scale", self._find_scale)
        self.find_button.setToolTip("From the letters and lengths at the dimension lines of the drawing")
        self.over_button = button("Overlay", self._draw, checkable=True)
        self._say = label("", "soft", wrap=True)
        fill_widget(
            self,
            column(
                row(self.choice, label("Shows"), self._shows, 1),
                growing(self.view),
                self._say,
                row(self.letter, self.length, self.measure_button, self.find_button, 1),
                row(self.over_button, button("Remove", self._remove), 1),
                margins=4,
            ),
        )

    @property
    def pictures(self) -> tuple[DatasheetPicture, ...]:
        """The drawings of the part's sheet."""
        return self.controller.bundle.sheet.pictures

    def _current(self) -> DatasheetPicture | None:
        index = self.choice.currentIndex()
        return self.pictures[index] if 0 <= index < len(self.pictures) else None

    def refresh(self) -> None:
        """Show the present drawings."""
        titles = [f"page {p.page}, drawing {i}" for i, p in enumerate(self.pictures, start=1)]
        if set_choices(self.choice, titles):
            self.choice.setCurrentIndex(len(titles) - 1)
        family = family_of(self.controller.bundle.sheet.family)
        letters = ["length of", *(letter.key for letter in family.letters)]
        set_choices(self.letter, letters)
        picture = self._current()
        for widget in (self._shows, self.measure_button, self.find_button, self.over_button):
            widget.setEnabled(picture is not None)
        if picture is None:
            self._shown = ()
            self.view.show_picture(None, None, None)
            return
        self._shows.setCurrentText(picture.shows)
        key = (picture.document, picture.page, picture.box)
        if key != self._shown:
            self._shown = key
            self._load(picture)
        else:
            self.view.picture = picture
            self._draw()

    def _load(self, picture: DatasheetPicture) -> None:
        library = self.controller.library

        def work() -> tuple[QImage, PageFrame]:
            document = open_datasheet(library, picture.document)
            try:
                pixels = document.snippet(picture.page, picture.box, SCALE)
                return to_image(pixels), document.frame(picture.page)
            finally:
                document.close()

        def done(made: tuple[QImage, PageFrame]) -> None:
            self.view.show_picture(made[0], made[1], self._current())
            self._draw()

        self._jobs.run("reading", work, done, lambda fault: self._say.setText(str(fault)))

    def _draw(self) -> None:
        picture, bundle = self._current(), self.controller.bundle
        self._say.setText("")
        if picture is None or not self.over_button.isChecked():
            self.view.lay_over(None, None)
            return
        try:
            placement = place(picture, bundle)
            if placement is None:
                self._say.setText("Set the scale first: choose a dimension, then click its two ends")
            self.view.lay_over(overlay_drawing(bundle, picture.shows), placement)
        except EiderError as fault:
            self._say.setText(str(fault))
            self.view.lay_over(None, None)

    def _fill_length(self) -> None:
        limits = self.controller.bundle.sheet.limits(self.letter.currentText())
        if limits:
            self.length.setText(f"{limits.middle:g}")

    def _begin_measuring(self) -> None:
        self.view.measuring = self.measure_button.isChecked()
        self._say.setText("Click the two ends of the length" if self.view.measuring else "")

    def _find_scale(self) -> None:
        """Set the scale of the current drawing from the labels on its dimension lines."""
        picture, bundle, library = self._current(), self.controller.bundle, self.controller.library
        if picture is None:
            return

        def work() -> DatasheetPicture:
            with closing(open_datasheet(library, picture.document)) as document:
                return scale_from_outline(bundle, picture, read_outline(document, picture.page, picture.box))

        def done(made: DatasheetPicture) -> None:
            self.over_button.setChecked(True)
            self._change(scale=made.scale, shift=made.shift, shows=made.shows)

        self._jobs.run("reading", work, done, lambda fault: self._say.setText(str(fault)))

    def _measured(self, a: Point, b: Point) -> None:
        self.measure_button.setChecked(False)
        self.view.measuring = False
        letter = self.letter.currentText() if self.letter.currentIndex() > 0 else ""
        try:
            scale = scale_by(a, b, parse_length(self.length.text()), letter)
        except EiderError as fault:
            self._say.setText(f"Length between the two points: {fault}")
            return
        self.over_button.setChecked(True)
        self._change(scale=scale, shift=(0.0, 0.0))

    def _moved(self, dx: float, dy: float) -> None:
        picture = self._current()
        if picture is not None and picture.scale is not None:
            self._change(shift=(round(picture.shift[0] + dx, 2), round(picture.shift[1] + dy, 2)))

    def _change(self, **changes: object) -> None:
        picture, index = self._current(), self.choice.currentIndex()
        if picture is not None:
            changed = replace(picture, **changes)
            self.controller.edit(
                "Change a drawing of the datasheet", lambda b: package_edits.set_picture(b, index, changed)
            )

    def _remove(self) -> None:
        index = self.choice.currentIndex()
        self.controller.edit("Remove a drawing of the datasheet", lambda b: package_edits.set_picture(b, index, None))
