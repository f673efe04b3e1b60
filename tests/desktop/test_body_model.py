"""Body with a maker's STEP file: brought in, placed by itself, nudged, compared, taken back."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_converter, open_step, press, settle, type_into, window_of
from eider.commands import body_edits, new_parts
from eider.demo.maker_models import CONVERTER, placed_model, step_of
from eider.desktop.app.window import MainWindow
from eider.desktop.part.body.step import BodyStep
from eider.desktop.part.part_page import PartPage
from eider.library.working_copies import WorkingCopy
from eider.services.releasing import release_part


@pytest.fixture
def page(make_window: MakeWindow, qtbot: QtBot, folder: Path) -> PartPage:
    return open_converter(qtbot, make_window, folder)


@pytest.fixture
def window(page: PartPage) -> MainWindow:
    return window_of(page)


@pytest.fixture
def step(page: PartPage, qtbot: QtBot, window: MainWindow, tmp_path: Path) -> BodyStep:
    """The step with the maker's file dropped on it."""
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    path = tmp_path / "NVK-1216T.step"
    path.write_bytes(step_of(CONVERTER))
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    nothing = Qt.KeyboardModifier.NoModifier
    made.dropEvent(QDropEvent(QPointF(9, 9), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, nothing))
    qtbot.waitUntil(lambda: page.controller.bundle.body.model is not None, timeout=20_000)
    settle(qtbot, window)
    return made


def test_a_file_dropped_on_the_step_is_placed_and_proved(step: BodyStep, page: PartPage, qtbot: QtBot) -> None:
    assert page.controller.bundle.body.model == placed_model(CONVERTER)
    assert "unit in, 18 solids" in step.panel.about.text() and "pin 1 found" in step.panel.about.text()
    rows = step.table.records.records
    assert all(row.agrees for row in rows)
    assert sum("inside its land by" in row.what for row in rows) == 16
    assert step.panel.choices.isHidden() and not step.panel.candidates
    assert not [f for f in page.controller.findings if f.check.startswith("body.")]
    qtbot.waitUntil(lambda: step.view.has_picture, timeout=20_000)


def test_a_nudge_is_measured_found_and_taken_back(
    step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    before = page.controller.bundle.body.model
    assert before
    field = step.panel.offsets[2]
    field.selectAll()
    qtbot.keyClicks(field, "-2.04")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: page.controller.bundle.body.model != before, timeout=10_000)
    settle(qtbot, window)
    model = page.controller.bundle.body.model
    assert model and model.measure.seating == pytest.approx(0.5) and model.chosen
    assert "body.seating" in {f.check for f in page.controller.findings}
    finding = next(f for f in page.controller.findings if f.check == "body.seating")
    page.controller.apply_quick_fix(finding)
    settle(qtbot, window)
    assert page.controller.bundle.body.model.measure.seating == 0  # type: ignore[union-attr]
    page.controller.undo()
    page.controller.undo()
    settle(qtbot, window)
    assert page.controller.bundle.body.model == before


def test_a_wrong_length_is_told_and_changes_nothing(
    step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    before, field = page.controller.bundle.body.model, step.panel.offsets[0]
    field.selectAll()
    qtbot.keyClicks(field, "left")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert "left" in window.status.message.text()
    assert page.controller.bundle.body.model == before


def test_turned_wrong_it_is_placed_again(step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot) -> None:
    press(qtbot, step.panel, "z")
    qtbot.waitUntil(lambda: page.controller.bundle.body.model.chosen, timeout=10_000)  # type: ignore[union-attr]
    settle(qtbot, window)
    assert not all(row.agrees for row in step.table.records.records)
    press(qtbot, step.panel, "Place again")
    qtbot.waitUntil(lambda: page.controller.bundle.body.model == placed_model(CONVERTER), timeout=10_000)
    settle(qtbot, window)
    assert all(row.agrees for row in step.table.records.records)


def test_it_is_compared_with_the_generated_body_and_given_up_for_it(
    step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    step._show.setCurrentIndex(2)
    step.choose()
    settle(qtbot, window)
    assert step.view._scene.compares
    step.panel.source.setCurrentIndex(0)
    step.panel.source.activated.emit(0)
    settle(qtbot, window)
    assert page.controller.bundle.body.model is None
    assert "Generated from the package sheet" in step.panel.about.text()
    assert step.panel.placing.isHidden()


def test_a_file_that_is_none_is_told(page: PartPage, window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    path = tmp_path / "bad.step"
    path.write_text("no STEP at all")
    made.panel.import_file(path)
    settle(qtbot, window)
    assert "bad.step is no STEP file" in window.status.message.text()
    assert page.controller.bundle.body.model is None


def test_a_body_is_composed_typed_and_taken_back(page: PartPage, window: MainWindow, qtbot: QtBot) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    made.panel.source.setCurrentIndex(2)
    made.panel.source.activated.emit(2)
    settle(qtbot, window)
    table = made.composed.table
    assert made.composed.isVisible()
    # D × E of the converter at the middle of their limits, A at its most.
    assert page.controller.bundle.body.result.bounds == ((-2.5, -3.2, 0.0), (2.5, 3.2, 1.2))  # type: ignore[union-attr]
    press(qtbot, made.composed, "Add a solid")
    settle(qtbot, window)
    type_into(qtbot, table, table.records.index(1, column_of(made, "z")), "Amax")
    settle(qtbot, window)
    assert page.controller.bundle.body.result.bounds[1][2] == 2.2  # type: ignore[union-attr]
    table.setCurrentIndex(table.records.index(1, 0))
    settle(qtbot, window)
    assert {solid.material for solid in made.view._scene.solids if solid.name == "solid 2"} == {"lit"}
    type_into(qtbot, table, table.records.index(1, column_of(made, "Length")), "D-")
    settle(qtbot, window)
    assert "solids, row 2 (solid 2)" in made.composed._fault.text()
    page.controller.undo()
    settle(qtbot, window)
    assert made.composed._fault.isHidden()
    press(qtbot, made.composed, "Copy row")
    settle(qtbot, window)
    assert [solid.name for solid in page.controller.bundle.body.composed] == ["body", "solid 2", "solid 2"]
    table.select_rows([1, 2])
    press(qtbot, made.composed, "Remove rows")
    settle(qtbot, window)
    assert [solid.name for solid in page.controller.bundle.body.composed] == ["body"]


def column_of(step: BodyStep, title: str) -> int:
    return next(i for i, entry in enumerate(step.composed.table.records.columns) if entry.title == title)


def test_the_library_offers_the_model_of_a_part_like_this(
    step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    library, bundle = window.library, page.controller.bundle
    window.jobs.wait_for("disk")
    release_part(library, bundle, "with the model")
    other = new_parts.start_from_part(body_edits.use_generated(bundle), "NVK-2")
    library.copies.save(WorkingCopy(bundle=other))
    window.close_part()
    window.open_part(other.part.id)
    qtbot.waitUntil(lambda: window.page is not None and window.page.controller.bundle.part.name == "NVK-2")
    assert window.page
    made = open_step(window.page, 4)
    assert isinstance(made, BodyStep)
    press(qtbot, made.panel, "From the library…")
    qtbot.waitUntil(lambda: made.panel.near is not None)
    dialog = made.panel.near
    assert dialog
    assert [(near.name, near.distance) for near in dialog.table.records.records] == [("NVK-1216T", 0.0)]
    dialog.take()
    qtbot.waitUntil(lambda: window.page.controller.bundle.body.model is not None)  # type: ignore[union-attr]
    settle(qtbot, window)
    assert window.page.controller.bundle.body.model == placed_model(CONVERTER)
