"""Parts at suppliers: looked up on request, compared as columns, their facts copied under the library's names."""

import time
from collections.abc import Mapping, Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from eider.catalogue.client import Answered
from eider.catalogue.offers import OfferChoice, currencies_of
from eider.catalogue.protocol import CatalogueEntry, PartPage, SupplierList
from eider.commands.facts.supplier_facts import TakenEntry, TakingChoice, take_entry
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.facts.categories import category_of
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.part import Part
from eider.model.wording import counted
from eider.services.suppliers.supplier_lookup import (
    learn_name,
    learned_names,
    look_up,
    open_catalogue,
    prefer_supplier,
    preferred_suppliers,
    query_of_text,
)
from eider.services.tasks import Task
from eider.views.candidate_rows import (
    LEFT_OUT,
    CandidateRow,
    ComparedFact,
    age_words,
    candidate_rows,
    compare_candidates,
    compare_offers,
)


class CatalogueDialog(QDialog):
    """The suppliers are asked for when someone wants to see them; a tick is kept with the library at once."""

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


# So many candidates are compared side by side.
MOST_COMPARED = 3
ANY_CURRENCY = "any"
HINT = "Eider asks the library's supplier catalogue only when you press Look up."


class SupplierPanel(QWidget):
    """Look up, choose, compare, copy."""

    told = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.entries: tuple[CatalogueEntry, ...] = ()
        self._heard = 0.0
        self._part: Part | None = None
        self._preferred: tuple[str, ...] = ()
        self._learned: Mapping[str, str] = {}
        self.wanted = QLineEdit()
        self.wanted.setPlaceholderText("Part number, words, values, or NAME=VALUE")
        self.wanted.returnPressed.connect(self.look_up)
        self.preferred, self.in_stock = QCheckBox("Preferred suppliers"), QCheckBox("In stock")
        self.small = QCheckBox("Minimum order ≤ quantity")
        self.small.setToolTip("Only offers whose minimum is not above the quantity")
        self.currency, self.quantity = QComboBox(), QSpinBox()
        own = controller.library.settings.currency
        self.currency.addItems([*([own] if own else []), ANY_CURRENCY])
        self.currency.setAccessibleName("Currency")
        self.quantity.setRange(1, 10_000_000)
        self.quantity.setGroupSeparatorShown(True)
        self.quantity.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.quantity.setAccessibleName("Quantity")
        for box in (self.preferred, self.in_stock, self.small):
            box.toggled.connect(lambda _on: self._show_candidates())
        self.currency.activated.connect(lambda _i: self._show_candidates())
        self.quantity.valueChanged.connect(lambda _n: self._show_candidates())
        self.say = label(HINT, "soft", wrap=True)
        fill_widget(self, panes(self._found_part(), self._compared_part(), sizes=(220, 360), vertical=True))
        self.read_kept()

    def _found_part(self) -> QWidget:
        self.candidates = RecordView[CandidateRow](
            [
                Column("Part number", lambda c: c.entry.part_number),
                Column("Manufacturer", lambda c: c.entry.manufacturer),
                Column("In stock", lambda c: c.stock, number=True, fault=lambda c: "none" if c.stock == "0" else ""),
                Column("Unit price", lambda c: c.each, number=True),
                Column("Minimum", lambda c: c.minimum, number=True),
                Column(
                    "Lifecycle", lambda c: c.lifecycle, fault=lambda c: "" if c.lifecycle in ("", "active") else "look"
                ),
            ],
            self.context.theme,
        )
        self.candidates.set_widths(140, 96, 66, 86, 60)
        self.candidates.allow_sorting()
        selection = self.candidates.selectionModel()
        if selection is not None:
            selection.selectionChanged.connect(lambda _on, _off: self._show_comparison())
        return column(
            row(growing(self.wanted), button("Look up", self.look_up)),
            flow(
                button("Ask again", lambda: self.look_up(again=True)),
                button("Catalogue…", self.open_dialog),
                self.preferred,
                self.in_stock,
                self.small,
                row(label("Quantity", "soft"), self.quantity),
                row(label("Currency", "soft"), self.currency),
            ),
            self.say,
            growing(self.candidates),
            margins=6,
        )

    def _compared_part(self) -> QWidget:
        def value(place: int) -> Column[ComparedFact]:
            return Column(
                "",
                lambda f: f.values[place] if place < len(f.values) else "",
                fault=lambda f: "differs from this part" if place < len(f.differs) and f.differs[place] else "",
            )

        self.comparison = RecordView[ComparedFact](
            [
                Column("At the supplier", lambda f: f.theirs),
                Column("Copied as", lambda f: f.ours, self._learn, choices=self._names_for, at_end=True),
                Column("This part", lambda f: f.mine),
                *(value(place) for place in range(MOST_COMPARED)),
            ],
            self.context.theme,
        )
        self.comparison.set_widths(104, 104, 104, 108, 108)
        present(self.comparison.horizontalHeader()).setTextElideMode(Qt.TextElideMode.ElideMiddle)
        self.replaces, self.with_prices = QCheckBox("Replace what is there"), QCheckBox("With price breaks")
        self.take_button = button("Copy these facts", self.take, main=True)
        self.take_button.setEnabled(False)
        self.chosen = label("", "head")
        return column(
            self.chosen,
            growing(self.comparison),
            flow(self.replaces, self.with_prices, self.take_button),
            margins=6,
        )

    def show_part(self, part: Part, number: str) -> None:
        """The part that facts are for; its number is what is looked up first."""
        other = self._part is None or self._part.category != part.category
        self._part = part
        if not self.wanted.text():
            self.wanted.setText(number)
        if other:
            self.read_kept()
        elif self.entries:
            self._show_comparison()

    def read_kept(self) -> None:
        """Read from the library which suppliers it prefers and how it calls their facts."""
        library, category = self.controller.library, self._part.category if self._part else ""

        def work() -> tuple[tuple[str, ...], Mapping[str, str]]:
            return preferred_suppliers(library), learned_names(library, category)

        def done(found: tuple[tuple[str, ...], Mapping[str, str]]) -> None:
            self._preferred, self._learned = found
            self.preferred.setEnabled(bool(self._preferred))
            names = ", ".join(self._preferred)
            self.preferred.setToolTip(names or "The library prefers no supplier; choose some under Catalogue…")
            self._show_candidates()

        self.jobs.run("library", work, done)

    def open_dialog(self) -> None:
        """Which catalogue is asked, with which token, and which suppliers are preferred."""
        self.dialog = CatalogueDialog(self.controller.library, self.context, self._preferred, self)
        self.dialog.kept.connect(self.read_kept)
        self.dialog.open()

    def look_up(self, *, again: bool = False) -> None:
        """Ask the catalogue; an answer of the last minutes is used again unless it is to be asked again."""
        address, token = self.context.catalogue, self.context.settings.catalogue_token
        query = query_of_text(self.wanted.text()).narrowed(size=100)
        self.say.setText(f"Asking {address or 'no catalogue'} …")

        def work(task: Task) -> Answered[PartPage]:
            return look_up(open_catalogue(address, token, task), query, again=again)

        self.jobs.run_long("network", "Supplier look-up", work, self.answered, self._unanswered)

    def answered(self, found: Answered[PartPage]) -> None:
        """Show what was found, and how old the answer is."""
        self.entries, self._heard = found.value.parts, found.at
        own, chosen = self.controller.library.settings.currency, self.currency.currentText()
        names = list(dict.fromkeys([*([own] if own else []), *currencies_of(self.entries), ANY_CURRENCY]))
        self.currency.clear()
        self.currency.addItems(names)
        self.currency.setCurrentText(chosen if chosen in names else ANY_CURRENCY)
        more = f" of {found.value.total:,}; add words to find fewer" if found.value.total > len(self.entries) else ""
        heard = f"asked {age_words(max(time.time() - found.at, 0.0))}"
        text = f"{counted(len(self.entries), 'part')}{more}, {heard}" if self.entries else f"Nothing found, {heard}"
        self.say.setText(f"{text}. {found.doubt}." if found.doubt else text)
        self._show_candidates()
        self.candidates.select_rows([0] if self.candidates.records.records else [])

    def _unanswered(self, fault: Exception) -> None:
        self.say.setText(_sentence(str(fault)))

    @property
    def choice(self) -> OfferChoice:
        """Which offers count."""
        currency = self.currency.currentText()
        names = self._preferred if self.preferred.isChecked() else ()
        return OfferChoice(names, "" if currency == ANY_CURRENCY else currency, self.in_stock.isChecked())

    def _show_candidates(self) -> None:
        choice, quantity = self.choice, self.quantity.value()
        rows = candidate_rows(self.entries, choice, quantity)
        is_narrow = bool(choice.suppliers or choice.in_stock or self.small.isChecked())
        shown = [r for r in rows if r.each or not is_narrow]
        if self.small.isChecked():
            shown = [r for r in shown if r.minimum and int(r.minimum) <= quantity]
        self.candidates.show_records(shown)
        self._show_comparison()

    def compared(self) -> list[CatalogueEntry]:
        """The candidates that are selected, the selected one first."""
        in_hand = self.candidates.record()
        chosen = [r.entry for r in self.candidates.selected()]
        first = [in_hand.entry] if in_hand and in_hand.entry in chosen else []
        return [*first, *(e for e in chosen if e not in first)][:MOST_COMPARED]

    def _show_comparison(self) -> None:
        entries, library = self.compared(), self.controller.library
        part = self.controller.bundle.part
        mine = {name: fact.value for name, fact in part.facts.items()}
        facts = compare_candidates(mine, entries, library.settings, part.category, self._learned)
        offers = compare_offers(entries, self.choice, self.quantity.value())
        for place in range(MOST_COMPARED):
            self.comparison.setColumnHidden(3 + place, place >= max(len(entries), 1))
            self.comparison.set_title(3 + place, entries[place].part_number if place < len(entries) else "")
        self.comparison.show_records([*facts, *offers] if entries else [])
        self.chosen.setText(
            f"{entries[0].part_number} beside this part" if entries else "Choose up to three to compare"
        )
        self.take_button.setEnabled(bool(entries))

    def _names_for(self, fact: ComparedFact) -> Sequence[str]:
        """The names under which a supplier's fact can be copied; none for what is not a fact."""
        if not fact.ours:
            return ()
        category = category_of(self.controller.library.settings, self.controller.bundle.part.category)
        names = [field.name for field in category.facts] if category else []
        return list(dict.fromkeys([LEFT_OUT, *names, *fact.theirs.split(", "), fact.ours]))

    def _learn(self, fact: ComparedFact, ours: str) -> None:
        """Copy a supplier's fact under another name from now on, in all parts of the category."""
        ours = ours.strip()
        if not fact.ours or not ours or ours == fact.ours:
            return
        library, category = self.controller.library, self.controller.bundle.part.category

        def work() -> None:
            for theirs in fact.theirs.split(", "):
                learn_name(library, category, theirs, "" if ours == LEFT_OUT else ours)

        def done(_none: object) -> None:
            self.told.emit(f"{fact.theirs} is {'left out' if ours == LEFT_OUT else f'copied as {ours}'} from now on")
            self.read_kept()

        self.jobs.run("library", work, done, lambda fault: self.told.emit(str(fault)))

    def take(self) -> None:
        """Copy the facts of the selected candidate; what is already filled in stays unless it is to be replaced."""
        entries = self.compared()
        if not entries:
            return
        settings, address = self.controller.library.settings, self.context.catalogue
        choice = TakingChoice(self.replaces.isChecked(), self.with_prices.isChecked())

        def taken(bundle: Bundle) -> TakenEntry:
            return take_entry(bundle, entries[0], settings, self._learned, address, choice)

        told = taken(self.controller.bundle).told
        self.controller.edit(f"Copy facts of {entries[0].part_number}", lambda bundle: taken(bundle).bundle)
        if told:
            self.told.emit("; ".join(told))


def _sentence(text: str) -> str:
    return f"{text[:1].upper()}{text[1:]}."
