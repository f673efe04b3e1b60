"""The steps and parts of an outline as tables, each with what adds to it and takes away."""

from collections.abc import Callable
from functools import partial

import msgspec
from PyQt6.QtWidgets import QTabWidget

from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, growing, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.outline import STEPS, OutlinePart, OutlineSpec, Step

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
