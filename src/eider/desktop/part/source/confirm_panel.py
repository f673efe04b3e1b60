"""To confirm: the doubts of a draft in the order of the work; Enter confirms one, typing corrects it."""

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.commands.datasheet_draft import confirm_doubt
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.evidence.evidence_changes import put_value, utc_now
from eider.model.address import parse_address
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.wording import counted, sentence
from eider.views.doubt_rows import DoubtRow


class ConfirmPanel(QWidget):
    """`place_asked` tells document, page and box of the doubt in hand."""

    place_asked = pyqtSignal(str, int, object)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.about = label("", "soft", wrap=True)
        self.table = RecordView[DoubtRow](
            [
                Column("Value of", lambda r: r.name),
                Column("Reading", lambda r: r.doubt.reading),
                Column("Page", lambda r: str(r.doubt.page or ""), number=True),
            ],
            context.theme,
        )
        self.table.setAccessibleName("Readings to confirm")
        self.table.set_widths(190, 150)
        self.reading, self.reason = label("", "number"), label("", wrap=True)
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
                self.reading,
                self.reason,
                row(growing(self.correction), self.act),
                margins=4,
            ),
        )

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """With the list in hand, Enter confirms and anything typed begins a correction."""
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
        self.about.setText(
            f"{counted(len(doubts), 'reading')} to confirm in the datasheet: Enter confirms, typing corrects."
            if doubts
            else "Nothing is left to confirm."
        )
        self.act.setEnabled(bool(doubts))
        self.correction.setEnabled(bool(doubts))
        self.reading.setVisible(bool(doubts))
        self.reason.setVisible(bool(doubts))
        if doubts:
            self.table.select_rows([min(max(at, 0), len(doubts) - 1)])
            self._show(self.table.record())

    def _show(self, row: DoubtRow | None) -> None:
        if row is None:
            return
        doubt = row.doubt
        self.reading.setText(doubt.reading or "nothing was read")
        self.reason.setText(sentence(doubt.reason))
        self.correction.clear()
        self.correction.setEnabled(not row.step)
        self.correction.setPlaceholderText(
            f"Correct it in {row.step}" if row.step else "Type here to correct the value"
        )
        if doubt.page:
            self.place_asked.emit(doubt.document, doubt.page, doubt.box)

    def confirm(self) -> None:
        """The doubt in hand is settled: as it was read, or as it was typed."""
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
