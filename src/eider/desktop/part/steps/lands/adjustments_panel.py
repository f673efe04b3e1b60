"""The adjustments of a footprint: of its pads, and of what surrounds them."""

from collections.abc import Callable, Sequence
from typing import Any, get_args

import msgspec
from PyQt6.QtWidgets import QWidget

from eider.commands.lands import footprint_edits
from eider.desktop.part.controller import PartController
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, menu_button, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.lands.silkscreen_overrides import LAYERS
from eider.model.footprint import Adjustment, OverrideKind, SilkscreenOverride
from eider.views.steps.lands import LandsView, OverrideRow

# What a new change begins with.
BEGUN = {
    "hide": SilkscreenOverride("hide", layer="silkscreen", text="mark"),
    "mark": SilkscreenOverride("mark", "0,0 1,0", "silkscreen"),
    "line": SilkscreenOverride("line", "0,0 1,0", "silkscreen"),
    "text": SilkscreenOverride("text", "0,0", "silkscreen", "REF"),
    "outline": SilkscreenOverride("outline", "-1,-1 1,-1 1,1 -1,1"),
    "keep-out": SilkscreenOverride("keep-out", "-1,-1 1,-1 1,1 -1,1", text="copper"),
}  # fmt: skip


class SilkscreenPanel(QWidget):
    """The table of changes; each place is a sum over the sheet's letters."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self.controller = controller
        self.table = RecordView[OverrideRow](
            [
                self._column("active", "Active", lambda d: "yes" if d.active else "no", ("yes", "no")),
                Column("What", lambda r: r.change.what),
                self._column("layer", "Layer", lambda d: d.layer, ("", *LAYERS)),
                self._column("points", "Points x,y x,y…", lambda d: d.points),
                self._column("text", "Text or kind", lambda d: d.text),
                self._column("width", "Width", lambda d: d.width),
                self._column("why", "Why", lambda d: d.why),
            ],
            theme,
        )
        self.table.set_widths(58, 58, 70, 112, 76, 46)
        self.table.edited.connect(controller.session.end_merge)
        add = menu_button("Add…", {kind: self._adder(kind) for kind in get_args(OverrideKind)})
        fill_widget(
            self,
            column(
                label("Silkscreen and keep-outs", "head", wrap=True),
                growing(self.table),
                row(add, button("Remove changes", self._remove), 1),
            ),
        )

    def _column(
        self, field: str, title: str, show: Callable[[SilkscreenOverride], str], choices: tuple[str, ...] = ()
    ) -> Column[OverrideRow]:
        def put(record: OverrideRow, text: str) -> None:
            value: Any = text == "yes" if field == "active" else text.strip()
            # The present state, not the record's: another cell may have been typed since that was shown.
            rows = list(self._changes())
            rows[record.index] = msgspec.structs.replace(rows[record.index], **{field: value})
            self._put(rows, f"Change the {title.lower()} of a {record.change.what}", f"override:{record.index}:{field}")

        options = (lambda _r: choices) if choices else None
        return Column(title, lambda r: show(r.change), put, choices=options)

    def _changes(self) -> tuple[SilkscreenOverride, ...]:
        return self.controller.bundle.footprint.overrides

    def _put(self, changes: list[SilkscreenOverride], title: str, merge: str = "") -> None:
        self.controller.edit(title, lambda b: footprint_edits.set_silkscreen_overrides(b, changes), merge)

    def _adder(self, kind: str) -> Callable[[], None]:
        return lambda: self._put([*self._changes(), BEGUN[kind]], f"Add a {kind}")

    def _remove(self) -> None:
        gone = {record.index for record in self.table.selected()}
        self._put([d for i, d in enumerate(self._changes()) if i not in gone], "Remove silkscreen changes")

    def show_overrides(self, rows: Sequence[OverrideRow]) -> None:
        """Show these changes."""
        self.table.show_records(rows)


class AdjustmentsPanel(QWidget):
    """A row for each; they can be switched off, changed, given a reason and removed."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self._controller = controller
        self.table = RecordView[Adjustment](
            [
                Column(
                    "Active",
                    lambda a: "yes" if a.active else "no",
                    lambda a, text: self._change("Switch an adjustment on or off", a, active=text == "yes"),
                    choices=lambda _a: ("yes", "no"),
                ),
                Column(
                    "Pads",
                    lambda a: a.pad,
                    lambda a, text: self._change("Choose the pads of an adjustment", a, pad=text.strip()),
                ),
                Column("What", lambda a: a.what),
                Column("Value", lambda a: a.value, lambda a, text: self._change("Change an adjustment", a, value=text)),
                Column("Why", lambda a: a.why, lambda a, text: self._change("Give a reason", a, why=text)),
            ],
            theme,
        )
        self.table.set_widths(64, 46, 66, 96)
        self.surroundings = SilkscreenPanel(controller, theme)
        pads = column(label("Pads", "head"), growing(self.table), row(button("Remove selected", self._remove), 1))
        fill_widget(self, panes(pads, self.surroundings, sizes=(260, 260), vertical=True))

    def show_view(self, view: LandsView) -> None:
        """Show the present adjustments."""
        self.table.show_records(view.adjustments)
        self.surroundings.show_overrides(view.overrides)

    def _change(self, title: str, shown: Adjustment, **changes: object) -> None:
        """Change one of the list as it is now: another cell of its row may have been typed since it was shown."""
        rows = list(self._controller.bundle.footprint.adjustments)
        index = next(i for i, a in enumerate(self.table.records.records) if a is shown)
        if index < len(rows):
            rows[index] = msgspec.structs.replace(rows[index], **changes)
            self._controller.edit(title, lambda b: footprint_edits.set_adjustments(b, rows))

    def _remove(self) -> None:
        gone = self.table.selected()
        kept = [a for a in self._controller.bundle.footprint.adjustments if a not in gone]
        self._controller.edit("Remove adjustments", lambda b: footprint_edits.set_adjustments(b, kept))
