"""Publishes the library: into which folder, in which formats, and whether after each release too."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
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

from eider.desktop.jobs import Jobs
from eider.desktop.widgets.layouts import button, label, row
from eider.library import Library
from eider.model.library import PublishSettings
from eider.model.wording import counted
from eider.services.format_registry import default_formats, export_formats
from eider.services.publishing import PublishReport, keep_publishing, publish_folder, publish_library
from eider.services.tasks import Task

KEY = Qt.ItemDataRole.UserRole
ABOUT = (
    "Every released part in these formats, a folder for each, with a manifest: the one place from which designs take "
    "their parts. Only what changed is written again; withdrawn parts lie aside."
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
        self.always = QCheckBox("From now on after each release, too")
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
        layout.addWidget(label(ABOUT, "soft", wrap=True))
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
