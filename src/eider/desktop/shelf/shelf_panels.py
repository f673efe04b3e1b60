"""Beside the list of parts: the filters with their counts, and the card of the selected part."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QHeaderView, QTreeWidget, QTreeWidgetItem, QVBoxLayout

from eider.bodies.step_files.step_process import ImportedStep
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.body_picture import BodyPicture
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import label
from eider.desktop.widgets.qt_values import present
from eider.views.part_card import PartCardView
from eider.views.parts_list import FilterGroup, FilterValue


class CardPanel(QFrame):
    """Name, state, symbol, lands, body and facts of one part."""

    def __init__(self, context: DesktopContext, models: Callable[[str], ImportedStep]) -> None:
        super().__init__()
        self.setObjectName("card")
        self.name, self.state = label("", "title"), label("", "soft", wrap=True)
        self.description = label("", wrap=True)
        self.symbol = DrawingView(context.theme, "Select a part to see it here.", context.jobs)
        self.lands = DrawingView(context.theme, "", context.jobs)
        self.body = BodyPicture(context.theme, context.jobs, " ", models)
        self.facts = label("", wrap=True)
        self.more = label("", "soft", wrap=True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(self.name)
        layout.addWidget(self.state)
        layout.addWidget(self.description)
        layout.addWidget(self.symbol, 3)
        below = QHBoxLayout()
        below.addWidget(self.lands, 1)
        below.addWidget(self.body, 1)
        layout.addLayout(below, 3)
        layout.addWidget(self.facts)
        layout.addWidget(self.more)

    def show_card(self, card: PartCardView) -> None:
        """Show a part."""
        self.name.setText(card.name)
        self.state.setText(card.state)
        self.description.setText(card.description)
        self.symbol.show_drawing(card.symbol)
        self.lands.show_drawing(card.lands)
        self.body.show_scene(card.scene)
        self.facts.setText(card.facts)
        self.more.setText(card.more)


_KEY = Qt.ItemDataRole.UserRole


class FilterTree(QTreeWidget):
    """Groups of values to tick; `changed` tells that another choice was made."""

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setHeaderHidden(True)
        self.setIndentation(10)
        self.setColumnCount(2)
        header = present(self.header())
        # The names give way, never the counts.
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.setTextElideMode(Qt.TextElideMode.ElideMiddle)
        self._shown: Sequence[FilterGroup] = ()
        self.chosen: dict[str, frozenset[str]] = {}
        self.itemChanged.connect(lambda _item, _column: self._choose())

    def show_groups(self, groups: Sequence[FilterGroup]) -> None:
        """Show other values or counts; what is ticked stays ticked."""
        if groups == self._shown:
            return
        self._shown = groups
        self.blockSignals(True)
        self.clear()
        for group in groups:
            item = QTreeWidgetItem([group.title])
            item.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self.addTopLevelItem(item)
            for value in group.values:
                item.addChild(self._item(group.key, value))
            item.setExpanded(True)
        self.blockSignals(False)

    def _item(self, key: str, value: FilterValue) -> QTreeWidgetItem:
        item = QTreeWidgetItem([value.title, f"{value.count:,}"])
        item.setToolTip(0, value.title)
        item.setTextAlignment(1, Qt.AlignmentFlag.AlignRight)
        item.setData(0, _KEY, (key, value.value))
        on = value.value in self.chosen.get(key, frozenset())
        item.setCheckState(0, Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
        return item

    def _choose(self) -> None:
        chosen: dict[str, set[str]] = {}
        for index in range(self.topLevelItemCount()):
            group = present(self.topLevelItem(index))
            for child in map(group.child, range(group.childCount())):
                if present(child).checkState(0) == Qt.CheckState.Checked:
                    key, value = present(child).data(0, _KEY)
                    chosen.setdefault(key, set()).add(value)
        self.chosen = {key: frozenset(values) for key, values in chosen.items()}
        self.changed.emit()
