"""The window: the frame round Shelf and parts."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import (
    QApplication,
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QMainWindow,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from eider.commands import new_parts
from eider.commands.evaluation import EvaluationRules
from eider.desktop.app.actions import Action, fill_menus
from eider.desktop.app.command_field import CommandField, CommandOffer
from eider.desktop.app.dialogs import DifferencesDialog, NameDialog
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import Jobs
from eider.desktop.part import export_job as exports
from eider.desktop.part.controller import PartController
from eider.desktop.part.part_page import PartPage
from eider.desktop.rulebook.rulebook_page import RulebookPage
from eider.desktop.settings import UNITS, DesktopSettings
from eider.desktop.shelf.shelf_page import Shelf
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import label
from eider.geometry.lengths import format_length
from eider.library import Library, open_library
from eider.library.index import PartRow
from eider.library.revision_compare import Difference
from eider.model.bundle import Bundle
from eider.services.exporting import documents_of
from eider.services.part_opening import begin_part, newest_differences, open_part_state
from eider.services.releasing import rules_for
from eider.services.tasks import BackgroundWork
from eider.views.part_state import PartState
from eider.views.step_registry import all_steps

# While work in the background makes parts, the Shelf shows them this often.
BACKGROUND_REFRESH_MS = 700


class MainWindow(QMainWindow):
    """One window with the Shelf and, above it, the part that is open."""

    library_opened = pyqtSignal(object)

    def __init__(self, library: Library, catalogue: str = "") -> None:
        super().__init__()
        self.library = library
        self.theme = Theme(DesktopSettings().appearance)
        self.jobs = Jobs(self)
        self.context = DesktopContext(self.theme, self.jobs, catalogue or library.settings.catalogue, self)
        self.context.said.connect(self.say)
        self.context.pointed.connect(self._point)
        self.context.released.connect(self._released)
        self.context.revision_asked.connect(self._open_revision)
        self.context.rulebook_asked.connect(self.open_rulebook)
        self.page: PartPage | None = None
        self.rules: RulebookPage | None = None
        self._stack = QStackedWidget()
        self.shelf = Shelf(library, self.context)
        self._stack.addWidget(self.shelf)
        central = QWidget()
        layout = QVBoxLayout(central)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._make_bar(central))
        layout.addWidget(self._stack, 1)
        self.setCentralWidget(central)
        self._make_status()
        self.actions_list = self._actions()
        fill_menus(self, self.actions_list)
        self.jobs.progressed.connect(self._show_progress)
        self.jobs.ended.connect(self._hide_progress)
        self.jobs.failed.connect(self.say)
        self.shelf.open_asked.connect(self.open_part)
        self.shelf.new_asked.connect(self.new_part)
        self.shelf.copy_asked.connect(self.copy_part)
        self.shelf.compare_asked.connect(self.compare_part)
        self.shelf.export_asked.connect(self.export_part)
        self.resize(1280, 800)
        self.setWindowTitle(f"{library.settings.name} – Eider")
        self.context.settings.remember_library(library.folder)
        self.shelf.search.setFocus()
        self.shelf.refresh()
        if library.read_only:
            self.say(f"read-only: {library.read_only}")

    def _make_bar(self, parent: QWidget) -> QFrame:
        bar = QFrame()
        bar.setObjectName("bar")
        layout = QHBoxLayout(bar)
        layout.setContentsMargins(10, 5, 10, 5)
        layout.addWidget(label(self.library.settings.name, "head"))
        self.field = CommandField(self._offers, self)
        self.field.setMaximumWidth(460)
        layout.addWidget(self.field, 1)
        layout.addStretch(1)
        person = self.library.person()
        layout.addWidget(label(f"{person.name}  ·  library on this machine", "soft"))
        return bar

    def _make_status(self) -> None:
        status = self.statusBar()
        self.message = label("", "soft")
        self._progress, self._cancel = QProgressBar(), QPushButton("Cancel")
        self._progress.setFixedWidth(160)
        self._progress.setMaximumHeight(16)
        self._cancel.clicked.connect(lambda _c: self.jobs.cancel())
        self._cursor = label("", "soft")
        self._cursor.setMinimumWidth(190)
        self._cursor.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.units = QComboBox()
        self.units.addItems(list(UNITS))
        self.units.setCurrentText(self.context.unit)
        self.units.setToolTip("unit in which lengths are shown")
        self.units.activated.connect(lambda _i: self.set_unit(self.units.currentText()))
        if status:
            status.addWidget(self.message, 1)
            for widget in (self._progress, self._cancel, self._cursor, label("Lengths in", "soft"), self.units):
                status.addPermanentWidget(widget)
        self._hide_progress()

    def _actions(self) -> list[Action]:
        def on_part() -> bool:
            return self.page is not None

        def go(index: int) -> None:
            if self.page:
                self.page.go_to(index)

        steps = [
            Action(f"step.{step.key}", "Step", step.title, f"Ctrl+{index + 1}", partial(go, index), on_part)
            for index, step in enumerate(all_steps().values())
        ]
        return [
            Action("library.new", "Library", "New part…", "Ctrl+N", self.new_part),
            Action("library.shelf", "Library", "Back to the Shelf", "Ctrl+Shift+L", self.close_part, on_part),
            Action("library.find", "Library", "Find a part, step or command", "Ctrl+K", self.field.open),
            Action("library.rulebook", "Library", "Rulebook…", "Ctrl+Shift+R", self.open_rulebook),
            Action("library.open", "Library", "Open…", "Ctrl+O", self.choose_library),
            *(
                Action(f"library.recent.{i}", "Library", f"Open {path}", "", partial(self.open_library, path))
                for i, path in enumerate(self.context.settings.recent_libraries)
                if path != self.library.folder
            ),
            Action("library.quit", "Library", "Quit", "Ctrl+Q", self.close),
            Action("edit.undo", "Edit", "Undo", "Ctrl+Z", self.undo, lambda: bool(self._session_label("undo"))),
            Action("edit.redo", "Edit", "Redo", "Ctrl+Shift+Z", self.redo, lambda: bool(self._session_label("redo"))),
            *steps,
            Action(
                "view.datasheet", "View", "Show the datasheet beside the step", "F4", self._toggle_datasheet, on_part
            ),
            Action("view.fit", "View", "Fit the active drawing (F in the drawing)", "", self._fit, on_part),
            Action("view.appearance", "View", "Light or dark appearance", "Ctrl+Shift+D", self.switch_appearance),
            *(
                Action(f"view.unit.{unit}", "View", f"Lengths in {unit}", "", partial(self.set_unit, unit))
                for unit in UNITS
            ),
        ]

    def say(self, text: str) -> None:
        """Tell the user something in the status line."""
        self.message.setText(text)
        self.message.setToolTip(text)

    def _point(self, x: float, y: float) -> None:
        unit = self.context.unit
        self._cursor.setText(f"x {format_length(x, unit)}   y {format_length(y, unit)}")

    def _show_progress(self, text: str, share: float) -> None:
        self._progress.setValue(round(100 * share))
        self._progress.show()
        self._cancel.show()
        self.say(text)

    def _hide_progress(self) -> None:
        self._progress.hide()
        self._cancel.hide()

    def set_unit(self, unit: str) -> None:
        """Show lengths in another unit."""
        self.context.settings.unit = unit
        self.units.setCurrentText(unit)
        if self.page:
            self.page.controller.set_unit(unit)

    def switch_appearance(self) -> None:
        """Light to dark, or back."""
        other = Theme("dark" if self.theme.name == "light" else "light")
        self.theme.name, self.theme.colours = other.name, other.colours
        self.context.settings.appearance = other.name
        application = QApplication.instance()
        if isinstance(application, QApplication):
            self.theme.apply(application)
        self.update()

    def open_rulebook(self, name: str = "") -> None:
        """The rulebook editor; a part that is open stays so below it."""
        if self.rules is None:
            self.rules = RulebookPage(self.library, self.context)
            self.rules.closed.connect(self.close_rulebook)
            self.rules.kept.connect(self._rules_kept)
            self._stack.addWidget(self.rules)
        self._stack.setCurrentWidget(self.rules)
        self.rules.open_rulebook(name or (self.page.controller.bundle.footprint.rulebook if self.page else ""))

    def close_rulebook(self) -> None:
        """Back to the part that is open, or to the Shelf."""
        rules, self.rules = self.rules, None
        if rules is not None:
            self._stack.removeWidget(rules)
            rules.deleteLater()
        self._stack.setCurrentWidget(self.page or self.shelf)

    def _rules_kept(self) -> None:
        """Another revision holds from now on: the part that is open is made anew by it."""
        if self.page:
            self.page.controller.rules_changed()

    def _session_label(self, which: str) -> str:
        if self.rules:
            return self.rules.draft.name
        session = self.page.controller.session if self.page else None
        return getattr(session, f"{which}_label") if session else ""

    def undo(self) -> None:
        """One step back, and say what was taken back."""
        what = self._session_label("undo")
        if self.rules:
            self.say("undone" if self.rules.undo() else "Nothing to undo")
        elif self.page and what:
            self.page.controller.undo()
            self.say(f"undone: {what}")

    def redo(self) -> None:
        """One step forward again."""
        what = self._session_label("redo")
        if self.rules:
            self.say("Redone" if self.rules.redo() else "Nothing to redo")
        elif self.page and what:
            self.page.controller.redo()
            self.say(f"Redone: {what}")

    def run_background(self, work: BackgroundWork) -> None:
        """Do long work beside the user's, and show on the Shelf what it makes."""
        timer = QTimer(self)
        timer.setInterval(BACKGROUND_REFRESH_MS)
        timer.timeout.connect(self.shelf.refresh)
        timer.start()

        def ended() -> None:
            timer.stop()
            self.shelf.refresh()

        def failed(fault: Exception) -> None:
            ended()
            self.say(str(fault))

        self.jobs.run_long("release", work.title, work.run, lambda _none: ended(), failed)

    def choose_library(self) -> None:
        """Ask for the folder of another library, and open it."""
        folder = QFileDialog.getExistingDirectory(self, "Open a library", str(self.library.folder.parent))
        if folder:
            self.open_library(Path(folder))

    def open_library(self, folder: Path) -> None:
        """Open another library in place of this one; where it cannot be opened, say why and stay."""
        self.close_part(refresh=False)
        self.jobs.after_saving(
            lambda: self.jobs.run(
                "library",
                lambda: open_library(folder),
                self.library_opened.emit,
                lambda fault: self.say(str(fault)),
            )
        )

    def _toggle_datasheet(self) -> None:
        if self.page:
            self.page.toggle_datasheet()

    def _fit(self) -> None:
        for view in self.page.current.findChildren(DrawingView) if self.page else ():
            view.fit()

    def _offers(self, text: str, show: Callable[[Sequence[CommandOffer]], None]) -> None:
        """What fits the text: steps and commands at once, parts from the index."""
        wanted = text.lower().strip()
        commands = [
            CommandOffer(a.title, f"{a.menu.lower()} {a.shortcut}".strip(), a.run)
            for a in self.actions_list
            if a.enabled() and all(word in f"{a.menu} {a.title}".lower() for word in wanted.split())
        ]

        def found(rows: list[PartRow]) -> None:
            parts = [
                CommandOffer(r.name, f"part, {r.description}"[:60], partial(self.open_part, r.id)) for r in rows[:8]
            ]
            show([*(commands[:5] if wanted and parts else commands), *parts])

        if wanted:
            self.jobs.run("library", lambda: self.library.search(text), found)
        else:
            show(commands)

    def new_part(self) -> None:
        """Ask for name and category, and open a new part."""

        settings = self.library.settings
        self._ask("New part", lambda name, category: new_parts.new_part(name, category, settings), category=True)

    def copy_part(self, part_id: str) -> None:
        """Begin a new part as a copy of one that is there."""

        def loaded(bundle: Bundle) -> None:
            title = f"Start from {bundle.part.name}"
            self._ask(title, lambda name, _category: new_parts.start_from_part(bundle, name), category=False)

        self.jobs.run("library", lambda: self.library.load(part_id), loaded)

    def _ask(self, title: str, make: Callable[[str, str], Bundle], *, category: bool) -> None:
        """Ask for the name of a new part, make it and open it; what is wrong with the name is told in the dialog."""
        self.dialog = dialog = NameDialog(title, self.library.settings, self, category=category)

        dialog.named.connect(
            lambda name, key: self.create_part(lambda: make(name, key), dialog.accept, dialog.show_fault)
        )
        dialog.open()

    def create_part(
        self, make: Callable[[], Bundle], then: Callable[[], object], refuse: Callable[[str], object]
    ) -> None:
        """Make a part and open it; `refuse` is told why it cannot be, for instance that its name is taken."""

        def done(state: PartState) -> None:
            then()
            self._show_part(state, is_new=True)

        def failed(fault: Exception) -> None:
            refuse(str(fault))

        self.jobs.run("library", lambda: begin_part(self.library, make), done, failed)

    def open_part(self, part_id: str) -> None:
        """Open a part as it is being worked on, or else its newest release."""

        def work() -> PartState:
            return open_part_state(self.library, self.library.load(part_id))

        self.jobs.after_saving(lambda: self.jobs.run("library", work, self._show_part))

    def _open_revision(self, part_id: str, revision: int) -> None:
        def work() -> PartState:
            return open_part_state(self.library, self.library.load_release(part_id, revision))

        self.jobs.run("library", work, partial(self._show_part, read_only=True))

    def _show_part(self, state: PartState, *, is_new: bool = False, read_only: bool = False) -> None:
        self.close_rulebook()
        self.close_part(refresh=False)
        locked = read_only or bool(self.library.read_only)
        unit = self.context.unit
        controller = PartController(self.library, state, self.jobs, read_only=locked, unit=unit, parent=self)
        if is_new:
            controller.session.is_saved = False
            controller.save()
        self.page = PartPage(controller, self.context)
        self.page.closed.connect(self.close_part)
        self._stack.addWidget(self.page)
        self._stack.setCurrentWidget(self.page)
        if read_only:
            self.page.go_to(len(all_steps()) - 1)
        self.say(f"{state.bundle.part.name} opened")

    def close_part(self, *, refresh: bool = True) -> None:
        """Back to the Shelf; what is not yet on disk is put there first."""
        self.close_rulebook()
        page, self.page = self.page, None
        if page is None:
            return
        page.controller.save()
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

        self.jobs.run("library", work, done)

    def compare_part(self, part_id: str) -> None:
        """Compare the newest revision of a part with the one before, or with what is being worked on."""

        def done(found: tuple[str, list[Difference]]) -> None:
            self.differences = DifferencesDialog(*found, self)
            self.differences.open()

        self.jobs.run("library", lambda: newest_differences(self.library, part_id), done)

    def export_part(self, part_id: str) -> None:
        """Export the newest release of a part into a folder that the user chooses."""
        folder = QFileDialog.getExistingDirectory(self, "Export into this folder")
        if folder:
            self.export_to(part_id, Path(folder))

    def export_to(self, part_id: str, folder: Path) -> None:
        """Export the newest release of a part; what is not released cannot be taken."""

        def load() -> tuple[Bundle, EvaluationRules, dict[str, str]]:
            bundle = self.library.load_release(part_id)
            return bundle, rules_for(self.library, bundle), documents_of(self.library, bundle)

        exports.run_export(self.jobs, "Exporting", load, folder, self.say)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.close_part(refresh=False)
        self.jobs.close()
        super().closeEvent(event)
