"""What is asked before a part is drafted: its name, its category, and in which of the datasheet's packages."""

from collections.abc import Mapping

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLineEdit, QListWidget, QListWidgetItem, QWidget

from eider.datasheets.documents.found_items import FOUND_WORDS, FoundItem
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.model.wording import sentence
from eider.services.datasheets.datasheet_drafts import DraftChoice
from eider.services.datasheets.draft_offer import DraftOffer, PackageOffer

# Pixels: the cut-out of an outline beside the words of its package.
PICTURE = QSize(168, 112)
NO_TABLES = (
    "No table of pins or dimensions was understood. The part is made all the same, with the datasheet attached: "
    "there, draw a rectangle round a table to read it."
)


class DraftDialog(QDialog):
    """Shows what is found while the datasheet is read; `asked` tells the choice, and whoever hears it closes the dialog
    or shows a fault."""

    asked = pyqtSignal(object)

    def __init__(self, file_name: str, name: str, categories: Mapping[str, str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("New part from a datasheet")
        self._is_asked, self._typed_name = False, False
        self._rows: dict[str, _PackageRow] = {}
        self.about = label(f"Reading {file_name} …", wrap=True)
        self.notes = label("", "soft", wrap=True)
        self.name, self.category = QLineEdit(name), QComboBox()
        self.name.textEdited.connect(self._name_typed)
        self.description = label("", "soft", wrap=True)
        for key, title in categories.items():
            self.category.addItem(title, key)
        self.found = QListWidget()
        self.found.setAccessibleName("Found in this datasheet")
        self.packages = QListWidget()
        self.packages.setAccessibleName("Package")
        self.packages.itemSelectionChanged.connect(self._tell_choice)
        self.packages.itemDoubleClicked.connect(lambda _item: self._done())
        self.question = label("Package", "head")
        self.fault = label("", "wrong", wrap=True)
        self.act = button("Draft", self._done, main=True)
        self.act.setDefault(True)
        self.act.setEnabled(False)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        form = QFormLayout()
        form.addRow("Name", self.name)
        form.addRow("", self.description)
        form.addRow("Category", self.category)
        whole = column(
            self.about,
            self.notes,
            form,
            self.question,
            growing(self.packages),
            label("Found", "head"),
            self.found,
            self.fault,
            row(1, cancel, self.act),
        )
        self.setLayout(whole.layout())
        self.found.setMaximumHeight(96)
        self.packages.hide()
        self.question.hide()
        self.description.hide()
        self.notes.hide()
        self.setMinimumSize(560, 420)
        self.name.selectAll()

    def add_found(self, item: FoundItem) -> None:
        """Something was found, while the rest is still being read."""
        told = f"Page {item.page}: {FOUND_WORDS[item.kind]}"
        self.found.addItem(told + (f" of {item.package}" if item.package else ""))
        self.found.scrollToBottom()

    def show_page(self, told: str) -> None:
        """Which page is being read."""
        self.about.setText(f"{sentence(told)[:-1]} …")

    def show_offer(self, offer: DraftOffer, package: str = "") -> None:
        """All that was found; `package` is the one to be chosen, where that is known."""
        self._is_asked = offer.is_asked
        if not self._typed_name:
            self.name.setText(offer.name)
            self.name.selectAll()
        self.description.setText(offer.description)
        self.description.setVisible(bool(offer.description))
        is_read = any(not item.is_figure for item in offer.contents.found)
        self.about.setText("The datasheet was read through." if is_read else NO_TABLES)
        self.notes.setText(" ".join(sentence(note) for note in offer.contents.page_notes))
        self.notes.setVisible(bool(offer.contents.page_notes))
        for one in offer.packages:
            self._add_package(one)
        several = len(offer.packages) > 1
        self.question.setText("In which package? The datasheet has tables of several." if offer.is_asked else "Package")
        self.packages.setVisible(bool(offer.packages))
        self.question.setVisible(bool(offer.packages))
        self.resize(max(self.width(), 640), 640 if several else self.height())
        wanted = [one.package.name for one in offer.packages]
        if package in wanted:
            self.packages.setCurrentRow(wanted.index(package))
        elif not offer.is_asked and len(wanted) == 1:
            self.packages.setCurrentRow(0)
        self._tell_choice()

    def _add_package(self, offer: PackageOffer) -> None:
        shown, item = _PackageRow(offer), QListWidgetItem()
        item.setData(Qt.ItemDataRole.UserRole, offer.package.name)
        item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{offer.package.name}: {offer.about}")
        item.setSizeHint(shown.sizeHint())
        self.packages.addItem(item)
        self.packages.setItemWidget(item, shown)
        self._rows[offer.package.name] = shown

    def show_outline(self, package: str, image: QImage) -> None:
        """The cut-out of a package's outline drawing."""
        shown = self._rows.get(package)
        if shown is not None:
            whole, smooth = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
            shown.picture.setPixmap(QPixmap.fromImage(image).scaled(PICTURE, whole, smooth))

    def chosen_package(self) -> str:
        """The package that is chosen; empty where none is."""
        items = self.packages.selectedItems()
        return str(items[0].data(Qt.ItemDataRole.UserRole)) if items else ""

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self.fault.setText(fault)

    def _name_typed(self) -> None:
        self._typed_name = True

    def _tell_choice(self) -> None:
        package = self.chosen_package()
        self.act.setEnabled(bool(package) or not self._is_asked)
        self.act.setText(f"Draft in {package}" if package else "Choose a package" if self._is_asked else "Draft")

    def _done(self) -> None:
        if self.act.isEnabled():
            self.fault.setText("")
            name, category = self.name.text().strip(), str(self.category.currentData())
            self.asked.emit(DraftChoice(name, category, self.chosen_package()))


class _PackageRow(QWidget):
    """A package in the list: the cut-out of its outline drawing, once that is there, beside what is known of it."""

    def __init__(self, offer: PackageOffer) -> None:
        super().__init__()
        self.name = offer.package.name
        self.picture = label("")
        self.picture.setFixedSize(PICTURE)
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.picture.setVisible(offer.outline is not None)
        also = [name for name in offer.package.names if name != offer.package.name]
        more = [f"Also called {', '.join(also)}"] if also else []
        more += [f"Order codes: {', '.join(offer.orders)}"] if offer.orders else []
        soft = [label(line, "soft", wrap=True) for line in more]
        texts = column(label(offer.package.name, "head"), label(offer.about), *soft, 1, margins=2, spacing=2)
        fill_widget(self, row(self.picture, growing(texts), margins=6, spacing=10))
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
