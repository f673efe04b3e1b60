"""What a package sheet says before its dimensions: the number of pins, the kind, the unit of plain numbers."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.commands.packages import package_edits
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import FlowLayout, flow
from eider.desktop.widgets.layouts import fill_widget, label, row, set_choices
from eider.geometry.expressions import MM_PER_UNIT
from eider.model.package_sheet import PackageSheet
from eider.packages.family import FamilyField
from eider.views.steps.package import PackageView

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


class SheetHead(QWidget):
    """Goes on in a second line where there is too little room."""

    def __init__(self, controller: PartController) -> None:
        super().__init__()
        self._controller = controller
        self.pins = QLineEdit()
        self.pins.setFixedWidth(56)
        self.pins.editingFinished.connect(self._set_pins)
        self._kind, self._unit = QComboBox(), QComboBox()
        self._unit.addItems(list(MM_PER_UNIT))
        self._kind.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self._kind.activated.connect(
            lambda _i: controller.edit("Change the kind", lambda b: package_edits.set_kind(b, self._kind.currentText()))
        )
        self._unit.activated.connect(
            lambda _i: controller.edit(
                "Change the unit of plain numbers", lambda b: package_edits.set_units(b, self._unit.currentText())
            )
        )
        self._kind_row = row(label("Kind"), self._kind)
        unit = row(label("Unit of plain numbers"), self._unit)
        fill_widget(self, flow(row(label("Pins"), self.pins), self._kind_row, unit))

    def show_view(self, view: PackageView) -> None:
        """Show what the sheet says."""
        if not self.pins.hasFocus():
            self.pins.setText(str(view.sheet.pins))
        self._kind_row.setVisible(bool(view.kinds))
        set_choices(self._kind, view.kinds)
        self._kind.setCurrentText(view.sheet.kind)
        self._unit.setCurrentText(view.sheet.units)

    def _set_pins(self) -> None:
        text = self.pins.text()
        if text != str(self._controller.bundle.sheet.pins):
            self._controller.edit("Change the number of pins", lambda b: package_edits.set_pins(b, text))
            self.pins.setText(str(self._controller.bundle.sheet.pins))
