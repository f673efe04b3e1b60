"""The deliveries that wait in the library: one is looked into, kept, or discarded."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from eider.desktop.jobs import OwnedJobs
from eider.desktop.widgets.layouts import button, fill_widget, label, row
from eider.library import Library
from eider.model.intake import IntakeMap
from eider.services.intake_mapping import known_sources
from eider.services.intake_waiting import Delivery, discard_delivery, keep_delivery, waiting_deliveries
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
        self.choice.setAccessibleName("What waits")
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
