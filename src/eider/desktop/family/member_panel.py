"""One member of a family: what it would be, what changes, what stays as somebody made it by hand, what checks find."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidget, QWidget

from eider.desktop.widgets.layouts import column, fill_widget, growing, label
from eider.model.wording import counted
from eider.services.family_tables import PlannedMember

STATES = {
    "new": "new: there is no such part yet",
    "changed": "changes",
    "same": "is as the table has it",
    "base": "is what the others begin as; change it by itself",
    "fault": "cannot be made",
}


class MemberPanel(QWidget):
    """Shows the member in hand."""

    def __init__(self) -> None:
        super().__init__()
        self.title, self.state = label("", "head"), label("", "", wrap=True)
        self.changes, self.findings = QListWidget(), QListWidget()
        for shown, name in ((self.changes, "What changes, and what stays"), (self.findings, "What the checks found")):
            shown.setWordWrap(True)
            shown.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            shown.setAccessibleName(name)
        fill_widget(
            self,
            column(
                self.title,
                self.state,
                label("Changes", "head"),
                growing(self.changes),
                label("Findings", "head"),
                growing(self.findings),
                margins=6,
            ),
        )

    def show_member(self, member: PlannedMember | None) -> None:
        """Show a member; nothing without one."""
        self.changes.clear()
        self.findings.clear()
        self.title.setText(member.name if member else "")
        self.state.setText(f"{STATES[member.state]}{f': {member.fault}' if member.fault else ''}" if member else "")
        self.state.setProperty("role", "wrong" if member and member.state == "fault" else "")
        style = self.state.style()
        if style is not None:
            style.polish(self.state)
        if member is None:
            return
        self.changes.addItems(list(member.changes))
        self.changes.addItems([f"Changed by hand, stays: {place}" for place in member.by_hand])
        self.changes.addItems(list(member.doubts))
        self.findings.addItems([f"{f.severity}: {f.message}" for f in member.findings])
        if member.part and not member.findings:
            self.findings.addItem(f"{counted(0, 'finding')}")
