"""Two states of a part, or two parts: drawings over each other, by a key one after the other, and the rest in words."""

from pathlib import Path
from typing import Literal

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QListWidget, QTabWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.drawings.overlaid_drawings import Shown, overlaid
from eider.library import Library
from eider.model.wording import counted
from eider.services.releasing.part_comparison import (
    ComparedRow,
    PartComparison,
    StateChoice,
    compare_states,
    save_comparison,
    state_choices,
)
from eider.services.tasks import Task

Side = Literal["left", "right"]
# What the key B shows next.
_NEXT: dict[Shown, Shown] = {"both": "left", "left": "right", "right": "both"}


class ComparePage(SidePage):
    """Both sides are chosen from the states of a part; the right one may be another part's."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.found: PartComparison | None = None
        self.shown: Shown = "both"
        self.states: dict[Side, tuple[StateChoice, ...]] = {"left": (), "right": ()}
        self.choices: dict[Side, QComboBox] = {"left": QComboBox(), "right": QComboBox()}
        for side, choice in self.choices.items():
            choice.setAccessibleName(f"State on the {side}")
            choice.setMinimumContentsLength(26)
            choice.activated.connect(lambda _index: self.compare())
        self.other = QLineEdit()
        self.other.setPlaceholderText("Another part on the right…")
        self.other.setAccessibleName("Name of another part for the right side")
        self.other.setMinimumWidth(210)
        self.other.returnPressed.connect(self._take_other)
        self.hint = label("", "soft", wrap=True)
        self.drawing_choice = QComboBox()
        self.drawing_choice.setAccessibleName("Which drawing")
        self.drawing_choice.setMinimumContentsLength(24)
        self.drawing_choice.activated.connect(lambda _index: self._draw())
        self.view = DrawingView(context.theme, "Choose two states to compare.", context.jobs)
        self.legend = label("", "soft", wrap=True)
        self.blink_button = button("Alternate (B)", self.blink)
        QShortcut(QKeySequence(Qt.Key.Key_B), self, self.blink, context=Qt.ShortcutContext.WindowShortcut)
        self._build()

    def _build(self) -> None:
        self.list = QListWidget()
        self.list.setAccessibleName("Differences")
        self.list.setWordWrap(True)
        self.pins, self.values = self._side_by_side("Pin"), self._side_by_side("Value")
        self.pins.set_widths(54, 150, 150)
        self.values.set_widths(90, 140, 140)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.list, "Differences")
        self.tabs.addTab(self.pins, "Pins")
        self.tabs.addTab(self.values, "Values")
        self.save_button = button("Save as PDF…", self._choose_file)
        head = flow(
            button("← Shelf", self.closed.emit),
            label("Compare", "head"),
            self.choices["left"],
            label("with"),
            self.choices["right"],
            self.other,
        )
        drawn = column(row(self.drawing_choice, self.blink_button, 1), growing(self.view), self.legend)
        right = column(growing(self.tabs), row(1, self.save_button))
        fill_widget(self, column(head, self.hint, growing(panes(drawn, right, sizes=(860, 400)))))

    def _side_by_side(self, heading: str) -> RecordView[ComparedRow]:
        columns: list[Column[ComparedRow]] = [
            Column(heading, lambda row: row.name),
            Column("Left", lambda row: row.left or "none", fault=lambda row: "" if row.is_same else "differs"),
            Column("Right", lambda row: row.right or "none", fault=lambda row: "" if row.is_same else "differs"),
        ]
        return RecordView[ComparedRow](columns, self.context.theme)

    def open_part(self, part_id: str) -> None:
        """The newest two states of a part."""

        def done(states: tuple[StateChoice, ...]) -> None:
            self._offer("left", states, min(1, len(states) - 1))
            self._offer("right", states, 0)
            if len(states) > 1:
                self.compare()
            else:
                self.hint.setText("This part has one state only; enter another part to compare it with.")

        self.jobs.run("library", lambda: state_choices(self.library, part_id), done, self._say)

    def _offer(self, side: Side, states: tuple[StateChoice, ...], index: int) -> None:
        self.states[side] = states
        set_choices(self.choices[side], [state.words for state in states])
        self.choices[side].setCurrentIndex(index)

    def _take_other(self) -> None:
        name = self.other.text().strip()

        def done(states: tuple[StateChoice, ...]) -> None:
            self._offer("right", states, 0)
            self.compare()

        if name:
            self.jobs.run("library", lambda: state_choices(self.library, name), done, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _chosen(self, side: Side) -> StateChoice | None:
        index = self.choices[side].currentIndex()
        return self.states[side][index] if 0 <= index < len(self.states[side]) else None

    def compare(self) -> None:
        """Read both sides and show what differs."""
        left, right = self._chosen("left"), self._chosen("right")
        if left is None or right is None:
            return

        def work(task: Task) -> PartComparison:
            return compare_states(self.library, left, right, task)

        self.jobs.run_long("library", "Comparing", work, self.show_comparison, self._say)

    def show_comparison(self, found: PartComparison) -> None:
        """The first drawing that differs, the differences in words, and the pins."""
        self.found, self.shown = found, "both"
        self.hint.setText(counted(len(found.differences), "difference") if found.differences else "No differences")
        self.list.clear()
        self.list.addItems(found.differences)
        for index, (title, table, rows) in enumerate(
            (("Pins", self.pins, found.pins), ("Values", self.values, found.values)), start=1
        ):
            table.show_records(rows)
            changed = sum(not row.is_same for row in rows)
            self.tabs.setTabText(index, f"{title} ({changed} changed)" if changed else title)
        set_choices(self.drawing_choice, [f"{d.title}{', same' if d.is_same else ''}" for d in found.drawings])
        self.drawing_choice.setCurrentIndex(
            next((index for index, drawing in enumerate(found.drawings) if not drawing.is_same), 0)
        )
        self._draw()

    def blink(self) -> None:
        """Left alone, right alone, both over each other: one after the other."""
        self.shown = _NEXT[self.shown]
        self._draw()

    def _draw(self) -> None:
        index = self.drawing_choice.currentIndex()
        if self.found is None or not 0 <= index < len(self.found.drawings):
            self.view.show_drawing(None)
            return
        drawn = self.found.drawings[index]
        self.view.show_drawing(overlaid(drawn.left, drawn.right, self.shown))
        names = {"left": self.found.left, "right": self.found.right}
        self.legend.setText(
            f"Dashed, −: only {self.found.left}.   Wide, +: only {self.found.right}.   Pale: both."
            if self.shown == "both"
            else f"Only {names[self.shown]}"
        )

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Save the comparison", "comparison.pdf", "PDF (*.pdf)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the drawings that differ over each other, and the differences, as PDF."""
        if (found := self.found) is not None:
            self.jobs.run(
                "disk",
                lambda: save_comparison(path, found),
                lambda _done: self.hint.setText(f"Saved as {path}"),
                self._say,
            )
