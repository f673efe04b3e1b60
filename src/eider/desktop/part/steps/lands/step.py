"""Lands: the land pattern as a dimensioned drawing, its derivation, its joints, its pads and adjustments."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QCheckBox, QComboBox, QGridLayout, QLabel, QRadioButton, QTabWidget, QWidget

from eider.commands.lands import footprint_edits
from eider.datasheets import Datasheet
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.datasheet_figures import FigurePlace, FigureReader
from eider.desktop.part.step import CaptureTarget, ViewStep
from eider.desktop.part.steps.lands.adjustments_panel import AdjustmentsPanel
from eider.desktop.part.steps.lands.derivation_panel import DerivationPanel, JointPanel, YieldPanel
from eider.desktop.part.steps.lands.distances_panel import DistancesPanel, MeasuredRow, PitchPanel
from eider.desktop.part.steps.lands.manufacturer_panel import ManufacturerPanel
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import (
    button,
    column,
    fill_widget,
    growing,
    label,
    panes,
    row,
    set_choices,
    small_button,
)
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.ruler import Ruler
from eider.drawings.land_drawing import LAYERS, SHOWN
from eider.drawings.ruler_snapping import Measured
from eider.geometry.lengths import format_length
from eider.geometry.plane import Box
from eider.library.documents.stored_rulebooks import rulebook_names
from eider.model.address import Address, PadAddress, pad_number
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.pattern import LEVELS, Level, Pad
from eider.views.sheet_comparison import since_origin
from eider.views.steps.lands import LandsOptions, LandsView, RecipeView

LEVEL_NAMES = {"A": "A, most copper", "B": "B, nominal", "C": "C, least"}
TURNS = (0, 90, 180, 270)


class RecipeChoices(QWidget):
    """The choices of a footprint's recipe; `rulebook_asked` wants the rulebook editor."""

    rulebook_asked = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.radios = QButtonGroup(self)
        self.also: dict[Level, QCheckBox] = {}
        self._summaries: dict[Level, QLabel] = {}
        levels: list[QWidget] = []
        for level in LEVELS:
            levels += self._level_row(level)
        self.rulebook = QComboBox()
        self.rulebook.setAccessibleName("rulebook")
        self.rulebook.activated.connect(
            lambda _i: controller.edit(
                "Change the rulebook", lambda b: footprint_edits.set_rulebook(b, self.rulebook.currentText())
            )
        )
        self._revision = label("", "soft", wrap=True)
        change = small_button(button("Rules…", lambda: self.rulebook_asked.emit(self.rulebook.currentText())))
        self.turn, self.mirrored = QComboBox(), QCheckBox("Mirrored")
        self.turn.setAccessibleName("Rotation")
        self.turn.addItems([f"{turn}°" for turn in TURNS])
        self.turn.activated.connect(lambda _i: self._place())
        self.mirrored.clicked.connect(lambda _on: self._place())
        self._origin = label("", "soft", wrap=True)
        self._origin_of: tuple[Any, ...] = ()
        self._chosen = ""
        fill_widget(
            self,
            column(
                label("Level", "head"),
                *levels,
                label("Rulebook", "head"),
                row(self.rulebook, change),
                self._revision,
                row(label("Rotation"), self.turn, self.mirrored, 1),
                self._origin,
                margins=0,
                spacing=3,
            ),
        )

    def _level_row(self, level: Level) -> list[QWidget]:
        radio, also = QRadioButton(LEVEL_NAMES[level]), QCheckBox("Also make")
        radio.setObjectName(level)
        radio.clicked.connect(
            lambda _c: self.controller.edit(f"Level {level}", lambda b: footprint_edits.set_level(b, level))
        )
        also.setToolTip(f"Make a footprint at level {level} as well as the chosen one")
        also.setAccessibleName(f"Also make level {level}")
        also.clicked.connect(
            lambda on: self.controller.edit(
                f"{'Also make' if on else 'Do not make'} level {level}",
                lambda b: footprint_edits.set_also_level(b, level, on=on),
            )
        )
        self.radios.addButton(radio)
        self.also[level], self._summaries[level] = also, label("", "soft", wrap=True)
        return [row(radio, 1, also), self._summaries[level]]

    def _place(self) -> None:
        turn, mirrored = TURNS[self.turn.currentIndex()], self.mirrored.isChecked()
        self.controller.edit(
            "Rotate the footprint", lambda b: footprint_edits.set_orientation(b, turn, mirrored=mirrored)
        )

    def show_view(self, view: RecipeView) -> None:
        """Show the present choices."""
        for radio in self.radios.buttons():
            radio.setChecked(radio.objectName() == view.level)
        for level, shown in self._summaries.items():
            shown.setText(view.summaries[level])
            self.also[level].setEnabled(level != view.level)
            self.also[level].setChecked(level in view.also or level == view.level)
        self._chosen = view.rulebook
        self._show_rulebooks([self.rulebook.itemText(i) for i in range(self.rulebook.count())])
        self._read_rulebooks()
        self._revision.setText(view.revision)
        self.turn.setCurrentIndex(TURNS.index(view.turn))
        self.mirrored.setChecked(view.is_mirrored)
        self._show_origin(self.controller.bundle)

    def _read_rulebooks(self) -> None:
        """The names of the library's rulebooks, which another page may have changed."""
        library = self.controller.library
        self.jobs.run("library", lambda: rulebook_names(library), self._show_rulebooks)

    def _show_rulebooks(self, names: Sequence[str]) -> None:
        set_choices(self.rulebook, list(names) if self._chosen in names else [*names, self._chosen])
        self.rulebook.setCurrentText(self._chosen)

    def _show_origin(self, bundle: Bundle) -> None:
        """What became different since the part was begun from another; that one is read from the library."""
        origin, library = bundle.part.origin, self.controller.library
        if origin is None:
            self._origin.setText("")
            return
        state = (origin, bundle.sheet, bundle.footprint.adjustments, bundle.footprint.level, bundle.footprint.rulebook)
        if state == self._origin_of:
            return
        self._origin_of = state

        def work() -> str:
            other = library.load_release(origin.id, origin.revision) if origin.revision else library.load(origin.id)
            return since_origin(bundle, other, library.find(origin.id).revision).words

        def gone(_fault: Exception) -> None:
            self._origin.setText(f"Created from {origin.name}, which is no longer in the library")

        self.jobs.run("library", work, self._origin.setText, gone)


class LandsStep(ViewStep[LandsView]):
    """Choose the level, read every length's derivation, see whether it will solder, adjust pads."""

    key = "lands"
    view_type = LandsView
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
