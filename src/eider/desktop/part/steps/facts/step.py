"""Facts: the parameters of the part by its category, and what a catalogue knows of it."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLineEdit, QTabWidget, QWidget

from eider.commands.facts import fact_edits
from eider.commands.facts.alternates import Alternate, FactDifference
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget, ViewStep
from eider.desktop.part.steps.facts.supplier_panel import SupplierPanel
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.evidence.evidence_changes import utc_now
from eider.facts.categories import category_of
from eider.model.address import Address, FactAddress, fact_name
from eider.model.bundle import Bundle
from eider.model.wording import counted
from eider.services.suppliers.supplier_lookup import find_alternates, open_catalogue
from eider.services.tasks import Task
from eider.views.steps.facts import FactRow, FactsView


class AlternatesPanel(QWidget):
    """The nearest first; what differs is shown for the selected one."""

    look_up_asked = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.table = RecordView[Alternate](
            [
                Column("Part", lambda a: a.name),
                Column("Found in", lambda a: a.source),
                Column("Land pattern", lambda a: a.pattern),
                Column("Differs in", lambda a: ", ".join(d.name for d in a.differs) or "nothing that is known"),
                Column("Lifecycle", lambda a: a.lifecycle),
            ],
            context.theme,
        )
        self.table.set_widths(140, 110, 90, 150)
        self.table.allow_sorting()
        self.table.entered_record.connect(self._show_differences)
        self.differences = RecordView[FactDifference](
            [
                Column("Fact", lambda d: d.name),
                Column("This part", lambda d: d.mine or "–"),
                Column("The other", lambda d: d.theirs or "–"),
            ],
            context.theme,
        )
        self.differences.set_widths(150, 150)
        self.say = label(
            "Parts with the same value, or the same land pattern where the category has no value.", "soft", wrap=True
        )
        self.title = label("", "head")
        self.compare = button("Compare at suppliers", self._compare)
        self.compare.setEnabled(False)
        top = column(
            flow(
                button("Search the library", lambda: self.search(with_suppliers=False)),
                button("Search library and suppliers", lambda: self.search(with_suppliers=True)),
            ),
            self.say,
            growing(self.table),
            margins=6,
        )
        bottom = column(self.title, growing(self.differences), row(1, self.compare), margins=6)
        fill_widget(self, panes(top, bottom, sizes=(340, 220), vertical=True))

    def search(self, *, with_suppliers: bool) -> None:
        """Find alternates; suppliers are asked only if they are to be."""
        library, bundle = self.controller.library, self.controller.bundle
        address, token = self.context.catalogue, self.context.settings.catalogue_token
        self.say.setText(f"Asking {address} …" if with_suppliers else "Searching…")

        def work(task: Task) -> list[Alternate]:
            return find_alternates(library, bundle, open_catalogue(address, token, task) if with_suppliers else None)

        self.jobs.run_long("library", "Alternates", work, self.show_found, lambda fault: self.say.setText(str(fault)))

    def show_found(self, found: Sequence[Alternate]) -> None:
        """Show what was found."""
        ours = sum(1 for alternate in found if alternate.part_id)
        self.say.setText(
            f"{counted(ours, 'part')} of the library, {len(found) - ours} of suppliers" if found else "None found"
        )
        self.table.show_records(found)
        self.table.select_rows([0] if found else [])
        if not found:
            self._show_differences(None)

    def _show_differences(self, alternate: Alternate | None) -> None:
        self.compare.setEnabled(alternate is not None and alternate.entry is not None)
        self.title.setText(f"{alternate.name}: {counted(alternate.same, 'fact')} the same" if alternate else "")
        self.differences.show_records(alternate.differs if alternate else ())

    def _compare(self) -> None:
        alternate = self.table.record()
        if alternate is not None:
            self.look_up_asked.emit(alternate.name)


def _fault(fact: FactRow) -> str:
    if fact.fault:
        return f"{fact.fault}. Accepted: {fact.accepted}"
    return "required" if fact.is_required and not fact.value else ""


class FactsStep(ViewStep[FactsView]):
    """Fill in facts, or take them from the catalogue."""

    key = "facts"
    view_type = FactsView

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
        self.table.set_widths(140, 170, 100, 62)
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
        self.suppliers = SupplierPanel(controller, context)
        self.suppliers.told.connect(context.said)
        self.alternates = AlternatesPanel(controller, context)
        self.alternates.look_up_asked.connect(self._compare)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.suppliers, "Suppliers")
        self.tabs.addTab(self.alternates, "Alternates")
        self.build(panes(middle, self.tabs, sizes=(620, 640)))

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
        self.suppliers.show_part(part, view.part_number)

    def target(self, field: QWidget | None) -> CaptureTarget | None:
        if field in (self.name, self.description, self._new, self.suppliers.wanted):
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
        by, at, settings = self.context.person.name, utc_now(), self.controller.library.settings

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

    def _compare(self, number: str) -> None:
        """Look an alternate up, to hold it beside the part."""
        self.tabs.setCurrentWidget(self.suppliers)
        self.suppliers.wanted.setText(number)
        self.suppliers.look_up()
