"""The datasheet pane, the 3D view, the tables and the field at the top, each alone."""

from collections.abc import Iterator, Sequence
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from desktop_helpers import document_at, wheel
from eider.bodies.pictures.body_camera import Camera
from eider.bodies.pictures.body_scene import BodyScene
from eider.bodies.solids.body_solids import body_solids
from eider.desktop.app.command_field import CommandField, CommandOffer
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.body_picture import TOP, BodyPicture
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.primitives import Area, Disc, Drawing, Line, Plain, Text
from eider.errors import EiderError
from eider.model.address import PadAddress
from eider.model.package_sheet import PackageSheet
from eider.services.tasks import Task


@pytest.fixture
def jobs(qtbot: QtBot, kernel) -> Iterator[Jobs]:  # type: ignore[no-untyped-def]
    made = Jobs()
    made._executors["kernel"] = kernel
    yield made
    qtbot.waitUntil(lambda: made.is_idle, timeout=20_000)
    made.close()


def test_pages_turn_and_zoom_and_hits_go_round(qtbot: QtBot, jobs: Jobs, prepared: Path) -> None:
    view = DatasheetView(Theme(), jobs)
    qtbot.addWidget(view)
    view.resize(500, 600)
    view.show()
    view.open(document_at(prepared / "NVK-1216T.pdf"))
    area = view.area
    qtbot.waitUntil(lambda: area.source.frame(1, 0) is not None, timeout=5000)
    assert (view.page, view._pages.maximum()) == (1, 4)
    fitted = area.page_rect(1).width()
    assert abs(fitted - area.viewport().width()) < 40
    area.zoom(2.0)
    assert area.page_rect(1).width() == pytest.approx(2 * fitted)
    area.fit_width()
    assert abs(area.page_rect(1).width() - fitted) < 40
    view.search.find_text("AGND")
    qtbot.waitUntil(lambda: view.search.hits >= 3, timeout=5000)
    first = view.page
    for _ in range(view.search.hits):
        view.search.search()
    assert view.page == first
    assert view.search.count.text() == f"1 of {view.search.hits}"
    view.search.find_text("unheard-of")
    qtbot.waitUntil(lambda: view.search.count.text() == "not found", timeout=5000)
    view.show_nothing("")


def test_a_locked_or_missing_document_says_so_in_its_place(qtbot: QtBot, jobs: Jobs, tmp_path: Path) -> None:
    view = DatasheetView(Theme(), jobs)
    qtbot.addWidget(view)
    view.open(document_at(tmp_path / "gone.pdf"))
    qtbot.waitUntil(lambda: "no longer exists" in view.area.hint, timeout=5000)
    assert view.page == 0
    view.search.find_text("x")
    view.area.zoom(2.0)


def test_the_body_is_turned_zoomed_and_replaced(qtbot: QtBot, jobs: Jobs, so8: PackageSheet) -> None:
    view = BodyPicture(Theme(), jobs, "")
    qtbot.addWidget(view)
    view.resize(220, 180)
    view.show()
    view.show_scene(BodyScene(body_solids(so8)))
    qtbot.waitUntil(lambda: view.has_picture, timeout=20_000)

    def changed(action) -> bool:  # type: ignore[no-untyped-def]
        before = view._image.copy()
        action()
        qtbot.waitUntil(lambda: jobs.is_idle, timeout=10_000)
        return view._image != before

    assert changed(lambda: view.look_from(TOP))
    assert changed(lambda: qtbot.keyClick(view, Qt.Key.Key_Up)) is False
    assert changed(lambda: qtbot.keyClick(view, Qt.Key.Key_Down))
    assert changed(lambda: view.wheelEvent(wheel(view, 2)))
    assert changed(lambda: view.resize(260, 180))
    view.show_scene(BodyScene())
    assert not view.has_picture


@pytest.fixture(autouse=True)
def application(qapp: QApplication) -> QApplication:
    """Fonts and pictures need one."""
    return qapp


def painted(items: list[Line | Area | Disc | Text], scale: float = 0.1) -> QImage:
    image = QImage(100, 100, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    painter = QPainter(image)
    ScenePainter(painter, scale, (0.0, 0.0), (100.0, 100.0), "light").paint(items)
    painter.end()
    return image


def test_primitives_are_painted_where_they_are_with_y_up() -> None:
    image = painted([Area(((1.0, 1.0), (3.0, 1.0), (3.0, 3.0), (1.0, 3.0)), "copper")])
    # 0.1 mm a pixel, the origin in the middle: (2, 2) mm is 20 right and 20 up.
    assert image.pixelColor(70, 30).name().upper() == "#D08B4C"
    assert image.pixelColor(70, 70).name() == "#ffffff"


def test_real_ink_has_its_width_and_texts_their_height() -> None:
    image = painted([Line(((-4.0, 0.0), (4.0, 0.0)), "silkscreen", width=1.0)])
    dark = [y for y in range(100) if image.pixelColor(50, y).lightness() < 120]
    assert 9 <= len(dark) <= 11
    text = painted([Text((0.0, 0.0), "HHH", 2.0, "note")])
    rows = [y for y in range(100) if any(text.pixelColor(x, y).lightness() < 120 for x in range(100))]
    assert 19 <= len(rows) <= 22


def test_pan_and_keys_of_a_drawing(qtbot: QtBot) -> None:
    view = DrawingView(Theme(), "nothing yet")
    qtbot.addWidget(view)
    view.resize(200, 200)
    view.show()
    view.grab()
    view.show_drawing(Drawing((Area(((0, 0), (4, 0), (4, 4), (0, 4)), "copper", PadAddress("1")),), (0, 0, 4, 4)))
    assert view.address_at(view.to_view((2, 2))) == PadAddress("1")
    assert view.address_at(QPointF(1, 1)) is None
    before = view.to_mm(QPointF(100, 100))
    qtbot.mousePress(view, Qt.MouseButton.MiddleButton, pos=QPoint(100, 100))
    qtbot.mouseMove(view, QPoint(140, 100))
    qtbot.mouseRelease(view, Qt.MouseButton.MiddleButton)
    moved = view.to_mm(QPointF(140, 100))
    assert moved == pytest.approx(before, abs=2 * view.scale)
    qtbot.keyPress(view, Qt.Key.Key_Space)
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(140, 100))
    qtbot.mouseMove(view, QPoint(140, 130))
    qtbot.keyRelease(view, Qt.Key.Key_Space)
    qtbot.mouseMove(view, QPoint(140, 170))
    assert view.to_mm(QPointF(140, 130)) == pytest.approx(before, abs=2 * view.scale)
    scale = view.scale
    qtbot.keyClick(view, Qt.Key.Key_Plus)
    assert view.scale < scale
    view.wheelEvent(wheel(view, -1))
    qtbot.keyClick(view, Qt.Key.Key_Left)
    qtbot.keyClick(view, Qt.Key.Key_F)
    assert view.to_mm(QPointF(100, 100)) == pytest.approx((2.0, 2.0), abs=0.05)


def test_the_field_offers_goes_down_and_takes(qtbot: QtBot) -> None:
    done: list[str] = []
    offers = [CommandOffer(name, "step", lambda n=name: done.append(n)) for name in ("Lands", "Body", "Match")]
    window = QWidget()
    qtbot.addWidget(window)
    field = CommandField(lambda text, show: show([o for o in offers if text.lower() in o.title.lower()]), window)
    window.show()
    window.activateWindow()
    qtbot.waitUntil(lambda: window.isActiveWindow())
    field.open()
    assert field.list.count() == 3
    qtbot.keyClick(field, Qt.Key.Key_Down)
    qtbot.keyClick(field, Qt.Key.Key_Down)
    qtbot.keyClick(field, Qt.Key.Key_Down)
    qtbot.keyClick(field, Qt.Key.Key_Up)
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert done == ["Match"]
    field.open()
    qtbot.keyClicks(field, "zzz")
    assert field.list.item(0).text() == "Nothing with that name"
    qtbot.keyClick(field, Qt.Key.Key_Return)
    field.open()
    qtbot.keyClick(field, Qt.Key.Key_Escape)
    assert not field.list.isVisible()
    assert done == ["Match"]


def test_a_table_is_a_sound_model(qtbot: QtBot, qtmodeltester) -> None:  # type: ignore[no-untyped-def]
    values = {"a": "1", "b": "2"}
    view = RecordView(
        [
            Column("Name", lambda k: k),
            Column(
                "Value",
                lambda k: values[k],
                lambda k, text: values.update({k: text}),
                number=True,
                fault=lambda k: "negative" if values[k].startswith("-") else "",
            ),
        ],
        Theme(),
    )
    qtbot.addWidget(view)
    view.show_records(["a", "b"])
    qtmodeltester.check(view.records)
    view.records.setData(view.records.index(0, 1), "-5")
    assert values["a"] == "-5"
    assert view.records.index(0, 1).data(Qt.ItemDataRole.ToolTipRole) == "negative"
    assert not view.records.setData(view.records.index(0, 0), "x")
    assert view.records.headerData(1, Qt.Orientation.Horizontal) == "Value"
    view.select_where(lambda k: k == "b")
    assert view.record() == "b"
    view.show_records(["b"])
    assert view.records.rowCount() == 1


def test_jobs_come_back_in_the_window_thread_and_drop_what_is_gone(qtbot: QtBot, jobs: Jobs) -> None:
    from PyQt6 import sip
    from PyQt6.QtCore import QThread

    seen: list[object] = []
    jobs.run("compute", lambda: 7, lambda answer: seen.append((answer, QThread.currentThread() is jobs.thread())))
    qtbot.waitUntil(lambda: bool(seen))
    assert seen == [(7, True)]
    owner = QWidget()
    owned = jobs.owned(owner)
    owned.run("compute", lambda: 8, seen.append)
    sip.delete(owner)
    qtbot.waitUntil(lambda: jobs.is_idle)
    assert len(seen) == 1


def test_long_work_reports_fails_and_is_cancelled(qtbot: QtBot, jobs: Jobs) -> None:
    told: list[str] = []
    jobs.progressed.connect(lambda text, share: told.append(f"{text} {share:.1f}"))
    jobs.failed.connect(told.append)

    def work(task: Task) -> None:
        task.report(0.5, "half way")
        raise EiderError("the disk is full")

    jobs.run_long("library", "Releasing", work, lambda _: None)
    qtbot.waitUntil(lambda: "the disk is full" in told)
    assert "Releasing: half way 0.5" in told


def test_the_body_is_moved_zoomed_at_the_pointer_and_cut_open(jobs: Jobs, qtbot: QtBot, so8: PackageSheet) -> None:
    view = BodyPicture(Theme(), jobs, "")
    qtbot.addWidget(view)
    view.resize(300, 200)
    view.show()
    view.show_scene(BodyScene(body_solids(so8)))
    qtbot.waitUntil(lambda: view.has_picture and jobs.is_idle, timeout=20_000)
    # What lies under the pointer stays there: from (1, 0) of half the picture the middle moves away.
    view.look(view.camera.zoomed(2.0, (1.0, 0.0)))
    assert (view.camera.zoom, view.camera.pan) == (2.0, (-1.0, 0.0))
    view.look(view.camera.zoomed(0.5, (1.0, 0.0)))
    assert view.camera.pan == (0.0, 0.0)
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(view, Qt.Key.Key_Plus)
    assert view.camera.pan[0] == pytest.approx(0.12) and view.camera.zoom == pytest.approx(1.2)
    qtbot.keyClick(view, Qt.Key.Key_2)
    assert view.camera == Camera(*TOP)
    qtbot.waitUntil(lambda: jobs.is_idle)
    whole = view.grab().toImage()
    view.look(replace(view.camera, section=0.5))
    qtbot.waitUntil(lambda: jobs.is_idle)
    # Seen from above, the right half is gone: its place is as empty as the corner.
    half = view.grab().toImage()
    assert half.pixelColor(170, 100) == half.pixelColor(2, 2) != whole.pixelColor(170, 100)
    assert half.pixelColor(120, 100) == whole.pixelColor(120, 100)


def _painted(items: Sequence[Plain]) -> npt.NDArray[np.float64]:
    """The greys of a picture of 200 × 200 pixels, ten of them to a millimetre."""
    picture = QImage(200, 200, QImage.Format.Format_Grayscale8)
    picture.fill(255)
    painter = QPainter(picture)
    ScenePainter(painter, 0.1, (0.0, 0.0), (200.0, 200.0), "light").paint(items)
    painter.end()
    bits = picture.constBits()
    assert bits
    return np.frombuffer(bits.asstring(200 * 200), np.uint8).reshape(200, 200).astype(float)


def test_copied_discs_lie_where_single_ones_do(qapp: QApplication) -> None:
    discs = [Disc((0.987 * (i % 8) - 3.4, 1.013 * (i // 8) - 3.6), 0.31, "copper") for i in range(64)]
    copied = _painted(discs)
    single = np.minimum.reduce([_painted([disc]) for disc in discs])
    assert np.abs(copied - single).mean() < 1.0
    rows, columns = np.mgrid[0:200, 0:200]
    for disc in (discs[0], discs[27], discs[63]):
        x, y = 100 + disc.centre[0] * 10, 100 - disc.centre[1] * 10
        near = (np.hypot(columns + 0.5 - x, rows + 0.5 - y) < 5) * (255 - copied)
        # A copy is at most an eighth of a pixel beside its place.
        assert ((columns + 0.5) * near).sum() / near.sum() == pytest.approx(x, abs=0.15)
        assert ((rows + 0.5) * near).sum() / near.sum() == pytest.approx(y, abs=0.15)


def test_upright_rectangles_are_painted_as_polygons_are(qapp: QApplication) -> None:
    upright = Area(((-3.0, -1.0), (2.0, -1.0), (2.0, 4.0), (-3.0, 4.0)), "copper")
    # The same form with a fifth corner goes the way of polygons.
    polygon = Area(((-3.0, -1.0), (-0.5, -1.0), (2.0, -1.0), (2.0, 4.0), (-3.0, 4.0)), "copper")
    assert np.abs(_painted([upright]) - _painted([polygon])).max() <= 2
