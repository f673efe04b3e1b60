"""Bodies that the library has already: for which package each is, what differs, who uses it."""

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QDialog, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.lengths import format_length
from eider.model.wording import counted
from eider.services.parts.near_bodies import NearBody

ABOUT = "Closest package first. A copy is aligned and measured again; a body of the same package can be shared."
NOTHING = "No part of the library has a model of a package like this one; import the STEP file of the manufacturer."


class NearBodiesDialog(QDialog):
    """Choose a body; `then` is called with it, and with whether it is to be shared rather than copied."""

    def __init__(
        self,
        found: Sequence[NearBody],
        context: DesktopContext,
        then: Callable[[NearBody, bool], None],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Bodies of the library")
        self._then = then
        self.table = RecordView[NearBody](
            [
                Column("Part", lambda near: near.name),
                Column("File", lambda near: near.model.file),
                Column("Apart", lambda near: format_length(near.distance, context.unit), number=True),
                Column(
                    "Lengths that differ",
                    lambda near: ", ".join(d.letter for d in near.differences) or "none",
                    fault=lambda near: "" if near.fits else "Limits do not overlap",
                ),
                Column("Used by", lambda near: counted(len(near.users), "part")),
            ],
            context.theme,
        )
        self.table.set_widths(130, 150, 70, 160)
        self.table.setSelectionBehavior(RecordView.SelectionBehavior.SelectRows)
        self.table.doubleClicked.connect(lambda _index: self.take())
        self.table.show_records(found)
        if found:
            self.table.select_rows([0])
        layout = QVBoxLayout(self)
        layout.addWidget(label(ABOUT, "soft", wrap=True))
        layout.addWidget(self.table if found else label(NOTHING, "soft", wrap=True), 1)
        self.use = button("Use a copy", self.take, main=True)
        self.use.setEnabled(bool(found))
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        self.share = button("Share it", lambda: self.take(shares=True))
        self.share.setAutoDefault(False)
        self.share.setToolTip("Both parts have the same body; a change to it is offered to both as a new revision")
        self.table.selectionModel().selectionChanged.connect(lambda *_: self._enable())  # type: ignore[union-attr]
        self._enable()
        layout.addWidget(row(1, cancel, self.share, self.use))
        self.resize(640, 320)

    def _enable(self) -> None:
        near = self.table.record()
        self.share.setEnabled(near is not None and near.can_be_shared)

    def take(self, *, shares: bool = False) -> None:
        """Pass on the selected body."""
        near: NearBody | None = self.table.record()
        if near is not None:
            self.accept()
            self._then(near, shares)
