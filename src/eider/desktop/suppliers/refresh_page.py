"""Lifecycle and stock of many parts asked for again: what changed, and the lifecycles kept as working copies."""

from collections.abc import Collection

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.wording import counted
from eider.services.facts.fact_tables import KeptFacts
from eider.services.suppliers.supplier_lookup import open_catalogue, preferred_suppliers
from eider.services.suppliers.supplier_refresh import RefreshReport, StandingChange, keep_lifecycles, refresh_standing
from eider.services.tasks import Task

_TITLES = {
    "lifecycle": "Lifecycle",
    "no stock": "No stock",
    "stock": "In stock again",
    "unknown": "Not found",
    "several": "Several manufacturers",
}


class RefreshPage(SidePage):
    """The parts are given; the catalogue is asked when someone presses the button."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.parts: list[PartRow] = []
        self.report: RefreshReport | None = None
        self.title = label("Lifecycle and stock", "head")
        self.hint = label("", "soft", wrap=True)
        self.ask_button = button("Ask the catalogue", self.ask, main=True)
        self.keep_button = button("Save the new lifecycles as working copies", self.keep)
        self.keep_button.setEnabled(False)
        self.table = RecordView[StandingChange](
            [
                Column("Part", lambda c: c.part),
                Column("What", lambda c: _TITLES[c.kind]),
                Column("Before", lambda c: c.before or "not known"),
                Column(
                    "Now", lambda c: c.now, fault=lambda c: "" if c.now == "active" or c.kind == "stock" else "look"
                ),
            ],
            context.theme,
        )
        self.table.set_widths(200, 130, 180)
        self.table.allow_sorting()
        fill_widget(
            self,
            column(
                row(button("← Shelf", self.closed.emit), self.title, 1, self.ask_button),
                self.hint,
                growing(self.table),
                row(1, self.keep_button),
            ),
        )

    def open_parts(self, part_ids: Collection[str]) -> None:
        """Which parts are asked for."""

        def work() -> list[PartRow]:
            return [r for r in self.library.find_parts("").rows if r.id in part_ids]

        def done(rows: list[PartRow]) -> None:
            self.parts = rows
            self.title.setText(f"Lifecycle and stock of {counted(len(rows), 'part')}")
            self.hint.setText(
                f"Asks {self.context.catalogue or 'no catalogue'} for the part numbers and tells what changed."
            )
            self.ask_button.setEnabled(bool(rows))

        self.jobs.run("library", work, done, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def ask(self) -> None:
        """Ask for all parts."""
        address, token = self.context.catalogue, self.context.settings.catalogue_token
        library, rows = self.library, self.parts

        def work(task: Task) -> RefreshReport:
            catalogue = open_catalogue(address, token, task)
            return refresh_standing(library, catalogue, address, rows, preferred_suppliers(library), task)

        self.jobs.run_long("network", "Lifecycle and stock", work, self.show_report, self._say)

    def show_report(self, report: RefreshReport) -> None:
        """Show what changed."""
        self.report = report
        self.table.show_records(report.changes)
        self.hint.setText(f"{counted(report.asked, 'part')} asked for; {report.unchanged} as before.")
        self.keep_button.setEnabled(any(c.kind == "lifecycle" for c in report.changes))

    def keep(self) -> None:
        """Make working copies of the parts whose lifecycle changed; they are released together from the Shelf."""
        report, library, address = self.report, self.library, self.context.catalogue
        if report is None:
            return
        self.keep_button.setEnabled(False)

        def done(kept: KeptFacts) -> None:
            left = "".join(f" {part} was skipped: {why}." for part, why in kept.left)
            self.hint.setText(f"{counted(len(kept.kept), 'working copy', 'working copies')} saved.{left}")
            self.kept.emit()

        self.jobs.run_long(
            "disk",
            "Working copies",
            lambda task: keep_lifecycles(library, report, address, library.person().name, task),
            done,
            self._say,
        )
