"""Lands: the land pattern as a dimensioned drawing, its derivation, its joints, its pads and adjustments."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QCheckBox, QGridLayout, QTabWidget, QWidget

from eider.commands import footprint_edits
from eider.datasheets import Datasheet
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.datasheet_figures import FigurePlace, FigureReader
from eider.desktop.part.lands.adjustments_panel import AdjustmentsPanel
from eider.desktop.part.lands.choices import RecipeChoices
from eider.desktop.part.lands.derivation_panel import DerivationPanel
from eider.desktop.part.lands.distances_panel import DistancesPanel, MeasuredRow
from eider.desktop.part.lands.joint_panel import JointPanel
from eider.desktop.part.lands.manufacturer_panel import ManufacturerPanel
from eider.desktop.part.lands.pitch_panel import PitchPanel
from eider.desktop.part.lands.yield_panel import YieldPanel
from eider.desktop.part.step import CaptureTarget, PartStep
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.ruler import Ruler
from eider.drawings.land_drawing import LAYERS, SHOWN
from eider.drawings.ruler_snapping import Measured
from eider.geometry.lengths import format_length
from eider.geometry.shapes import Box
from eider.model.address import Address, PadAddress, pad_number
from eider.model.footprint import Adjustment
from eider.model.pattern import Pad
from eider.views.steps.lands import LandsOptions, LandsView


class LandsStep(PartStep):
    """Choose the level, read every length's derivation, see whether it will solder, adjust pads."""

    key = "lands"
    narrow_below = 1000

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.choices = RecipeChoices(controller, context)
        self.choices.rulebook_asked.connect(context.rulebook_asked)
        self._layers: dict[str, QCheckBox] = {}
        for layer in LAYERS:
            box = QCheckBox(layer.capitalize())
            box.setChecked(layer in SHOWN)
            box.toggled.connect(lambda _on: self.choose())
            self._layers[layer] = box
        layers = QGridLayout()
        layers.setSpacing(3)
        for place, box in enumerate(self._layers.values()):
            layers.addWidget(box, place // 2, place % 2)
        left = column(self.choices, label("Shown", "head"), layers, 1, spacing=3)
        self._name = label("", "head")
        self.view = DrawingView(
            context.theme, "The lands are computed as soon as the package sheet is complete.", context.jobs
        )
        self.view.address_clicked.connect(self.show_address)
        self.view.pointed.connect(context.pointed)
        self.ruler = Ruler(self.view, self._show_measured)
        self._ruler_button = button("Ruler", self._switch_ruler, checkable=True)
        self.measured = MeasuredRow(controller, context)
        self.measured.hide()
        self.measured.kept.connect(lambda: self._tabs.setCurrentWidget(self._distances_tab))
        head = row(label("Land pattern", "head"), self._ruler_button, 1, self._name)
        middle = column(head, growing(self.view), self.measured)
        self._tabs = QTabWidget()
        self._build_tabs()
        self.build(panes(left, middle, self._tabs, sizes=(190, 556, 518)))

    def _build_tabs(self) -> None:
        self.derivation = DerivationPanel(self.controller, self.context)
        self.joint = JointPanel(self.context)
        self.joint.pad_asked.connect(lambda number: self.show_address(PadAddress(number)))
        self._tabs.addTab(self.derivation, "Derivation")
        self._tabs.addTab(self.joint, "Joint")
        self.joint_yield = YieldPanel(self.controller, self.context)
        self._tabs.addTab(self.joint_yield, "Yield")
        self._build_pads_tab(self.context.theme)
        self.adjusted = AdjustmentsPanel(self.controller, self.context.theme)
        self._tabs.addTab(self.adjusted, "Adjustments")
        self.suggested = ManufacturerPanel(self.controller, self.context.theme)
        self._tabs.addTab(self.suggested, "Suggested")
        self._tabs.currentChanged.connect(lambda _index: self._tab_chosen())
        self.distances = DistancesPanel(self.controller, self.context)
        self.pitch = PitchPanel(self.controller, self.context)
        self._distances_tab = panes(self.distances, self.pitch, sizes=(200, 340), vertical=True)
        self._tabs.addTab(self._distances_tab, "Distances")

    def _build_pads_tab(self, theme: Theme) -> None:
        self.pads = RecordView[Pad](
            [
                Column("Pad", lambda p: p.number, self._pad_setter("number"), number=True),
                *(
                    Column(what, partial(self._length, what), self._pad_setter(what), number=True)
                    for what in ("x", "y", "width", "height")
                ),
                Column(
                    "shape",
                    lambda p: p.shape,
                    self._pad_setter("shape"),
                    choices=lambda _p: ("rectangle", "rounded", "oval", "circle"),
                ),
                Column("Hole", lambda p: self._show(p.hole.width) if p.hole else "", self._pad_setter("hole")),
                Column(
                    "plated",
                    lambda p: "yes" if p.plated else "no",
                    self._pad_setter("plated"),
                    choices=lambda _p: ("yes", "no"),
                ),
            ],
            theme,
        )
        self.pads.set_widths(40, 68, 68, 68, 68, 72, 60)
        self.pads.allow_sorting()
        self.pads.entered_record.connect(lambda _pad: self._pad_entered())
        self.pads.edited.connect(self.controller.session.end_merge)
        note = label("Editing a cell records an adjustment, which survives every recomputation.", "soft", wrap=True)
        self._tabs.addTab(column(note, growing(self.pads)), "Pads")

    def read_rectangle(self, _document: Datasheet, sha256: str, page: int, box: Box) -> bool:
        """A rectangle in the datasheet is read as suggested lands where these are looked at."""
        if self._tabs.currentWidget() is not self.suggested:
            return False
        FigureReader(self.controller, self.context, self.jobs).read_lands(FigurePlace(sha256, page, box))
        return True

    def _tab_chosen(self) -> None:
        self.choose()
        self._simulate()

    def _simulate(self) -> None:
        """Yield and pitch are worked out only while they are looked at."""
        self.pitch.follow(is_seen=self._tabs.currentWidget() is self._distances_tab)
        self.joint_yield.follow(is_seen=self._tabs.currentWidget() is self.joint_yield)

    def _switch_ruler(self) -> None:
        self.ruler.switch(on=self._ruler_button.isChecked())

    def _show_measured(self, measured: Measured | None) -> None:
        self.measured.show_measured(measured)
        self.measured.setVisible(self._ruler_button.isChecked())

    def _length(self, what: str, pad: Pad) -> str:
        return self._show(getattr(pad, what))

    def _show(self, mm: float) -> str:
        return format_length(mm, self.context.unit)

    def fold(self, *, is_narrow: bool) -> None:
        self.derivation.fold(is_narrow=is_narrow)

    def first(self) -> QWidget:
        return self.view

    def options(self) -> LandsOptions:
        pad = self.pads.record()
        layers = frozenset(name for name, box in self._layers.items() if box.isChecked())
        return LandsOptions(layers, pad.number if pad else "", self._tabs.currentWidget() is self.suggested)

    def show_view(self, view: LandsView) -> None:
        self.choices.show_view(view.recipe)
        self._name.setText(view.name)
        self.pads.show_records(view.pads)
        self.adjusted.show_view(view)
        count = len(view.adjustments) + len(view.overrides)
        self._tabs.setTabText(self._tabs.indexOf(self.adjusted), f"Adjustments ({count})" if count else "Adjustments")
        self.derivation.show_view(view)
        self.joint.show_view(view.joint)
        self._simulate()
        if view.manufacturer is not None:
            self.suggested.show_view(view.manufacturer)
        self.distances.show_rows(view.distances, view.distance_faults)
        self.view.show_drawing(view.drawing)
        self._show_light()

    def _show_light(self) -> None:
        pad = self.pads.record()
        self.view.light_addresses(frozenset((PadAddress(pad.number),)) if pad else frozenset())

    def _pad_entered(self) -> None:
        """Another pad was selected: highlight it at once; its joint follows."""
        self._show_light()
        self.choose()

    def target(self, _field: QWidget | None) -> CaptureTarget | None:
        shown = self._tabs.currentWidget()
        return shown.target() if isinstance(shown, ManufacturerPanel | DistancesPanel) else None

    def next_field(self) -> None:
        self.suggested.next_field()

    def show_address(self, address: Address) -> None:
        if self.distances.show_address(address):
            self._tabs.setCurrentWidget(self._distances_tab)
            return
        number = pad_number(address)
        self.pads.select_where(lambda pad: pad.number == number)

    def _pad_setter(self, what: str) -> Callable[[Any, str], None]:
        def put(pad: Pad, text: str) -> None:
            value = text.strip()
            if what in ("x", "y", "width", "height", "hole") and value and not any(c.isalpha() for c in value):
                value = f"{value} {self.context.unit}" if self.context.unit != "mm" else value
            adjustment = Adjustment(pad.number, what, value, "by hand")
            self.controller.edit(
                f"Adjust {what} of pad {pad.number}",
                lambda b: footprint_edits.adjust_pad(b, adjustment),
                f"pad:{pad.number}:{what}",
            )

        return put
