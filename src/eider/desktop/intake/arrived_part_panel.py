"""One part that arrived: drawn over that of the library, what it is, what is wrong with it, and what corrections it."""

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLineEdit, QListWidget, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, set_choices
from eider.drawings.overlaid_drawings import overlaid
from eider.lands.pad_faults import CORRECTIONS, PadCorrection
from eider.library import Library
from eider.services.intake.intake_reading import IntakePart
from eider.services.releasing.part_comparison import ComparedDrawing, compare_bundles


class ArrivedPartPanel(QWidget):
    """`correction_asked` tells the name in the file and what corrects it; `package_asked` a part of the library."""

    correction_asked = pyqtSignal(str, str)
    package_asked = pyqtSignal(str, str)

    def __init__(self, library: Library, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__()
        self._library, self._jobs, self._pen = library, jobs, context.theme.colour("red")
        self.part: IntakePart | None = None
        self.drawings: tuple[ComparedDrawing, ...] = ()
        self.drawing_choice = QComboBox()
        self.drawing_choice.setAccessibleName("Which drawing")
        self.drawing_choice.setMinimumContentsLength(24)
        self.drawing_choice.activated.connect(lambda _index: self._draw())
        self.view = DrawingView(context.theme, "Choose a part that arrived.", context.jobs)
        self.legend = label("", "soft", wrap=True)
        self.what = QListWidget()
        self.what.setAccessibleName("What differs, is missing or is in doubt")
        self.what.setWordWrap(True)
        self.what.setSpacing(3)
        self.corrections = [button(title, partial(self._correct, key)) for key, title in CORRECTIONS.items()]
        self.package = QLineEdit()
        self.package.setPlaceholderText("Use the package of part…")
        self.package.setMinimumWidth(230)
        self.package.setAccessibleName("Part whose package sheet is used")
        self.package.setToolTip("Its lands become adjustments on that package sheet, and their joints are shown.")
        self.package.returnPressed.connect(self._use_package)
        correcting = flow(*self.corrections, self.package)
        below = column(growing(self.what), correcting, margins=0)
        fill_widget(self, column(self.drawing_choice, growing(self.view), self.legend, growing(below)))
        self.show_part(None)

    def show_part(self, part: IntakePart | None) -> None:
        """This part, or none."""
        if part is None or self.part is None or part.came_as != self.part.came_as:
            self.package.clear()
        self.part = part
        self.what.clear()
        self._enable()
        if part is None:
            self.drawings = ()
            self._draw()
            return
        self.what.addItems(list(part_words(part)))
        for index in range(len(part.faults)):
            item = self.what.item(index)
            if item is not None:
                item.setForeground(self._pen)
        library, name = self._library, part.name

        def work() -> tuple[ComparedDrawing, ...]:
            like = part.against or part.like.lands[0]
            there = library.load(like) if like else part.draft
            return compare_bundles(there, part.draft, "the library", "what arrived").drawings

        def done(drawings: tuple[ComparedDrawing, ...]) -> None:
            if self.part is not None and self.part.name == name:
                self._show_drawings(drawings, is_new=not (part.against or part.like.lands[0]))

        self._jobs.run("imports", work, done, lambda fault: self.what.addItem(str(fault)))

    def _enable(self) -> None:
        part = self.part
        wanted = {correction for fault in part.faults for correction in fault.corrections} if part else set()
        for made, key in zip(self.corrections, CORRECTIONS, strict=True):
            made.setVisible(key in wanted)
        self.package.setVisible(part is not None and bool(part.found.pads) and part.found.sheet is None)

    def _correct(self, key: PadCorrection) -> None:
        if self.part is not None:
            self.correction_asked.emit(self.part.came_as, key)

    def _use_package(self) -> None:
        if self.part is not None:
            self.package_asked.emit(self.part.came_as, self.package.text().strip())

    def _show_drawings(self, drawings: tuple[ComparedDrawing, ...], *, is_new: bool) -> None:
        self.drawings = drawings
        set_choices(self.drawing_choice, [d.title if is_new or not d.is_same else f"{d.title}, same" for d in drawings])
        self.drawing_choice.setCurrentIndex(next((i for i, d in enumerate(drawings) if not d.is_same), 0))
        self.legend.setText("" if is_new else "Dashed: only in the library. Wide: only in what arrived. Pale: both.")
        self._draw()

    def _draw(self) -> None:
        index = self.drawing_choice.currentIndex()
        if not 0 <= index < len(self.drawings):
            self.view.show_drawing(None)
            return
        drawn = self.drawings[index]
        self.view.show_drawing(drawn.right if drawn.is_same else overlaid(drawn.left, drawn.right))


def part_words(part: IntakePart) -> tuple[str, ...]:
    """All that is told of a part, the most important first."""
    told = [f"Wrong: {fault.words}" for fault in part.faults]
    told += [f"Differs: {words}" for words in part.differences]
    told += [f"Lands: {part.reading.words}"] if part.reading else []
    told += [f"Joints: {part.joints}"] if part.joints else []
    if part.like.lands[1]:
        told.append(f"Same lands: {part.like.lands[1]} of the library has them")
    if part.like.pins[1]:
        told.append(f"Same pins: {part.like.pins[1]} of the library has them")
    told += [f"Missing: {words}" for words in part.missing]
    told += [f"In doubt: {words}" for words in part.doubts]
    return tuple(told)
