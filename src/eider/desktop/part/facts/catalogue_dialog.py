"""Which catalogue is asked: its address, the access token of this user, and the suppliers that the library prefers."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from eider.catalogue.client import Answered
from eider.catalogue.protocol import SupplierList
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library import Library
from eider.services.supplier_lookup import open_catalogue, prefer_supplier
from eider.services.tasks import Task


class CatalogueDialog(QDialog):
    """The suppliers are asked for when somebody wants to see them; a tick is kept with the library at once."""

    kept = pyqtSignal()

    def __init__(self, library: Library, context: DesktopContext, preferred: Sequence[str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Supplier catalogue")
        self._library, self._context, self._preferred = library, context, set(preferred)
        self._jobs = context.jobs.owned(self)
        self.token = QLineEdit(context.settings.catalogue_token)
        self.token.setEchoMode(QLineEdit.EchoMode.Password)
        self.token.setPlaceholderText("none")
        self.token.setAccessibleName("Access token")
        self.token.editingFinished.connect(self._keep_token)
        self.suppliers = QListWidget()
        self.suppliers.setAccessibleName("Suppliers; those that are ticked are preferred")
        self.suppliers.itemChanged.connect(self._prefer)
        self.say = label(
            "Preferred suppliers are kept with the library; the token only on this machine.", "soft", wrap=True
        )
        layout = QVBoxLayout(self)
        layout.addWidget(
            label(f"Address: {context.catalogue or 'none; set “catalogue” in eider-library.toml'}", wrap=True)
        )
        layout.addWidget(row(label("Access token"), self.token))
        layout.addWidget(row(label("Preferred suppliers", "head"), 1, button("List suppliers", self.ask)))
        layout.addWidget(self.suppliers)
        layout.addWidget(self.say)
        layout.addWidget(row(1, button("Close", self.accept)))
        self._show([])
        self.resize(420, 380)

    def _keep_token(self) -> None:
        self._context.settings.catalogue_token = self.token.text().strip()

    def ask(self) -> None:
        """Ask the catalogue which suppliers it knows."""
        self._keep_token()
        address, token = self._context.catalogue, self._context.settings.catalogue_token

        def work(task: Task) -> Answered[SupplierList]:
            return open_catalogue(address, token, task).suppliers()

        def done(found: Answered[SupplierList]) -> None:
            self._show([supplier.name for supplier in found.value.suppliers])
            if found.doubt:
                self.say.setText(found.doubt)

        self._jobs.run_long("network", "Suppliers", work, done, lambda fault: self.say.setText(str(fault)))

    def _show(self, names: Sequence[str]) -> None:
        self.suppliers.blockSignals(True)
        self.suppliers.clear()
        for name in dict.fromkeys((*names, *sorted(self._preferred))):
            item = QListWidgetItem(name)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if name in self._preferred else Qt.CheckState.Unchecked)
            self.suppliers.addItem(item)
        self.suppliers.blockSignals(False)

    def _prefer(self, item: QListWidgetItem) -> None:
        name, preferred = item.text(), item.checkState() == Qt.CheckState.Checked
        self._preferred = self._preferred | {name} if preferred else self._preferred - {name}
        self._jobs.run(
            "library",
            lambda: prefer_supplier(self._library, name, preferred=preferred),
            lambda _none: self.kept.emit(),
            lambda fault: self.say.setText(str(fault)),
        )
