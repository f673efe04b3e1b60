"""The Shelf: the parts of the library, filters with counts, and a card of the one that is selected."""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from eider.bodies.solids.materials import materials_with
from eider.desktop.context import DesktopContext
from eider.desktop.shelf.shelf_panels import CardPanel, FilterTree
from eider.desktop.shelf.shelf_table import ShelfTable
from eider.desktop.widgets.layouts import button, column, growing, label, menu_button, panes, row
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_MATERIALS
from eider.library.documents.working_copies import damage_words
from eider.library.index.part_index import PartRow
from eider.services.parts.model_importing import read_model
from eider.services.tasks import Task
from eider.views.part_card import PartCardView, part_card
from eider.views.parts_list import MOST_LISTED, PartsList, parts_list

SEARCH_AFTER_MS = 60
# While a library is read for the first time, what was read so far is shown this often.
READING_REFRESH_MS = 1500


class Shelf(QWidget):
    """The first screen."""

    open_asked = pyqtSignal(str)
    new_asked = pyqtSignal()
    draft_asked = pyqtSignal()
    copy_asked = pyqtSignal(str)
    compare_asked = pyqtSignal(str)
    export_asked = pyqtSignal(str)
    release_asked = pyqtSignal(object)
    variant_asked = pyqtSignal(str)
    family_asked = pyqtSignal(object)
    withdraw_asked = pyqtSignal(object)
    impact_asked = pyqtSignal(object)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self.setObjectName("page")
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
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
        self.search.returnPressed.connect(self._open_hit)
        self._reading = QTimer(self)
        self._reading.setInterval(READING_REFRESH_MS)
        self._reading.timeout.connect(self.refresh)
        self.filters = FilterTree()
        self.filters.changed.connect(self.refresh)
        self.table = ShelfTable(library.settings, context)
        self.table.order_changed.connect(self.refresh)
        self.table.entered_record.connect(self._show_card)
        self.table.doubleClicked.connect(lambda _index: self._ask(self.open_asked))
        self._count = label("", "soft")
        self.empty = label("", "soft", wrap=True)
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        left = column(label("Filters", "head"), growing(self.filters))
        actions = row(
            button("New part", self.new_asked.emit, main=True),
            button("Start from this part", lambda: self._ask(self.copy_asked)),
            button("Open", lambda: self._ask(self.open_asked)),
            button("Compare", lambda: self._ask(self.compare_asked)),
            button("Release…", self._ask_release),
            button("Export", lambda: self._ask(self.export_asked)),
            menu_button(
                "More",
                {
                    "New part from a datasheet…": self.draft_asked.emit,
                    "New variant of this part…": lambda: self._ask(self.variant_asked),
                    "Family table of this part…": lambda: self._ask_record(self.family_asked),
                    "Where used…": lambda: self._ask_record(self.impact_asked),
                    "Withdraw this part…": lambda: self._ask_record(self.withdraw_asked),
                },
            ),
            1,
            self._count,
        )
        middle = column(self.search, growing(self.table), self.empty, actions)
        self.card = CardPanel(context, partial(read_model, library))
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(panes(left, middle, column(growing(self.card)), sizes=(214, 752, 304)))

    def begin(self) -> None:
        """Show all parts; a library that was never read on this machine is read with its progress shown."""

        def known(is_new: bool) -> None:
            if is_new:
                self._read_first()
            else:
                self.refresh()

        self._jobs.run("library", lambda: self._library.index.is_new, known)

    def _read_first(self) -> None:
        """Read the library in a lane of its own: what was read so far is found and opened meanwhile."""
        library = self._library

        def read(task: Task) -> None:
            library.read_first(lambda share: task.report(share, "for the first time"))

        def ended(_: Any) -> None:
            self._reading.stop()
            self.refresh()

        def failed(fault: Exception) -> None:
            # It is read on when something is looked for.
            self._reading.stop()
            self._context.said.emit(str(fault))

        self._reading.start()
        self._jobs.run_long("index", "Reading the library", read, ended, failed)

    def _tell_damage(self, found: list[Path]) -> None:
        if found:
            self._context.said.emit(damage_words(found))

    def refresh(self) -> None:
        """Search again; late answers to earlier searches are dropped."""
        self._asked += 1
        number, words, chosen, library = self._asked, self.search.text(), self.filters.chosen, self._library
        in_hand, order = self.selected_id(), self.table.order

        def work() -> PartsList:
            # In another order the first of all have to be known.
            hits = library.find_parts(words, chosen, None if order else MOST_LISTED)
            return parts_list(hits, chosen, library.settings, in_hand, order)

        def done(found: PartsList) -> None:
            if number == self._asked:
                self._show(found)

        self._jobs.run("library", work, done)

    def _show(self, found: PartsList) -> None:
        self.filters.show_groups(found.filters)
        self.table.show_records(found.rows)
        self._count.setText(found.count)
        self._show_empty(is_empty=not found.rows)
        if found.rows:
            self._take(found.in_hand)
        if self._opens_hit:
            self._opens_hit = False
            self._ask(self.open_asked)
        if not self._has_looked:
            # Working copies that cannot be read were put aside by this search; nobody would know.
            self._has_looked = True
            self._jobs.run("library", self._library.copies.damaged, self._tell_damage)

    def _show_empty(self, *, is_empty: bool) -> None:
        self.empty.setVisible(is_empty)
        if self._reading.isActive():
            self.empty.setText("The library is being read for the first time; its parts appear as they are read.")
        elif self.search.text() or self.filters.chosen:
            self.empty.setText("Nothing found. Try fewer letters or remove filters.")
        else:
            self.empty.setText("The library is empty. Press New part to create the first one.")

    def _take(self, index: int) -> None:
        """Take a row into hand, and show its card as it is now."""
        if index != self.table.currentIndex().row():
            self.table.select_rows([index])
        else:
            self._show_card(self.table.records.records[index])

    @property
    def shown(self) -> list[PartRow]:
        """The parts in the table."""
        return list(self.table.records.records)

    def selected_id(self) -> str:
        """The id of the selected part; empty without one."""
        record: PartRow | None = self.table.record()
        return record.id if record else ""

    def chosen_ids(self) -> list[str]:
        """The parts that are selected, or all that are listed where no more than one is."""
        selected = self.table.selected()
        return [record.id for record in (selected if len(selected) > 1 else self.table.records.records)]

    def select(self, part_id: str) -> None:
        """Select a part."""
        self.table.select_where(lambda r: r.id == part_id)

    def _ask_record(self, signal: Any) -> None:
        record = self.table.record()
        if record is not None:
            signal.emit(record)

    def _open_hit(self) -> None:
        """Open the selected part of what was found; the search may not have been made yet."""
        self._timer.stop()
        self._opens_hit = True
        self.refresh()

    def _ask(self, signal: Any) -> None:
        if self.selected_id():
            signal.emit(self.selected_id())
        else:
            self._context.said.emit("Select a part in the table first.")

    def _ask_release(self) -> None:
        selected = self.table.selected()
        ready = [record for record in selected if record.state in ("draft", "changed")]
        if ready:
            self.release_asked.emit(ready)
        elif selected:
            self._context.said.emit("Nothing to release: the selection is as it was released.")
        else:
            self._context.said.emit("Select a part in the table first.")

    def _show_card(self, record: PartRow) -> None:
        self._wanted_card = record.id
        library = self._library

        def work() -> PartCardView:
            bundle = library.load(record.id)
            users = library.index.users_of(bundle.footprint.id) if bundle.part.footprint.revision else []
            others = tuple(name for name in users if name != record.name)
            materials = materials_with(SHARED_MATERIALS.read_sound(library))
            return part_card(record, bundle, library.history(record.id), others, materials)

        def done(card: PartCardView) -> None:
            if self._wanted_card == record.id:
                self.card.show_card(card)

        self._jobs.run("library", work, done)
