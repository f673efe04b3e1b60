"""Facts: the parameters of the part by its category, and what a catalogue knows of it."""

from PyQt6.QtWidgets import QComboBox, QLineEdit, QListWidget, QWidget

from eider.catalogue.client import look_up
from eider.catalogue.protocol import CatalogueEntry
from eider.commands import fact_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget, PartStep
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.evidence.evidence_changes import utc_now
from eider.facts.categories import category_of
from eider.model.address import Address, FactAddress, fact_name
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.views.steps.facts import FactRow, FactsView


def _fault(fact: FactRow) -> str:
    if fact.fault:
        return f"{fact.fault}. Accepted: {fact.accepted}"
    return "required" if fact.is_required and not fact.value else ""


class FactsStep(PartStep):
    """Fill in facts, or take them from the catalogue."""

    key = "facts"

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.name, self.description, self._category = QLineEdit(), QLineEdit(), QComboBox()
        settings = controller.library.settings
        for key, category in settings.categories.items():
            self._category.addItem(category.title, key)
        self.name.editingFinished.connect(lambda: self._about(name=self.name.text().strip()))
        self.description.editingFinished.connect(lambda: self._about(description=self.description.text().strip()))
        self._category.activated.connect(lambda _i: self._about(category=str(self._category.currentData())))
        self._convention = label("", "soft", wrap=True)
        self.table = RecordView[FactRow](
            [
                Column("Fact", lambda f: f.name, self._rename, at_end=True),
                Column(
                    "Value",
                    lambda f: f.value,
                    self._put,
                    fault=_fault,
                    choices=lambda f: f.choices,
                ),
                Column("As printed", lambda f: f.printed if f.printed != f.value else ""),
                Column("", lambda f: "required" if f.is_required else ""),
                Column("Evidence", lambda f: f.evidence),
            ],
            context.theme,
        )
        self.table.set_widths(170, 200, 120, 72)
        self.table.edited.connect(controller.session.end_merge)
        self._new = QLineEdit()
        self._new.setPlaceholderText("Name of another fact")
        self._new.returnPressed.connect(self._add)
        middle = column(
            row(label("Name"), self.name, label("Category"), self._category),
            row(label("Description"), self.description),
            self._convention,
            label("Facts", "head"),
            growing(self.table),
            row(self._new, button("Add this fact", self._add), 1),
        )
        self._wanted, self._found, self._offers = QLineEdit(), QListWidget(), label("", wrap=True)
        self._wanted.returnPressed.connect(self.look_up)
        self._found.currentRowChanged.connect(self._show_entry)
        self._entries: tuple[CatalogueEntry, ...] = ()
        self._take = button("Copy these facts", self.take)
        self._take.setEnabled(False)
        self._say = label("Asks the library's supplier catalogue, and only when you press Look up.", "soft", wrap=True)
        right = column(
            label("Supplier look-up", "head"),
            row(self._wanted, button("Look up", self.look_up)),
            self._say,
            growing(self._found),
            self._offers,
            self._take,
        )
        self.build(panes(middle, right, sizes=(800, 440)))

    def first(self) -> QWidget:
        return self.table

    def show_view(self, view: FactsView) -> None:
        part = view.part
        for field, text in ((self.name, part.name), (self.description, part.description)):
            if not (field.hasFocus() and field.isModified()):
                field.setText(text)
        self._category.setCurrentIndex(self._category.findData(part.category))
        self._convention.setText(view.naming)
        self.table.show_records(view.rows)
        if not self._wanted.text():
            self._wanted.setText(view.part_number)

    def target(self, field: QWidget | None) -> CaptureTarget | None:
        if field in (self.name, self.description, self._new, self._wanted):
            return None
        record: FactRow | None = self.table.record()
        return CaptureTarget(FactAddress(record.name), record.name, "text") if record else None

    def next_field(self) -> None:
        current = self.table.currentIndex()
        below = self.table.records.index(current.row() + 1, 1)
        if below.isValid():
            self.table.setCurrentIndex(below)

    def show_address(self, address: Address) -> None:
        name = fact_name(address)
        self.table.select_where(lambda record: record.name == name)

    def _about(self, **changes: str) -> None:
        part = self.controller.bundle.part
        new = {key: value for key, value in changes.items() if getattr(part, key) != value}
        if new.get("name") == "":
            self.context.said.emit("a part needs a name")
            self.refresh()
        elif new:
            self.controller.edit(f"Change the {next(iter(new))}", lambda b: fact_edits.set_about(b, **new))

    def _put(self, record: FactRow, text: str) -> None:
        by, at, settings = self.controller.library.person().name, utc_now(), self.controller.library.settings

        def change(bundle: Bundle) -> Bundle:
            made = fact_edits.enter_fact(bundle, record.name, text, by, at)
            return fact_edits.follow_description(bundle, made, category_of(settings, bundle.part.category))

        self.controller.edit(f"Change {record.name}", change, f"fact:{record.name}")

    def _rename(self, record: FactRow, text: str) -> None:
        if text.strip() and record.value and record.is_besides:
            self.controller.edit(
                f"Rename {record.name}", lambda b: fact_edits.rename_fact(b, record.name, text.strip())
            )

    def _add(self) -> None:
        name = self._new.text().strip()
        if name:
            self._new.clear()
            self.controller.edit(f"Add {name}", lambda b: fact_edits.set_fact(b, name, "–"))
            self.table.select_where(lambda record: record.name == name)

    def look_up(self) -> None:
        """Ask the catalogue for the number in the field."""
        address, number = self.context.catalogue, self._wanted.text().strip()
        self._say.setText(f"asking {address or 'no catalogue'} …")
        self.jobs.run("network", lambda: look_up(address, number), self._answered, self._unanswered)

    def _answered(self, entries: tuple[CatalogueEntry, ...]) -> None:
        self._entries = entries
        self._found.clear()
        self._found.addItems([f"{e.part_number}, {e.manufacturer}" for e in entries])
        self._say.setText(f"{len(entries)} found" if entries else "Nothing found under this number")
        self._found.setCurrentRow(0)
        self._take.setEnabled(bool(entries))

    def _unanswered(self, fault: Exception) -> None:
        self._say.setText(str(fault))

    def _show_entry(self, index: int) -> None:
        if not 0 <= index < len(self._entries):
            self._offers.setText("")
            return
        entry = self._entries[index]
        lines = [f"{name}: {value}" for name, value in entry.facts.items()]
        for offer in entry.offers:
            prices = ", ".join(f"{price.quantity} at {price.each} {offer.currency}" for price in offer.prices)
            lines.append(f"{offer.supplier} {offer.number}: {offer.stock} in stock, {prices}")
        self._offers.setText("\n".join(lines))

    def take(self) -> None:
        """Take the facts of the chosen entry over; what is already filled in stays."""
        index = self._found.currentRow()
        if not 0 <= index < len(self._entries):
            return
        entry = self._entries[index]
        evidence = Evidence(EvidenceKind.SUPPLIER, text=self.context.catalogue, at=utc_now())
        offered = {**entry.facts, **{f"{offer.supplier} number": offer.number for offer in entry.offers}}
        settings = self.controller.library.settings
        category = category_of(settings, self.controller.bundle.part.category)
        taken = fact_edits.taken_facts(offered, settings, category)

        def change(bundle: Bundle) -> Bundle:
            made = fact_edits.fill_facts(bundle, taken.facts, evidence)
            return fact_edits.follow_description(bundle, made, category)

        self.controller.edit("Copy facts", change)
        told = [f"{name} taken as {ours}" for name, ours in taken.renamed.items()]
        told += [f"{name} left out, as the library drops it" for name in taken.dropped]
        told += [f"{name} left out, as it came with another value too" for name in taken.doubled]
        if told:
            self.context.said.emit("; ".join(told))
