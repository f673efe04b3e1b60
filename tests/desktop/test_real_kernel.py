"""Every step with the CAD kernel in its own process: what goes there and comes back survives the way."""

from pathlib import Path

from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_capacitor, open_step, settle
from eider.views.step_registry import all_steps


def test_every_step_works_with_the_kernel_in_its_process(make_window: MakeWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window = make_window(real_kernel=True)
    faults: list[str] = []
    window.jobs.failed.connect(faults.append)
    page = open_capacitor(qtbot, window, "1608")
    for index, key in enumerate(all_steps()):
        step = open_step(page, index)
        assert step.key == key
        if key == "body":
            qtbot.waitUntil(lambda step=step: step.view.has_picture, timeout=30_000)
        if key == "review":
            qtbot.waitUntil(lambda step=step: step.proof.page == 1, timeout=30_000)
            step.export(tmp_path)
        settle(qtbot, window)
        # The same step once more with a changed part: nothing of the first answer is taken for the second.
        page.controller.views.set_unit("mil" if index % 2 else "mm")
        settle(qtbot, window)
    assert faults == []
    (step_file,) = tmp_path.glob("*.step")
    assert step_file.read_text().startswith("ISO-10303-21;")
