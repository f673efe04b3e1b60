"""What a package sheet has besides lengths, as its family declares it: counts, lists of numbers, choices."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.desktop.widgets.flow_layout import FlowLayout
from eider.desktop.widgets.layouts import label, row
from eider.model.package_sheet import PackageSheet
from eider.packages.family import FamilyField

WIDTHS = {"count": 44, "number": 56, "numbers": 110}


class FamilyFields(QWidget):
    """A row of small fields; `put` gets the key of a field and its new text."""

    def __init__(self, put: Callable[[str, str], None]) -> None:
        super().__init__()
        self._put = put
        self._fields: tuple[FamilyField, ...] = ()
        self.editors: dict[str, QLineEdit | QComboBox] = {}
        self._layout = FlowLayout(self)

    def show_fields(self, fields: tuple[FamilyField, ...], sheet: PackageSheet) -> None:
        """Show the fields of a family with the sheet's values; hidden where there are none."""
        if fields != self._fields:
            self._build(fields)
        for field in fields:
            editor, text = self.editors[field.key], _text(sheet.option(field.key))
            if isinstance(editor, QComboBox):
                editor.setCurrentText(text or field.options()[0])
            elif not editor.hasFocus():
                editor.setText(text)
        self.setVisible(bool(fields))

    def _build(self, fields: tuple[FamilyField, ...]) -> None:
        while (item := self._layout.takeAt(0)) is not None:
            if widget := item.widget():
                widget.deleteLater()
        self._fields, self.editors = fields, {}
        for field in fields:
            editor: QLineEdit | QComboBox
            if field.options():
                editor = QComboBox()
                editor.addItems(list(field.options()))
                editor.activated.connect(partial(self._changed, field.key))
            else:
                editor = QLineEdit()
                editor.setFixedWidth(WIDTHS[field.kind])
                editor.setPlaceholderText("1, 2, …" if field.kind == "numbers" else "")
                editor.editingFinished.connect(partial(self._changed, field.key))
            editor.setToolTip(field.help)
            self.editors[field.key] = editor
            self._layout.addWidget(row(label(field.title, "soft"), editor))

    def _changed(self, key: str, _index: int = 0) -> None:
        editor = self.editors[key]
        self._put(key, editor.currentText() if isinstance(editor, QComboBox) else editor.text())


def _text(value: object) -> str:
    """A value of the sheet as it is typed."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return ", ".join(value) if isinstance(value, tuple) else str(value)
