"""Lands: the land pattern as a dimensioned drawing, its derivation, its joints, its pads and adjustments."""

from collections.abc import Callable
from typing import Any

import msgspec
from PyQt6.QtWidgets import QCheckBox, QFrame, QScrollArea, QTabWidget, QWidget

from eider.desktop.canvas import DrawingView
from eider.desktop.controller import PartController
from eider.desktop.distances_panel import DistancesPanel, MeasuredRow
from eider.desktop.dressing_panel import DressingPanel
from eider.desktop.lands_choices import LandChoices
from eider.desktop.ruler import Ruler
from eider.desktop.steps.base import Shared, Step, Target
from eider.desktop.suggested_panel import SuggestedPanel
from eider.desktop.table import Column, RecordView
from eider.desktop.theme import Theme
from eider.desktop.widgets import button, column, growing, label, panes, row
from eider.drawings.findings import with_balloons
from eider.drawings.joints import joint_drawing
from eider.drawings.lands import LAYERS, SHOWN, LandOptions, pattern_drawing
from eider.drawings.ruler import Measured
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.lands.joints import GroupJoints, pattern_joints
from eider.lands.solver import allowance
from eider.model.footprint import Adjustment
from eider.model.pattern import LEVELS, Pad, Pattern
from eider.packages.placing import extreme_terminals, placing_in, terminals_on
from eider.workbench import edits
from eider.workbench.derivations import InputRow, derivation_inputs
from eider.workbench.distances import kept_lines


class _JointRow(msgspec.Struct, frozen=True):
    fillet: str
    reached: float
    goals: tuple[float, float, float]


NO_JOINT = (
    "Lands of balls, thermal pads and holes follow from their own rules, not from a toe and a heel: see Derivation."
)


class LandsStep(Step):
    """Choose the level, read every length's derivation, see whether it will solder, adjust pads."""

    key = "lands"

    def __init__(self, controller: PartController, shared: Shared) -> None:
        super().__init__(controller, shared)
        self.choices = LandChoices(controller, shared)
        self.choices.rulebook_asked.connect(shared.open_rulebook)
        self._layers: dict[str, QCheckBox] = {}
        for layer in LAYERS:
            box = QCheckBox(layer)
            box.setChecked(layer in SHOWN)
            box.toggled.connect(lambda _on: self._draw())
            self._layers[layer] = box
        left = column(self.choices, label("Shown", "head"), *self._layers.values(), 1, spacing=3)
        self._name = label("", "head")
        self.view = DrawingView(shared.theme, "The lands are computed as soon as the package sheet is complete.")
        self.view.place_clicked.connect(self.show_place)
        self.view.pointed.connect(shared.point)
        self.ruler = Ruler(self.view, self._show_measured)
        self._ruler_button = button("Ruler", self._switch_ruler, checkable=True)
        self.measured = MeasuredRow(controller, shared)
        self.measured.hide()
        self.measured.kept.connect(lambda: self._tabs.setCurrentWidget(self.distances))
        head = row(label("Land pattern", "head"), self._ruler_button, 1, self._name)
        middle = column(head, growing(self.view), self.measured)
        self._tabs = QTabWidget()
        self._build_tabs()
        self.build(panes(left, middle, self._tabs, sizes=(190, 610, 464)))

    def _build_tabs(self) -> None:
        self._build_derivation_tab(self.shared.theme)
        self._build_joint_tab(self.shared.theme)
        self._build_pads_tab(self.shared.theme)
        self._build_adjustments_tab(self.shared.theme)
        self.suggested = SuggestedPanel(self.controller, self.shared.theme)
        self._tabs.addTab(self.suggested, "Suggested")
        self.distances = DistancesPanel(self.controller, self.shared)
        self._tabs.addTab(self.distances, "Distances")

    def _build_derivation_tab(self, theme: Theme) -> None:
        self._derivation = RecordView(
            [
                Column("Group", lambda r: r[0]),
                Column("Length", lambda r: r[1]),
                Column("raw, mm", lambda r: "" if r[2] is None else f"{r[2]:.4f}", number=True),
                Column("rounded", lambda r: self._show(r[3]), number=True),
            ],
            theme,
        )
        self._derivation.set_widths(130, 52, 84)
        self.inputs = RecordView(
            [
                Column("Group", lambda r: r.group),
                Column("Input", lambda r: r.name),
                Column("Value", lambda r: r.value, number=True),
                Column("From", lambda r: r.letter),
                Column("Evidence", lambda r: r.evidence),
            ],
            theme,
        )
        self.inputs.set_widths(104, 42, 96, 90)
        self.inputs.activated.connect(lambda _index: self._go_to_input())
        self._formulas = label("", wrap=True)
        self._formulas.setTextInteractionFlags(self._formulas.textInteractionFlags().TextSelectableByMouse)
        note = label("Enter or a double click goes to the cell that an input comes from.", "soft", wrap=True)
        words = QScrollArea()
        words.setWidget(self._formulas)
        words.setWidgetResizable(True)
        words.setFrameShape(QFrame.Shape.NoFrame)
        upper = column(self._derivation, growing(words), margins=2)
        lower = column(label("What went in", "head"), growing(self.inputs), note, margins=2)
        self._tabs.addTab(panes(upper, lower, sizes=(360, 200), vertical=True), "Derivation")

    def _build_joint_tab(self, theme: Theme) -> None:
        self.joint = DrawingView(theme, "The joint is drawn here when there are lands.")
        self._joints = RecordView(
            [
                Column("Fillet", lambda r: r.fillet),
                Column("reached, mm", lambda r: f"{r.reached:+.4f}", number=True),
                *(
                    Column(f"goal {lv}, mm", lambda r, i=i: f"{r.goals[i]:.2f}", number=True)
                    for i, lv in enumerate(LEVELS)
                ),
            ],
            theme,
        )
        self._joints.set_widths(60, 96, 90, 90)
        self._joints.setMaximumHeight(108)
        self._verdict, self._slack = label("", "number"), label("", "soft", wrap=True)
        self._tabs.addTab(column(self._verdict, self._slack, growing(self.joint), self._joints), "Joint")

    def _build_pads_tab(self, theme: Theme) -> None:
        self.pads = RecordView(
            [
                Column("Pad", lambda p: p.number, self._pad_setter("number"), number=True),
                *(
                    Column(what, lambda p, w=what: self._show(getattr(p, w)), self._pad_setter(what), number=True)
                    for what in ("x", "y", "width", "height")
                ),
                Column("shape", lambda p: p.shape, self._pad_setter("shape"),
                       choices=lambda _p: ("rectangle", "rounded", "oval", "circle")),
                Column("hole", lambda p: self._show(p.hole.width) if p.hole else "", self._pad_setter("hole")),
                Column("plated", lambda p: "yes" if p.plated else "no", self._pad_setter("plated"),
                       choices=lambda _p: ("yes", "no")),
            ],
            theme,
        )  # fmt: skip
        self.pads.set_widths(40, 68, 68, 68, 68, 72, 60)
        self.pads.entered_record.connect(lambda _pad: self._draw())
        self.pads.edited.connect(self.controller.session.end_merge)
        note = label("Editing a cell records an adjustment, which survives every recomputation.", "soft", wrap=True)
        self._tabs.addTab(column(note, growing(self.pads)), "Pads")

    def _build_adjustments_tab(self, theme: Theme) -> None:
        self.adjustments = RecordView(
            [
                Column(
                    "In force",
                    lambda a: "yes" if a.active else "no",
                    self._set_active,
                    choices=lambda _a: ("yes", "no"),
                ),
                Column("Pad", lambda a: a.pad),
                Column("What", lambda a: a.what),
                Column("Value", lambda a: a.value, self._set_adjusted),
                Column("Why", lambda a: a.why, self._set_why),
            ],
            theme,
        )
        self.adjustments.set_widths(64, 46, 66, 96)
        remove = button("Remove selected", self._remove)
        self.dressing = DressingPanel(self.controller, theme)
        pads = column(label("Of pads", "head"), growing(self.adjustments), row(remove, 1))
        self._tabs.addTab(panes(pads, self.dressing, sizes=(260, 260), vertical=True), "Adjustments")

    def _go_to_input(self) -> None:
        """The cell of the sheet that the input in hand comes from, or the rulebook."""
        record: InputRow | None = self.inputs.record()
        if record is None:
            return
        if record.place:
            self.shared.go("package", record.place)
        elif record.letter.startswith("rulebook"):
            self.shared.open_rulebook(self.controller.bundle.footprint.rulebook)

    def _switch_ruler(self) -> None:
        self.ruler.switch(on=self._ruler_button.isChecked())

    def _show_measured(self, measured: Measured | None) -> None:
        self.measured.show_measured(measured)
        self.measured.setVisible(self._ruler_button.isChecked())

    def _show(self, mm: float) -> str:
        return format_length(mm, self.shared.unit)

    def first(self) -> QWidget:
        return self.view

    def refresh(self) -> None:
        super().refresh()
        footprint = self.controller.bundle.footprint
        self.choices.refresh()
        self._name.setText(footprint.name)
        pattern = footprint.pattern
        self.pads.show_records(pattern.pads if pattern else ())
        self.adjustments.show_records(footprint.adjustments)
        self.dressing.refresh()
        count = len(footprint.adjustments) + len(footprint.dressing)
        self._tabs.setTabText(3, f"Adjustments ({count})" if count else "Adjustments")
        self._show_derivation(pattern)
        self.suggested.refresh()
        self.distances.refresh()
        self._draw()

    def _show_derivation(self, pattern: Pattern | None) -> None:
        groups, sizes = (pattern.derivation, pattern.sizes) if pattern else ((), ())
        rows: list[tuple[str, str, float | None, float]] = [
            (group.group, name, getattr(group, f"{name}_raw"), getattr(group, name))
            for group in groups
            for name in ("Z", "G", "X")
        ]
        rows += [(size.group, name, None, value) for size in sizes for name, value in size.values.items()]
        self._derivation.show_records(rows)
        texts = [text for group in (*groups, *sizes) for text in (f"{group.group}:", *group.formulas, *group.notes)]
        by_hand = ["These lands are given by hand, by sums over the sheet's letters: see Pads by hand in Package."]
        said = [*texts, "All lengths in mm."] if texts else by_hand if pattern else []
        self._formulas.setText("\n\n".join(said))
        self.inputs.show_records(derivation_inputs(self.controller.view, self.shared.unit))
        self._derivation.setFixedHeight(32 + 24 * min(max(len(rows), 1), 8))

    def _draw(self) -> None:
        bundle = self.controller.bundle
        pattern = bundle.footprint.pattern
        if pattern is None:
            self.view.show_drawing(None)
            self.joint.show_drawing(None)
            return
        try:
            terminals = terminals_on(bundle.sheet, pattern)
        except EiderError:
            terminals = ()
        pad: Pad | None = self.pads.record()
        layers = frozenset(name for name, box in self._layers.items() if box.isChecked())
        lit = frozenset((pad.number,)) if pad else frozenset()
        extremes = extreme_terminals(bundle.sheet, pattern) if "limits" in layers else ()
        options = LandOptions(layers, self.shared.unit, lit, extremes)
        drawing = pattern_drawing(pattern, terminals, options).with_extra(kept_lines(self.controller.view))
        self.view.show_drawing(with_balloons(drawing, self.controller.findings))
        self._draw_joint(pattern, pad)

    def _draw_joint(self, pattern: Pattern, pad: Pad | None) -> None:
        """The joint of the pad in hand, or of the first one."""
        try:
            sheet, rulebook = self.controller.bundle.sheet, self.controller.rules.rulebook
            groups = pattern_joints(sheet, pattern.pads, rulebook, placing_in(pattern))
        except EiderError as fault:
            self.joint.set_hint(str(fault))
            self.joint.show_drawing(None)
            return
        wanted = pad.number if pad else ""
        group = next((g for g in groups if any(j.number == wanted for j in g.pads)), groups[0] if groups else None)
        if group is None or not group.pads:
            self.joint.set_hint(NO_JOINT)
            self.joint.show_drawing(None)
            self._verdict.setText("")
            self._slack.setText("")
            self._joints.show_records([])
            return
        joint = next((j for j in group.pads if j.number == wanted), group.pads[0])
        shown = next(p for p in pattern.pads if p.number == joint.number)
        lands = _measured(group, joint.reached.toe, joint.reached.heel)
        self.joint.show_drawing(joint_drawing(group, shown, *lands))
        reached = joint.level or "below C"
        self._verdict.setText(f"Pad {joint.number} reaches {f'level {reached}' if joint.level else reached}")
        slack = allowance(group.goals, self.controller.rules.rulebook)
        self._slack.setText(f"A goal counts as met within {slack:.4f} mm, which rounding to the step can take.")
        goals = [group.goals.goals(level) for level in LEVELS]
        self._joints.show_records(
            [
                _JointRow(name, getattr(joint, name), tuple(getattr(goal, name) for goal in goals))  # type: ignore[arg-type]
                for name in ("toe", "heel", "side")
            ]
        )

    def target(self, _field: QWidget | None) -> Target | None:
        shown = self._tabs.currentWidget()
        return shown.target() if isinstance(shown, SuggestedPanel | DistancesPanel) else None

    def next_field(self) -> None:
        self.suggested.next_field()

    def show_place(self, place: str) -> None:
        if self.distances.show_place(place):
            self._tabs.setCurrentWidget(self.distances)
            return
        number = place.removeprefix("lands.pads.")
        self.pads.select_where(lambda pad: pad.number == number)

    def _pad_setter(self, what: str) -> Callable[[Any, str], None]:
        def put(pad: Pad, text: str) -> None:
            value = text.strip()
            if what in ("x", "y", "width", "height", "hole") and value and not any(c.isalpha() for c in value):
                value = f"{value} {self.shared.unit}" if self.shared.unit != "mm" else value
            adjustment = Adjustment(pad.number, what, value, "by hand")
            self.controller.edit(
                f"Adjust {what} of pad {pad.number}", lambda b: edits.adjust(b, adjustment), f"pad:{pad.number}:{what}"
            )

        return put

    def _replace(self, old: Adjustment, new: Adjustment | None, title: str) -> None:
        kept = [new if a == old else a for a in self.controller.bundle.footprint.adjustments]
        self.controller.edit(title, lambda b: edits.set_adjustments(b, [a for a in kept if a]))

    def _set_active(self, adjustment: Adjustment, text: str) -> None:
        self._replace(adjustment, msgspec.structs.replace(adjustment, active=text == "yes"), "Switch an adjustment")

    def _set_adjusted(self, adjustment: Adjustment, text: str) -> None:
        self._replace(adjustment, msgspec.structs.replace(adjustment, value=text), "Change an adjustment")

    def _set_why(self, adjustment: Adjustment, text: str) -> None:
        self._replace(adjustment, msgspec.structs.replace(adjustment, why=text), "Say why")

    def _remove(self) -> None:
        gone = self.adjustments.selected()
        kept = [a for a in self.controller.bundle.footprint.adjustments if a not in gone]
        self.controller.edit("Remove adjustments", lambda b: edits.set_adjustments(b, kept))


def _measured(group: GroupJoints, toe: float, heel: float) -> tuple[float, float]:
    """Z and G of a pad and its opposite, worked back from its fillets (mm)."""
    t = group.terminals
    return t.l_min + 2 * toe + t.root_l, t.s_max - 2 * heel - t.root_s
