"""The Shelf: the parts of the library, filters with counts, and a card of the one that is selected."""

from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QMenu,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.body_picture import BodyPicture
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.index import PartRow
from eider.library.working_copies import damage_words
from eider.model.library import LibrarySettings
from eider.model.wording import counted
from eider.services.tasks import Task
from eider.views.family_titles import family_titles
from eider.views.part_card import PartCardView, part_card

SEARCH_AFTER_MS = 60
Group = tuple[str, str, Callable[[PartRow], str]]


class Shelf(QWidget):
    """The first screen."""

    open_asked = pyqtSignal(str)
    new_asked = pyqtSignal()
    copy_asked = pyqtSignal(str)
    compare_asked = pyqtSignal(str)
    export_asked = pyqtSignal(str)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self.setObjectName("page")
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._rows: list[PartRow] = []
        self._groups = _groups(library.settings)
        self._asked = 0
        # Enter was pressed in the search: what is found is opened.
        self._opens_hit = self._has_looked = False
        self._wanted_card = ""
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find by number, word or value in any order: 0.1u 25V, lyn*2012")
        self.search.setClearButtonEnabled(True)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.refresh)
        self.search.textChanged.connect(lambda _t: self._timer.start(SEARCH_AFTER_MS))
        self.filters = QTreeWidget()
        self.filters.setHeaderHidden(True)
        self.filters.setIndentation(10)
        self.search.returnPressed.connect(self._open_hit)
        self.filters.setColumnCount(2)
        header = present(self.filters.header())
        # The names give way, never the counts.
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.filters.setTextElideMode(Qt.TextElideMode.ElideMiddle)
        self.filters.itemChanged.connect(lambda _i, _c: self._filter())
        self.table = RecordView[PartRow](_columns(), context.theme)
        self._prepare_table()
        self._count = label("", "soft")
        self.empty = label("", "soft", wrap=True)
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        left = column(label("Filters", "head"), growing(self.filters))
        actions = row(
            button("New part", self.new_asked.emit, main=True),
            button("Start from this part", lambda: self._ask(self.copy_asked)),
            button("Open", lambda: self._ask(self.open_asked)),
            button("Compare", lambda: self._ask(self.compare_asked)),
            button("Export", lambda: self._ask(self.export_asked)),
            1,
            self._count,
        )
        middle = column(self.search, growing(self.table), self.empty, actions)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(panes(left, middle, self._make_card(), sizes=(214, 752, 304)))

    def _prepare_table(self) -> None:
        self.table.set_widths(122, 62, 36, 138, 252, 60, 80, 90, 120, 120, 90, 90)
        self.table.setSelectionBehavior(RecordView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(RecordView.SelectionMode.SingleSelection)
        self.table.setTabKeyNavigation(False)
        self.table.entered_record.connect(self._show_card)
        self.table.doubleClicked.connect(lambda _index: self._ask(self.open_asked))
        header = present(self.table.horizontalHeader())
        header.setSectionsMovable(True)
        header.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        header.customContextMenuRequested.connect(self._choose_columns)
        header.setToolTip("Drag a heading to move its column; right-click to choose columns")
        header.sectionMoved.connect(lambda *_a: self._keep_columns())
        state = self._context.settings.shelf_columns
        if state is None or not header.restoreState(state):
            for index in range(6, len(self.table.records.columns)):
                self.table.setColumnHidden(index, True)

    def _choose_columns(self, at: Any) -> None:
        menu = QMenu(self)
        for index, entry in enumerate(self.table.records.columns):
            action = present(menu.addAction(entry.title))
            action.setCheckable(True)
            action.setChecked(not self.table.isColumnHidden(index))
            action.toggled.connect(lambda on, i=index: self._show_column(i, on))
        menu.exec(self.table.mapToGlobal(at))

    def _show_column(self, index: int, on: bool) -> None:
        self.table.setColumnHidden(index, not on)
        self._keep_columns()

    def _keep_columns(self) -> None:
        header = present(self.table.horizontalHeader())
        self._context.settings.shelf_columns = header.saveState()

    def _make_card(self) -> QWidget:
        theme = self._context.theme
        self.card_name, self.card_state = label("", "title"), label("", "soft", wrap=True)
        self.card_description = label("", wrap=True)
        self.card_symbol = DrawingView(theme, "Select a part to see it here.", self._context.jobs)
        self.card_lands = DrawingView(theme, "", self._context.jobs)
        self.card_body = BodyPicture(theme, self._context.jobs, " ")
        self.card_facts = label("", wrap=True)
        self.card_more = label("", "soft", wrap=True)
        frame = QFrame()
        frame.setObjectName("card")
        layout = QVBoxLayout(frame)
        layout.setContentsMargins(10, 8, 10, 8)
        layout.addWidget(self.card_name)
        layout.addWidget(self.card_state)
        layout.addWidget(self.card_description)
        layout.addWidget(self.card_symbol, 3)
        below = QHBoxLayout()
        below.addWidget(self.card_lands, 1)
        below.addWidget(self.card_body, 1)
        layout.addLayout(below, 3)
        layout.addWidget(self.card_facts)
        layout.addWidget(self.card_more)
        return column(growing(frame))

    def begin(self) -> None:
        """Show all parts; a library that was never read on this machine is read with its progress shown."""
        library = self._library

        def read(task: Task) -> None:
            library.index.follow_commits(lambda share: task.report(share, "for the first time"))

        def known(is_new: bool) -> None:
            if is_new:
                self._jobs.run_long("library", "Reading the library", read, lambda _: self.refresh(), self._not_read)
            else:
                self.refresh()

        self._jobs.run("library", lambda: library.index.is_new, known)

    def _tell_damage(self, found: list[Path]) -> None:
        if found:
            self._context.said.emit(damage_words(found))

    def _not_read(self, fault: Exception) -> None:
        """It is read when something is looked for; until then nothing is found."""
        self._context.said.emit(str(fault))

    def refresh(self) -> None:
        """Search again; late answers to earlier searches are dropped."""
        self._asked += 1
        number, words, library = self._asked, self.search.text(), self._library

        def done(rows: list[PartRow]) -> None:
            if number == self._asked:
                self._rows = rows
                self._show_filters()
                self._filter()
                if self._opens_hit:
                    self._opens_hit = False
                    self._ask(self.open_asked)
                if not self._has_looked:
                    # Working copies that cannot be read were put aside by this search; nobody would know.
                    self._has_looked = True
                    self._jobs.run("library", library.copies.damaged, self._tell_damage)

        self._jobs.run("library", lambda: library.search(words), done)

    @property
    def shown(self) -> list[PartRow]:
        """The parts in the table."""
        return list(self.table.records.records)

    def selected_id(self) -> str:
        """The id of the part that is selected; empty without one."""
        record: PartRow | None = self.table.record()
        return record.id if record else ""

    def select(self, part_id: str) -> None:
        """Select a part."""
        self.table.select_where(lambda r: r.id == part_id)

    def _open_hit(self) -> None:
        """Open the part in hand of what was found; the search may not have been made yet."""
        self._timer.stop()
        self._opens_hit = True
        self.refresh()

    def _ask(self, signal: Any) -> None:
        if self.selected_id():
            signal.emit(self.selected_id())
        else:
            self._context.said.emit("Select a part in the table first.")

    def _chosen(self) -> dict[str, set[str]]:
        chosen: dict[str, set[str]] = {}
        for index in range(self.filters.topLevelItemCount()):
            group = self.filters.topLevelItem(index)
            for child in range(group.childCount()) if group else ():
                item = group.child(child) if group else None
                if item and item.checkState(0) == Qt.CheckState.Checked:
                    key, value = item.data(0, Qt.ItemDataRole.UserRole)
                    chosen.setdefault(key, set()).add(value)
        return chosen

    def _show_filters(self) -> None:
        chosen = self._chosen()
        self.filters.blockSignals(True)
        self.filters.clear()
        for title, key, value_of in self._groups:
            group = QTreeWidgetItem([title])
            group.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self.filters.addTopLevelItem(group)
            for value, number in sorted(Counter(value_of(r) for r in self._rows).items()):
                item = QTreeWidgetItem([value, str(number)])
                item.setToolTip(0, value)
                item.setTextAlignment(1, Qt.AlignmentFlag.AlignRight)
                item.setData(0, Qt.ItemDataRole.UserRole, (key, value))
                on = value in chosen.get(key, set())
                item.setCheckState(0, Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
                group.addChild(item)
            group.setExpanded(True)
        self.filters.blockSignals(False)

    def _filter(self) -> None:
        chosen = self._chosen()
        value_of = {key: function for _, key, function in self._groups}
        shown = [r for r in self._rows if all(value_of[key](r) in values for key, values in chosen.items())]
        before = self.selected_id()
        self.table.show_records(shown)
        self._count.setText(counted(len(shown), "part"))
        self.empty.setVisible(not shown)
        searching = bool(self.search.text() or chosen)
        self.empty.setText(
            "Nothing found. Try fewer letters or remove filters."
            if searching
            else "The library is empty. Press New part to create the first one."
        )
        if shown and before not in {r.id for r in shown}:
            self.table.select_where(lambda r: r.id == shown[0].id)
        if shown and self.table.currentIndex().row() < 0:
            self.table.setCurrentIndex(self.table.records.index(0, 0))
        if shown:
            self._show_card(self.table.record() or shown[0])

    def _show_card(self, record: PartRow) -> None:
        self._wanted_card = record.id
        library = self._library

        def work() -> PartCardView:
            bundle = library.load(record.id)
            users = library.index.users_of(bundle.footprint.id) if bundle.part.footprint.revision else []
            others = tuple(name for name in users if name != record.name)
            return part_card(record, bundle, library.history(record.id), others)

        def done(card: PartCardView) -> None:
            if self._wanted_card == record.id:
                self._fill_card(card)

        self._jobs.run("library", work, done)

    def _fill_card(self, card: PartCardView) -> None:
        self.card_name.setText(card.name)
        self.card_state.setText(card.state)
        self.card_description.setText(card.description)
        self.card_symbol.show_drawing(card.symbol)
        self.card_lands.show_drawing(card.lands)
        self.card_body.show_solids(card.solids)
        self.card_facts.setText(card.facts)
        self.card_more.setText(card.more)


def _groups(settings: LibrarySettings) -> tuple[Group, ...]:
    """The filters: title, key, and what a part counts under."""
    categories = {key: category.title for key, category in settings.categories.items()}
    families = {key: title for key, title, _ in family_titles()}
    return (
        ("Category", "category", lambda r: categories.get(r.category, r.category or "None")),
        ("State", "state", lambda r: r.state),
        ("Package family", "family", lambda r: families.get(r.family, r.family or "None")),
        ("Findings", "findings", lambda r: "Has findings" if r.blockers + r.cautions else "None"),
    )


def _columns() -> list[Column[PartRow]]:
    def fact(name: str) -> Column[PartRow]:
        return Column(name, lambda r: r.facts.get(name, ""))

    def findings(r: PartRow) -> str:
        words = [counted(n, w) for n, w in ((r.blockers, "blocker"), (r.cautions, "caution"), (r.notes, "note")) if n]
        return ", ".join(words)

    return [
        Column("Name", lambda r: r.name),
        Column("State", lambda r: r.state),
        Column("Rev.", lambda r: str(r.revision or ""), number=True),
        Column("Footprint", lambda r: r.package),
        Column("Description", lambda r: r.description),
        Column("Findings", findings),
        Column("Category", lambda r: r.category),
        Column("Released", lambda r: r.updated[:10]),
        fact("Manufacturer"),
        fact("Part number"),
        fact("Capacitance"),
        fact("Rated voltage"),
        fact("Tolerance"),
    ]
