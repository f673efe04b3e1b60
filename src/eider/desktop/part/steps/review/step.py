"""Review: all findings, the proof as it will be printed, waivers, and the release."""

from pathlib import Path
from tempfile import TemporaryDirectory

import msgspec
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QFileDialog, QPlainTextEdit, QTabWidget, QWidget

from eider.bodies.solids.materials import materials_with
from eider.datasheets import Datasheet
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part import export_job as exports
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import ViewStep
from eider.desktop.part.steps.review.findings_panel import FindingsPanel, VerifyPanel
from eider.desktop.part.steps.review.review_panel import ReviewPanel
from eider.desktop.part.values_table import ValuesTable
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.git.housekeeping import keep_house
from eider.library.git.revision_trailers import ItemRevision
from eider.library.releases.release_commit import Released
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.material import Material
from eider.model.wording import counted
from eider.reports.proof_changes import ProofChanges
from eider.rulebooks import Rulebook
from eider.services.publishing.exporting import documents_of
from eider.services.releasing.library_history import based_on
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.reviews import changes_since_release
from eider.services.tasks import Task
from eider.views.part_state import PartState
from eider.views.steps.review import ReviewView

# As a working copy: well within the second in which what was typed must be on disk.
SAVE_AFTER_MS = 250


class ReleaseNoteField(QPlainTextEdit):
    """Loads what was typed before, and saves what is typed."""

    def __init__(self, library: Library, part_id: str, jobs: OwnedJobs) -> None:
        super().__init__()
        self._library, self._part_id, self._jobs = library, part_id, jobs
        self.setPlaceholderText("What changed and why. The note stays with the revision.")
        self.setAccessibleName("Release note")
        self.setMaximumHeight(84)
        self.setTabChangesFocus(True)
        self._saved = ""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.save)
        self.textChanged.connect(lambda: self._timer.start(SAVE_AFTER_MS))
        jobs.run("disk", lambda: library.copies.note(part_id), self._loaded)

    def _loaded(self, note: str) -> None:
        if not self.toPlainText():
            self._saved = note
            self.setPlainText(note)

    def save(self) -> None:
        """Put what was typed on disk now."""
        self._timer.stop()
        note, library, part_id = self.toPlainText(), self._library, self._part_id
        if note != self._saved and not library.read_only:
            self._saved = note
            self._jobs.run("disk", lambda: library.copies.save_note(part_id, note))


class ProofRequest(msgspec.Struct, frozen=True):
    """Writes the proof into a folder, and returns its path."""

    bundle: Bundle
    findings: tuple[Finding, ...]
    rulebook: Rulebook
    documents: dict[str, str]
    folder: str
    materials: dict[str, Material] = {}
    changes: ProofChanges | None = None

    def __call__(self) -> str:
        from eider.reports.proof import write_proof

        paths = {sha: Path(path) for sha, path in self.documents.items()}
        materials = materials_with(self.materials)
        folder = Path(self.folder)
        return str(write_proof(self.bundle, self.findings, self.rulebook, folder, paths, materials, self.changes))


class ReviewStep(ViewStep[ReviewView]):
    """See everything once more, accept what can be accepted, release, export."""

    key = "review"
    view_type = ReviewView
    # Datasheet and proof do not stand side by side then.
    narrow_below = 1100

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self._made_for: PartState | None = None
        self._blockers = 0
        self.proof = DatasheetView(context.theme, context.jobs)
        self._proof_column = column(row(label("Proof", "head"), 1), growing(self.proof), margins=4)
        left, right = self._build_left(), self._build_right()
        self.build(panes(left, self._proof_column, right, sizes=(390, 500, 370)), with_findings=False)

    def _build_left(self) -> QTabWidget:
        """Findings with their waivers, and all values with their evidence."""
        self.found = FindingsPanel(self.controller, self.context)
        self.findings = self.found.findings
        self._coverage = label("", "soft", wrap=True)
        self.values = ValuesTable(self.controller, self.context)
        left = QTabWidget()
        left.addTab(self.found, "Findings by step")
        self.verifying = VerifyPanel(self.controller, self.context, self.jobs)
        values = column(self._coverage, growing(self.values), self.verifying, margins=4)
        left.addTab(values, "Values with their evidence")
        self.review = ReviewPanel(self.controller, self.context)
        left.addTab(self.review, "Review")
        if self.controller.reviewing is not None:
            left.setCurrentWidget(self.review)
        self.left_tabs = left
        return left

    def _build_right(self) -> QWidget:
        """The release: its note, what is in its way, and the revisions there are."""
        self._folded = label(
            "There is no room for the proof: close the datasheet (F4) or widen the window.", "soft", wrap=True
        )
        self._folded.hide()
        self.note = ReleaseNoteField(self.controller.library, self.controller.bundle.part.id, self.jobs)
        self.note.textChanged.connect(self._enable)
        self.release_button = button("Release", self.release, main=True)
        self._why_not = label("", "soft", wrap=True)
        self._history = RecordView[ItemRevision](
            [
                Column("Rev.", lambda r: str(r.revision), number=True),
                Column("When", lambda r: r.at[:16].replace("T", " ")),
                Column("Who", lambda r: r.by),
                Column("Note", lambda r: r.note),
            ],
            self.context.theme,
        )
        self._history.set_widths(38, 116, 104)
        self._history.doubleClicked.connect(lambda _index: self._open_revision())
        return column(
            self._folded,
            label("Release note", "head"),
            self.note,
            self.release_button,
            self._why_not,
            label("Revisions", "head"),
            growing(self._history),
            flow(
                button("Open this revision (read-only)", self._open_revision),
                button("Restore this revision", self._restore),
            ),
            row(button("Export…", self._export), 1),
        )

    def first(self) -> QWidget:
        return self.note

    def show_view(self, view: ReviewView) -> None:
        self.found.show_view(view)
        self._coverage.setText(view.coverage)
        self.values.show_values(view.values)
        self._blockers = view.blockers
        self._enable()
        if self.isVisible():
            self._make_proof(view)
            self._load_history()
            self.review.load()

    def fold(self, *, is_narrow: bool) -> None:
        self._proof_column.setVisible(not is_narrow)
        self._folded.setVisible(is_narrow)

    def close_documents(self) -> None:
        self.note.save()
        self.values.snippets.close()

    def is_mine(self, finding: Finding) -> bool:
        return True

    def _enable(self) -> None:
        blockers = self._blockers
        read_only = self.controller.session.read_only or bool(self.controller.library.read_only)
        read_only = read_only or self.controller.reviewing is not None
        missing = not self.note.toPlainText().strip()
        why = (
            "You are looking at a review; give your verdict in the Review tab"
            if self.controller.reviewing is not None
            else "This revision is read-only"
            if read_only
            else f"Resolve {counted(blockers, 'blocker')} first"
            if blockers
            else "Write a release note first"
            if missing
            else ""
        )
        self.release_button.setEnabled(not why)
        self._why_not.setText(why)

    def _make_proof(self, view: ReviewView) -> None:
        """The proof of the present state, made in the process that has the CAD kernel."""
        bundle, findings, rules = self.controller.bundle, self.controller.findings, self.controller.rules
        if not view.has_lands:
            self.proof.show_nothing("The proof appears as soon as there are lands.")
            return
        if self._made_for is self.controller.state:
            return
        self._made_for = self.controller.state
        library, in_kernel = self.controller.library, self.jobs.in_kernel
        read_only = self.controller.session.read_only and self.controller.reviewing is None

        def work() -> Datasheet:
            documents, changes = (
                documents_of(library, bundle),
                None if read_only else changes_since_release(library, bundle),
            )
            with TemporaryDirectory(prefix="eider-proof-") as folder:
                # PDFium keeps the file open; nobody else needs it.
                request = ProofRequest(bundle, findings, rules.rulebook, documents, folder, rules.materials, changes)
                return Datasheet(Path(in_kernel(request)))

        self.jobs.run("proof", work, self._show_proof, self._no_proof)

    def _show_proof(self, proof: Datasheet) -> None:
        self.proof.open(DocumentToOpen(str(proof.path), lambda: proof))

    def _no_proof(self, fault: Exception) -> None:
        self.proof.show_nothing(f"no proof: {fault}")

    def _load_history(self) -> None:
        part_id, library = self.controller.bundle.part.id, self.controller.library
        self.jobs.run("library", lambda: library.history(part_id), self._show_history)

    def _show_history(self, revisions: tuple[ItemRevision, ...]) -> None:
        self._history.show_records(tuple(reversed(revisions)))

    def release(self) -> None:
        """Release the part as its next revision."""
        bundle, library, note = self.controller.bundle, self.controller.library, self.note.toPlainText()
        self.release_button.setEnabled(False)

        def work(task: Task) -> Released:
            self.jobs.wait_for("disk")
            return release_part(library, bundle, note, task, self.jobs.in_kernel)

        def done(released: Released) -> None:
            self.note.clear()
            self.context.released.emit(bundle.part.id, released.revision)
            if released.behind:
                self.context.said.emit(released.behind)
            self.context.jobs.run("release", lambda: keep_house(library))

        self.controller.saver.hold()
        self.jobs.run_long("release", f"Releasing {bundle.part.name}", work, done, self._not_released)

    def _not_released(self, fault: Exception) -> None:
        self.controller.saver.save()
        self._enable()
        self.context.said.emit(str(fault))

    def _open_revision(self) -> None:
        entry: ItemRevision | None = self._history.record()
        if entry:
            self.context.revision_asked.emit(self.controller.bundle.part.id, entry.revision)

    def _restore(self) -> None:
        """An old revision becomes the part as it is worked on; released, it is the next one."""
        entry: ItemRevision | None = self._history.record()
        library, part_id = self.controller.library, self.controller.bundle.part.id
        if entry is None or self.controller.reviewing is not None:
            return
        revision, newest = entry.revision, self.controller.bundle

        def load() -> Bundle:
            return based_on(library.load_release(part_id, revision), newest)

        def done(made: Bundle) -> None:
            self.controller.edit(f"Restore revision {revision}", lambda _bundle: made)
            self.context.said.emit(f"As revision {revision} was; release it to make it the newest")

        self.jobs.run("library", load, done, lambda fault: self.context.said.emit(str(fault)))

    def _export(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "Export into this folder")
        if folder:
            self.export(Path(folder))

    def export(self, folder: Path) -> None:
        """Write the part in every format into a folder."""
        bundle, rules, library = self.controller.bundle, self.controller.rules, self.controller.library
        exports.run_export(
            self.context.jobs,
            f"Exporting {bundle.part.name}",
            lambda: (bundle, rules, documents_of(library, bundle)),
            folder,
            self.context.said.emit,
        )
