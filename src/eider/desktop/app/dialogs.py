"""The few questions that are asked in a window of their own."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFileDialog,
    QFormLayout,
    QLineEdit,
    QListWidget,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.library import LibrarySettings
from eider.model.wording import counted
from eider.reports.paper_sizes import PAPERS
from eider.services.publishing.printing import Printed, print_parts
from eider.services.tasks import Task


class WithdrawDialog(QDialog):
    """`asked` tells reason and successor; whoever hears it closes the dialog, or shows a fault."""

    asked = pyqtSignal(str, str)

    def __init__(self, name: str, parent: QWidget, *, is_back: bool) -> None:
        super().__init__(parent)
        title = f"Use {name} again" if is_back else f"Withdraw {name}"
        self.setWindowTitle(title)
        self.reason, self.successor = QLineEdit(), QLineEdit()
        self.reason.setPlaceholderText("Why; it stays with the revision")
        self.reason.textChanged.connect(lambda _text: self._enable())
        self.successor.setPlaceholderText("name of a part; empty for none")
        self._fault = label("", "wrong", wrap=True)
        self.act = button("Use it again" if is_back else "Withdraw", self._done, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QFormLayout(self)
        told = "" if is_back else "It stays readable, and is found only when someone asks for withdrawn parts."
        if told:
            layout.addRow(label(told, wrap=True))
        layout.addRow("Reason", self.reason)
        if not is_back:
            layout.addRow("Replacement part", self.successor)
        layout.addRow(self._fault)
        layout.addRow(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self._enable()

    def _enable(self) -> None:
        self.act.setEnabled(bool(self.reason.text().strip()))

    def _done(self) -> None:
        self.asked.emit(self.reason.text().strip(), self.successor.text().strip())

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)


class StartFromDialog(QDialog):
    """Facts with their present values, and the name, which follows them where the category composes it.

    `asked` tells the name, empty where it shall be composed, and the facts; whoever hears it closes the dialog, or
    says with `show_fault` why the part cannot be begun. `name_of` composes a name from facts; `kinds` are kinds of
    parts to choose from, with the words for each.
    """

    asked = pyqtSignal(str, object)

    def __init__(
        self,
        title: str,
        facts: Mapping[str, str],
        name_of: Callable[[Mapping[str, str]], str],
        parent: QWidget,
        kinds: Mapping[str, str] | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._name_of = name_of
        self.fields = {fact: QLineEdit(value) for fact, value in facts.items()}
        self.name = QLineEdit()
        self.name.setPlaceholderText("manufacturer part number")
        self._kinds = QComboBox()
        for key, words in (kinds or {}).items():
            self._kinds.addItem(words, key)
        layout = QFormLayout(self)
        if kinds:
            layout.addRow("Variant", self._kinds)
        if facts:
            layout.addRow(label("What differs", "head"))
        for fact, field in self.fields.items():
            field.textEdited.connect(lambda _text: self._compose())
            layout.addRow(fact, field)
        layout.addRow("Name", self.name)
        self._fault = label("", "wrong", wrap=True)
        layout.addRow(self._fault)
        self.make = button("Create", self._done, main=True)
        self.make.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout.addRow(row(1, cancel, self.make))
        self.setMinimumWidth(460)

    @property
    def kind(self) -> str:
        """The kind that was chosen; empty where there are none to choose from."""
        return str(self._kinds.currentData() or "")

    @property
    def facts(self) -> dict[str, str]:
        """The facts as they are typed."""
        return {fact: field.text() for fact, field in self.fields.items()}

    def _compose(self) -> None:
        """Show the name that follows from the facts; one that is typed stays."""
        composed = self._name_of(self.facts)
        if composed:
            self.name.setPlaceholderText(composed)

    def _done(self) -> None:
        self._fault.setText("")
        self.asked.emit(self.name.text(), self.facts)

    def show_fault(self, fault: str) -> None:
        """Say why the part cannot be begun."""
        self._fault.setText(fault)


class UnsavedDialog(QDialog):
    """Names what is not saved; `discarded` tells that it is not wanted."""

    discarded = pyqtSignal()

    def __init__(self, unsaved: Sequence[str], discard: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Unsaved changes")
        layout = QVBoxLayout(self)
        layout.addWidget(label("These changes are not saved:", "head"))
        for words in unsaved:
            layout.addWidget(label(words, wrap=True))
        stay = button("Keep working", self.reject, main=True)
        stay.setDefault(True)
        self.discard = button(discard, self._discard)
        self.discard.setAutoDefault(False)
        layout.addWidget(row(1, self.discard, stay))
        self.setMinimumWidth(420)

    def _discard(self) -> None:
        self.accept()
        self.discarded.emit()


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


class NameDialog(QDialog):
    """Asks for the name and the category of a new part.

    `named` tells both; whoever hears it closes the dialog, or says with `show_fault` why the name cannot be used.
    """

    named = pyqtSignal(str, str)

    def __init__(self, title: str, settings: LibrarySettings, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._settings = settings
        self.name, self.category = QLineEdit(), QComboBox()
        self.name.setPlaceholderText("manufacturer part number")
        for key, entry in settings.categories.items():
            self.category.addItem(entry.title, key)
        self.category.currentIndexChanged.connect(lambda _i: self._show_example())
        self._example, self._fault = label("", "soft", wrap=True), label("", "wrong", wrap=True)
        layout = QVBoxLayout(self)
        layout.addWidget(label("Name"))
        layout.addWidget(self.name)
        layout.addWidget(label("Category"))
        layout.addWidget(self.category)
        layout.addWidget(self._example)
        layout.addWidget(self._fault)
        self.make = button("Create", self._done, main=True)
        self.make.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout.addWidget(row(1, cancel, self.make))
        self.setMinimumWidth(440)
        self._show_example()

    def _show_example(self) -> None:
        entry = self._settings.categories.get(str(self.category.currentData()))
        self._example.setText(f"Naming rule: {entry.name_example}" if entry and entry.name_example else "")

    def _done(self) -> None:
        self._fault.setText("")
        self.named.emit(self.name.text(), str(self.category.currentData()))

    def show_fault(self, fault: str) -> None:
        """Say why the name cannot be used."""
        self._fault.setText(fault)


class ReleaseDialog(QDialog):
    """Asks for the note of parts that are released together; `noted` tells it."""

    noted = pyqtSignal(str)

    def __init__(self, rows: Sequence[PartRow], parent: QWidget) -> None:
        super().__init__(parent)
        parts = counted(len(rows), "part")
        self.setWindowTitle(f"Release {parts}")
        self.list = QListWidget()
        self.list.addItems([f"{row.name}   {row.state}, becomes revision {row.revision + 1}" for row in rows])
        self.note = QPlainTextEdit()
        self.note.setPlaceholderText("What changed and why. The note stays with each revision.")
        self.note.setMaximumHeight(84)
        self.note.setTabChangesFocus(True)
        self.note.textChanged.connect(self._enable)
        self.release = button(f"Release {parts}", self._done, main=True)
        self.release.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label("All of them are released, or none if one has blockers."))
        layout.addWidget(self.list)
        layout.addWidget(label("Release note", "head"))
        layout.addWidget(self.note)
        layout.addWidget(row(1, cancel, self.release))
        self.resize(520, 380)
        self.note.setFocus()
        self._enable()

    def _enable(self) -> None:
        self.release.setEnabled(bool(self.note.toPlainText().strip()))

    def _done(self) -> None:
        self.accept()
        self.noted.emit(self.note.toPlainText().strip())
