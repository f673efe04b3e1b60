"""What the user says of a source: its names, units and layers, its licence, and what is kept of its drawings."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QComboBox, QFormLayout, QLineEdit, QTabWidget, QVBoxLayout, QWidget

from eider.desktop.theme import Theme
from eider.desktop.widgets.record_table import Column, RecordView
from eider.exchange.layered_shapes import ROLES
from eider.model.intake import IntakeMap
from eider.model.library import LibrarySettings

UNITS = {"": "as the files say, else mm", "mm": "mm", "mil": "mil", "in": "inches", "um": "µm"}


class LayerRow(NamedTuple):
    """A layer of the files, and what it is for."""

    layer: str
    role: str


class FactRow(NamedTuple):
    """A fact as the source calls it, and as the library does; empty leaves it out."""

    theirs: str
    ours: str


class SourcePanel(QWidget):
    """`changed` tells the new map, and whether the files have to be read again; `source_chosen` another source."""

    changed = pyqtSignal(object, bool)
    source_chosen = pyqtSignal(str)

    def __init__(self, settings: LibrarySettings, theme: Theme) -> None:
        super().__init__()
        self.mapping = IntakeMap(category=next(iter(settings.categories), ""))
        self.source = QComboBox()
        self.source.setEditable(True)
        self.source.setAccessibleName("Source")
        self.source.setToolTip("These settings are saved under this name and reused.")
        self.source.activated.connect(lambda _index: self.source_chosen.emit(self.source.currentText()))
        self.category = QComboBox()
        self.category.setAccessibleName("Category of the parts")
        for key, entry in settings.categories.items():
            self.category.addItem(entry.title, key)
        self.category.activated.connect(lambda _i: self._put(category=str(self.category.currentData())))
        self.unit = QComboBox()
        self.unit.setAccessibleName("Unit of plain numbers")
        for key, title in UNITS.items():
            self.unit.addItem(title, key)
        self.unit.activated.connect(lambda _i: self._put(again=True, unit=self.unit.currentData()))
        self.licence = QLineEdit()
        self.licence.setPlaceholderText("Such as: free for use in own designs")
        self.licence.editingFinished.connect(lambda: self._put(licence=self.licence.text().strip()))
        self.convention = QCheckBox("Name parts by the convention of their category")
        self.convention.toggled.connect(lambda on: self._put(by_convention=on))
        self.drawings = QCheckBox("Keep their silkscreen and assembly drawing")
        self.drawings.toggled.connect(lambda on: self._put(drawings="kept" if on else "rulebook"))
        self._make_tables(theme)
        form = QFormLayout()
        form.addRow("Source", self.source)
        form.addRow("Category", self.category)
        form.addRow("Plain numbers", self.unit)
        form.addRow("Licence", self.licence)
        form.addRow("", self.convention)
        form.addRow("", self.drawings)
        tables = QTabWidget()
        tables.addTab(self.layers, "Layers")
        tables.addTab(self.facts, "Facts")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 8, 8, 8)
        layout.addLayout(form)
        layout.addWidget(tables, 1)

    def _make_tables(self, theme: Theme) -> None:
        self.layers = RecordView[LayerRow](
            [Column("Layer", lambda r: r.layer),
             Column("For", lambda r: r.role, self._put_layer, choices=lambda _r: ROLES, at_end=True)],
            theme,
        )  # fmt: skip
        self.layers.set_widths(260)
        self.layers.setAccessibleName("Layers of the files")
        self.facts = RecordView[FactRow](
            [Column("Name in file", lambda r: r.theirs), Column("Ours", lambda r: r.ours, self._put_fact, at_end=True)],
            theme,
        )
        self.facts.set_widths(220)
        self.facts.setAccessibleName("Names of facts")

    def show_sources(self, known: Sequence[str], current: str) -> None:
        """The sources that the library knows, and what this one is called."""
        self.source.clear()
        self.source.addItems([*known, *([current] if current and current not in known else [])])
        self.source.setCurrentText(current)

    def show_map(self, mapping: IntakeMap) -> None:
        """What is said of the source."""
        self.mapping = mapping
        for choice, key in ((self.category, mapping.category), (self.unit, mapping.unit)):
            choice.setCurrentIndex(max(choice.findData(key), 0))
        self.licence.setText(mapping.licence)
        for box, on in ((self.convention, mapping.by_convention), (self.drawings, mapping.drawings == "kept")):
            box.blockSignals(True)
            box.setChecked(on)
            box.blockSignals(False)

    def show_found(self, layers: Mapping[str, str], facts: Sequence[str]) -> None:
        """The layers that the files have, each with what it was taken for, and the facts of the parts."""
        self.layers.show_records([LayerRow(layer, role) for layer, role in sorted(layers.items())])
        self.facts.show_records([FactRow(name, self.mapping.facts.get(name, name)) for name in facts])

    def _put_layer(self, row: LayerRow, role: str) -> None:
        if role != row.role:
            self._put(again=True, layers={**self.mapping.layers, row.layer: role})

    def _put_fact(self, row: FactRow, name: str) -> None:
        if name.strip() != row.ours:
            self._put(facts={**self.mapping.facts, row.theirs: name.strip()})

    def _put(self, *, again: bool = False, **fields: object) -> None:
        made = replace(self.mapping, **fields)
        if made != self.mapping:
            self.mapping = made
            self.changed.emit(made, again)
