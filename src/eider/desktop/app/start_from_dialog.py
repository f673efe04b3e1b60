"""Asks for the name of a part that is begun from another, and for the facts in which the two differ."""

from collections.abc import Callable, Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLineEdit, QWidget

from eider.desktop.widgets.layouts import button, label, row


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
