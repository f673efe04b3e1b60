"""The pinout from above or below, with the datasheet's own figure half transparent over it."""

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QCheckBox, QComboBox, QWidget

from eider.commands.pins.pinout_figure_edits import drop_pinout_figure, set_figure_seen
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.images import to_image
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label
from eider.desktop.widgets.scene import Scene
from eider.geometry.plane import Box
from eider.model.part import SEEN_FROM, PinoutFigure
from eider.model.wording import counted
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.views.steps.match import MatchView

# How strongly the figure is drawn over the pinout, and how many pixels one point of it has.
STRENGTH, PIXELS = 0.5, 3.0
HINT = "Draw a rectangle around the pinout figure in the datasheet: numbers, names and places are compared with it."


class FiguredDrawing(DrawingView):
    """A drawing with a picture over it, in a box of the drawing (mm)."""

    figure: QImage | None = None
    place: Box | None = None

    def show_figure(self, figure: QImage | None, place: Box | None) -> None:
        """Lay a picture over the drawing, or none."""
        self.figure, self.place = figure, place
        self.update()

    def _draw_scene(self, painter: QPainter, scene: Scene) -> None:
        super()._draw_scene(painter, scene)
        if self.figure is not None and self.place is not None:
            x0, y0, x1, y1 = self.place
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.setOpacity(STRENGTH)
            painter.drawImage(QRectF(self.to_view((x0, y1)), self.to_view((x1, y0))), self.figure)
            painter.setOpacity(1.0)


class PinoutPanel(QWidget):
    """Shows the pinout of a part beside that of its datasheet."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self._jobs = context.jobs.owned(self)
        self._view: MatchView | None = None
        self._cut_out: tuple[PinoutFigure, QImage] | None = None
        self.drawing = FiguredDrawing(context.theme, "Complete pins and package sheet to see the pinout.", context.jobs)
        self.from_below = QCheckBox("Seen from below")
        self.from_below.toggled.connect(lambda _on: self._show_drawing())
        self.over = QCheckBox("Figure of the datasheet")
        self.over.toggled.connect(self._lay_over)
        self.seen = QComboBox()
        self.seen.setAccessibleName("Viewed from")
        self.seen.addItems([f"seen from {'the ' if side == 'mating side' else ''}{side}" for side in SEEN_FROM])
        self.seen.activated.connect(self._set_seen)
        self.drop = button("Remove figure", self._drop)
        self.said = label(HINT, "soft", wrap=True)
        tools = flow(self.from_below, self.over, self.seen, self.drop)
        fill_widget(self, column(tools, self.said, growing(self.drawing), margins=4))

    def show_view(self, view: MatchView) -> None:
        """Show the pinout, and what is known of the datasheet's figure."""
        self._view = view
        figure = view.figure
        for widget in (self.over, self.seen, self.drop):
            widget.setVisible(figure is not None)
        if figure is None:
            self.said.setText(HINT)
        else:
            self.seen.setCurrentIndex(SEEN_FROM.index(figure.seen) if figure.seen in SEEN_FROM else 0)
            apart = "" if view.figure_place else "; it is rotated against the package and cannot be laid over it"
            self.said.setText(f"Figure on page {figure.page}: {counted(len(figure.pins), 'pin')}{apart}")
            self.over.setEnabled(view.figure_place is not None)
        self._show_drawing()

    def _show_drawing(self) -> None:
        view = self._view
        drawings = view.pinout if view else ()
        figure, place = (view.figure, view.figure_place) if view else (None, None)
        is_same_side = figure is not None and (figure.seen != "above") == self.from_below.isChecked()
        is_over = self.over.isChecked() and is_same_side and place is not None
        shown = drawings[self.from_below.isChecked()] if drawings else None
        self.drawing.show_drawing(view.beside_figure if view and is_over else shown)
        if figure is None or not is_over:
            self.drawing.show_figure(None, None)
        elif self._cut_out is not None and self._cut_out[0] == figure:
            self.drawing.show_figure(self._cut_out[1], place)
        else:
            self._cut(figure)

    def _lay_over(self, on: bool) -> None:
        """Turn to the side from which the figure shows the package."""
        if on and self._view and self._view.figure:
            self.from_below.setChecked(self._view.figure.seen != "above")
        self._show_drawing()

    def _cut(self, figure: PinoutFigure) -> None:
        """Cut the figure out of its page, in the thread that reads documents."""
        library = self.controller.library

        def work() -> QImage:
            document = open_datasheet(library, figure.document)
            try:
                return to_image(document.snippet(figure.page, figure.box, PIXELS))
            finally:
                document.close()

        def done(image: QImage) -> None:
            self._cut_out = figure, image
            self._show_drawing()

        self._jobs.run("reading", work, done, lambda fault: self.said.setText(f"The figure cannot be shown: {fault}"))

    def _set_seen(self, index: int) -> None:
        seen = SEEN_FROM[index]
        self.controller.edit(f"Figure seen from {seen}", lambda b: set_figure_seen(b, seen))

    def _drop(self) -> None:
        self.controller.edit("Remove the pinout figure", drop_pinout_figure)
