"""Source: the datasheets of the part, what has been captured from them, and what a newer one says otherwise."""

from pathlib import Path

from PyQt6.QtWidgets import QComboBox, QFileDialog, QListWidget, QTabWidget, QVBoxLayout, QWidget

from eider.commands.facts import fact_edits
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import ViewStep
from eider.desktop.part.steps.source.confirm_panel import ConfirmPanel, NewerPanel
from eider.desktop.part.steps.source.found_on_pages import FoundOnPages
from eider.desktop.part.steps.source.found_panel import FoundPanel
from eider.desktop.part.values_table import ValuesTable
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.qt_values import present
from eider.evidence.address_table import evidenced_values
from eider.evidence.evidence_changes import set_evidence_at
from eider.model.address import Address
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.model.wording import counted
from eider.services.datasheets.datasheet_opening import attach_datasheet
from eider.views.part_values import ValueRow
from eider.views.steps.source import SourceView

HINT = "Attach the part's datasheet with the button on the left, then go on to Pins (Ctrl+2)."


class SourceStep(ViewStep[SourceView]):
    """Attach datasheets, read them, say where values came from."""

    key = "source"
    view_type = SourceView
    holds_datasheet = True

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.view: DatasheetView | None = None
        self._list = QListWidget()
        self._list.currentRowChanged.connect(self._open)
        self._holder = QWidget()
        holder = QVBoxLayout(self._holder)
        holder.setContentsMargins(0, 0, 0, 0)
        self._kind = QComboBox()
        self._kind.addItems([kind for kind in EvidenceKind if kind != EvidenceKind.DATASHEET])
        self._kind.setCurrentText(EvidenceKind.ASSUMED)
        self._coverage = label("", "number")
        self._about = label("", "soft")
        self.table = ValuesTable(controller, context)
        self.values = self.table.table
        self.values.entered_record.connect(self._show_source)
        self.newer = NewerPanel(controller, context, self.jobs)
        self.newer.place_asked.connect(self._show_place)
        self.newer.compared.connect(self._tell_compared)
        self._tabs = QTabWidget()
        captured = column(
            growing(self.table),
            button("Cite this page for the selection", self._on_this_page),
            row(label("Cited for the selection:"), self._kind, button("Set", self._set_kind), 1),
            margins=4,
        )
        self._tabs.addTab(captured, "Captured")
        self._tabs.addTab(self.newer, "Newer datasheet")
        self.elsewhere = QListWidget()
        self.elsewhere.setWordWrap(True)
        self.elsewhere.setSpacing(3)
        self.elsewhere.setAccessibleName("Origin and import log")
        self._tabs.addTab(self.elsewhere, "From elsewhere")
        self.found = FoundPanel(controller.library, context, self.jobs)
        self._found_on_pages = FoundOnPages(self.found, controller, context, self.jobs)
        self._tabs.addTab(self.found, "Found")
        self.confirming = ConfirmPanel(controller, context)
        self.confirming.place_asked.connect(self._show_place)
        self._tabs.setTabVisible(self._tabs.addTab(self.confirming, "To confirm"), False)
        left = column(
            label("Datasheets", "head"), growing(self._list), button("Attach datasheet…", self._choose, main=True)
        )
        right = column(row(self._coverage, self._about, 1), growing(self._tabs))
        self.build(panes(left, self._holder, right, sizes=(160, 660, 460)))

    def hold(self, view: DatasheetView) -> None:
        """Take the datasheet view into the middle."""
        self.view = view
        layout = present(self._holder.layout())
        layout.addWidget(view)
        self._found_on_pages.hold(view)
        if not view.key and not self.controller.bundle.part.datasheets:
            view.show_nothing(HINT)

    def first(self) -> QWidget | None:
        return self.view.area if self.view else None

    def show_view(self, view: SourceView) -> None:
        names = [link.name for link in view.datasheets]
        if names != [self._list.item(i).text() for i in range(self._list.count())]:  # type: ignore[union-attr]
            self._list.clear()
            self._list.addItems(names)
            self._list.setCurrentRow(len(names) - 1)
        covered = view.coverage
        self._coverage.setText(f"{covered.covered} of {covered.total}")
        self._about.setText(f"values with evidence, {covered.confirmed} confirmed")
        self.table.show_values(view.values)
        self.elsewhere.clear()
        self.elsewhere.addItems(view.arrivals)
        self._tabs.setTabVisible(self._tabs.indexOf(self.elsewhere), bool(view.arrivals))
        at = self._tabs.indexOf(self.confirming)
        is_new = bool(view.doubts) and not self._tabs.isTabVisible(at)
        self._tabs.setTabVisible(at, bool(view.doubts))
        self._tabs.setTabText(at, f"To confirm ({len(view.doubts)})")
        if is_new:
            self._tabs.setCurrentIndex(at)
        self.confirming.show_doubts(view.doubts)

    def show_address(self, address: Address) -> None:
        self.values.select_where(lambda r: r.address == address)

    def close_documents(self) -> None:
        self.table.snippets.close()
        self.confirming.close_documents()

    def attach(self, path: Path) -> None:
        """Keep a PDF with the library and link it to the part; captured values are looked for in it."""
        library = self.controller.library

        def done(link: DatasheetLink) -> None:
            before = [d.sha256 for d in self.controller.bundle.part.datasheets if d.sha256 != link.sha256]
            self.controller.edit(f"Attach {link.name}", lambda b: fact_edits.attach_datasheet(b, link))
            self.context.said.emit(f"{link.name} attached, {counted(link.pages, 'page')}")
            older = {
                v.evidence.document for v in evidenced_values(self.controller.bundle) if v.evidence and v.evidence.box
            }
            if rests := [sha for sha in before if sha in older]:
                self.newer.compare(rests[-1], link.sha256)

        self.jobs.run(
            "library", lambda: attach_datasheet(library, path), done, lambda fault: self.context.said.emit(str(fault))
        )

    def _tell_compared(self, found: int, odd: int) -> None:
        self._tabs.setCurrentWidget(self.newer)
        self.context.said.emit(
            f"{counted(found, 'captured value')} looked for in the newer datasheet: {odd} differ or are gone"
        )

    def _show_source(self, record: ValueRow) -> None:
        if evidence := record.snippet:
            self._show_place(evidence.document, evidence.page, evidence.box)

    def _select(self, sha: str) -> bool:
        """Open a datasheet of the part; whether it is one of its."""
        shas = [link.sha256 for link in self.controller.bundle.part.datasheets]
        if sha not in shas:
            return False
        self._list.setCurrentRow(shas.index(sha))
        return True

    def _show_place(self, document: str, page: int, box: tuple[float, float, float, float] | None) -> None:
        if box and self._select(document):
            self._go_to_box(page, box)

    def _go_to_box(self, page: int, box: tuple[float, float, float, float]) -> None:
        if self.view:
            self.view.show_box(page, box)

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Attach a datasheet", str(self.controller.library.folder.parent), "Datasheets (*.pdf)"
        )
        if name:
            self.attach(Path(name))

    def _open(self, index: int) -> None:
        links = self.controller.bundle.part.datasheets
        if 0 <= index < len(links) and self.view:
            sha = links[index].sha256
            self.view.open(self.controller.document(sha))
            self.found.look_through(sha)

    def _on_this_page(self) -> None:
        links, index = self.controller.bundle.part.datasheets, self._list.currentRow()
        if self.view and self.view.page and 0 <= index < len(links):
            self._set(Evidence(EvidenceKind.DATASHEET, document=links[index].sha256, page=self.view.page))
        else:
            self.context.said.emit("Attach a datasheet first, then turn to the page that holds the values.")

    def _set_kind(self) -> None:
        self._set(Evidence(EvidenceKind(self._kind.currentText())))

    def _set(self, evidence: Evidence) -> None:
        rows = self.table.selected()
        if not rows:
            self.context.said.emit("Select the values on the right first.")
            return
        who = self.context.person.name
        self.controller.edit("Set evidence", lambda b: set_evidence_at(b, [r.address for r in rows], evidence, who))
