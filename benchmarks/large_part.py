"""Measures one open part in the window: `large_part.py balls` (1,024 of them) or `large_part.py leads` (16)."""

import os
import statistics
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QEventLoop, QPointF, Qt, QTimer
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication

from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.parts.new_parts import new_part
from eider.demo.parts import converter_part
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.desktop.part.controller import PartController
from eider.desktop.part.step_views import StepViews
from eider.library import init_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.commit_reading import Person
from eider.library.store import Library
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.model.symbol import Pin
from eider.rulebooks import standard_rulebook
from eider.views.step_registry import all_steps

CHANGES, MOVES, UNDO_STEPS = 15, 200, 500


def balls(library: Library) -> Bundle:
    """A grid of 32 × 32 balls with a pin for each."""
    made = package_edits.set_family(new_part("GRID-1024", "ic", library.settings), "ball-grid")
    made = package_edits.set_pins(made, "1024")
    for key in ("rows", "columns"):
        made = package_edits.set_field(made, key, "32")
    given = {"D": "33.0±0.1", "E": "33.0±0.1", "e": "1.0", "b": "0.55–0.65", "A": "max 2.1", "A1": "0.4–0.6"}
    for letter, text in given.items():
        made = package_edits.set_dimension(made, letter, text)
    made = rerun_recipes(made, standard_rulebook())
    pattern = made.footprint.pattern
    assert pattern
    pins = tuple(Pin(pad.number, f"S{i}", type="bidirectional") for i, pad in enumerate(pattern.pads))
    return replace(made, symbol=replace(made.symbol, pins=pins))


def memory() -> float:
    """Resident memory of this process (MB)."""
    lines = Path("/proc/self/status").read_text().splitlines()
    return next(int(line.split()[1]) for line in lines if line.startswith("VmRSS")) / 1024


def percentile(times: list[float], share: float) -> float:
    """The time (ms) that this share of all times does not exceed."""
    return sorted(times)[min(int(len(times) * share), len(times) - 1)] * 1000


class Bench:
    """A window with one open part, and what is measured on it."""

    def __init__(self, package: str) -> None:
        self.application = make_application()
        folder = Path(tempfile.mkdtemp()) / "library"
        library = init_library(folder, "bench", Person("Skerry librarian", "librarian@skerry.example"))
        part = balls(library) if package == "balls" else converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
        library.copies.save(WorkingCopy(bundle=part, findings={}))
        # A length that moves every land: nothing of what is measured can be kept from before.
        self.letter, self.text = ("e", "0.{}") if package == "balls" else ("E", "6.20–6.{}")
        self.busy: list[float] = []
        self._time_answers()
        self.window = MainWindow(library)
        self.window.show()
        # Wakes the loops below that sleep until there is an event.
        self.waker = QTimer()
        self.waker.start(5)
        self.settle()
        self.window.open_part(part.part.id)
        self.settle()

    def _time_answers(self) -> None:
        """Note how long the Qt thread is busy with each answer."""
        whole, busy = StepViews._receive, self.busy

        def timed(views: StepViews, *answered: Any) -> None:
            begin = time.perf_counter()
            whole(views, *answered)
            busy.append(time.perf_counter() - begin)

        StepViews._receive = timed  # type: ignore[assignment,method-assign]

    @property
    def controller(self) -> PartController:
        """The open part's."""
        assert self.window.page
        return self.window.page.controller

    def settle(self) -> None:
        """Until nothing is being worked on."""
        end = time.monotonic() + 30
        while time.monotonic() < end:
            QApplication.processEvents()
            page = self.window.page
            if self.window.jobs.is_idle and (page is None or page.controller.is_settled):
                return
            time.sleep(0.001)
        raise TimeoutError("the window does not settle")

    def change(self, count: int) -> None:
        """A new pitch or span."""
        text = self.text.format((900 if self.letter == "e" else 50) + count % 40)
        self.controller.edit(self.letter, lambda b: package_edits.set_dimension(b, self.letter, text), f"bench {count}")

    def refresh(self, index: int) -> float:
        """Median time (ms) that the Qt thread is busy with one answer in a step: the longest that a change brings."""
        page = self.window.page
        assert page
        page.go_to(index)
        self.settle()
        longest = []
        for count in range(4):
            self.busy.clear()
            self.change(count)
            self.settle()
            longest.append(max(self.busy))
        return statistics.median(longest) * 1000

    def redrawn(self) -> list[float]:
        """Times (s) from a change in Lands to the drawing that shows it."""
        page = self.window.page
        assert page
        page.go_to(3)
        self.settle()
        view = page.current.view
        painted: list[tuple[float, object]] = []
        paint = view.paintEvent

        def paint_and_note(event: object) -> None:
            paint(event)
            painted.append((time.perf_counter(), view.scene))

        view.paintEvent = paint_and_note
        times = []
        for count in range(CHANGES):
            self.settle()
            painted.clear()
            scene = view.scene
            begin = time.perf_counter()
            self.change(count)
            # What counts is the first paint of a newer scene. The Qt thread sleeps between events, as it does for a
            # user: asking without end would take the interpreter away from the computing side.
            while not any(shown is not scene for _, shown in painted):
                QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
            times.append(next(at for at, shown in painted if shown is not scene) - begin)
        return times

    def moves(self) -> list[float]:
        """Times (s) of mouse moves over the lands."""
        page = self.window.page
        assert page
        view, times = page.current.view, []
        for count in range(MOVES):
            at = QPointF(20 + count * 1.5, 30 + count * 1.2)
            none = Qt.MouseButton.NoButton
            event = QMouseEvent(QEvent.Type.MouseMove, at, at, none, none, Qt.KeyboardModifier.NoModifier)
            begin = time.perf_counter()
            view.mouseMoveEvent(event)
            times.append(time.perf_counter() - begin)
        return times

    def undo_memory(self) -> float:
        """Memory (MB) that 500 steps of undo take."""
        self.settle()
        before = memory()
        for count in range(UNDO_STEPS):
            self.change(count)
            QApplication.processEvents()
        self.settle()
        return memory() - before


def main() -> None:
    """Print every figure."""
    bench = Bench(sys.argv[1])
    for index, key in enumerate(all_steps()):
        print(f"refresh of {key:8} {bench.refresh(index):6.1f} ms")
    times = bench.redrawn()
    print(f"redrawn median {percentile(times, 0.5):.0f} ms, 95th percentile {percentile(times, 0.95):.0f} ms")
    moves = bench.moves()
    print(f"mouse move median {percentile(moves, 0.5):.2f} ms, most {max(moves) * 1000:.2f} ms")
    print(f"undo of {UNDO_STEPS} steps {bench.undo_memory():.1f} MB")
    bench.window.close()


if __name__ == "__main__":
    main()
