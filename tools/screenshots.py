"""Makes docs/screenshots from the demo: `PYTHONPATH=src .venv/bin/python tools/screenshots.py`."""

import os
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from eider.model.address import DimensionAddress, PadAddress, PinAddress

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from foreign.scanned import scan_document
from PyQt6.QtTest import QTest
from two_packages import write_two_packages

from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.demo.build import build_library
from eider.demo.catalogue import demo_service
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.desktop.compare.compare_page import ComparePage
from eider.desktop.family.family_page import FamilyPage
from eider.desktop.health.health_page import HealthPage
from eider.desktop.part.part_page import PartPage
from eider.library import open_library
from eider.library.documents.attachments import DocumentKind
from eider.model.footprint import Adjustment
from eider.model.package_sheet import DatasheetPicture
from eider.views.step_registry import all_steps

OUT = Path(__file__).parent.parent / "docs" / "screenshots"


def wait(window: MainWindow, ready: Callable[[], bool] = lambda: True) -> None:
    """Until nothing is being worked on."""
    end = time.monotonic() + 90
    while time.monotonic() < end and not (window.jobs.is_idle and ready()):
        QTest.qWait(20)
    QTest.qWait(150)


def shoot(window: MainWindow, name: str) -> None:
    wait(window)
    window.grab().save(str(OUT / f"{name}.png"))


def shoot_step(window: MainWindow, page: PartPage, index: int) -> None:
    """One step, with something in hand."""
    page.go_to(index)
    key, step = list(all_steps())[index], page.current
    if key == "source":
        step.show_address(DimensionAddress("E"))
        wait(window, lambda: step.table.snippets.of(step.values.record().snippet) is not None)
        step.table._repaint()
    if key == "package":
        step.show_address(DimensionAddress("E1"))
    if key == "match":
        step.tabs.setCurrentWidget(step.pinout)
        step.pinout.over.setChecked(True)
        wait(window, lambda: step.pinout.drawing.figure is not None)
        step.show_address(PinAddress("12"))
    if key == "facts":
        wait(window, lambda: bool(step.suppliers.wanted.text()))
        step.suppliers.look_up()
        wait(window, lambda: len(step.suppliers.entries) > 0)
    if key == "body":
        wait(window, lambda: step.view.has_picture)
    if key == "review":
        wait(window, lambda: step.proof.page == 1)
    shoot(window, key)


def shoot_findings(window: MainWindow, page: PartPage) -> None:
    """A land made too short by hand, with its findings on the drawing and in the joint view."""
    page.go_to(3)
    page.current._tabs.setCurrentIndex(1)
    page.controller.edit("x", lambda b: footprint_edits.adjust_pad(b, Adjustment("3", "width", "0.9")))
    wait(window, lambda: len(page.controller.findings) > 0)
    page.current.show_address(PadAddress("3"))
    shoot(window, "findings")
    page.current._tabs.setCurrentWidget(page.current.joint_yield)
    wait(window, lambda: len(page.current.joint_yield.table.records.records) > 0)
    shoot(window, "joint-yield")
    page.current._tabs.setCurrentIndex(1)
    page.controller.undo()
    wait(window)


def shoot_capture(window: MainWindow, page: PartPage) -> None:
    """A table captured, with its letters; then the outline laid over the datasheet's drawing."""
    page.go_to(2)
    page.toggle_datasheet()
    wait(window, lambda: page.datasheet.page > 0)
    page.capturing._boxed(3, (58.0, 230.0, 205.0, 395.0))
    wait(window, lambda: bool(page.capture_panel.letters))
    page.datasheet.show_box(3, (60.0, 350.0, 200.0, 360.0))
    page.capture_panel.dimensions.select_where(lambda r: r.letter == "H")
    shoot(window, "capture")
    page.capture_panel.close_panel()
    picture = DatasheetPicture(page.capturing.document, 3, (80.0, 530.0, 500.0, 745.0))
    page.controller.edit("picture", lambda b: package_edits.add_picture(b, picture))
    step = page.current
    step.right.setCurrentIndex(1)
    page.toggle_datasheet()
    wait(window, lambda: step.pictures.view._image is not None)
    step.pictures.find_button.click()
    wait(window, lambda: page.controller.bundle.sheet.pictures[-1].scale is not None)
    shoot(window, "overlay")
    page.controller.undo()
    page.controller.undo()
    step.right.setCurrentIndex(0)
    wait(window)


def shoot_draft(window: MainWindow) -> None:
    """The packages of a datasheet as a choice; then a scan, its readings to be confirmed beside their cut-outs."""
    folder = Path(tempfile.mkdtemp())
    write_two_packages(folder / "NVK-4GT.pdf")
    window.close_part()
    window.drafting.read_through(folder / "NVK-4GT.pdf")
    dialog = window.drafting.dialog
    assert dialog
    wait(window, lambda: dialog.packages.count() == 2)
    dialog.packages.setCurrentRow(1)
    wait(window)
    dialog.grab().save(str(OUT / "draft.png"))
    dialog.reject()
    demo = next(
        link for row in window.library.search("NVK-3301Q") for link in window.library.load(row.id).part.datasheets
    )
    scan_document(window.library.attachments.path(DocumentKind.DATASHEET, demo.sha256), folder / "NVK-3301Q.pdf", 1)
    window.drafting.read_through(folder / "NVK-3301Q.pdf", name="NVK-3301Q-SCAN")
    scanned = window.drafting.dialog
    assert scanned
    wait(window, lambda: scanned.act.isEnabled())
    scanned.act.click()
    wait(window, lambda: window.page is not None)
    assert window.page
    panel = window.page.current.confirming
    wait(window, lambda: len(panel.table.records.records) > 0)
    panel.table.select_where(lambda row: row.doubt.address == "sheet.dims.e")
    wait(window, lambda: panel.large.isVisible())
    shoot(window, "confirm")


def shoot_rulebook(window: MainWindow) -> None:
    """Two goals changed, and what that would do to the library."""
    window.side.open_rulebook("standard")
    rules = window.side.rules
    assert rules
    wait(window, lambda: rules.affected.effects is not None)
    rules.affected.effects = None
    rules._change("goals.0.outer.1", "0.40")
    wait(window, lambda: rules.affected.effects is not None)
    rules.table.select_where(lambda row: "goals.0.outer.1" in row.paths)
    shoot(window, "rulebook")
    window.side.close()


def shoot_family(window: MainWindow) -> None:
    """The connectors of the demo, the length of one changed in its row."""
    window.side.open_families()
    page = window.side.page
    assert isinstance(page, FamilyPage)
    wait(window, lambda: bool(page.table.rows))
    page.open_table("OHC-125")
    wait(window, lambda: page.plan is not None and page.plan.table.name == "OHC-125")
    page.rows.put({(2, "C"): "8.60 max"})
    wait(window, lambda: page.plan is not None and page.plan.count("changed") == 1)
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(2, 2))
    shoot(window, "family")
    window.side.close()


def shoot_compare(window: MainWindow) -> None:
    """Two sizes of a capacitor over each other."""
    window.close_part()
    wait(window)
    names = {row.name: row.id for row in window.library.search("LYN-C")}
    window.side.open_comparison(names["LYN-C1608-100N"])
    page = window.side.page
    assert isinstance(page, ComparePage)
    wait(window, lambda: bool(page.states["left"]))
    page.other.setText("LYN-C2012-100N")
    page.other.returnPressed.emit()
    wait(window, lambda: page.found is not None)
    shoot(window, "compare")
    window.side.close()


def shoot_health(window: MainWindow) -> None:
    """The health of the demo, with the items that are in it twice."""
    window.side.open_health()
    page = window.side.page
    assert isinstance(page, HealthPage)
    wait(window, lambda: page.health is not None)
    page.table.select_where(lambda r: r.group == "Duplicates")
    shoot(window, "health")
    window.side.close()


def main() -> None:
    OUT.mkdir(exist_ok=True)
    library = build_library(Path(tempfile.mkdtemp()), finished=True)
    library.close()
    application, service = make_application(), demo_service()
    window = MainWindow(open_library(library.folder), service.address)
    # The offscreen screen is smaller than the window is meant to be.
    window.resize(1280, 800)
    window.show()
    wait(window, lambda: len(window.shelf.shown) > 0)
    window.shelf.select(next(row.id for row in window.shelf.shown if row.name == "NVK-1216T"))
    wait(window, lambda: window.shelf.card.body.has_picture)
    shoot(window, "shelf")
    window.open_part(window.shelf.selected_id())
    wait(window, lambda: window.page is not None)
    assert window.page
    for index in range(len(all_steps())):
        shoot_step(window, window.page, index)
    shoot_findings(window, window.page)
    shoot_capture(window, window.page)
    shoot_draft(window)
    shoot_rulebook(window)
    shoot_family(window)
    shoot_compare(window)
    shoot_health(window)
    window.discard_unsaved()
    window.close()
    service.close()
    application.quit()


if __name__ == "__main__":
    main()
