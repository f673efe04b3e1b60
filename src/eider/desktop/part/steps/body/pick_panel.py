"""What is picked in the 3D view: what it is, how far from another, which terminal; and what can be done with it."""

import math

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.bodies.kernel.picked_items import MeasuredGap, PickedItem
from eider.bodies.kernel.picking import GapRequest, PickRequest
from eider.bodies.pictures.body_camera import Place, SightLine
from eider.bodies.pictures.body_scene import BodyScene
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.body_picture import BodyPicture
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, label
from eider.desktop.widgets.picture_marks import PictureMark
from eider.geometry.lengths import format_length
from eider.library.documents.attachments import DocumentKind
from eider.model.address import PadAddress, PinAddress
from eider.views.picked_item import PickedTerminal, gap_words, item_words, picked_terminal

HINT = "Click a face, edge or corner; a second one gives the distance. Esc clears."


class PickPanel(QWidget):
    """One or two picked items of a picture.

    `seating` tells of a flat face that is to be the seating plane, `first_terminal` of a point that is to stand where
    the first terminal stands.
    """

    seating = pyqtSignal(object)
    first_terminal = pyqtSignal(object)

    def __init__(self, view: BodyPicture, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self._view, self._controller, self._context = view, controller, context
        self._jobs = context.jobs.owned(self)
        self.items: tuple[PickedItem, ...] = ()
        self.gap: MeasuredGap | None = None
        self._terminal: PickedTerminal | None = None
        self._scene = BodyScene()
        view.clicked.connect(self.pick)
        view.left_off.connect(self.clear)
        self.said = label(HINT, "soft", wrap=True)
        self.as_seating = button("Use as seating plane", self._seat)
        self.as_seating.setToolTip("Turn and move the model so that it stands on this face")
        self.as_first = button("Use as terminal 1", self._put_first)
        self.as_first.setToolTip("Move the model so that this centre is on pad 1")
        self.in_match = button("Show in Match", self._show_in_match)
        for tool in (self.as_seating, self.as_first, self.in_match):
            _keep_place(tool)
        # What is said takes up as much room however long it is: the picture must not move under the pointer.
        self.said.setMinimumHeight(2 * self.said.fontMetrics().lineSpacing())
        fill_widget(self, column(self.said, flow(self.as_seating, self.as_first, self.in_match), margins=0))
        self.clear()

    def clear(self) -> None:
        """Forget what is picked."""
        self.items, self.gap, self._terminal = (), None, None
        self._show()

    def scene_changed(self) -> None:
        """What is picked in one scene means nothing in another."""
        if self.items and self._view.scene != self._scene:
            self.clear()

    def pick(self, line: SightLine) -> None:
        """Ask what the line of sight meets."""
        scene, framing, bundle = self._view.scene, self._view.framing, self._controller.bundle
        section = framing.section_at(self._view.camera) if framing is not None else math.inf

        def work() -> tuple[PickedItem | None, PickedTerminal | None]:
            item = self._context.jobs.in_kernel(PickRequest(scene, self._model_path(scene), line, section))
            return item, picked_terminal(bundle, item) if item else None

        def found(picked: tuple[PickedItem | None, PickedTerminal | None]) -> None:
            if scene == self._view.scene:
                self._take(*picked)

        self._jobs.run("picking", work, found, self._fail)

    def _model_path(self, scene: BodyScene) -> str:
        """Where the model of a scene lies; away from the Qt thread."""
        if scene.model is None:
            return ""
        return str(self._controller.library.attachments.path(DocumentKind.MODEL, scene.model.sha256))

    def _fail(self, fault: Exception) -> None:
        self._context.said.emit(str(fault))

    def _take(self, item: PickedItem | None, terminal: PickedTerminal | None) -> None:
        if item is None:
            self.clear()
            return
        self._scene, self.gap, self._terminal = self._view.scene, None, terminal
        self.items = (self.items[0], item) if len(self.items) == 1 else (item,)
        self._show()
        if len(self.items) == 2:
            self._measure(self._scene, (self.items[0], item))

    def _measure(self, scene: BodyScene, items: tuple[PickedItem, PickedItem]) -> None:
        def work() -> MeasuredGap:
            return self._context.jobs.in_kernel(GapRequest(scene, self._model_path(scene), *items))

        def measured(gap: MeasuredGap) -> None:
            if items == self.items:
                self.gap = gap
                self._show()

        self._jobs.run("picking", work, measured, self._fail)

    def _show(self) -> None:
        unit, items = self._context.unit, self.items
        last = items[-1] if items else None
        words = item_words(last, unit) if last else HINT
        if self.gap is not None:
            words = f"{gap_words(self.gap, unit)}. {words}"
        if self._terminal is not None:
            words = f"{words}: {self._terminal.words}"
        self.said.setText(words)
        is_model = self._view.scene.model is not None and last is not None
        self.as_seating.setVisible(is_model and last is not None and last.is_flat)
        self.as_first.setVisible(is_model)
        self.in_match.setVisible(self._terminal is not None)
        self._view.show_marks(self._marks())

    def _marks(self) -> tuple[PictureMark, ...]:
        unit = self._context.unit
        marks = [PictureMark(item.lines or ((item.at,),), "blue") for item in self.items]
        if self._terminal is not None:
            pads = tuple(_closed(outline) for outline in self._terminal.pads)
            marks.append(PictureMark(pads, "accent"))
        if self.gap is not None:
            text = format_length(self.gap.least, unit)
            marks.append(PictureMark(((self.gap.start, self.gap.end),), "blue", text, is_dimension=True))
        return tuple(marks)

    def _seat(self) -> None:
        self.seating.emit(self.items[-1])

    def _put_first(self) -> None:
        self.first_terminal.emit(self.items[-1])

    def _show_in_match(self) -> None:
        if self._terminal is not None:
            pins = self._terminal.pins
            address = PinAddress(pins[0]) if pins else PadAddress(self._terminal.number)
            self._context.step_asked.emit("match", address)


def _closed(outline: tuple[tuple[float, float], ...]) -> tuple[Place, ...]:
    return tuple((x, y, 0.0) for x, y in (*outline, outline[0]))


def _keep_place(widget: QWidget) -> None:
    """Let a widget take up its room also while it is hidden."""
    policy = widget.sizePolicy()
    policy.setRetainSizeWhenHidden(True)
    widget.setSizePolicy(policy)
