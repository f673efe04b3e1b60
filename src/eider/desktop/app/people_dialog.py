"""The people of a library: who may do what, and whether releases are reviewed."""

from PyQt6.QtWidgets import QCheckBox, QDialog, QLineEdit, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.people_settings import PeopleSettings, people_fault, people_settings
from eider.model.library import ROLE_NAMES, Role
from eider.services.people import change_people

# An address and its role.
Member = tuple[str, Role]
ABOUT = (
    "Librarians do everything; reviewers approve and decline; engineers claim parts and request reviews; readers read. "
    "While nobody is listed, everybody is a librarian. Whoever is not listed is a reader."
)


class PeopleDialog(QDialog):
    """Nothing is kept before *Save*, which needs a note."""

    def __init__(self, library: Library, context: DesktopContext, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("People and reviews")
        self._library, self._jobs = library, context.jobs.owned(self)
        self._before = people_settings(library.settings)
        self.people: dict[str, Role] = dict(self._before.people)
        columns: list[Column[Member]] = [
            Column("E-mail, as git has it", lambda m: m[0]),
            Column("Role", lambda m: m[1], self._set_role, choices=lambda _m: ROLE_NAMES),
        ]
        self.table = RecordView[Member](columns, context.theme)
        self.table.set_widths(300, 120)
        self.email = QLineEdit()
        self.email.setPlaceholderText("E-mail of another person")
        self.email.setAccessibleName("E-mail of another person")
        self.email.returnPressed.connect(self.add)
        self.review = QCheckBox("A part is released only after its review was approved")
        self.review.setChecked(self._before.review_required)
        self.two_people = QCheckBox("by another person than who requested it")
        self.two_people.setChecked(self._before.two_people)
        self.note = QLineEdit()
        self.note.setPlaceholderText("Why; the note stays with the change")
        self.note.setAccessibleName("Why")
        self.fault = label("", "wrong", wrap=True)
        self._build()
        self._show()

    def _build(self) -> None:
        self.save_button = button("Save", self.save, main=True)
        add, remove, cancel = button("Add", self.add), button("Remove", self.remove), button("Cancel", self.reject)
        for other in (add, remove, cancel):
            other.setAutoDefault(False)
        self.review.toggled.connect(lambda _on: self._show())
        self.two_people.toggled.connect(lambda _on: self._show())
        self.note.textChanged.connect(lambda _text: self._show())
        layout = QVBoxLayout(self)
        layout.addWidget(label(ABOUT, "soft", wrap=True))
        layout.addWidget(self.table, 1)
        layout.addWidget(row(self.email, add, remove))
        layout.addWidget(self.review)
        layout.addWidget(row(self.two_people, 1))
        layout.addWidget(self.note)
        layout.addWidget(self.fault)
        layout.addWidget(row(1, cancel, self.save_button))
        self.resize(520, 480)

    def _wanted(self) -> PeopleSettings:
        return PeopleSettings(dict(self.people), self.review.isChecked(), self.two_people.isChecked())

    def _show(self) -> None:
        wanted = self._wanted()
        self.two_people.setEnabled(wanted.review_required or wanted.two_people)
        self.table.show_records(list(self.people.items()))
        fault = people_fault(wanted)
        self.fault.setText(fault)
        self.save_button.setEnabled(not fault and wanted != self._before and bool(self.note.text().strip()))

    def _set_role(self, member: Member, text: str) -> None:
        role = next((known for known in ROLE_NAMES if known == text), None)
        if role is not None:
            self.people[member[0]] = role
        self._show()

    def add(self) -> None:
        """One person more; the first one is a librarian, so that somebody is."""
        email = self.email.text().strip()
        if not email or email in self.people:
            self.fault.setText(f"{email} is listed already" if email else "Type an e-mail address first")
            return
        self.email.clear()
        self.people[email] = "engineer" if self.people else "librarian"
        self._show()

    def remove(self) -> None:
        """Take out who is selected."""
        for email, _role in self.table.selected():
            self.people.pop(email, None)
        self._show()

    def save(self) -> None:
        """Write it into the settings of the library."""
        wanted, note, library, before = self._wanted(), self.note.text(), self._library, self._before
        self._jobs.run(
            "library",
            lambda: change_people(library, wanted, note, replaces=before),
            lambda _none: self.accept(),
            lambda fault: self.fault.setText(str(fault)),
        )
