"""Body with a maker's STEP file: brought in, placed by itself, nudged, compared, taken back."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_converter, open_step, press, settle, type_into, window_of
from eider.bodies.kernel.picked_items import PickedItem
from eider.bodies.placement.model_measure import placement_of
from eider.bodies.placement.model_placement import moved_place
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.solids.materials import look_of
from eider.bodies.step_files.step_writer import step_file
from eider.commands.parts import body_edits, new_parts
from eider.demo.maker_models import CONVERTER, placed_model, step_of
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.body.step import BodyStep
from eider.desktop.part.steps.match.step import MatchStep
from eider.desktop.widgets.body_picture import BOTTOM, TOP, BodyPicture
from eider.geometry.solids import Prism, Shape
from eider.library.documents.shared_tables import SHARED_COMPOSITIONS, SHARED_MATERIALS
from eider.library.documents.working_copies import WorkingCopy
from eider.model.pattern import Pattern
from eider.packages.orientation import terminals_on
from eider.services.releasing.part_releasing import release_part


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
    assert step.view.scene.compares
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
    assert "bad.step is not a STEP file" in window.status.message.text()
    assert page.controller.bundle.body.model is None


def compose(page: PartPage, window: MainWindow, qtbot: QtBot) -> BodyStep:
    """The step Body with a composed body begun."""
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    made.panel.source.setCurrentIndex(2)
    made.panel.source.activated.emit(2)
    settle(qtbot, window)
    return made


def test_a_body_is_composed_typed_and_taken_back(page: PartPage, window: MainWindow, qtbot: QtBot) -> None:
    made = compose(page, window, qtbot)
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
    assert {solid.look for solid in made.view.scene.solids if solid.name == "solid 2"} == {look_of("lit")}
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
    assert dialog.share.isEnabled()
    dialog.take()
    qtbot.waitUntil(lambda: window.page.controller.bundle.body.model is not None)  # type: ignore[union-attr]
    settle(qtbot, window)
    assert window.page.controller.bundle.body.model == placed_model(CONVERTER)
    press(qtbot, made.panel, "From the library…")
    qtbot.waitUntil(lambda: made.panel.near is not dialog)
    again = made.panel.near
    assert again
    press(qtbot, again, "Share it")
    settle(qtbot, window)
    first = library.load_release(bundle.part.id)
    assert window.page.controller.bundle.part.body == first.part.body
    assert "also used by NVK-1216T" in made.strip._text.text()
    # The first part goes on: its next revision is offered here.
    release_part(library, body_edits.set_material(first, "body", "ferrite"), "of ferrite")
    made.strip._asked = None
    made.strip.refresh()
    settle(qtbot, window)
    assert "Revision 2 of this body" in made.strip._newer_text.text()
    press(qtbot, made.strip, "Use the newer revision")
    settle(qtbot, window)
    assert window.page.controller.bundle.body.materials == {"body": "ferrite"}


def show_item(view: BodyPicture, qtbot: QtBot, at: tuple[float, float, float]) -> None:
    """Click the place of the picture at which a place of the scene is seen."""
    framing = view.framing
    assert framing
    ((x, y),) = framing.in_picture(view.camera, np.array([at])).tolist()
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))


def pick(step: BodyStep, qtbot: QtBot, at: tuple[float, float, float]) -> PickedItem:
    before = step.picks.items
    qtbot.waitUntil(lambda: step.view.has_picture and step.context.jobs.is_idle, timeout=20_000)
    show_item(step.view, qtbot, at)
    qtbot.waitUntil(lambda: step.picks.items != before, timeout=20_000)
    qtbot.waitUntil(lambda: step.context.jobs.is_idle, timeout=20_000)
    return step.picks.items[-1]


def test_a_lead_that_is_picked_tells_its_pad_and_pin_and_is_lit_in_match(
    page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    made.view.look_from(TOP)
    third = next(t for t in terminals_on(page.controller.bundle.sheet, pattern_of(page)) if t.number == "3")
    middle = (third.foot[0] + third.foot[2]) / 2, (third.foot[1] + third.foot[3]) / 2
    lead = pick(made, qtbot, (*middle, 0.1))
    assert lead.solid == "lead" and lead.is_flat
    assert "terminal 3, pad 3, pin 3 " in made.picks.said.text()
    assert [mark.colour for mark in made.view._marks] == ["blue", "accent"]
    press(qtbot, made.picks, "Show in Match")
    settle(qtbot, window)
    match = page.current
    assert isinstance(match, MatchStep) and match._lit_pins == {"3"}


def test_two_faces_give_their_distance_and_escape_clears(page: PartPage, window: MainWindow, qtbot: QtBot) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    made.view.look_from(TOP)
    top = pick(made, qtbot, (0.5, 0.0, 1.2))
    board = pick(made, qtbot, (0.0, 3.05, -0.035))
    assert (top.solid, board.solid) == ("body", "board")
    # The body is 1.2 mm high, the board lies under copper of 0.035 mm.
    assert made.picks.gap and made.picks.gap.least == pytest.approx(1.235)
    assert made.picks.said.text().startswith("1.235 mm apart")
    assert made.picks.as_seating.isHidden() and made.picks.in_match.isHidden()
    qtbot.keyClick(made.view, Qt.Key.Key_Escape)
    assert made.picks.items == () and made.view._marks == ()
    made.view.look_from((0.0, 0.0))
    qtbot.waitUntil(lambda: window.jobs.is_idle)
    qtbot.keyClick(made.view, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: len(made.picks.items) == 1, timeout=10_000)
    made.see_through.setChecked(True)
    made.section.setValue(40)
    assert made.view.camera.see_through and made.view.camera.section == 0.4


def test_a_model_is_placed_by_a_face_and_by_a_point(
    step: BodyStep, page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    before = page.controller.bundle.body.model
    assert before
    wrong = body_edits.moved_model(body_edits.turned_model(before, 0), 0, 4.0)
    step.panel._use(wrong, "Lay it on its side")
    settle(qtbot, window)
    # It lies on its side now; the feet, which looked down, look along +y.
    step.view.look_from((180.0, 0.0))
    feet = step.view.scene.model
    assert feet
    foot = before.measure.terminals[0].box
    down = moved_place(((foot[0] + foot[2]) / 2, (foot[1] + foot[3]) / 2, 0.0), placement_of(before), feet.placement)
    face = pick(step, qtbot, down)
    assert face.is_flat and face.direction == pytest.approx((0.0, 1.0, 0.0), abs=1e-9)
    press(qtbot, step.picks, "Use as seating plane")
    qtbot.waitUntil(lambda: page.controller.bundle.body.model != wrong, timeout=10_000)
    settle(qtbot, window)
    model = page.controller.bundle.body.model
    assert model and model.rotation == before.rotation and model.measure.seating == pytest.approx(0.0, abs=1e-6)
    step.view.look_from(BOTTOM)
    step._show.setCurrentIndex(1)
    step.choose()
    settle(qtbot, window)
    shifted = moved_place(
        ((foot[0] + foot[2]) / 2, (foot[1] + foot[3]) / 2, 0.0), placement_of(before), placement_of(model)
    )
    pick(step, qtbot, shifted)
    press(qtbot, step.picks, "Use as terminal 1")
    qtbot.waitUntil(lambda: page.controller.bundle.body.model != model, timeout=10_000)
    settle(qtbot, window)
    placed = page.controller.bundle.body.model
    assert placed and placed.offset == pytest.approx(before.offset, abs=0.01)
    assert len(placed.measure.terminals) == 16 and placed.chosen


def pattern_of(page: PartPage) -> Pattern:
    pattern = page.controller.bundle.footprint.pattern
    assert pattern
    return pattern


def test_ways_that_fit_equally_well_are_shown_as_pictures(
    page: PartPage, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    path = tmp_path / "plain.step"
    solids = body_solids(page.controller.bundle.sheet)
    plain = tuple(replace(s, cuts=(), shape=pocketless(s.shape)) for s in solids if s.name != "pin 1 mark")
    path.write_bytes(step_file(plain, "plain"))
    made.panel.import_file(path)
    qtbot.waitUntil(lambda: len(made.panel.candidates) == 2, timeout=20_000)
    settle(qtbot, window)
    items = [made.panel.choices.item(index) for index in range(2)]
    assert [item.text()[:2] for item in items if item] == ["1:", "2:"]
    assert all(item and not item.icon().isNull() for item in items)
    second = items[1]
    assert second
    made.panel.choices.setCurrentItem(second)
    made.panel.choices.itemClicked.emit(second)
    settle(qtbot, window)
    model = page.controller.bundle.body.model
    assert model and model.chosen and model.rotation == made.panel.candidates[1].rotation


def pocketless(shape: Shape) -> Shape:
    return replace(shape, pockets=()) if isinstance(shape, Prism) else shape


def test_a_composition_is_saved_to_the_library_and_used_again(page: PartPage, window: MainWindow, qtbot: QtBot) -> None:
    made = compose(page, window, qtbot)
    rows = page.controller.bundle.body.composed
    saved = made.composed.saved
    press(qtbot, saved, "Save to library")
    settle(qtbot, window)
    assert "give the composition a name" in window.status.message.text()
    saved.name.setText("block")
    press(qtbot, saved, "Save to library")
    settle(qtbot, window)
    assert SHARED_COMPOSITIONS.read(window.library) == {"block": rows}
    press(qtbot, made.composed, "Add a solid")
    settle(qtbot, window)
    saved.choices.setCurrentText("block")
    saved.choices.activated.emit(saved.choices.currentIndex())
    settle(qtbot, window)
    assert page.controller.bundle.body.composed == rows
    assert page.controller.session.undo_label == "Use composition block"


def test_a_material_changed_in_the_library_colours_the_open_body(
    page: PartPage, window: MainWindow, qtbot: QtBot
) -> None:
    made = open_step(page, 4)
    assert isinstance(made, BodyStep)
    settle(qtbot, window)
    press(qtbot, made.materials, "Materials of the library…")
    dialog = window.tasks.materials
    assert dialog
    settle(qtbot, window)
    table = dialog.table.records
    first = next(i for i, (name, _) in enumerate(table.records) if name == "mould compound")
    table.setData(table.index(first, 1), "reddish")
    assert "reddish is not a colour" in dialog._fault.text()
    table.setData(table.index(first, 1), "#0a5A28")
    dialog.new_name.setText("resin")
    press(qtbot, dialog, "Add")
    press(qtbot, dialog, "Save")
    settle(qtbot, window)
    kept = SHARED_MATERIALS.read(window.library)
    assert {name: material.colour for name, material in kept.items()} == {
        "mould compound": "#0A5A28",
        "resin": "#999999",
    }
    (body,) = [solid for solid in made.view.scene.solids if solid.name == "body"]
    assert body.look.colour == pytest.approx((0x0A / 255, 0x5A / 255, 0x28 / 255))
    # One side of it of the new material.
    rows = made.materials.table.records
    rows.setData(rows.index(0, 2), "resin")
    settle(qtbot, window)
    assert page.controller.bundle.body.materials == {"body/top": "resin"}
    (body,) = [solid for solid in made.view.scene.solids if solid.name == "body"]
    assert [side for side, _ in body.sides] == ["top"]
    rows.setData(rows.index(0, 2), "")
    settle(qtbot, window)
    assert page.controller.bundle.body.materials == {}
