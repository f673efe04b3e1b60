"""What the window does with parts that are not open: begin one, release and export some."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import EvaluationRules
from eider.commands.parts.start_from import facts_that_differ, name_with_facts, start_with_facts, text_of_fact
from eider.commands.parts.variants import KINDS, VariantKind, new_variant
from eider.desktop.app.dialogs import NameDialog, ReleaseDialog, StartFromDialog, WithdrawDialog
from eider.desktop.app.settings_dialogs import MaterialsDialog, PeopleDialog, PublishDialog, run_publish
from eider.desktop.context import DesktopContext
from eider.desktop.part import export_job as exports
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.git.housekeeping import keep_house
from eider.library.index.part_index import PartRow
from eider.library.releases.release_commit import Released
from eider.model.bundle import Bundle
from eider.model.wording import counted
from eider.services.parts.part_opening import begin_part
from eider.services.parts.part_rules import rules_for
from eider.services.publishing.exporting import documents_of
from eider.services.releasing.part_releasing import release_parts
from eider.services.releasing.withdrawing import reinstate_part, withdraw_part
from eider.services.tasks import Task
from eider.views.part_state import PartState


class PartTasks(QObject):
    """Asks what has to be asked and does the work elsewhere.

    Signals:
        begun: a new part, which is to be opened.
        changed: parts of the library, or what they look like, were saved.
        rules_kept: what open parts are made by was saved.
    """

    begun = pyqtSignal(object)
    changed = pyqtSignal()
    rules_kept = pyqtSignal()

    def __init__(self, library: Library, context: DesktopContext, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._context, self._window = library, context, window
        self.dialog: NameDialog | None = None
        self.start_dialog: StartFromDialog | None = None
        self.withdraw_dialog: WithdrawDialog | None = None
        self.release_dialog: ReleaseDialog | None = None
        self.materials: MaterialsDialog | None = None
        self.people: PeopleDialog | None = None
        self.publish_dialog: PublishDialog | None = None
        context.materials_asked.connect(self.edit_materials)

    def new_part(self) -> None:
        """Ask for name and category, and begin a part."""
        settings = self._library.settings
        self._ask("New part", lambda name, category: new_parts.new_part(name, category, settings))

    def copy_part(self, part_id: str) -> None:
        """Begin a new part as a copy of one that is there."""
        library, settings = self._library, self._library.settings

        def make(bundle: Bundle, name: str, facts: Mapping[str, str], _kind: str) -> Bundle:
            return start_with_facts(bundle, name, facts, settings, library.person().name, utc_now())

        self._begin_from("Start from", lambda: library.load(part_id), make)

    def new_variant(self, part_id: str) -> None:
        """Begin a variant of a part: another orderable number, or another package; it shares what is the same."""
        library, settings = self._library, self._library.settings

        def make(bundle: Bundle, name: str, facts: Mapping[str, str], kind: str) -> Bundle:
            which: VariantKind = "package" if kind == "package" else "number"
            return new_variant(bundle, which, name, facts, settings, library.person().name, utc_now())

        self._begin_from("New variant of", lambda: library.load(part_id), make, KINDS)

    def withdraw_part(self, part: PartRow) -> None:
        """Ask why and for a successor, and withdraw a part; one that is withdrawn is used again."""
        library, is_back = self._library, part.state == "withdrawn"
        self.withdraw_dialog = dialog = WithdrawDialog(part.name, self._window, is_back=is_back)

        def done(released: Released) -> None:
            dialog.accept()
            self._context.said.emit(
                f"{part.name} is {'used again' if is_back else 'withdrawn'}, revision {released.revision}"
            )
            self.changed.emit()
            self.publish_released()

        def asked(reason: str, successor: str) -> None:
            def work() -> Released:
                if is_back:
                    return reinstate_part(library, part.id, reason)
                return withdraw_part(library, part.id, reason, successor)

            self._context.jobs.run("release", work, done, lambda fault: dialog.show_fault(str(fault)))

        dialog.asked.connect(asked)
        dialog.open()

    def _begin_from(
        self,
        title: str,
        load: Callable[[], Bundle],
        make: Callable[[Bundle, str, Mapping[str, str], str], Bundle],
        kinds: Mapping[VariantKind, str] | None = None,
    ) -> None:
        """Ask in what the new part differs from one that is there, and begin it."""
        settings = self._library.settings

        def ask(bundle: Bundle) -> None:

            offered = {fact: text_of_fact(bundle, fact) for fact in facts_that_differ(bundle, settings)}
            self.start_dialog = dialog = StartFromDialog(
                f"{title} {bundle.part.name}",
                offered,
                lambda facts: name_with_facts(bundle, facts, settings),
                self._window,
                {str(key): words for key, words in (kinds or {}).items()},
            )

            def asked(name: str, facts: Mapping[str, str]) -> None:
                kind = dialog.kind
                self.begin(lambda: make(bundle, name, facts, kind), dialog.accept, dialog.show_fault)

            dialog.asked.connect(asked)
            dialog.open()

        self._context.jobs.run("library", load, ask)

    def _ask(self, title: str, make: Callable[[str, str], Bundle]) -> None:
        """Ask for the name of a new part, and begin it; what is wrong with the name is told in the dialog."""
        self.dialog = dialog = NameDialog(title, self._library.settings, self._window)
        dialog.named.connect(lambda name, key: self.begin(lambda: make(name, key), dialog.accept, dialog.show_fault))
        dialog.open()

    def begin(self, make: Callable[[], Bundle], then: Callable[[], object], refuse: Callable[[str], object]) -> None:
        """Make a part; `refuse` is told why it cannot be, for instance that its name is taken."""

        def done(state: PartState) -> None:
            then()
            self.begun.emit(state)

        def failed(fault: Exception) -> None:
            refuse(str(fault))

        self._context.jobs.run("library", lambda: begin_part(self._library, make), done, failed)

    def edit_people(self) -> None:
        """Roles and reviews of the library."""
        self.people = PeopleDialog(self._library, self._context, self._window)
        self.people.open()

    def publish(self) -> None:
        """Ask where to publish the library and in which formats, and do it."""
        self.publish_dialog = dialog = PublishDialog(self._library, self._window)
        jobs, say = self._context.jobs, self._context.said.emit
        dialog.asked.connect(lambda wanted, always: run_publish(jobs, self._library, wanted, say, always=always))
        dialog.open()

    def publish_released(self) -> None:
        """After a release: publish it where the library says so."""
        wanted = self._library.settings.publish
        if wanted is not None:
            run_publish(self._context.jobs, self._library, wanted, self._context.said.emit)

    def edit_materials(self) -> None:
        """The materials of the library."""
        self.materials = MaterialsDialog(self._library, self._context, self._window)
        self.materials.kept.connect(self.rules_kept)
        self.materials.kept.connect(self.changed)
        self.materials.open()

    def release_together(self, rows: Sequence[PartRow]) -> None:
        """Ask for the note with which parts are released together, and release them."""
        self.release_dialog = dialog = ReleaseDialog(rows, self._window)
        dialog.noted.connect(lambda note: self._release(rows, note))
        dialog.open()

    def _release(self, rows: Sequence[PartRow], note: str) -> None:
        """All of them, in one commit, or none."""
        library, jobs, parts = self._library, self._context.jobs, counted(len(rows), "part")

        def work(task: Task) -> Sequence[Released]:
            jobs.wait_for("disk")
            return release_parts(library, [library.load(row.id) for row in rows], note, task, jobs.in_kernel)

        def done(released: Sequence[Released]) -> None:
            self.changed.emit()
            behind = released[0].behind
            self._context.said.emit(f"{parts} released together{f'; {behind}' if behind else ''}")
            self.publish_released()
            jobs.run("release", lambda: keep_house(library))

        jobs.run_long("release", f"Releasing {parts}", work, done)

    def export_part(self, part_id: str) -> None:
        """Export the newest release of a part into a folder that the user chooses."""
        folder = QFileDialog.getExistingDirectory(self._window, "Export into this folder")
        if folder:
            self.export_to(part_id, Path(folder))

    def export_to(self, part_id: str, folder: Path) -> None:
        """Export the newest release of a part; what is not released cannot be taken."""

        def load() -> tuple[Bundle, EvaluationRules, dict[str, str]]:
            bundle = self._library.load_release(part_id)
            return bundle, rules_for(self._library, bundle), documents_of(self._library, bundle)

        exports.run_export(self._context.jobs, "Exporting", load, folder, self._context.said.emit)
