"""Another part's package sheet beside this one: compared letter by letter, or taken as the start."""

from PyQt6.QtWidgets import QCheckBox, QDialog, QLineEdit, QListWidget, QVBoxLayout, QWidget

from eider.commands.packages.sheet_copies import copy_sheet
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library.index.part_index import PartRow
from eider.model.bundle import Bundle
from eider.views.sheet_comparison import PackageSheetDifference, compare_sheets


class PackageSheetDialog(QDialog):
    """Search a part, see both sheets, start from the other one."""

    def __init__(self, controller: PartController, context: DesktopContext, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Compare with another package sheet")
        self.controller, self.context = controller, context
        self._jobs = context.jobs.owned(self)
        self._rows: list[PartRow] = []
        self.other: Bundle | None = None
        self.search, self.list = QLineEdit(), QListWidget()
        self.search.setPlaceholderText("Part or package")
        self.search.textChanged.connect(self.look)
        self.list.currentRowChanged.connect(self._open)
        self.table = RecordView[PackageSheetDifference](
            [
                Column("Letter", lambda d: d.letter),
                Column("Meaning", lambda d: d.meaning),
                Column("This sheet", lambda d: d.this, number=True),
                Column("Other sheet", lambda d: d.other, number=True),
                Column("Difference", lambda d: d.words, fault=lambda d: "" if d.is_same else d.words),
            ],
            context.theme,
        )
        self.table.set_widths(50, 170, 110, 110)
        self._about = label("", "soft")
        self.start = button("Start from this sheet", self.take, main=True)
        self.start.setEnabled(False)
        layout = QVBoxLayout(self)
        left = column(self.search, growing(self.list), margins=0)
        right = column(self._about, growing(self.table), margins=0)
        layout.addWidget(panes(left, right, sizes=(240, 560)), 1)
        self.with_lands = QCheckBox(
            "Copy its lands too: level, rulebook, suggested numbers, adjustments, kept distances"
        )
        layout.addWidget(row(self.with_lands, 1, button("Close", self.reject), self.start))
        self.resize(860, 460)
        self.look("")

    def look(self, words: str) -> None:
        """Search the library."""
        library, me = self.controller.library, self.controller.bundle.part.id

        def done(found: list[PartRow]) -> None:
            self._rows = [r for r in found if r.id != me][:200]
            self.list.clear()
            self.list.addItems([f"{r.name}   {r.package}" for r in self._rows])

        self._jobs.run("library", lambda: library.search(words), done)

    def _open(self, index: int) -> None:
        if not 0 <= index < len(self._rows):
            return
        part_id = self._rows[index].id

        def done(other: Bundle) -> None:
            self.other = other
            differences = compare_sheets(self.controller.bundle.sheet, other.sheet, self.context.unit)
            self.table.show_records(differences)
            odd = sum(not d.is_same for d in differences)
            families = "" if other.sheet.family == self.controller.bundle.sheet.family else f", {other.sheet.family}"
            self._about.setText(f"{other.part.name}: {odd} of {len(differences)} lengths differ{families}")
            self.start.setEnabled(True)

        self._jobs.run("library", lambda: self.controller.library.load(part_id), done)

    def take(self) -> None:
        """Begin this sheet as a copy of the other."""
        other = self.other
        if other is not None:
            title = f"Start from the sheet of {other.part.name}"
            with_lands = self.with_lands.isChecked()
            self.controller.edit(title, lambda b: copy_sheet(b, other, with_lands=with_lands))
            self.accept()
