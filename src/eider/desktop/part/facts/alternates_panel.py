"""Alternates: parts of the library and of suppliers that could stand in for the one that is open."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.commands.alternates import Alternate, FactDifference
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.wording import counted
from eider.services.supplier_lookup import find_alternates, open_catalogue
from eider.services.tasks import Task


class AlternatesPanel(QWidget):
    """The nearest first; what differs is shown for the one in hand."""

    look_up_asked = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.table = RecordView[Alternate](
            [
                Column("Part", lambda a: a.name),
                Column("Found in", lambda a: a.source),
                Column("Land pattern", lambda a: a.pattern),
                Column("Differs in", lambda a: ", ".join(d.name for d in a.differs) or "nothing that is known"),
                Column("Lifecycle", lambda a: a.lifecycle),
            ],
            context.theme,
        )
        self.table.set_widths(140, 110, 90, 150)
        self.table.allow_sorting()
        self.table.entered_record.connect(self._show_differences)
        self.differences = RecordView[FactDifference](
            [
                Column("Fact", lambda d: d.name),
                Column("This part", lambda d: d.mine or "–"),
                Column("The other", lambda d: d.theirs or "–"),
            ],
            context.theme,
        )
        self.differences.set_widths(150, 150)
        self.say = label(
            "Parts with the same value, or the same land pattern where the category has no value.", "soft", wrap=True
        )
        self.title = label("", "head")
        self.compare = button("Compare at suppliers", self._compare)
        self.compare.setEnabled(False)
        top = column(
            flow(
                button("Search the library", lambda: self.search(with_suppliers=False)),
                button("Search library and suppliers", lambda: self.search(with_suppliers=True)),
            ),
            self.say,
            growing(self.table),
            margins=6,
        )
        bottom = column(self.title, growing(self.differences), row(1, self.compare), margins=6)
        fill_widget(self, panes(top, bottom, sizes=(340, 220), vertical=True))

    def search(self, *, with_suppliers: bool) -> None:
        """Find alternates; suppliers are asked only if they are to be."""
        library, bundle = self.controller.library, self.controller.bundle
        address, token = self.context.catalogue, self.context.settings.catalogue_token
        self.say.setText(f"Asking {address} …" if with_suppliers else "Searching …")

        def work(task: Task) -> list[Alternate]:
            return find_alternates(library, bundle, open_catalogue(address, token, task) if with_suppliers else None)

        self.jobs.run_long("library", "Alternates", work, self.show_found, lambda fault: self.say.setText(str(fault)))

    def show_found(self, found: Sequence[Alternate]) -> None:
        """Show what was found."""
        ours = sum(1 for alternate in found if alternate.part_id)
        self.say.setText(
            f"{counted(ours, 'part')} of the library, {len(found) - ours} of suppliers" if found else "None found"
        )
        self.table.show_records(found)
        self.table.select_rows([0] if found else [])
        if not found:
            self._show_differences(None)

    def _show_differences(self, alternate: Alternate | None) -> None:
        self.compare.setEnabled(alternate is not None and alternate.entry is not None)
        self.title.setText(f"{alternate.name}: {counted(alternate.same, 'fact')} the same" if alternate else "")
        self.differences.show_records(alternate.differs if alternate else ())

    def _compare(self) -> None:
        alternate = self.table.record()
        if alternate is not None:
            self.look_up_asked.emit(alternate.name)
