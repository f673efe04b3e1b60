"""The questions of a shared library: its address, conflicts, and what waits for review."""

from collections.abc import Sequence
from contextlib import closing
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QDialog, QFileDialog, QFormLayout, QLineEdit, QListWidget, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library.git.commit_reading import Person
from eider.library.sharing.review_refs import StoredReview
from eider.services.sharing.conflicts import Choice
from eider.services.sharing.synchronising import folder_for, open_shared
from eider.services.tasks import Task


class WaitingDialog(QDialog):
    """`chosen` tells the review to look at."""

    chosen = pyqtSignal(object)

    def __init__(self, waiting: Sequence[StoredReview], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Waiting for review")
        self._waiting = list(waiting)
        self.list = QListWidget()
        self.list.setAccessibleName("Parts that wait for a review")
        self.list.setWordWrap(True)
        for stored in waiting:
            asked = stored.review.requested
            self.list.addItem(f"{stored.review.name}, {asked.by}, {asked.at[:10]}: {asked.note}")
        self.list.itemActivated.connect(lambda _item: self._choose())
        self.list.setCurrentRow(0)
        self.look = button("Open", self._choose, main=True)
        self.look.setEnabled(bool(waiting))
        self.look.setDefault(True)
        cancel = button("Close", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label("Nothing waits for a review." if not waiting else "Oldest request first.", "soft"))
        layout.addWidget(self.list)
        layout.addWidget(row(1, cancel, self.look))
        self.resize(520, 320)

    def _choose(self) -> None:
        at = self.list.currentRow()
        if 0 <= at < len(self._waiting):
            self.accept()
            self.chosen.emit(self._waiting[at])


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
        self.whole.setToolTip("Otherwise each file is downloaded when first opened.")
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


class LineDialog(QDialog):
    """Asks for one line; `entered` tells it, and whoever hears it closes the dialog or shows a fault."""

    entered = pyqtSignal(str)

    def __init__(self, title: str, hint: str, do: str, parent: QWidget, *, needed: bool = True) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._needed = needed
        self.line = QLineEdit()
        self.line.setAccessibleName(title)
        self.line.textChanged.connect(lambda _text: self._enable())
        self._fault = label("", "wrong", wrap=True)
        self.act = button(do, lambda: self.entered.emit(self.line.text().strip()), main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label(hint, wrap=True))
        layout.addWidget(self.line)
        layout.addWidget(self._fault)
        layout.addWidget(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self._enable()

    def _enable(self) -> None:
        self.act.setEnabled(bool(self.line.text().strip()) or not self._needed)

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)


class SettleDialog(QDialog):
    """A part that was released by someone else while it was worked on.

    Signals:
        chosen: what is to hold, and the name of the part that yours becomes with *both*.
        compare_asked: both are to be seen over each other first.
    """

    chosen = pyqtSignal(str, str)
    compare_asked = pyqtSignal()

    def __init__(self, name: str, differences: Sequence[str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"{name} was released meanwhile")
        self.list = QListWidget()
        self.list.setAccessibleName("Differences from the newest revision")
        self.list.setWordWrap(True)
        self.list.addItems(list(differences))
        self.name = QLineEdit(f"{name}-2")
        self.name.setAccessibleName("Name of the part that is made of your working copy")
        self._fault = label("", "wrong", wrap=True)
        layout = QVBoxLayout(self)
        told = (
            "Someone released a newer revision than the one that you work from. Your working copy differs from it in:"
        )
        layout.addWidget(label(told, wrap=True))
        layout.addWidget(self.list)
        layout.addWidget(self._fault)
        layout.addWidget(button("Yours: release it after theirs", lambda: self._choose("mine"), main=True))
        layout.addWidget(button("Keep theirs and discard my working copy", lambda: self._choose("theirs")))
        layout.addWidget(row(button("Both: yours becomes the part", lambda: self._choose("both")), self.name))
        layout.addWidget(row(button("Compare", self._compare), 1, button("Decide later", self.reject)))
        self.resize(520, 420)

    def _compare(self) -> None:
        self.reject()
        self.compare_asked.emit()

    def _choose(self, choice: Choice) -> None:
        self.chosen.emit(choice, self.name.text().strip())

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)
