"""The window: the frame around Shelf and parts."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import cast

from PyQt6.QtCore import QSize, QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QMainWindow,
    QStackedWidget,
)

from eider.desktop.app.actions import fill_menus
from eider.desktop.app.command_field import CommandField, CommandOffer
from eider.desktop.app.dialogs import UnsavedDialog
from eider.desktop.app.draft_task import DraftTask
from eider.desktop.app.part_tasks import PartTasks
from eider.desktop.app.sharing_tasks import SharingTasks
from eider.desktop.app.side_pages import SidePages, UndoSteps
from eider.desktop.app.status_line import SharedStateLabel, StatusLine
from eider.desktop.app.window_actions import window_actions
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import Jobs
from eider.desktop.part.controller import PartController
from eider.desktop.part.part_page import PartPage, import_steps
from eider.desktop.settings import DesktopSettings
from eider.desktop.shelf.shelf_page import Shelf
from eider.desktop.theme import Theme
from eider.desktop.widgets.elided_label import ElidedLabel
from eider.desktop.widgets.layouts import column, growing
from eider.library import Library, open_library
from eider.library.index.part_index import PartRow
from eider.library.sharing.review_refs import StoredReview
from eider.services.parts.part_opening import open_part_state
from eider.services.tasks import BackgroundWork
from eider.views.part_state import PartState
from eider.views.step_registry import all_steps

# While work in the background makes parts, the Shelf shows them this often.
BACKGROUND_REFRESH_MS = 700
WANTED = QSize(1280, 800)
# What a desktop draws around a window: its title above, borders beside.
FRAME = QSize(4, 40)


class MainWindow(QMainWindow):
    """One window with the Shelf and, above it, the part that is open."""

    library_opened = pyqtSignal(object)

    def __init__(self, library: Library, catalogue: str = "") -> None:
        super().__init__()
        self.library = library
        self.theme = Theme(DesktopSettings().appearance)
        self.jobs = Jobs(self)
        self.context = DesktopContext(self.theme, self.jobs, catalogue or library.settings.catalogue, self)
        self.context.released.connect(self._released)
        self.context.revision_asked.connect(self._open_revision)
        self.page: PartPage | None = None
        # Set once the user has said that unsaved changes of pages are not wanted.
        self._discards = False
        self._stack = QStackedWidget()
        self.side = SidePages(library, self.context, self._stack, lambda: self.page or self.shelf)
        self.context.rulebook_asked.connect(self.side.open_rulebook)
        self.sharing = SharingTasks(library, self.context, self)
        self.steps = UndoSteps(self.side, lambda: self.page.controller if self.page else None, self.say)
        self.shelf = Shelf(library, self.context)
        self.tasks = PartTasks(library, self.context, self)
        self.drafting = DraftTask(library, self.context, self.tasks, self)
        self._stack.addWidget(self.shelf)
        self.setCentralWidget(column(self._make_bar(), growing(self._stack), margins=0, spacing=0))
        self.status = StatusLine(self.context)
        self.status.units.activated.connect(lambda _i: self.set_unit(self.status.units.currentText()))
        self.setStatusBar(self.status)
        self.actions_list = window_actions(self)
        fill_menus(self, self.actions_list)
        _connect(self)
        self.theme.style_window(self)
        fit_screen(self)
        self.setWindowTitle(f"{library.settings.name} – Eider")
        self.context.settings.remember_library(library.folder)
        self.shelf.search.setFocus()
        self.shelf.begin()
        self.jobs.run("imports", import_steps)
        self.sharing.begin()
        if library.read_only:
            self.say(f"read-only: {library.read_only}")

    def _make_bar(self) -> QFrame:
        bar = QFrame()
        bar.setObjectName("bar")
        layout = QHBoxLayout(bar)
        layout.setContentsMargins(10, 5, 10, 5)
        layout.addWidget(ElidedLabel(self.library.settings.name, "head"))
        self.field = CommandField(partial(command_offers, self), self)
        self.field.setMaximumWidth(460)
        layout.addWidget(self.field, 1)
        layout.addStretch(1)
        person = self.context.person = self.library.person()
        layout.addWidget(ElidedLabel(f"{person.name}  ·", "soft"))
        self.shared_state = SharedStateLabel()
        layout.addWidget(self.shared_state)
        return bar

    def _shared_changed(self) -> None:
        """Parts came from the server, or claims are others."""
        self.shelf.refresh()
        if self.page:
            self.page.show_claims()

    def say(self, text: str) -> None:
        """Tell the user something in the status line."""
        self.status.say(text)

    def has_open_part(self) -> bool:
        """Whether a part is open."""
        return self.page is not None

    def set_unit(self, unit: str) -> None:
        """Show lengths in another unit."""
        self.context.settings.unit = unit
        self.status.units.setCurrentText(unit)
        if self.page:
            self.page.controller.views.set_unit(unit)

    def switch_appearance(self) -> None:
        """Light to dark, or back."""
        other = Theme("dark" if self.theme.name == "light" else "light")
        self.theme.name, self.theme.colours = other.name, other.colours
        self.context.settings.appearance = other.name
        self.theme.apply(cast(QApplication, QApplication.instance()))
        self.theme.style_window(self)
        self.update()

    def _rules_kept(self) -> None:
        """Rules or materials were saved: a part that is open is made again by them."""
        if self.page:
            self.page.controller.views.read_rules()

    def choose_library(self) -> None:
        """Ask for the folder of another library, and open it."""
        folder = QFileDialog.getExistingDirectory(self, "Open a library", str(self.library.folder.parent))
        if folder:
            self.open_library(Path(folder))

    def open_library(self, folder: Path) -> None:
        """Open another library in place of this one; where it cannot be opened, say why and stay."""
        self._leave(lambda: self._open_library(folder), "Discard and open")

    def discard_unsaved(self) -> None:
        """What is not saved on pages is not wanted: the window can be closed."""
        self._discards = True

    def _leave(self, then: Callable[[], object], discard: str) -> None:
        """Go on with what ends this window; where changes are not saved, only once the user discards them."""
        unsaved = self.side.unsaved()
        if not unsaved or self._discards:
            then()
            return
        self.unsaved_dialog = dialog = UnsavedDialog(unsaved, discard, self)
        dialog.discarded.connect(self.discard_unsaved)
        dialog.discarded.connect(then)
        dialog.open()

    def _open_library(self, folder: Path) -> None:
        self.close_part(refresh=False)
        self.jobs.after_saving(
            lambda: self.jobs.run(
                "library",
                lambda: open_library(folder),
                self.library_opened.emit,
                lambda fault: self.say(str(fault)),
            )
        )

    def open_part(self, part_id: str) -> None:
        """Open a part as it is being worked on, or else its newest release."""

        def work() -> PartState:
            return open_part_state(self.library, self.library.load(part_id))

        self.jobs.after_saving(lambda: self.jobs.run("library", work, self._show_part))

    def _open_revision(self, part_id: str, revision: int) -> None:
        def work() -> PartState:
            return open_part_state(self.library, self.library.load_release(part_id, revision))

        self.jobs.run("library", work, partial(self._show_part, read_only=True))

    def open_review(self, stored: StoredReview) -> None:
        """Open the working copy that someone wants to have reviewed; nothing of it is put on this disk."""

        def work() -> PartState:
            return open_part_state(self.library, stored.copy.bundle)

        self.jobs.run("library", work, partial(self._show_part, reviewing=stored))

    def _show_part(
        self,
        state: PartState,
        *,
        is_new: bool = False,
        read_only: bool = False,
        reviewing: StoredReview | None = None,
    ) -> None:
        self.side.close()
        self.close_part(refresh=False)
        locked = read_only or bool(self.library.read_only)
        unit = self.context.unit
        controller = PartController(
            self.library, state, self.jobs, read_only=locked, unit=unit, reviewing=reviewing, parent=self
        )
        if is_new:
            controller.session.is_saved = False
            controller.saver.save()
        self.page = PartPage(controller, self.context)
        self.page.closed.connect(self.close_part)
        self._stack.addWidget(self.page)
        self._stack.setCurrentWidget(self.page)
        if read_only or reviewing is not None:
            self.page.go_to(len(all_steps()) - 1)
        self.say(f"{state.bundle.part.name} opened")

    def close_part(self, *, refresh: bool = True) -> None:
        """Back to the Shelf; what is not yet on disk is put there first."""
        self.side.close()
        page, self.page = self.page, None
        if page is None:
            return
        page.controller.saver.save()
        page.close_documents()
        self._stack.removeWidget(page)
        page.deleteLater()
        page.controller.deleteLater()
        if refresh:
            self.jobs.after_saving(self.shelf.refresh)

    def _released(self, part_id: str, revision: int) -> None:
        def work() -> PartState:
            return open_part_state(self.library, self.library.load_release(part_id))

        def done(made: PartState) -> None:
            if self.page:
                self.page.controller.session.is_saved = True
            self._show_part(made)
            if self.page:
                self.page.go_to(len(all_steps()) - 1)
            self.shelf.refresh()
            self.say(f"{made.bundle.part.name} released as revision {revision}")
            self.tasks.publish_released()

        self.jobs.run("library", work, done)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None and self.side.unsaved() and not self._discards:
            event.ignore()
            self._leave(self.close, "Discard and quit")
            return
        self.close_part(refresh=False)
        self.jobs.close()
        super().closeEvent(event)


def fit_screen(window: MainWindow) -> None:
    """As large as the window is meant to be, or as the screen allows with the window's own frame."""
    screen = window.screen()
    room = screen.availableSize() - FRAME if screen else WANTED
    window.resize(WANTED.boundedTo(room).expandedTo(window.minimumSizeHint()))


def command_offers(window: MainWindow, text: str, show: Callable[[Sequence[CommandOffer]], None]) -> None:
    """What fits the text: steps and commands at once, parts from the index."""
    wanted = text.lower().strip()
    commands = [
        CommandOffer(a.title, f"{a.menu.lower()} {a.shortcut}".strip(), a.run)
        for a in window.actions_list
        if a.enabled() and all(word in f"{a.menu} {a.title}".lower() for word in wanted.split())
    ]

    def found(rows: Sequence[PartRow]) -> None:
        parts = [CommandOffer(r.name, f"part, {r.description}"[:60], partial(window.open_part, r.id)) for r in rows]
        show([*(commands[:5] if wanted and parts else commands), *parts])

    if wanted:
        window.jobs.run("library", lambda: window.library.find_parts(text, limit=8).rows, found)
    else:
        show(commands)


def run_background(window: MainWindow, work: BackgroundWork) -> None:
    """Do long work beside the user's, and show on the Shelf what it makes."""
    timer = QTimer(window)
    timer.setInterval(BACKGROUND_REFRESH_MS)
    timer.timeout.connect(window.shelf.refresh)
    timer.start()

    def ended() -> None:
        timer.stop()
        window.shelf.refresh()

    def failed(fault: Exception) -> None:
        ended()
        window.say(str(fault))

    window.jobs.run_long("release", work.title, work.run, lambda _none: ended(), failed)


def _connect(window: MainWindow) -> None:
    """What the parts of the window ask for goes to those that do it."""
    shelf, tasks = window.shelf, window.tasks
    window.sharing.changed.connect(window._shared_changed)
    window.sharing.state_changed.connect(window.shared_state.show_state)
    window.sharing.review_asked.connect(window.open_review)
    window.sharing.opened.connect(window.open_library)
    window.sharing.compare_asked.connect(window.side.open_comparison)
    shelf.open_asked.connect(window.open_part)
    shelf.new_asked.connect(tasks.new_part)
    shelf.draft_asked.connect(window.drafting.choose)
    window.context.variant_asked.connect(window.drafting.draft_variant)
    shelf.copy_asked.connect(tasks.copy_part)
    shelf.compare_asked.connect(window.side.open_comparison)
    shelf.variant_asked.connect(tasks.new_variant)
    shelf.family_asked.connect(window.side.open_families)
    shelf.withdraw_asked.connect(tasks.withdraw_part)
    shelf.impact_asked.connect(window.side.open_impact)
    shelf.export_asked.connect(tasks.export_part)
    shelf.release_asked.connect(tasks.release_together)
    tasks.begun.connect(partial(window._show_part, is_new=True))
    tasks.changed.connect(shelf.refresh)
    tasks.rules_kept.connect(window._rules_kept)
    window.side.rules_kept.connect(window._rules_kept)
    window.side.facts_kept.connect(shelf.refresh)
    window.side.part_asked.connect(window.open_part)
