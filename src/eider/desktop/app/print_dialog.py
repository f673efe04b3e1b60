"""Prints land patterns 1:1: on which paper, mirrored or not, and into which file."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QComboBox, QDialog, QFileDialog, QFormLayout, QLineEdit, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library import Library
from eider.model.wording import counted
from eider.reports.footprint_print import PAPERS
from eider.services.printing import Printed, print_parts
from eider.services.tasks import Task

ABOUT = (
    "Land patterns at their true size, several on a page. Print the file without scaling, measure the two bars on the "
    "paper, and lay the component on it."
)


class PrintDialog(QDialog):
    """`asked` tells the file, the paper, and whether the patterns are mirrored."""

    asked = pyqtSignal(object, str, bool)

    def __init__(self, count: int, folder: Path, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"Print land patterns of {counted(count, 'part')}")
        self.file = QLineEdit(str(folder / "land-patterns.pdf"))
        self.file.textChanged.connect(lambda text: self.act.setEnabled(bool(text.strip())))
        self.paper = QComboBox()
        self.paper.addItems(list(PAPERS))
        self.mirrored = QCheckBox("Mirrored, as seen from below")
        self.fault = label("", "wrong", wrap=True)
        self.act = button("Write the PDF", self._ask, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        form = QFormLayout()
        form.addRow("Paper", self.paper)
        form.addRow("", self.mirrored)
        form.addRow("File", row(self.file, button("Choose…", self._choose)))
        layout = QVBoxLayout(self)
        layout.addWidget(label(ABOUT, "soft", wrap=True))
        layout.addLayout(form)
        layout.addWidget(self.fault)
        layout.addWidget(row(1, cancel, self.act))
        self.resize(520, 240)

    def _choose(self) -> None:
        name, _kind = QFileDialog.getSaveFileName(self, "Write the PDF", self.file.text(), "PDF (*.pdf)")
        if name:
            self.file.setText(name)

    def _ask(self) -> None:
        self.asked.emit(
            Path(self.file.text().strip()).expanduser(), self.paper.currentText(), self.mirrored.isChecked()
        )


def ask_to_print(library: Library, context: DesktopContext, part_ids: Sequence[str], parent: QWidget) -> PrintDialog:
    """Ask how, and write the land patterns of parts; what is wrong is told in the dialog."""
    dialog = PrintDialog(len(part_ids), library.folder.parent, parent)

    def asked(out: Path, paper: str, mirrored: bool) -> None:
        def work(task: Task) -> Printed:
            return print_parts(library, part_ids, out, paper, mirrored=mirrored, task=task)

        def done(printed: Printed) -> None:
            dialog.accept()
            context.said.emit(printed.words)

        context.jobs.run_long("export", "Printing", work, done, lambda fault: dialog.fault.setText(str(fault)))

    dialog.asked.connect(asked)
    dialog.open()
    return dialog
