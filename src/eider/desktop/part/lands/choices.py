"""What the lands are made by: level, further levels, rulebook, how the package lies, and where the part came from."""

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QCheckBox, QComboBox, QLabel, QRadioButton, QWidget

from eider.commands import footprint_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, label, row, set_choices, small_button
from eider.library.stored_rulebooks import rulebook_names
from eider.model.bundle import Bundle
from eider.model.pattern import LEVELS, Level
from eider.views.sheet_comparison import since_origin
from eider.views.steps.lands import RecipeView

LEVEL_NAMES = {"A": "A, most copper", "B": "B, nominal", "C": "C, least"}
TURNS = (0, 90, 180, 270)


class RecipeChoices(QWidget):
    """The choices of a footprint's recipe; `rulebook_asked` wants the rulebook editor."""

    rulebook_asked = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.radios = QButtonGroup(self)
        self.also: dict[Level, QCheckBox] = {}
        self._summaries: dict[Level, QLabel] = {}
        levels: list[QWidget] = []
        for level in LEVELS:
            levels += self._level_row(level)
        self.rulebook = QComboBox()
        self.rulebook.setAccessibleName("rulebook")
        self.rulebook.activated.connect(
            lambda _i: controller.edit(
                "Change the rulebook", lambda b: footprint_edits.set_rulebook(b, self.rulebook.currentText())
            )
        )
        self._revision = label("", "soft", wrap=True)
        change = small_button(button("Rules…", lambda: self.rulebook_asked.emit(self.rulebook.currentText())))
        self.turn, self.mirrored = QComboBox(), QCheckBox("Mirrored")
        self.turn.setAccessibleName("Rotation")
        self.turn.addItems([f"{turn}°" for turn in TURNS])
        self.turn.activated.connect(lambda _i: self._place())
        self.mirrored.clicked.connect(lambda _on: self._place())
        self._origin = label("", "soft", wrap=True)
        self._origin_of: tuple[Any, ...] = ()
        self._chosen = ""
        fill_widget(
            self,
            column(
                label("Level", "head"),
                *levels,
                label("Rulebook", "head"),
                row(self.rulebook, change),
                self._revision,
                row(label("Rotation"), self.turn, self.mirrored, 1),
                self._origin,
                margins=0,
                spacing=3,
            ),
        )

    def _level_row(self, level: Level) -> list[QWidget]:
        radio, also = QRadioButton(LEVEL_NAMES[level]), QCheckBox("Also make")
        radio.setObjectName(level)
        radio.clicked.connect(
            lambda _c: self.controller.edit(f"Level {level}", lambda b: footprint_edits.set_level(b, level))
        )
        also.setToolTip(f"Make a footprint at level {level} as well as the chosen one")
        also.setAccessibleName(f"Also make level {level}")
        also.clicked.connect(
            lambda on: self.controller.edit(
                f"{'Also make' if on else 'Do not make'} level {level}",
                lambda b: footprint_edits.set_also_level(b, level, on=on),
            )
        )
        self.radios.addButton(radio)
        self.also[level], self._summaries[level] = also, label("", "soft", wrap=True)
        return [row(radio, 1, also), self._summaries[level]]

    def _place(self) -> None:
        turn, mirrored = TURNS[self.turn.currentIndex()], self.mirrored.isChecked()
        self.controller.edit(
            "Rotate the footprint", lambda b: footprint_edits.set_orientation(b, turn, mirrored=mirrored)
        )

    def show_view(self, view: RecipeView) -> None:
        """Show the present choices."""
        for radio in self.radios.buttons():
            radio.setChecked(radio.objectName() == view.level)
        for level, shown in self._summaries.items():
            shown.setText(view.summaries[level])
            self.also[level].setEnabled(level != view.level)
            self.also[level].setChecked(level in view.also or level == view.level)
        self._chosen = view.rulebook
        self._show_rulebooks([self.rulebook.itemText(i) for i in range(self.rulebook.count())])
        self._read_rulebooks()
        self._revision.setText(view.revision)
        self.turn.setCurrentIndex(TURNS.index(view.turn))
        self.mirrored.setChecked(view.is_mirrored)
        self._show_origin(self.controller.bundle)

    def _read_rulebooks(self) -> None:
        """The names of the library's rulebooks, which another page may have changed."""
        library = self.controller.library
        self.jobs.run("library", lambda: rulebook_names(library), self._show_rulebooks)

    def _show_rulebooks(self, names: Sequence[str]) -> None:
        set_choices(self.rulebook, list(names) if self._chosen in names else [*names, self._chosen])
        self.rulebook.setCurrentText(self._chosen)

    def _show_origin(self, bundle: Bundle) -> None:
        """What became different since the part was begun from another; that one is read from the library."""
        origin, library = bundle.part.origin, self.controller.library
        if origin is None:
            self._origin.setText("")
            return
        state = (origin, bundle.sheet, bundle.footprint.adjustments, bundle.footprint.level, bundle.footprint.rulebook)
        if state == self._origin_of:
            return
        self._origin_of = state

        def work() -> str:
            other = library.load_release(origin.id, origin.revision) if origin.revision else library.load(origin.id)
            return since_origin(bundle, other, library.find(origin.id).revision).words

        def gone(_fault: Exception) -> None:
            self._origin.setText(f"Created from {origin.name}, which is no longer in the library")

        self.jobs.run("library", work, self._origin.setText, gone)
