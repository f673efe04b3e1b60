"""What a package sheet says before its dimensions: the number of pins, the kind, the unit of plain numbers."""

from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.commands import package_edits
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import fill_widget, label, row, set_choices
from eider.geometry.expressions import MM_PER_UNIT
from eider.views.steps.package import PackageView


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
