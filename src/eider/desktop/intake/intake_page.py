"""Intake: what arrived waits here, drawn and compared with the library; taken part by part, and nothing by itself."""

import tempfile
import threading
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QCheckBox, QComboBox, QFileDialog, QListWidget, QTabWidget, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.intake.arrived_part_panel import ArrivedPartPanel
from eider.desktop.intake.source_panel import SourcePanel
from eider.desktop.jobs import OwnedJobs
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.qt_values import dropped_files
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.model.intake import INTAKE_ITEMS, IntakeMap
from eider.model.wording import counted
from eider.services.intake.arrivals import Arrival, look_into
from eider.services.intake.intake_mapping import known_sources, learn_source, reading_hints
from eider.services.intake.intake_reading import IntakePart, chosen_parts, held_against
from eider.services.intake.intake_taking import IntakeTaken, TakingChoice, items_of, take_parts
from eider.services.intake.intake_waiting import Delivery, discard_delivery, keep_delivery, waiting_deliveries
from eider.services.tasks import Task


class Waiting(NamedTuple):
    """The deliveries that wait, and the maps that the library has learned, by source."""

    deliveries: tuple[Delivery, ...]
    sources: dict[str, IntakeMap]


class WaitingBar(QWidget):
    """`chosen` tells the delivery that is to be looked into; None where the last one was discarded."""

    chosen = pyqtSignal(object)

    def __init__(self, library: Library, jobs: OwnedJobs, say: Callable[[Exception], None]) -> None:
        super().__init__()
        self._library, self._jobs, self._say = library, jobs, say
        self.waiting = Waiting((), {})
        self.choice = QComboBox()
        self.choice.setAccessibleName("Pending deliveries")
        self.choice.setMinimumContentsLength(22)
        self.choice.activated.connect(self._open)
        self.discard = button("Discard", self._discard)
        fill_widget(self, row(label("Waiting", "soft"), self.choice, self.discard))
        self._show(self.waiting)
        jobs.run("imports", self._read, self._show_newest, say)

    def receive(self, paths: Sequence[Path]) -> None:
        """Keep files and folders in the library until they are discarded, and look into them."""

        def work(task: Task) -> tuple[Delivery, Waiting]:
            return keep_delivery(self._library, paths, "", task), self._read()

        def done(made: tuple[Delivery, Waiting]) -> None:
            self._show(made[1])
            self.choice.setCurrentIndex(self.choice.findData(made[0].id))
            self._open(self.choice.currentIndex())

        self._jobs.run_long("imports", "Keeping what arrived", work, done, self._say)

    def _read(self) -> Waiting:
        return Waiting(waiting_deliveries(self._library), known_sources(self._library))

    def _show(self, waiting: Waiting) -> None:
        self.waiting = waiting
        self.choice.clear()
        for delivery in waiting.deliveries:
            self.choice.addItem(delivery.title, delivery.id)
        self.choice.setEnabled(bool(waiting.deliveries))
        self.discard.setEnabled(bool(waiting.deliveries) and not self._library.read_only)

    def _show_newest(self, waiting: Waiting) -> None:
        self._show(waiting)
        if waiting.deliveries:
            self.choice.setCurrentIndex(len(waiting.deliveries) - 1)
            self._open(self.choice.currentIndex())

    def _open(self, index: int) -> None:
        if 0 <= index < len(self.waiting.deliveries):
            self.chosen.emit(self.waiting.deliveries[index])

    def _discard(self) -> None:
        index = self.choice.currentIndex()
        if not 0 <= index < len(self.waiting.deliveries):
            return
        delivery = self.waiting.deliveries[index]

        def work(_task: Task) -> Waiting:
            discard_delivery(self._library, delivery)
            return self._read()

        def done(waiting: Waiting) -> None:
            if not waiting.deliveries:
                self.chosen.emit(None)
            self._show_newest(waiting)

        self._jobs.run_long("imports", "Discarding", work, done, self._say)


class Looked(NamedTuple):
    """What arrived, its parts compared with the library, and what is not a part."""

    arrival: Arrival
    parts: tuple[IntakePart, ...]
    log: tuple[str, ...]


class IntakePage(SidePage):
    """Files and folders are chosen or dropped here; names and the category are the user's before anything is taken."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        # Archives are unpacked here. It goes with the page, beside the Qt thread.
        unpacked = tempfile.TemporaryDirectory(prefix="eider-intake-", ignore_cleanup_errors=True)
        self.destroyed.connect(lambda: threading.Thread(target=unpacked.cleanup).start())
        self._unpacked, self._rounds = Path(unpacked.name), 0
        self._paths: tuple[Path, ...] = ()
        self.looked: Looked | None = None
        self.setAcceptDrops(True)
        self.hint = label(
            "Drop files, folders or archives here, or choose them. Nothing is imported until you choose it.", wrap=True
        )
        self.source_panel = SourcePanel(library.settings, context.theme)
        self.source_panel.changed.connect(self._take_map)
        self.source_panel.source_chosen.connect(self._take_source)
        self.part_panel = ArrivedPartPanel(library, context, self.jobs)
        self.part_panel.correction_asked.connect(self._correct)
        self.part_panel.package_asked.connect(self._use_package)
        self.table = RecordView[IntakePart](
            [
                Column("Name", lambda p: p.name, self._rename, fault=lambda p: p.faults[0].words if p.faults else ""),
                Column("State", lambda p: p.state),
                Column("Contents", lambda p: ", ".join(p.found.kinds)),
                Column("Differs in", lambda p: str(len(p.differences) or ""), number=True),
                Column("From", lambda p: p.found.source),
            ],
            context.theme,
        )
        self.table.set_widths(190, 80, 190, 80)
        self.table.allow_sorting()
        self.table.entered_record.connect(self.part_panel.show_part)
        self.waiting_bar = WaitingBar(library, self.jobs, self._say)
        self.waiting_bar.chosen.connect(self._open_delivery)
        self._build()

    @property
    def mapping(self) -> IntakeMap:
        """What is said of the source."""
        return self.source_panel.mapping

    def _build(self) -> None:
        self.new_button = button("Import new parts", lambda: self.take(self._of_state("new")), main=True)
        self.take_button = button("Import selected", lambda: self.take(self.table.selected()))
        self.items = {item: QCheckBox(item.capitalize()) for item in INTAKE_ITEMS}
        for box in self.items.values():
            box.setChecked(True)
        self.share = QCheckBox("Reuse matching items")
        self.share.setChecked(True)
        self.share.setToolTip("Lands and symbols that the library has already are linked, and not copied.")
        self.log = QListWidget()
        self.log.setAccessibleName("Skipped")
        self.log.setWordWrap(True)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.part_panel, "This part")
        self.tabs.addTab(self.source_panel, "Source")
        self.tabs.addTab(self.log, "Left out")
        left = column(
            flow(
                button("← Shelf", self.closed.emit),
                label("Intake", "head"),
                button("Choose files…", lambda: self.receive(_chosen_files(self))),
                button("Choose a folder…", lambda: self.receive(_chosen_folder(self))),
                self.waiting_bar,
            ),
            self.hint,
            growing(self.table),
            flow(label("Take", "soft"), *self.items.values(), self.share),
            row(self.take_button, 1, self.new_button),
        )
        fill_widget(self, panes(left, self.tabs, sizes=(740, 520)))
        self._enable()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        data = event.mimeData() if event else None
        if event and data and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        self.receive(dropped_files(event))

    def receive(self, paths: Sequence[Path]) -> None:
        """Look into files and folders, if there are any; they wait in the library from now on where they can."""
        if paths and self.library.read_only:
            self.look(paths)
        elif paths:
            self.waiting_bar.receive(paths)

    def _open_delivery(self, delivery: Delivery | None) -> None:
        if delivery is None:
            self.show_looked(Looked(Arrival((), {}, ()), (), ()))
            return
        known = self.waiting_bar.waiting.sources
        self.source_panel.show_sources(sorted(known), delivery.source)
        if delivery.source in known:
            self.source_panel.show_map(known[delivery.source])
        self.look([Path(path) for path in delivery.paths])

    def look(self, paths: Sequence[Path]) -> None:
        """Read what is in files and folders, and hold it against the library."""
        self._rounds += 1
        self._paths = tuple(paths)
        mapping, unpacked = self.mapping, self._unpacked / str(self._rounds)

        def work(task: Task) -> Looked:
            arrival = look_into(paths, unpacked, task, reading_hints(mapping))
            return Looked(arrival, *held_against(self.library, arrival, mapping, task))

        self.jobs.run_long("imports", "Reading files", work, self.show_looked, self._say)

    def look_again(self) -> None:
        """Hold what arrived against the library as it is now, under the names that were given."""
        looked, mapping = self.looked, self.mapping
        if looked is None:
            return

        def work(task: Task) -> Looked:
            return Looked(looked.arrival, *held_against(self.library, looked.arrival, mapping, task))

        self.jobs.run_long("imports", "Comparing", work, self.show_looked, self._say)

    def show_looked(self, looked: Looked) -> None:
        """Parts with their states, and what was left out."""
        self.looked = looked
        counts = [(state, len(self._of_state(state))) for state in ("new", "differs", "renamed", "same")]
        states = ", ".join(f"{count} {state}" for state, count in counts if count)
        left = [*looked.arrival.log, *looked.log]
        told = f"{counted(len(looked.parts), 'part')}: {states}" if looked.parts else "No parts were found"
        self.hint.setText(f"{told}; {counted(len(left), 'thing')} left out" if left else told)
        self.log.clear()
        self.log.addItems(left)
        self.tabs.setTabText(2, f"Left out ({len(left)})" if left else "Left out")
        facts = sorted({name for part in looked.arrival.parts for name in part.facts})
        self.source_panel.show_found(looked.arrival.layers, facts)
        chosen = self.table.record()
        self.table.show_records(looked.parts)
        names = [part.came_as for part in looked.parts]
        again = names.index(chosen.came_as) if chosen is not None and chosen.came_as in names else 0
        self.table.select_rows([again] if looked.parts else [])
        # The row may be the one that it was, and the part in it another.
        self.part_panel.show_part(self.table.record() if looked.parts else None)
        if not looked.parts:
            self.tabs.setCurrentWidget(self.log if left else self.part_panel)
        self._enable()

    def _of_state(self, state: str) -> list[IntakePart]:
        return [part for part in self.looked.parts if part.state == state] if self.looked else []

    def _enable(self) -> None:
        can_write = not self.library.read_only
        self.new_button.setEnabled(can_write and bool(self._of_state("new")))
        self.take_button.setEnabled(can_write and bool(self.looked and self.looked.parts))

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _take_map(self, _mapping: IntakeMap, again: bool) -> None:
        if again:
            self.look(self._paths)
        else:
            self.look_again()

    def _take_source(self, name: str) -> None:
        """What the library has learned of another source."""
        known = self.waiting_bar.waiting.sources
        if name in known:
            self.source_panel.show_map(known[name])
            self.look(self._paths)

    def _with(self, **fields: object) -> None:
        """The map with other fields, and what arrived compared with the library by it."""
        self.source_panel.show_map(replace(self.mapping, **fields))
        self.look_again()

    def _rename(self, part: IntakePart, text: str) -> None:
        """Another name for what arrived, in all that follows."""
        if text.strip():
            self._with(names={**self.mapping.names, part.came_as: text.strip()})

    def _correct(self, name: str, correction: str) -> None:
        done = self.mapping.corrections.get(name, ())
        self._with(corrections={**self.mapping.corrections, name: (*done, correction)})

    def _use_package(self, name: str, of: str) -> None:
        others = {key: value for key, value in self.mapping.packages.items() if key != name}
        self._with(packages={**others, name: of} if of else others)

    def take(self, parts: Sequence[IntakePart]) -> None:
        """Make drafts, or next revisions, of parts; what the library has already is not taken again."""
        looked, mapping = self.looked, self.mapping
        wanted = chosen_parts(parts, [part.name for part in parts])
        if looked is None or not wanted:
            self.hint.setText("The library has all of this already.")
            return
        items = [item for item, box in self.items.items() if box.isChecked()]
        if not items:
            self.hint.setText("Choose which items to import.")
            return
        choice = TakingChoice(items_of(items), share=self.share.isChecked())
        source = self.source_panel.source.currentText().strip()

        def work(task: Task) -> IntakeTaken:
            done = take_parts(self.library, looked.arrival, wanted, task, mapping, choice)
            if source:
                learn_source(self.library, source, mapping)
            return done

        def done(taken: IntakeTaken) -> None:
            self.context.said.emit("; ".join([f"{counted(len(taken.taken), 'part')} taken", *taken.log[:3]]))
            self.kept.emit()
            self.look_again()

        self.jobs.run_long("imports", "Taking parts", work, done, self._say)


def _chosen_files(page: IntakePage) -> list[Path]:
    """The files that the user chooses; none where that was cancelled."""
    names, _filter = QFileDialog.getOpenFileNames(page, "Files with parts", str(page.library.folder.parent))
    return [Path(name) for name in names]


def _chosen_folder(page: IntakePage) -> list[Path]:
    name = QFileDialog.getExistingDirectory(page, "A folder with parts", str(page.library.folder.parent))
    return [Path(name)] if name else []
