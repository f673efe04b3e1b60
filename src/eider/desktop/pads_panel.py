"""Pads by hand: a table of sums, and the outlines that they name, step by step beside their drawing."""

from collections.abc import Callable
from functools import partial
from typing import Any

import msgspec
from PyQt6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QWidget

from eider.desktop.canvas import DrawingView
from eider.desktop.controller import PartController
from eider.desktop.table import Column, RecordView
from eider.desktop.theme import Theme
from eider.desktop.widgets import button, column, fill, growing, label, panes, row
from eider.drawings.outline import PLACE, outline_drawing
from eider.errors import InputError
from eider.model.outline import STEPS, OutlineSpec, PadSpec, Step
from eider.packages.given import SHAPES, given_pads
from eider.packages.outlines import make_outline
from eider.packages.reading import read_dimensions
from eider.workbench import edits

replace = msgspec.structs.replace
# Field, heading and width of the columns of the pad table.
FIELDS = (
    ("number", "No.", 40), ("x", "x", 70), ("y", "y", 70), ("width", "Width", 70), ("height", "Height", 70),
    ("shape", "Shape", 78), ("outline", "Outline", 66), ("rotation", "Turn", 44), ("count", "Count", 46),
    ("dx", "dx", 56), ("dy", "dy", 56), ("rows", "Rows", 42), ("row_dx", "row dx", 50), ("row_dy", "row dy", 50),
    ("radius", "Circle", 50), ("mirror", "Mirror", 52), ("hole", "Hole", 50), ("slot", "Slot", 44),
    ("plated", "Plated", 48), ("mask", "Mask", 48), ("paste", "Paste", 48),
)  # fmt: skip
CHOICES = {"shape": SHAPES, "mirror": ("", "x", "y", "both"), "plated": ("yes", "no")}
SQUARE = OutlineSpec("-0.5", "-0.5", (Step("right", "1"), Step("up", "1"), Step("left", "1"), Step("down", "1")))


class _Row(msgspec.Struct, frozen=True):
    """A row of a table: its index in the sheet, what it holds, and what is wrong with it."""

    index: int
    value: Any
    fault: str = ""


class PadsPanel(QWidget):
    """The pads of a sheet that gives them by hand."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self.controller = controller
        self.table = RecordView([self._column(field, title) for field, title, _ in FIELDS], theme)
        self.table.set_widths(*(width for _, _, width in FIELDS))
        self.table.edited.connect(controller.session.end_merge)
        self._fault = label("", "wrong", wrap=True)
        self.letter = QLineEdit()
        self.letter.setPlaceholderText("a length more: s = 14")
        self.letter.returnPressed.connect(self._add_letter)
        self.view = DrawingView(theme, "Add an outline, or choose one, to give its steps.")
        self.view.place_clicked.connect(self._show_step)
        self.names = QComboBox()
        self.names.activated.connect(lambda _i: self._show_outline())
        self.new_name = QLineEdit()
        self.new_name.setPlaceholderText("name of a new outline")
        self.new_name.returnPressed.connect(self._add_outline)
        self.steps = RecordView(
            [
                Column("Step", lambda r: r.value.kind, partial(self._set_step, "kind"), choices=lambda _r: STEPS),
                Column("Length", lambda r: r.value.length, partial(self._set_step, "length"), fault=lambda r: r.fault),
                Column("Across or °", lambda r: r.value.across, partial(self._set_step, "across")),
            ],
            theme,
        )
        self.steps.set_widths(64, 110)
        self.steps.edited.connect(controller.session.end_merge)
        self.steps.entered_record.connect(lambda _row: self._draw())
        self.letter.setMinimumWidth(170)
        tools = row(button("Add a pad", self._add_pad), button("Remove pads", self._remove_pads), 1, self.letter)
        upper = column(growing(self.table), self._fault, tools, margins=4)
        lower = column(
            row(label("Outline", "head"), self.names, self.new_name, button("Add", self._add_outline),
                button("Remove", self._remove_outline)),
            self._whole_row(),
            growing(panes(self.steps, self.view, sizes=(230, 200))),
            row(button("Add a step", self._add_step), button("Remove steps", self._remove_steps), 1), margins=4,
        )  # fmt: skip
        fill(self, panes(upper, lower, sizes=(220, 300), vertical=True))

    def _whole_row(self) -> QWidget:
        """What is given for the whole outline: its start, mirror and corners."""
        self.whole: dict[str, QLineEdit] = {}
        found: list[QWidget | int] = []
        for field, title in (("start_x", "start x"), ("start_y", "y"), ("corner", "corner")):
            editor = QLineEdit()
            editor.setFixedWidth(64)
            editor.editingFinished.connect(partial(self._set_whole, field))
            self.whole[field] = editor
            found += [label(title, "soft"), editor]
        self.mirror, self.chamfered = QComboBox(), QCheckBox("cut off")
        self.mirror.addItems(["", "x", "y", "both"])
        self.mirror.activated.connect(lambda _i: self._change_outline(mirror=self.mirror.currentText()))
        self.chamfered.clicked.connect(lambda on: self._change_outline(chamfered=on))
        return row(*found, self.chamfered, label("mirror at", "soft"), self.mirror, 1)

    def _column(self, field: str, title: str) -> Column:
        def show(record: _Row) -> str:
            value = getattr(record.value, field)
            return ("yes" if value else "no") if field == "plated" else str(value)

        def put(record: _Row, text: str) -> None:
            value = text == "yes" if field == "plated" else text.strip()
            pads = list(self.controller.bundle.sheet.pads)
            pads[record.index] = replace(pads[record.index], **{field: value})
            self._put_pads(pads, f"Change a pad's {title}", f"pads:{record.index}:{field}")

        choices: Callable[[Any], tuple[str, ...]] | None = (lambda _r: CHOICES[field]) if field in CHOICES else None
        return Column(title, show, put, choices=choices, fault=lambda r: r.fault)

    def _names(self) -> dict[str, float]:
        """The sheet's letters in mm."""
        dims = read_dimensions(self.controller.bundle.sheet).sheet.dims
        return {key: d.limits.middle for key, d in dims.items() if d.limits is not None}

    def refresh(self) -> None:
        """Show the present pads and outlines, and what is wrong with them."""
        sheet, names = self.controller.bundle.sheet, self._names()
        faults = [_fault(lambda p=pad: given_pads((p,), sheet.outlines, names)) for pad in sheet.pads]
        self.table.show_records([_Row(i, pad, faults[i]) for i, pad in enumerate(sheet.pads)])
        first = next((f"row {i + 1}: {text}" for i, text in enumerate(faults) if text), "")
        self._fault.setText(first)
        self._fault.setVisible(bool(first))
        known = list(sheet.outlines)
        if [self.names.itemText(i) for i in range(self.names.count())] != known:
            chosen = self.names.currentText()
            self.names.clear()
            self.names.addItems(known)
            self.names.setCurrentText(chosen if chosen in known else (known[-1] if known else ""))
        self._show_outline()

    def _outline(self) -> OutlineSpec | None:
        return self.controller.bundle.sheet.outlines.get(self.names.currentText())

    def _show_outline(self) -> None:
        spec = self._outline()
        fault = _fault(lambda: make_outline(spec, self._names())) if spec else ""
        self.steps.show_records([_Row(i, step, fault) for i, step in enumerate(spec.steps if spec else ())])
        for field, editor in self.whole.items():
            if not editor.hasFocus():
                editor.setText(getattr(spec, field) if spec else "")
        self.mirror.setCurrentText(spec.mirror if spec else "")
        self.chamfered.setChecked(bool(spec and spec.chamfered))
        self._draw()

    def _draw(self) -> None:
        spec = self._outline()
        self.view.show_drawing(outline_drawing(spec, self._names(), self.steps.currentIndex().row()) if spec else None)

    def _show_step(self, place: str) -> None:
        index = place.removeprefix(PLACE)
        self.steps.select_where(lambda r: str(r.index) == index)

    def _put_pads(self, pads: list[PadSpec], title: str, merge: str = "") -> None:
        self.controller.edit(title, lambda b: edits.set_pads(b, pads), merge)
        self.refresh()

    def _add_pad(self) -> None:
        pads = list(self.controller.bundle.sheet.pads)
        self._put_pads([*pads, PadSpec(str(len(pads) + 1), width="1", height="1")], "Add a pad")

    def _remove_pads(self) -> None:
        gone = {record.index for record in self.table.selected()}
        kept = [pad for i, pad in enumerate(self.controller.bundle.sheet.pads) if i not in gone]
        self._put_pads(kept, "Remove pads")

    def _add_letter(self) -> None:
        """A length of the sheet's own, for the sums."""
        name, _, text = (piece.strip() for piece in self.letter.text().partition("="))
        if name.isidentifier() and text:
            self.controller.edit(f"Add the length {name}", lambda b: edits.set_dimension(b, name, text))
            self.letter.clear()
            self.refresh()

    def _add_outline(self) -> None:
        name = self.new_name.text().strip()
        self.controller.edit(f"Add outline {name}", lambda b: edits.set_outline(b, name, SQUARE))
        self.new_name.clear()
        self.refresh()
        self.names.setCurrentText(name)
        self._show_outline()

    def _remove_outline(self) -> None:
        name = self.names.currentText()
        if name:
            self.controller.edit(f"Remove outline {name}", lambda b: edits.set_outline(b, name, None))
            self.refresh()

    def _change_outline(self, merge: str = "", **changes: object) -> None:
        spec, name = self._outline(), self.names.currentText()
        if spec is not None and (changed := replace(spec, **changes)) != spec:
            self.controller.edit(f"Change outline {name}", lambda b: edits.set_outline(b, name, changed), merge)
            self.refresh()

    def _set_whole(self, field: str) -> None:
        self._change_outline(**{field: self.whole[field].text().strip()})

    def _set_step(self, what: str, record: _Row, text: str) -> None:
        spec = self._outline()
        if spec is not None:
            steps = list(spec.steps)
            steps[record.index] = replace(steps[record.index], **{what: text.strip()})
            self._change_outline(f"outline:{record.index}:{what}", steps=tuple(steps))

    def _add_step(self) -> None:
        spec = self._outline()
        if spec is not None:
            self._change_outline(steps=(*spec.steps, Step("right", "1")))

    def _remove_steps(self) -> None:
        spec = self._outline()
        gone = {record.index for record in self.steps.selected()}
        if spec is not None:
            self._change_outline(steps=tuple(step for i, step in enumerate(spec.steps) if i not in gone))


def _fault(make: Callable[[], object]) -> str:
    try:
        make()
    except InputError as fault:
        return str(fault).removeprefix("pads, row 1 ")
    return ""
