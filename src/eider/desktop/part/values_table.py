"""All values of a part, each with the cut-out of the datasheet that shows it, and a second person's tick."""

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QLabel, QSizePolicy, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.snippets import DatasheetSnippets
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.evidence.evidence_changes import confirm_values, restore_value
from eider.evidence.value_evidence import is_struck
from eider.views.part_values import ValueRow

ROW_HEIGHT, PICTURE = 34, QSize(124, 28)
# With less the column of evidence is not seen.
LEAST_WIDTH = 400


class ValuesTable(QWidget):
    """The table with its actions; whoever shows it hears which value is in hand from `table.entered_record`."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.snippets = DatasheetSnippets(context.jobs, controller.library, self)
        self.table = RecordView[ValueRow](
            [
                Column("Value of", lambda r: r.name),
                Column("As typed", lambda r: r.text),
                Column("Datasheet", lambda _r: "").with_picture(self._picture),
                Column("✓", lambda r: f"✓ {r.confirmed_by}" if r.confirmed_by else ""),
                Column("Evidence", lambda r: r.evidence, fault=_fault).struck_where(
                    lambda r: is_struck(r.source, r.former)
                ),
            ],
            context.theme,
        )
        self.table.set_widths(92, 80, 130, 22)
        self.table.set_row_height(ROW_HEIGHT, PICTURE)
        self.snippets.arrived.connect(self._repaint)
        self._large = QLabel()
        self._large.setMinimumHeight(40)
        self._large.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.table.entered_record.connect(self._show_large)
        tools = flow(
            button("Confirm selected", lambda: self._confirm(True)),
            button("Withdraw confirmation", lambda: self._confirm(False)),
            button("Restore datasheet value", self._restore),
        )
        self.setMinimumWidth(LEAST_WIDTH)
        fill_widget(self, column(growing(self.table), self._large, tools, margins=0))

    def show_values(self, values: Sequence[ValueRow]) -> None:
        """Show these values."""
        self.table.show_records(values)

    def selected(self) -> list[ValueRow]:
        """The rows of which a cell is selected."""
        return self.table.selected()

    def _picture(self, record: ValueRow) -> QPixmap | None:
        return self.snippets.fitted(record.snippet, PICTURE)

    def _show_large(self, record: ValueRow | None) -> None:
        """The cut-out of the selected value, as large as there is room."""
        whole = self.snippets.of(record.snippet) if record else None
        if whole is None:
            self._large.setPixmap(QPixmap())
            return
        room = QSize(max(self._large.width() - 4, 40), 40)
        flags = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        self._large.setPixmap(whole.scaled(room, *flags))

    def _repaint(self) -> None:
        self._show_large(self.table.record())
        viewport = present(self.table.viewport())
        viewport.update()

    def _confirm(self, is_confirmed: bool) -> None:
        addresses = [r.address for r in self.selected()]
        who = self.context.person.name
        title = "Confirm values" if is_confirmed else "Withdraw confirmations"
        self.controller.edit(title, lambda b: confirm_values(b, addresses, who, is_confirmed=is_confirmed))

    def _restore(self) -> None:
        addresses = [r.address for r in self.selected() if r.former is not None]
        if not addresses:
            self.context.said.emit("Select values that were changed by hand; their old evidence is struck through.")
        for address in addresses:
            self.controller.edit("Restore the datasheet's value", partial(restore_value, address=address))


def _fault(record: ValueRow) -> str:
    return "" if record.has_evidence else "no evidence yet"
