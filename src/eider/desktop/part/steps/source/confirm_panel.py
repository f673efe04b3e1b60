"""To confirm: the doubts of a draft in the order of the work; Enter confirms one, typing corrects it."""

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QObject, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPixmap
from PyQt6.QtWidgets import QLineEdit, QSizePolicy, QWidget

from eider.commands.datasheets.datasheet_draft import confirm_doubt
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.snippets import DatasheetSnippets
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.evidence.evidence_changes import put_value, utc_now
from eider.model.address import parse_address
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.wording import counted, sentence
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.datasheets.datasheet_rechecking import ValueRecheck, move_evidence, recheck_values
from eider.services.datasheets.houses import learn_from_sheet
from eider.services.tasks import Task
from eider.views.doubt_rows import DoubtRow

# Pixels: a row with its cut-out, and how high the cut-out of the selected one is at most.
ROW_HEIGHT, PICTURE, LARGE_HEIGHT = 34, QSize(176, 26), 96
WORST_FIRST = ("gone", "differs", "elsewhere", "same")


class NewerPanel(QWidget):
    """`place_asked` tells document, page and box of the selected value; `compared` how many were found, and are odd."""

    place_asked = pyqtSignal(str, int, object)
    compared = pyqtSignal(int, int)

    def __init__(self, controller: PartController, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__()
        self.controller, self.context, self._jobs = controller, context, jobs
        self.checked: list[ValueRecheck] = []
        self._sha = ""
        self.table = RecordView[ValueRecheck](
            [
                Column("Value of", lambda r: r.name),
                Column("As typed", lambda r: r.value),
                Column(
                    "In the newer datasheet",
                    lambda r: r.words,
                    fault=lambda r: r.words if r.found.outcome in ("differs", "gone") else "",
                ),
            ],
            context.theme,
        )
        self.table.set_widths(90, 100)
        self.table.entered_record.connect(self._show_found)
        about = label("Captured values in the new datasheet:", "soft", wrap=True)
        move = button("Move unchanged values to the new datasheet", self._move)
        fill_widget(self, column(about, growing(self.table), move, margins=4))

    def compare(self, old_sha: str, new_sha: str) -> None:
        """Look for what was captured from the older datasheet in the newer one."""
        bundle, library = self.controller.bundle, self.controller.library

        def work(task: Task) -> list[ValueRecheck]:
            old, new = open_datasheet(library, old_sha), open_datasheet(library, new_sha)
            try:
                return recheck_values(bundle, old_sha, old, new, task.report)
            finally:
                old.close()
                new.close()

        def done(found: list[ValueRecheck]) -> None:
            self.checked, self._sha = found, new_sha
            self.table.show_records(sorted(found, key=lambda c: WORST_FIRST.index(c.found.outcome)))
            self.compared.emit(len(found), sum(c.found.outcome in ("differs", "gone") for c in found))

        self._jobs.run_long("reading", "Comparing with the newer datasheet", work, done)

    def _move(self) -> None:
        who, checked, sha = self.context.person.name, self.checked, self._sha
        if checked:
            self.controller.edit(
                "Move unchanged values to the new datasheet", lambda b: move_evidence(b, checked, sha, who)
            )

    def _show_found(self, record: ValueRecheck | None) -> None:
        if record is not None and record.found.box:
            self.place_asked.emit(self._sha, record.found.page, record.found.box)


class ConfirmPanel(QWidget):
    """`place_asked` tells document, page and box of the selected doubt."""

    place_asked = pyqtSignal(str, int, object)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        # What is learned outlives the panel: it may end with the last reading.
        self._jobs = context.jobs
        self._settled: list[Doubt] = []
        self.about = label("", "soft", wrap=True)
        self.table = RecordView[DoubtRow](
            [
                Column("Value of", lambda r: r.name),
                Column("Reading", lambda r: r.doubt.reading),
                Column("In the datasheet", _page_of).with_picture(lambda r: self._cut_outs.end_of(r.place, PICTURE)),
            ],
            context.theme,
        )
        self.table.setAccessibleName("Readings to confirm")
        self.table.set_widths(128, 104)
        self.table.set_row_height(ROW_HEIGHT, PICTURE)
        self._cut_outs = DatasheetSnippets(context.jobs, controller.library, self)
        self._cut_outs.arrived.connect(self._repaint)
        self.large = label("")
        self.large.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.reading, self.reason = label("", "number"), label("", wrap=True)
        self.witnesses = label("", "soft", wrap=True)
        self.table.entered_record.connect(self._show)
        self.correction = QLineEdit()
        self.correction.setAccessibleName("Correct to")
        self.correction.returnPressed.connect(self.confirm)
        self.act = button("Confirm (Enter)", self.confirm, main=True)
        self.table.installEventFilter(self)
        self.setFocusProxy(self.table)
        fill_widget(
            self,
            column(
                self.about,
                growing(self.table),
                self.large,
                self.reading,
                self.witnesses,
                self.reason,
                row(growing(self.correction), self.act),
                margins=4,
            ),
        )

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """With the selected list, Enter confirms and anything typed begins a correction."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.confirm()
                return True
            if event.text().isprintable() and event.text().strip() and self.correction.isEnabled():
                self.correction.setFocus()
                self.correction.insert(event.text())
                return True
        return super().eventFilter(watched, event)

    def show_doubts(self, doubts: Sequence[DoubtRow]) -> None:
        """What is still to be confirmed; the next one comes into hand."""
        at = self.table.currentIndex().row()
        self.table.show_records(doubts)
        if not doubts and self._settled:
            self.learn()
        self.about.setText(
            f"{counted(len(doubts), 'reading')} to confirm in the datasheet: Enter confirms, typing corrects."
            if doubts
            else "Nothing is left to confirm."
        )
        self.act.setEnabled(bool(doubts))
        self.correction.setEnabled(bool(doubts))
        for told in (self.large, self.reading, self.witnesses, self.reason):
            told.setVisible(bool(doubts))
        if doubts:
            self.table.select_rows([min(max(at, 0), len(doubts) - 1)])
            self._show(self.table.record())

    def _show(self, row: DoubtRow | None) -> None:
        if row is None:
            return
        doubt = row.doubt
        self.reading.setText(doubt.reading or "nothing was read")
        self.reason.setText(sentence(doubt.reason))
        self.witnesses.setText("Agrees: " + "; ".join(row.witnesses) + "." if row.witnesses else "")
        self.witnesses.setVisible(bool(row.witnesses))
        self._show_large(row)
        self.correction.clear()
        self.correction.setEnabled(not row.step)
        self.correction.setPlaceholderText(
            f"Correct it in {row.step}" if row.step else "Type here to correct the value"
        )
        if doubt.page:
            self.place_asked.emit(doubt.document, doubt.page, doubt.box)

    def _show_large(self, row: DoubtRow | None) -> None:
        """The cut-out of the selected reading, as large as there is room."""
        room = QSize(max(self.width() - 12, 60), LARGE_HEIGHT)
        picture = self._cut_outs.fitted(row.place, room) if row else None
        self.large.setPixmap(picture or QPixmap())
        self.large.setVisible(picture is not None)

    def _repaint(self) -> None:
        self._show_large(self.table.record())
        present(self.table.viewport()).update()

    def close_documents(self) -> None:
        """Give the documents of the cut-outs back, and keep what was learned up to now."""
        self.learn()
        self._cut_outs.close()

    def confirm(self) -> None:
        """The selected doubt is settled: as it was read, or as it was typed."""
        row = self.table.record()
        if row is None:
            return
        doubt = row.doubt
        text, who = self.correction.text().strip(), self.context.person.name

        def changed(bundle: Bundle) -> Bundle:
            made = confirm_doubt(bundle, doubt)
            if not text:
                return made
            evidence = Evidence(EvidenceKind.DATASHEET, doubt.document, doubt.page, doubt.box, text, who, utc_now())
            return put_value(made, parse_address(doubt.address), text, evidence)

        self.table.setFocus()
        self.controller.edit("Correct a reading" if text else "Confirm a reading", changed)
        self._settled.append(doubt)

    def learn(self) -> None:
        """Keep what was confirmed and corrected as the manner of the datasheet's house."""
        open_still = set(self.controller.bundle.part.to_confirm)
        settled, self._settled = [doubt for doubt in self._settled if doubt not in open_still], []
        by_document = {doubt.document: [d for d in settled if d.document == doubt.document] for doubt in settled}
        bundle, library = self.controller.bundle, self.controller.library
        names = {link.sha256: link.name for link in bundle.part.datasheets}

        def work() -> str:
            houses = [
                learn_from_sheet(library, sha256, bundle, doubts, names[sha256])
                for sha256, doubts in by_document.items()
                if sha256 in names
            ]
            return ", ".join(house.name for house in houses if house is not None)

        def done(houses: str) -> None:
            if houses:
                self.context.said.emit(f"Kept for the next datasheet of {houses}: see Library › Houses")

        if by_document:
            self._jobs.run("library", work, done, lambda fault: self.context.said.emit(str(fault)))


def _page_of(row: DoubtRow) -> str:
    """Which page a doubt is on, where no cut-out of it can be shown."""
    return f"page {row.doubt.page}" if row.doubt.page and row.place is None else ""
