"""The table of the Shelf: its columns, which of them are seen, and by which the parts are sorted."""

from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QMenu, QTableView

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library.index.part_index import PartRow
from eider.model.library import LibrarySettings
from eider.model.review import ReviewState
from eider.model.wording import counted
from eider.views.parts_order import FACT, VALUE, PartsOrder, value_facts

# Who holds a part is known on this machine alone; nothing is ordered by it.
CLAIM = "claim"
# What a part is called whose review is open.
_REVIEWED: Mapping[ReviewState, str] = {"requested": "in review", "declined": "declined", "approved": "approved"}
# Facts that have a column.
FACTS = ("Manufacturer", "Part number", "Capacitance", "Rated voltage", "Tolerance")


class ShelfTable(RecordView[PartRow]):
    """The parts that were found; which columns are seen, and in which order, is the user's and is kept."""

    order_changed = pyqtSignal()

    def __init__(self, settings: LibrarySettings, context: DesktopContext) -> None:
        self._context = context
        columns = _columns(value_facts(settings), self._holder, self._state)
        super().__init__(list(columns.values()), context.theme)
        self._keys = list(columns)
        self.order: PartsOrder | None = None
        self.set_widths(122, 62, 36, 138, 252, 60, 80, 90, 120, 120, 90, 90, 90, 110, 90)
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setTabKeyNavigation(False)
        header = present(self.horizontalHeader())
        header.setSectionsMovable(True)
        header.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        header.customContextMenuRequested.connect(self._choose_columns)
        header.setToolTip("Click to sort, click again to reverse; drag to move a column; right-click to choose columns")
        header.setSectionsClickable(True)
        header.sectionClicked.connect(self._sort)
        header.sectionMoved.connect(lambda *_a: self._keep_layout())
        state = self._context.settings.shelf_columns
        if state is None or not header.restoreState(state):
            for index in range(6, len(self.records.columns)):
                self.setColumnHidden(index, True)

    def _state(self, part: PartRow) -> str:
        """The state on this machine, unless others are looking at the part."""
        review = self._context.reviews.get(part.id)
        return _REVIEWED[review] if review else part.state

    def _holder(self, part: PartRow) -> str:
        claim = self._context.claims.get(part.id)
        return claim.by if claim else ""

    def _sort(self, section: int) -> None:
        """The list by another column; again by the same the other way round, and then by name as before."""
        key = self._keys[section]
        if key == CLAIM:
            return
        before = self.order
        if before is None or before.column != key:
            self.order = PartsOrder(key)
        else:
            self.order = None if before.backwards else PartsOrder(key, backwards=True)
        header, order = present(self.horizontalHeader()), self.order
        header.setSortIndicatorShown(order is not None)
        if order:
            way = Qt.SortOrder.DescendingOrder if order.backwards else Qt.SortOrder.AscendingOrder
            header.setSortIndicator(section, way)
        self.order_changed.emit()

    def _choose_columns(self, at: Any) -> None:
        menu = QMenu(self)
        for index, entry in enumerate(self.records.columns):
            action = present(menu.addAction(entry.title))
            action.setCheckable(True)
            action.setChecked(not self.isColumnHidden(index))
            action.toggled.connect(lambda on, i=index: self._show_column(i, on))
        menu.exec(self.mapToGlobal(at))

    def _show_column(self, index: int, on: bool) -> None:
        self.setColumnHidden(index, not on)
        self._keep_layout()

    def _keep_layout(self) -> None:
        header = present(self.horizontalHeader())
        self._context.settings.shelf_columns = header.saveState()


def _columns(
    values: Mapping[str, str], holder: Callable[[PartRow], str], state: Callable[[PartRow], str]
) -> dict[str, Column[PartRow]]:
    """The columns by what each is ordered by.

    `values` names the fact that is the value, by category; `holder` tells who has claimed a part, `state` its state.
    """

    def fact(name: str) -> Column[PartRow]:
        return Column(name, lambda r: r.facts.get(name, ""))

    def findings(r: PartRow) -> str:
        words = [counted(n, w) for n, w in ((r.blockers, "blocker"), (r.cautions, "caution"), (r.notes, "note")) if n]
        return ", ".join(words)

    return {
        "name": Column("Name", lambda r: r.name),
        "state": Column("State", state),
        "revision": Column("Rev.", lambda r: str(r.revision or ""), number=True),
        "package": Column("Footprint", lambda r: r.package),
        "description": Column("Description", lambda r: r.description),
        "findings": Column("Findings", findings),
        "category": Column("Category", lambda r: r.category),
        "updated": Column("Released", lambda r: r.updated[:10]),
        **{f"{FACT}{name}": fact(name) for name in FACTS},
        CLAIM: Column("Claimed by", holder),
        VALUE: Column("Value", lambda r: r.facts.get(values.get(r.category, ""), "")),
    }
