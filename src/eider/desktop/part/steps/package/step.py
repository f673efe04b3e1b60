"""Package: the family and the package sheet, drawn to scale beside it."""

from collections.abc import Callable
from operator import attrgetter
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QTabWidget, QWidget

from eider.commands.packages import package_edits
from eider.commands.packages.sheet_copies import paste_by_letter
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget, ViewStep
from eider.desktop.part.steps.package.pads_panel import PadsPanel
from eider.desktop.part.steps.package.sheet_dialog import PackageSheetDialog
from eider.desktop.part.steps.package.sheet_head import FamilyFields, SheetHead
from eider.desktop.part.steps.package.sheet_pictures import DatasheetPictures
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row, scrolled
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.ruler import RulerBar
from eider.drawings.highlighting import highlighted
from eider.errors import EiderError
from eider.evidence.evidence_changes import set_evidence_at
from eider.model.address import Address, DimensionAddress, FieldAddress, dimension_letter
from eider.model.evidence import Evidence, EvidenceKind
from eider.views.family_titles import grouped_families
from eider.views.part_values import DimensionRow, compose_limits
from eider.views.steps.package import PackageView


class FamilyList(QListWidget):
    """`family_chosen` gives the key of a family that was clicked, or chosen by Enter."""

    family_chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        for group, listed in grouped_families().items():
            heading = QListWidgetItem(group)
            heading.setFlags(Qt.ItemFlag.NoItemFlags)
            font = heading.font()
            font.setBold(True)
            heading.setFont(font)
            self.addItem(heading)
            for key, title, summary in listed:
                item = QListWidgetItem(f"{title}\n{summary}")
                item.setData(Qt.ItemDataRole.UserRole, key)
                self.addItem(item)
        self.setWordWrap(True)
        self.setMinimumWidth(104)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSpacing(2)
        # Not at each change of the row: a list takes its first row into hand as soon as it gets the keyboard.
        for chosen in (self.itemClicked, self.itemActivated):
            chosen.connect(lambda item: self.family_chosen.emit(item.data(Qt.ItemDataRole.UserRole)))

    def show_family(self, key: str) -> None:
        """Mark the family of the sheet."""
        for index in range(self.count()):
            item = self.item(index)
            if item and item.data(Qt.ItemDataRole.UserRole) == key and self.currentItem() is not item:
                self.setCurrentItem(item)
                self.scrollToItem(item, QListWidget.ScrollHint.PositionAtCenter)


# The column in which a dimension is typed as the datasheet has it.
AS_TYPED = "As typed"
LIMITS = ("Min", "Nom", "Max")
PADS_TAB = 2


class PackageStep(ViewStep[PackageView]):
    """Choose the family, type the dimensions, see the outline follow."""

    key = "package"
    view_type = PackageView
    narrow_below = 1000

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self._view: PackageView | None = None
        self.families = FamilyList()
        self.families.family_chosen.connect(self._choose_family)
        self.top = DrawingView(
            context.theme, "The package is drawn here as soon as its dimensions can be read.", context.jobs
        )
        self.side = DrawingView(context.theme, "", context.jobs)
        for view in (self.top, self.side):
            view.address_clicked.connect(self.show_address)
            view.pointed.connect(context.pointed)
        left = column(label("Family", "head"), growing(self.families))
        self.build(panes(left, self._build_middle(), self._build_right(), sizes=(180, 700, 390)))

    def _build_middle(self) -> QWidget:
        """The sheet: pins, kind and unit, the family's options, and the table of dimensions."""
        self.head = SheetHead(self.controller)
        self.pins = self.head.pins
        self._name = label("", "head")
        self.table = RecordView[DimensionRow](self._columns(), self.context.theme)
        self.table.set_widths(46, 118, 60, 88, 68, 74, 74, 68)
        self.table.edited.connect(self.controller.session.end_merge)
        self.table.take_whole = self._pasted
        self.table.entered_record.connect(lambda _row: self._draw())
        # Wrapped and on its own line: it must not widen the step that is folded because it is narrow.
        self._folded = label("Min, nom and max are folded into Value.", "soft", wrap=True)
        self._folded.hide()
        self.fields = FamilyFields(self._set_field)
        return column(
            row(label("Package sheet", "head"), 1, self._name),
            self.head,
            self.fields,
            growing(self.table),
            self._folded,
            flow(
                button("Compare with a sheet…", self.open_other),
                button("Cite this page for the selection", self._on_page),
                button("Clear selection", self._clear),
            ),
        )

    def _build_right(self) -> QTabWidget:
        """The package to scale, the datasheet's own drawing, and pads by hand where the family takes them."""
        self.right = QTabWidget()
        self.ruler = RulerBar((self.top, self.side), lambda: self.context.unit)
        views = panes(self.top, self.side, sizes=(330, 190), vertical=True)
        self.right.addTab(column(self.ruler, growing(views), margins=0), "To scale")
        self.pictures = DatasheetPictures(self.controller, self.context)
        self.right.addTab(self.pictures, "Datasheet")
        self.pads = PadsPanel(self.controller, self.context)
        self.pads_tab = scrolled(self.pads)
        self.right.addTab(self.pads_tab, "Manual pads")
        return self.right

    def _columns(self) -> list[Column[DimensionRow]]:
        def limit(which: str) -> Callable[[Any, str], None]:
            return lambda r, text: self._type(r, compose_limits(r, which, text), which)

        def fault(record: DimensionRow) -> str:
            return record.fault or (self._view.wrong.get(record.letter, "") if self._view else "")

        return [
            Column("Letter", lambda r: r.letter, fault=lambda r: "" if r.is_known else r.meaning),
            Column("Meaning", lambda r: r.meaning),
            Column("In sheet", lambda r: r.alias, self._set_alias),
            Column(AS_TYPED, lambda r: r.text, self._type, fault=fault),
            *(Column(name, attrgetter(name.lower()), limit(name.lower()), number=True) for name in LIMITS),
            Column("Value", lambda r: r.value, number=True),
            Column("Evidence", lambda r: r.evidence).struck_where(lambda r: r.is_struck),
        ]

    def fold(self, *, is_narrow: bool) -> None:
        # Beside the datasheet there is no room for the limits in columns of their own: one shows the value.
        self.table.hide_columns(*LIMITS, hidden=is_narrow)
        self.table.hide_columns("Value", hidden=not is_narrow)
        self._folded.setVisible(is_narrow)
        self.table.setColumnWidth(self.table.column_of("Meaning"), 92 if is_narrow else 124)

    def first(self) -> QWidget:
        if not self.table.currentIndex().isValid():
            self.table.setCurrentIndex(self.table.records.index(0, self.table.column_of(AS_TYPED)))
        return self.table

    def show_view(self, view: PackageView) -> None:
        sheet = view.sheet
        self.families.show_family(sheet.family)
        self.head.show_view(view)
        self.fields.show_fields(view.fields, sheet)
        self._name.setText(sheet.name)
        self._view = view
        for name in LIMITS:
            self.table.set_title(self.table.column_of(name), f"{name}, {self.context.unit}")
        self.table.show_records(view.rows)
        self.pictures.refresh()
        self.right.setTabVisible(PADS_TAB, view.manual_pads is not None)
        if view.manual_pads is not None:
            self.pads.show_view(view.manual_pads)
        self._draw()

    def _draw(self) -> None:
        """The package with the selected dimension highlighted; while nothing can be drawn, the last drawing stays."""
        view, record = self._view, self.table.record()
        if view is None:
            return
        if not view.drawings:
            if self.top.drawing is None:
                self.top.set_hint(view.hint)
            return
        in_hand = DimensionAddress(record.letter) if record else None
        for canvas, drawing in zip((self.top, self.side), view.drawings, strict=True):
            canvas.show_drawing(highlighted(drawing, in_hand))

    def show_address(self, address: Address) -> None:
        letter = dimension_letter(address)
        self.table.select_where(lambda r: r.letter == letter)

    def target(self, field: QWidget | None) -> CaptureTarget | None:
        if field is self.pins:
            return CaptureTarget(FieldAddress("sheet", "pins"), "Number of pins", "text")
        record: DimensionRow | None = self.table.record()
        return CaptureTarget(DimensionAddress(record.letter), record.letter, "length") if record else None

    def next_field(self) -> None:
        current = self.table.currentIndex()
        below = self.table.records.index(current.row() + 1, self.table.column_of(AS_TYPED))
        if below.isValid():
            self.table.setCurrentIndex(below)

    def _edit(self, label_text: str, change: Callable[..., Any], *args: Any, merge: str = "") -> None:
        self.controller.edit(label_text, lambda b: change(b, *args), merge)

    def _choose_family(self, key: str) -> None:
        if key != self.controller.bundle.sheet.family:
            self._edit("Choose the family", package_edits.set_family, key)

    def _set_field(self, key: str, text: str) -> None:
        before = self.controller.bundle
        if package_edits.set_field(before, key, "") != before or text.strip():
            self._edit(f"Change {key}", package_edits.set_field, key, text)

    def _set_alias(self, record: DimensionRow, text: str) -> None:
        self._edit(
            f"The sheet's letter for {record.letter}",
            package_edits.set_alias,
            record.letter,
            text,
            merge=f"alias:{record.letter}",
        )

    def _type(self, record: DimensionRow, text: str, which: str = "text") -> None:
        letter = record.letter
        self._edit(f"Change {letter}", package_edits.set_dimension, letter, text, merge=f"dim:{letter}:{which}")

    def _clear(self) -> None:
        letters = [r.letter for r in self.table.selected()]

        def clear(bundle: Any) -> Any:
            for letter in letters:
                bundle = package_edits.set_dimension(bundle, letter, "")
            return bundle

        self.controller.edit("Clear dimensions", clear)

    def open_other(self) -> None:
        """Compare with another part's sheet, or start from it."""
        self.dialog = PackageSheetDialog(self.controller, self.context, self)
        self.dialog.open()

    def _pasted(self, text: str) -> bool:
        """A table whose rows begin with letters goes to its letters; other texts go where the caret is."""
        try:
            made, unknown = paste_by_letter(self.controller.bundle, text)
        except EiderError:
            return False
        self.controller.edit("Paste dimensions", lambda _b: made)
        self.context.said.emit("pasted by letter" + (f"; not of this family: {', '.join(unknown)}" if unknown else ""))
        return True

    def _on_page(self) -> None:
        rows: list[DimensionRow] = self.table.selected()
        links = self.controller.bundle.part.datasheets
        page = self.datasheet.page if self.datasheet else 0
        if not rows or not links or not page:
            self.context.said.emit(
                "Open the datasheet beside the sheet (F4), turn to the page, then select the values."
            )
            return
        evidence = Evidence(EvidenceKind.DATASHEET, document=links[-1].sha256, page=page)
        addresses = [DimensionAddress(r.letter) for r in rows]
        who = self.context.person.name
        self._edit("Set evidence", set_evidence_at, addresses, evidence, who)
