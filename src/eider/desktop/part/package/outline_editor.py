"""The outlines of a sheet: steps and parts beside their drawing, the whole's corners and mirror, the library's own."""

from collections.abc import Mapping
from functools import partial

import msgspec
from PyQt6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QWidget

from eider.commands import package_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.package.outline_tables import OutlineTables
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, set_choices
from eider.drawings.highlighting import highlighted
from eider.library.shared_outlines import library_outlines, save_outline
from eider.model.address import Address, OutlineStepAddress
from eider.model.outline import OutlineSpec, Step
from eider.views.steps.package import OutlineView

replace = msgspec.structs.replace
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
