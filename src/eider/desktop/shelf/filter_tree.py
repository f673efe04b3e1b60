"""The filters of the Shelf: what parts can be narrowed down to, each with its count."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHeaderView, QTreeWidget, QTreeWidgetItem

from eider.desktop.widgets.qt_values import present
from eider.views.parts_list import FilterGroup, FilterValue

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
