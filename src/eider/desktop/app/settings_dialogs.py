"""What a library holds by settings: people and reviews, materials, publishing."""

from collections.abc import Callable, Mapping
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPixmap
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFileDialog,
    QFormLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from eider.bodies.solids.materials import UNKNOWN, materials_with, standard_materials
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import Jobs
from eider.desktop.widgets.layouts import button, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_MATERIALS
from eider.library.settings.people_settings import PeopleSettings, people_fault, people_settings
from eider.model.library import ROLE_NAMES, PublishSettings, Role
from eider.model.material import CLASSES, FINISHES, Material
from eider.model.wording import counted
from eider.services.publishing.format_registry import default_formats, export_formats
from eider.services.publishing.library_publishing import PublishReport, keep_publishing, publish_folder, publish_library
from eider.services.sharing.people import change_people
from eider.services.tasks import Task

# A material and its name.
Named = tuple[str, Material]
SWATCH = (22, 12)
ABOUT = (
    "Every body of the library takes its colours from here. Metal, board and ink stay solid where a body is shown "
    "see-through; the finish tells how a material shines in pictures and in glTF."
)


class MaterialsDialog(QDialog):
    """Nothing is kept before *Save*, which writes the materials that are not the standard ones as they were."""

    kept = pyqtSignal()

    def __init__(self, library: Library, context: DesktopContext, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Materials of the library")
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._saved: dict[str, Material] = {}
        self.materials: dict[str, Material] = dict(materials_with({}))
        self.table = RecordView[Named](
            [
                Column("Name", lambda r: r[0]),
                Column[Named]("Colour", lambda r: r[1].colour, self._set_colour, at_end=True).with_picture(_swatch),
                Column("Finish", lambda r: r[1].finish, self._setter("finish"), choices=lambda _r: FINISHES),
                Column("Class", lambda r: r[1].kind, self._setter("kind"), choices=lambda _r: CLASSES),
                Column("Origin", lambda r: _origin(*r)),
            ],
            context.theme,
        )
        self.table.set_widths(150, 110, 80, 90)
        self.new_name = QLineEdit()
        self.new_name.setPlaceholderText("Name of a new material")
        self.new_name.returnPressed.connect(self.add)
        self._fault = label("", "wrong", wrap=True)
        self._fault.hide()
        self.save_button = button("Save", self.save, main=True)
        add, remove = button("Add", self.add), button("Reset or remove", self.remove)
        cancel = button("Cancel", self.reject)
        for other in (add, remove, cancel):
            other.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label(ABOUT, "soft", wrap=True))
        layout.addWidget(self.table, 1)
        layout.addWidget(self._fault)
        layout.addWidget(row(self.new_name, add, remove, 1, cancel, self.save_button))
        self.resize(620, 460)
        self._show()
        self._jobs.run("library", lambda: SHARED_MATERIALS.read(library), self._read, self._fail)

    def _read(self, saved: dict[str, Material]) -> None:
        self._saved, self.materials = saved, dict(materials_with(saved))
        self._show()

    def _show(self) -> None:
        self.table.show_records(list(self.materials.items()))

    def _fail(self, fault: Exception | str) -> None:
        self._fault.setText(str(fault))
        self._fault.show()

    def _put(self, name: str, material: Material) -> None:
        self._fault.hide()
        self.materials[name] = material
        self._show()

    def _set_colour(self, record: Named, text: str) -> None:
        colour = QColor(text.strip())
        if colour.isValid():
            self._put(record[0], replace(record[1], colour=colour.name().upper()))
        else:
            self._fail(f"{text} is not a colour; type it as #RRGGBB, such as #383D42")

    def _setter(self, field: str):  # type: ignore[no-untyped-def]  # a field by its name
        return lambda record, text: self._put(record[0], replace(record[1], **{field: text}))

    def add(self) -> None:
        """A new material, grey at first."""
        name = self.new_name.text().strip()
        if not name or name in self.materials:
            self._fail(f"There is a material {name} already." if name else "Type a name for the material first.")
            return
        self.new_name.clear()
        self._put(name, UNKNOWN)
        self.table.select_where(lambda record: record[0] == name)

    def remove(self) -> None:
        """Take away the selected materials of the library's own; a standard one becomes as it was."""
        for name, _ in self.table.selected():
            if name in standard_materials():
                self.materials[name] = standard_materials()[name]
            else:
                self.materials.pop(name, None)
        self._show()

    def save(self) -> None:
        """Write them, and let every open body follow."""
        own, saved, library = _own(self.materials), self._saved, self._library

        def done(_result: object) -> None:
            self.kept.emit()
            self.accept()

        note = "materials changed"
        self._jobs.run(
            "library", lambda: SHARED_MATERIALS.save_all(library, own, note, replaces=saved), done, self._fail
        )


def _own(materials: Mapping[str, Material]) -> dict[str, Material]:
    """What differs from the standard materials."""
    return {name: material for name, material in materials.items() if standard_materials().get(name) != material}


def _origin(name: str, material: Material) -> str:
    standard = standard_materials().get(name)
    return "own" if standard is None else "standard" if standard == material else "changed"


def _swatch(record: Named) -> QPixmap:
    picture = QPixmap(*SWATCH)
    picture.fill(QColor(record[1].colour))
    return picture


KEY = Qt.ItemDataRole.UserRole
PUBLISH_ABOUT = (
    "Every released part in these formats, a folder for each, with a manifest: the one place from which designs take "
    "their parts. Only what changed is written again; withdrawn parts are kept in a separate folder."
)


class PublishDialog(QDialog):
    """`asked` tells the folder, the formats, and whether it is to be done after each release, too."""

    asked = pyqtSignal(object, bool)

    def __init__(self, library: Library, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Publish the library")
        known = library.settings.publish
        self.folder = QLineEdit(str(publish_folder(library, known)) if known else "")
        self.folder.textChanged.connect(lambda _text: self._enable())
        self.formats = QListWidget()
        self.formats.setAccessibleName("Formats")
        for key, entry in export_formats().items():
            item = QListWidgetItem(entry.title)
            item.setData(KEY, key)
            is_wanted = key in (known.formats if known else default_formats())
            item.setCheckState(Qt.CheckState.Checked if is_wanted else Qt.CheckState.Unchecked)
            item.setToolTip(f"Does not carry {entry.loses}" if entry.loses else "")
            self.formats.addItem(item)
        self.formats.itemChanged.connect(lambda _item: self._enable())
        self.always = QCheckBox("Publish again after every release")
        self.always.setChecked(known is not None)
        self.act = button("Publish", self._ask, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        form = QFormLayout()
        form.addRow("Folder", row(self.folder, button("Choose…", self._choose)))
        form.addRow("Formats", self.formats)
        form.addRow("", self.always)
        layout = QVBoxLayout(self)
        layout.addWidget(label(PUBLISH_ABOUT, "soft", wrap=True))
        layout.addLayout(form)
        layout.addWidget(row(1, cancel, self.act))
        self.resize(560, 440)
        self._enable()

    def keys(self) -> tuple[str, ...]:
        """The formats that are chosen."""
        items = (self.formats.item(index) for index in range(self.formats.count()))
        return tuple(str(i.data(KEY)) for i in items if i and i.checkState() == Qt.CheckState.Checked)

    def _enable(self) -> None:
        self.act.setEnabled(bool(self.folder.text().strip() and self.keys()))

    def _choose(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "Publish into", self.folder.text())
        if name:
            self.folder.setText(name)

    def _ask(self) -> None:
        folder = Path(self.folder.text().strip()).expanduser()
        self.accept()
        self.asked.emit(PublishSettings(str(folder), self.keys()), self.always.isChecked())


def run_publish(
    jobs: Jobs, library: Library, wanted: PublishSettings, say: Callable[[str], None], *, always: bool | None = None
) -> None:
    """Publish beside the user's work, format by format in the kernel's process, and say what was done.

    `always` says whether it is done after each release from now on; None leaves that as it is.
    """

    def work(task: Task) -> PublishReport:
        report = publish_library(library, publish_folder(library, wanted), wanted.formats, task, jobs.in_kernel)
        if always is not None:
            keep_publishing(library, wanted if always else None)
        return report

    def done(report: PublishReport) -> None:
        told = f"Published: {counted(report.parts, 'part')}, {counted(len(report.written), 'file')} written"
        say("; ".join([told, *report.log[:3]]))

    jobs.run_long("export", "Publishing", work, done, lambda fault: say(f"Not published: {fault}"))


# An address and its role.
Member = tuple[str, Role]
PEOPLE_ABOUT = (
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
            Column("E-mail (as in git)", lambda m: m[0]),
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
        self.two_people = QCheckBox("by someone other than the requester")
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
        layout.addWidget(label(PEOPLE_ABOUT, "soft", wrap=True))
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
        """One person more; the first one is a librarian, so that someone is."""
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
