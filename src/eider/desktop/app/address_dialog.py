"""Opens a shared library by its address, in a folder of this machine, as somebody whom git knows."""

from contextlib import closing
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QDialog, QFileDialog, QFormLayout, QLineEdit, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library.versions import Person
from eider.services.sharing import folder_for, open_shared
from eider.services.tasks import Task

TITLE = "Opening a shared library"


class AddressDialog(QDialog):
    """Asks for the address of a shared library, where it is to lie here, and who works in it.

    Signals:
        opened: the folder of the library, which is on this machine now.
    """

    opened = pyqtSignal(object)

    def __init__(self, context: DesktopContext, beside: Path, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Open a shared library")
        self._context, self._beside, self._is_busy = context, beside, False
        self.address, self.folder = QLineEdit(), QLineEdit()
        self.address.setPlaceholderText("https://…, ssh://…, file://… or a path")
        self.address.textChanged.connect(self._suggest_folder)
        self.folder.textChanged.connect(lambda _text: self._enable())
        self.name, self.email = QLineEdit(context.person.name), QLineEdit(context.person.email)
        form = QFormLayout()
        form.addRow("Address", self.address)
        form.addRow("New folder", row(self.folder, button("Choose…", self._choose_folder)))
        form.addRow("Your name", self.name)
        form.addRow("Your e-mail", self.email)
        self.whole = QCheckBox("Fetch all datasheets and STEP files now, to work offline")
        self.whole.setToolTip("Otherwise each comes when it is opened for the first time.")
        form.addRow("", self.whole)
        self.told = label(
            "Git's own access is used: an ssh key or a credential helper. Eider keeps no password.", wrap=True
        )
        self.act = button("Open", self._open, main=True)
        self.act.setDefault(True)
        self.cancel = button("Cancel", self._stop)
        self.cancel.setAutoDefault(False)
        context.jobs.progressed.connect(self._show_progress)
        layout = QVBoxLayout(self)
        layout.addLayout(form)
        layout.addWidget(self.told)
        layout.addWidget(row(1, self.cancel, self.act))
        self.setMinimumWidth(560)
        self._enable()

    def _suggest_folder(self, address: str) -> None:
        folder = self._beside.parent / folder_for(address)
        if folder == self._beside:
            folder = folder.with_name(f"{folder.name}-shared")
        self.folder.setText(str(folder) if address.strip() else "")

    def _choose_folder(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, "A new or empty folder", str(self._beside.parent))
        if chosen:
            self.folder.setText(chosen)

    def _enable(self) -> None:
        is_filled = bool(self.address.text().strip() and self.folder.text().strip())
        self.act.setEnabled(is_filled and not self._is_busy)

    def _open(self) -> None:
        name, email = self.name.text().strip(), self.email.text().strip()
        person = Person(name, email) if name and email else None
        address, folder = self.address.text(), Path(self.folder.text().strip()).expanduser()
        whole = self.whole.isChecked()

        def work(task: Task) -> Path:
            with closing(open_shared(address, folder, person, task, whole=whole)) as library:
                return library.folder

        self._is_busy = True
        self._enable()
        self._say("Fetching the library…")
        self._context.jobs.owned(self).run_long("sharing", TITLE, work, self._done, self._failed)

    def _show_progress(self, text: str, _share: float) -> None:
        if self._is_busy and text.startswith(TITLE):
            self._say(text)

    def _done(self, folder: Path) -> None:
        self.opened.emit(folder)
        self.accept()

    def _failed(self, fault: Exception) -> None:
        self._is_busy = False
        self._say(str(fault), role="wrong")
        self._enable()

    def _say(self, text: str, role: str = "") -> None:
        self.told.setText(text)
        self.told.setProperty("role", role)
        if style := self.told.style():
            style.polish(self.told)

    def _stop(self) -> None:
        """Cancel what is being fetched; where nothing is, close."""
        if self._is_busy:
            self._context.jobs.cancel()
        else:
            self.reject()
