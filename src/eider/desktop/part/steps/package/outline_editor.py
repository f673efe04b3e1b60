"""The outlines of a sheet: steps and parts beside their drawing, the whole's corners and mirror, the library's own."""

from collections.abc import Callable, Mapping
from functools import partial

import msgspec
from PyQt6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QTabWidget, QWidget

from eider.commands.packages import package_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.drawings.highlighting import highlighted
from eider.library.documents.shared_outlines import library_outlines, save_outline
from eider.model.address import Address, OutlineStepAddress
from eider.model.outline import STEPS, OutlinePart, OutlineSpec, Step
from eider.views.steps.package import OutlineView

replace = msgspec.structs.replace


class OutlineStepRow(msgspec.Struct, frozen=True):
    """A step of the outline: its index, and what is wrong with the outline."""

    index: int
    value: Step
    fault: str = ""


class OutlinePartRow(msgspec.Struct, frozen=True):
    """A part that is added to the outline or cut out of it: its index, and what is wrong with the outline."""

    index: int
    value: OutlinePart
    fault: str = ""


class OutlineTables(QTabWidget):
    """Shows one outline; `change` is called with what a change merges with, and the changed outline.

    `others` gives the names of the further outlines, of which a part can be made.
    """

    def __init__(
        self, theme: Theme, change: Callable[[str, OutlineSpec], None], others: Callable[[], tuple[str, ...]]
    ) -> None:
        super().__init__()
        self._spec: OutlineSpec | None = None
        self._change, self._others = change, others
        self.steps, self.parts = self._steps_table(theme), self._parts_table(theme)
        for table, what, add, remove in (
            (self.steps, "step", self._add_step, self._remove_steps),
            (self.parts, "part", self._add_part, self._remove_parts),
        ):
            tools = row(button(f"Add a {what}", add), button(f"Remove {what}s", remove), 1)
            self.addTab(column(growing(table), tools, margins=2), f"{what.capitalize()}s")

    def _steps_table(self, theme: Theme) -> RecordView[OutlineStepRow]:
        table = RecordView[OutlineStepRow](
            [
                Column("Step", lambda r: r.value.kind, partial(self._set_step, "kind"), choices=lambda _r: STEPS),
                Column("Length", lambda r: r.value.length, partial(self._set_step, "length"), fault=lambda r: r.fault),
                Column("Width or °", lambda r: r.value.across, partial(self._set_step, "across")),
            ],
            theme,
        )
        table.set_widths(64, 110)
        return table

    def _parts_table(self, theme: Theme) -> RecordView[OutlinePartRow]:
        table = RecordView[OutlinePartRow](
            [
                Column(
                    "",
                    lambda r: "cut out" if r.value.cut else "add",
                    lambda r, text: self._put_part(r.index, "cut", text == "cut out"),
                    choices=lambda _r: ("add", "cut out"),
                ),
                Column(
                    "Shape",
                    lambda r: r.value.shape,
                    partial(self._set_part, "shape"),
                    choices=lambda _r: ("rectangle", "circle", *self._others()),
                ),
                Column("x", lambda r: r.value.x, partial(self._set_part, "x")),
                Column("y", lambda r: r.value.y, partial(self._set_part, "y")),
                Column("Width", lambda r: r.value.width, partial(self._set_part, "width")),
                Column("Height", lambda r: r.value.height, partial(self._set_part, "height")),
            ],
            theme,
        )
        table.set_widths(60, 78, 52, 52, 58)
        return table

    def show_outline(self, spec: OutlineSpec | None, fault: str) -> None:
        """Show an outline, and what is wrong with it; None shows empty tables."""
        self._spec = spec
        self.steps.show_records([OutlineStepRow(i, step, fault) for i, step in enumerate(spec.steps if spec else ())])
        self.parts.show_records([OutlinePartRow(i, part, fault) for i, part in enumerate(spec.parts if spec else ())])

    def _put(self, merge: str, **changes: object) -> None:
        if self._spec is not None:
            self._change(merge, replace(self._spec, **changes))

    @property
    def _present_steps(self) -> tuple[Step, ...]:
        return self._spec.steps if self._spec else ()

    @property
    def _present_parts(self) -> tuple[OutlinePart, ...]:
        return self._spec.parts if self._spec else ()

    def _set_step(self, what: str, record: OutlineStepRow, text: str) -> None:
        changed = replace(record.value, **{what: text.strip()})
        steps = (changed if i == record.index else step for i, step in enumerate(self._present_steps))
        self._put(f"outline:{record.index}:{what}", steps=tuple(steps))

    def _add_step(self) -> None:
        self._put("", steps=(*self._present_steps, Step("right", "1")))

    def _remove_steps(self) -> None:
        gone = {record.index for record in self.steps.selected()}
        self._put("", steps=tuple(step for i, step in enumerate(self._present_steps) if i not in gone))

    def _set_part(self, what: str, record: OutlinePartRow, text: str) -> None:
        self._put_part(record.index, what, text.strip())

    def _put_part(self, index: int, what: str, value: object) -> None:
        parts = (replace(p, **{what: value}) if i == index else p for i, p in enumerate(self._present_parts))
        self._put(f"part:{index}:{what}", parts=tuple(parts))

    def _add_part(self) -> None:
        self._put("", parts=(*self._present_parts, OutlinePart("rectangle", width="0.5", height="0.5")))

    def _remove_parts(self) -> None:
        gone = {record.index for record in self.parts.selected()}
        self._put("", parts=tuple(p for i, p in enumerate(self._present_parts) if i not in gone))


SQUARE = OutlineSpec("-0.5", "-0.5", (Step("right", "1"), Step("up", "1"), Step("left", "1"), Step("down", "1")))


class OutlineEditor(QWidget):
    """One outline at a time, chosen by name."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        theme = context.theme
        self.controller, self.jobs = controller, context.jobs.owned(self)
        self._outlines: Mapping[str, OutlineView] = {}
        self._saved: Mapping[str, OutlineSpec] = {}
        # The outline that is to be shown as soon as it is there.
        self._wanted = ""
        self.view = DrawingView(theme, "Add an outline or choose one, then enter its steps.", context.jobs)
        self.view.address_clicked.connect(self._show_step)
        self.names = QComboBox()
        self.names.activated.connect(lambda _i: self._show_outline())
        self.new_name = QLineEdit()
        self.new_name.setPlaceholderText("Name of the new outline")
        self.new_name.returnPressed.connect(self._add_outline)
        self.tables = OutlineTables(theme, self._put_outline, self._other_names)
        self.steps, self.parts = self.tables.steps, self.tables.parts
        self.steps.entered_record.connect(lambda _row: self._draw())
        for table in (self.steps, self.parts):
            table.edited.connect(controller.session.end_merge)
        self._said = label("", "wrong", wrap=True)
        self._said.hide()
        self.kept = QComboBox()
        self.kept.setAccessibleName("Outlines of the library")
        self.kept.activated.connect(lambda _i: self._take())
        fill_widget(
            self,
            column(
                row(
                    label("Outline", "head"),
                    self.names,
                    self.new_name,
                    button("Add", self._add_outline),
                    button("Remove", self._remove_outline),
                ),
                self._whole_row(),
                self._said,
                growing(panes(self.tables, self.view, sizes=(240, 200))),
                row(label("In the library", "soft"), self.kept, button("Save to library", self._keep), 1),
                margins=4,
            ),
        )

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
        self.mirror, self.chamfered = QComboBox(), QCheckBox("Cut off")
        self.mirror.addItems(["", "x", "y", "both"])
        self.mirror.activated.connect(lambda _i: self._change_outline(mirror=self.mirror.currentText()))
        self.chamfered.clicked.connect(lambda on: self._change_outline(chamfered=on))
        return column(row(*found, 1), row(self.chamfered, label("Mirror about", "soft"), self.mirror, 1), margins=0)

    def show_view(self, outlines: Mapping[str, OutlineView]) -> None:
        """Show the present outlines."""
        self._outlines = outlines
        known, chosen = list(outlines), self.names.currentText()
        wanted = self._wanted if self._wanted in known else chosen
        if set_choices(self.names, known) or wanted != chosen:
            self.names.setCurrentText(wanted if wanted in known else (known[-1] if known else ""))
        self._wanted = ""
        self._show_outline()
        self._read_saved()

    def _show_saved(self, saved: Mapping[str, OutlineSpec]) -> None:
        self._saved = saved
        set_choices(self.kept, ["Use…", *saved])

    def _outline(self) -> OutlineSpec | None:
        return self.controller.bundle.sheet.outlines.get(self.names.currentText())

    def _show_outline(self) -> None:
        view = self._outlines.get(self.names.currentText())
        spec, fault = (view.spec, view.fault) if view else (None, "")
        self.tables.show_outline(spec, fault)
        self._said.setText(fault)
        self._said.setVisible(bool(fault))
        for field, editor in self.whole.items():
            if not editor.hasFocus():
                editor.setText(getattr(spec, field) if spec else "")
        self.mirror.setCurrentText(spec.mirror if spec else "")
        self.chamfered.setChecked(bool(spec and spec.chamfered))
        self._draw()

    def _draw(self) -> None:
        view, step = self._outlines.get(self.names.currentText()), self.steps.currentIndex().row()
        in_hand = OutlineStepAddress(step) if step >= 0 else None
        self.view.show_drawing(highlighted(view.drawing, in_hand) if view and view.drawing else None)

    def _show_step(self, address: Address) -> None:
        if isinstance(address, OutlineStepAddress):
            self.steps.select_where(lambda r: r.index == address.index)

    def _add_outline(self) -> None:
        name = self.new_name.text().strip()
        self._wanted = name
        self.controller.edit(f"Add outline {name}", lambda b: package_edits.set_outline(b, name, SQUARE))
        self.new_name.clear()

    def _remove_outline(self) -> None:
        name = self.names.currentText()
        if name:
            self.controller.edit(f"Remove outline {name}", lambda b: package_edits.set_outline(b, name, None))

    def _put_outline(self, merge: str, changed: OutlineSpec) -> None:
        name = self.names.currentText()
        if changed != self._outline():
            self.controller.edit(f"Change outline {name}", lambda b: package_edits.set_outline(b, name, changed), merge)

    def _change_outline(self, **changes: object) -> None:
        spec = self._outline()
        if spec is not None:
            self._put_outline("", replace(spec, **changes))

    def _other_names(self) -> tuple[str, ...]:
        return tuple(name for name in self._outlines if name != self.names.currentText())

    def _set_whole(self, field: str) -> None:
        self._change_outline(**{field: self.whole[field].text().strip()})

    def _keep(self) -> None:
        """Keep the outline in the library under its name, for other parts."""
        spec, name = self._outline(), self.names.currentText()
        if spec is not None:
            before = self._saved.get(name)
            self.controller.do(lambda library: save_outline(library, name, spec, replaces=before), self._read_saved)

    def _read_saved(self) -> None:
        library = self.controller.library
        self.jobs.run("library", lambda: library_outlines(library), self._show_saved)

    def _take(self) -> None:
        """Use an outline of the library in the sheet; its letters must be there too."""
        name = self.kept.currentText()
        spec = self._saved.get(name)
        self.kept.setCurrentIndex(0)
        if spec is not None:
            self._wanted = name
            self.controller.edit(f"Use outline {name}", lambda b: package_edits.set_outline(b, name, spec))
