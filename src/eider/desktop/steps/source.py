"""Source: the datasheets of the part, and what has been captured from them."""

from pathlib import Path

from PyQt6.QtWidgets import QComboBox, QFileDialog, QListWidget, QWidget

from eider.datasheets import Datasheet
from eider.desktop.controller import PartController
from eider.desktop.datasheet_view import DatasheetView
from eider.desktop.steps.base import Shared, Step
from eider.desktop.table import Column, RecordView
from eider.desktop.widgets import button, column, growing, label, panes, row
from eider.errors import InputError
from eider.evidence.changes import set_evidence_at
from eider.evidence.held import coverage
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.workbench import edits
from eider.workbench.values import ValueRow, value_rows

LARGEST_PDF = 200 * 1024 * 1024


class SourceStep(Step):
    """Attach datasheets, read them, say where values came from."""

    key = "source"

    def __init__(self, controller: PartController, shared: Shared) -> None:
        super().__init__(controller, shared)
        self._list = QListWidget()
        self._list.currentRowChanged.connect(self._open)
        self.view = DatasheetView(shared.theme, shared.jobs)
        self.view.show_nothing(
            "Attach the part's datasheet first: the button on the left. Then go on to Pins (Ctrl+2)."
        )
        self._kind = QComboBox()
        self._kind.addItems([kind for kind in EvidenceKind if kind != EvidenceKind.DATASHEET])
        self._kind.setCurrentText(EvidenceKind.ASSUMED)
        self._coverage = label("", "number")
        self._about = label("values with evidence", "soft")
        self.values = RecordView(
            [
                Column("Value of", lambda r: r.name),
                Column("As typed", lambda r: r.text),
                Column("Evidence", lambda r: r.evidence, fault=lambda r: "" if r.has_evidence else "no evidence yet"),
            ],
            shared.theme,
        )
        self.values.set_widths(142, 112)
        left = column(
            label("Datasheets", "head"), growing(self._list), button("Attach a datasheet …", self._choose, main=True)
        )
        right = column(
            label("Captured from them", "head"),
            self._coverage,
            self._about,
            growing(self.values),
            button("Selected values are on this page", self._on_this_page),
            row(label("Selected values are"), self._kind, button("Set", self._set_kind)),
        )
        self.build(panes(left, self.view, right, sizes=(170, 720, 360)))

    def first(self) -> QWidget:
        return self.view

    def refresh(self) -> None:
        super().refresh()
        links = self.controller.bundle.part.datasheets
        names = [link.name for link in links]
        if names != [self._list.item(i).text() for i in range(self._list.count())]:  # type: ignore[union-attr]
            self._list.clear()
            self._list.addItems(names)
            self._list.setCurrentRow(len(names) - 1)
        covered = coverage(self.controller.bundle)
        self._coverage.setText(f"{covered.covered} of {covered.total}")
        self.values.show_records(value_rows(self.controller.bundle))

    def attach(self, path: Path) -> None:
        """Keep a PDF with the library and link it to the part."""
        library = self.controller.library

        def work() -> DatasheetLink:
            if path.stat().st_size > LARGEST_PDF:
                raise InputError(f"{path.name} is larger than {LARGEST_PDF >> 20} MB; attach a smaller PDF")
            document = Datasheet(path)
            try:
                return DatasheetLink(library.attach(path.read_bytes()), path.name, document.pages)
            finally:
                document.close()

        def done(link: DatasheetLink) -> None:
            self.controller.edit(f"Attach {link.name}", lambda b: edits.attach_datasheet(b, link))
            self.shared.say(f"{link.name} attached, {link.pages} pages")

        self.jobs.run("library", work, done, lambda fault: self.shared.say(str(fault)))

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Attach a datasheet", str(self.controller.library.folder.parent), "Datasheets (*.pdf)"
        )
        if name:
            self.attach(Path(name))

    def _open(self, index: int) -> None:
        links = self.controller.bundle.part.datasheets
        if 0 <= index < len(links):
            self.view.open(self.controller.library.datasheet(links[index].sha256))

    def _on_this_page(self) -> None:
        links, index = self.controller.bundle.part.datasheets, self._list.currentRow()
        if self.view.page and 0 <= index < len(links):
            self._set(Evidence(EvidenceKind.DATASHEET, document=links[index].sha256, page=self.view.page))
        else:
            self.shared.say("attach a datasheet first, and turn to the page on which the values stand")

    def _set_kind(self) -> None:
        self._set(Evidence(EvidenceKind(self._kind.currentText())))

    def _set(self, evidence: Evidence) -> None:
        rows: list[ValueRow] = self.values.selected()
        if not rows:
            self.shared.say("select the values first, on the right")
            return
        who = self.controller.library.person().name
        self.controller.edit("Set evidence", lambda b: set_evidence_at(b, [r.place for r in rows], evidence, who))
