"""The window: a dimension to its redrawn drawing, start to usable, memory."""

import subprocess
import sys
from pathlib import Path

import pytest
from pytest_benchmark.fixture import BenchmarkFixture

from eider.demo.build import build_library

START = """
import time
begin = time.perf_counter()
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.library import open_library
application = make_application()
window = MainWindow(open_library(Path(sys.argv[1])))
window.show()
while not (window.shelf.shown and window.shelf.card.lands.drawing):
    QTest.qWait(1)
print("usable", time.perf_counter() - begin)
for line in Path("/proc/self/status").read_text().splitlines():
    if line.startswith(("VmRSS", "VmHWM")):
        print(line)
part = next(r.id for r in window.shelf.shown if r.name == "NVK-1216T")
window.open_part(part)
while window.page is None or not window.jobs.is_idle:
    QTest.qWait(1)
window.page.go_to(int(sys.argv[2]))
step, controller = window.page.current, window.page.controller
from eider.commands.packages import package_edits
painted = []
view = step.top if sys.argv[2] == "2" else step.view
paint = view.paintEvent
def paint_and_note(event):
    paint(event)
    painted.append(time.perf_counter())
view.paintEvent = paint_and_note
times = []
for count in range(40):
    QTest.qWait(20)
    painted.clear()
    state = controller.state
    begin = time.perf_counter()
    controller.edit("D", lambda b: package_edits.set_dimension(b, "D", f"4.9–5.{10 + count}"), "bench")
    while controller.state is state or not painted:
        application.processEvents()
    times.append(painted[-1] - begin)
times.sort()
saves = []
for count in range(10):
    while not controller.session.is_saved:
        application.processEvents()
    begin = time.perf_counter()
    controller.edit("D", lambda b: package_edits.set_dimension(b, "D", f"4.8–5.{10 + count}"), "bench")
    while not controller.session.is_saved:
        application.processEvents()
    saves.append(time.perf_counter() - begin)
print("saved after", sorted(saves)[5], max(saves))
print("redrawn", times[len(times) // 2], times[-3])
for line in Path("/proc/self/status").read_text().splitlines():
    if line.startswith("VmRSS"):
        print(line)
window.close()
"""


@pytest.fixture(scope="module")
def library(tmp_path_factory: pytest.TempPathFactory) -> Path:
    made = build_library(tmp_path_factory.mktemp("demo"), finished=True)
    made.close()
    return made.folder


@pytest.mark.parametrize("step", ["2", "3"], ids=["package", "lands"])
def test_start_redraw_and_memory(benchmark: BenchmarkFixture, library: Path, step: str) -> None:
    """The figures of the process are printed: run with -s."""
    command = [sys.executable, "-c", START, str(library), step]
    result = benchmark.pedantic(
        lambda: subprocess.run(command, capture_output=True, text=True, timeout=120, check=True), rounds=1
    )
    print(f"\n{result.stdout}")
