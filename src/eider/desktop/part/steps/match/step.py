"""Match: which pad belongs to which pin."""

from collections.abc import Callable, Sequence

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QListWidget, QTabWidget, QWidget

from eider.commands.pins import match_edits
from eider.commands.pins.match_edits import MatchProposal
from eider.datasheets import Datasheet
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.datasheet_figures import FigurePlace, FigureReader
from eider.desktop.part.step import ViewStep
from eider.desktop.part.steps.match.pinout_panel import PinoutPanel
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.errors import EiderError
from eider.geometry.plane import Box
from eider.model.address import Address, PadAddress, PinAddress
from eider.model.pattern import Pad
from eider.model.symbol import Pin
from eider.model.wording import counted
from eider.views.part_values import parse_pad_numbers
from eider.views.steps.match import INTERNAL, MatchView

# Lines that are in sight at once, and how high one is.
MOST_SEEN, LINE = 5, 17


class ProposalsPanel(QWidget):
    """Hidden while there is nothing to propose."""

    def __init__(self, use: Callable[[Sequence[MatchProposal]], None]) -> None:
        super().__init__()
        self._use = use
        self._proposals: tuple[MatchProposal, ...] = ()
        self.found = QListWidget()
        self.found.setAccessibleName("Suggested pads")
        self.found.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.found.itemActivated.connect(lambda _item: self.use_selected())
        tools = row(button("Use these pads", self.use_selected), button("Use all", self.use_all), 1)
        fill_widget(self, column(label("Proposals", "head"), self.found, tools, margins=0))
        self.hide()

    def show_proposals(self, proposals: tuple[MatchProposal, ...]) -> None:
        """Show what could be matched."""
        self.setVisible(bool(proposals))
        if proposals == self._proposals:
            return
        self._proposals = proposals
        self.found.clear()
        self.found.addItems([f"Pin {p.pin}: pad {', '.join(p.pads)}   ({p.reason})" for p in proposals])
        self.found.setFixedHeight(LINE * min(len(proposals), MOST_SEEN) + 8)
        self.found.setCurrentRow(0)

    def use_selected(self) -> None:
        """Match by the proposals that are selected."""
        self._use([self._proposals[index.row()] for index in self.found.selectedIndexes()])

    def use_all(self) -> None:
        """Match by all of them."""
        self._use(self._proposals)


LAYERS = frozenset(("copper", "silkscreen", "courtyard", "package"))


class MatchStep(ViewStep[MatchView]):
    """Symbol and footprint side by side; pointing at one lights the other."""

    key = "match"
    view_type = MatchView

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self._lit_pins: frozenset[str] = frozenset()
        self._view: MatchView | None = None
        self.pins = RecordView[Pin](
            [
                Column("Pin", lambda p: p.number, number=True),
                Column("Name", lambda p: p.name),
                Column(
                    "Pads",
                    lambda p: self._view.wanted.get(p.number, "") if self._view else "",
                    self._set_pads,
                    fault=lambda p: "" if self._pads_of(p.number) or self._is_internal(p.number) else "no pad",
                ),
                Column("Place", lambda p: self._view.places.get(p.number, "") if self._view else ""),
            ],
            context.theme,
        )
        self.pins.set_widths(40, 84, 62)
        self.pins.edited.connect(controller.session.end_merge)
        self.pins.entered_record.connect(lambda pin: self._light(frozenset((pin.number,))))
        self.pads = RecordView[Pad](
            [
                Column("Pad", lambda p: p.number, number=True),
                Column(
                    "Pins",
                    lambda p: (
                        "mechanical" if self._is_mechanical(p) else ", ".join(map(self._named, self._pins_of(p.number)))
                    ),
                    fault=lambda p: "" if self._pins_of(p.number) or self._is_mechanical(p) else "no pin",
                ),
            ],
            context.theme,
        )
        self.pads.set_widths(46)
        self.pads.entered_record.connect(lambda pad: self._light(frozenset(self._pins_of(pad.number))))
        self.symbol = DrawingView(context.theme, "No pins yet. Enter them in Pins.", context.jobs)
        self.lands = DrawingView(context.theme, "No lands yet. Complete the package sheet first.", context.jobs)
        for view in (self.symbol, self.lands):
            view.address_hovered.connect(self._point)
            view.address_clicked.connect(self._point)
        self._summary = label("", "number", wrap=True)
        self.pinout = PinoutPanel(controller, context)
        self.pinout.drawing.address_hovered.connect(self._point)
        self.pinout.drawing.address_clicked.connect(self._point)
        self.proposals = ProposalsPanel(self._use)
        left = column(
            label("Pins", "head"),
            growing(self.pins),
            flow(button("Internal, no pad", self._say_internal), button("Paste a table", self.paste_table)),
        )
        right = column(
            label("Pads", "head"), growing(self.pads), row(button("Mechanical, no pin", self._say_mechanical), 1)
        )
        self.tabs = QTabWidget()
        self.tabs.addTab(panes(self.symbol, self.lands, sizes=(350, 380)), "Symbol and lands")
        self.tabs.addTab(self.pinout, "Pinout")
        middle = column(self._summary, self.proposals, growing(self.tabs), margins=6)
        self.build(panes(left, middle, right, sizes=(390, 690, 180)))

    def first(self) -> QWidget:
        return self.pins

    def show_view(self, view: MatchView) -> None:
        self._view = view
        self.pins.show_records(view.pins)
        self.pads.show_records(view.pads)
        self._summary.setText(view.summary)
        self.proposals.show_proposals(view.proposals)
        self.pinout.show_view(view)
        self.symbol.show_drawing(view.symbol)
        self.lands.show_drawing(view.lands)
        self._show_light()

    def read_rectangle(self, _document: Datasheet, sha256: str, page: int, box: Box) -> bool:
        self.tabs.setCurrentWidget(self.pinout)
        FigureReader(self.controller, self.context, self.jobs).read_pinout(FigurePlace(sha256, page, box))
        return True

    def _is_internal(self, pin: str) -> bool:
        return self._view is not None and pin in self._view.internal

    def _is_mechanical(self, pad: Pad) -> bool:
        return self._view is not None and pad.number in self._view.mechanical

    def _say_internal(self) -> None:
        """Mark the selected pins as internal, or unmark them if all of them are marked already."""
        numbers = [pin.number for pin in self.pins.selected()]
        internal = not all(map(self._is_internal, numbers))
        title = f"{counted(len(numbers), 'pin')} {'without a pad' if internal else 'with a pad'}"
        self.controller.edit(title, lambda b: match_edits.set_internal(b, numbers, internal=internal))

    def _say_mechanical(self) -> None:
        """Mark the selected pads as mechanical, or unmark them if all of them are marked already."""
        pads = self.pads.selected()
        mechanical = not all(map(self._is_mechanical, pads))
        numbers = [pad.number for pad in pads]
        title = f"{counted(len(numbers), 'pad')} {'without a pin' if mechanical else 'with a pin'}"
        self.controller.edit(title, lambda b: match_edits.set_mechanical(b, numbers, mechanical=mechanical))

    def paste_table(self) -> None:
        """Match by the table on the clipboard: pins in its first column, their pads in the next."""
        clipboard = QGuiApplication.clipboard()
        rows = [line.split("\t") for line in (clipboard.text() if clipboard else "").splitlines()]
        try:
            _, doubts = match_edits.match_by_table(self.controller.bundle, rows)
        except EiderError as fault:
            self.context.said.emit(str(fault))
            return
        self.controller.edit("Match by a table", lambda b: match_edits.match_by_table(b, rows)[0])
        self.context.said.emit("; ".join(doubts[:3]) or f"Matched by {counted(len(rows), 'row')} of a table")

    def _use(self, proposals: Sequence[MatchProposal]) -> None:
        self.controller.edit("Match by proposals", lambda b: match_edits.use_proposals(b, proposals))

    def _pads_of(self, number: str) -> tuple[str, ...]:
        return self._view.pads_of.get(number, ()) if self._view else ()

    def _pins_of(self, number: str) -> tuple[str, ...]:
        return self._view.pins_of.get(number, ()) if self._view else ()

    def _named(self, number: str) -> str:
        return self._view.names.get(number, number) if self._view else number

    def _light(self, pins: frozenset[str]) -> None:
        if pins != self._lit_pins:
            self._lit_pins = pins
            self._show_light()

    def _point(self, address: Address | None) -> None:
        if isinstance(address, PinAddress):
            self._light(frozenset((address.number,)))
        elif isinstance(address, PadAddress):
            self._light(frozenset(self._pins_of(address.number)))

    def _show_light(self) -> None:
        """Highlight the selected pins and the pads that belong to them."""
        pads = {number for pin in self._lit_pins for number in self._pads_of(pin)}
        self.symbol.light_addresses(frozenset(PinAddress(number) for number in self._lit_pins))
        self.lands.light_addresses(frozenset(PadAddress(number) for number in pads))
        self.pinout.drawing.light_addresses(frozenset(PinAddress(number) for number in self._lit_pins))

    def show_address(self, address: Address) -> None:
        if isinstance(address, PinAddress):
            self.pins.select_where(lambda pin: pin.number == address.number)
        elif isinstance(address, PadAddress):
            self.pads.select_where(lambda pad: pad.number == address.number)

    def _set_pads(self, pin: Pin, text: str) -> None:
        if text.strip().lower() == INTERNAL:
            self.controller.edit(f"Pin {pin.number} is internal", lambda b: match_edits.set_internal(b, [pin.number]))
            return
        numbers = parse_pad_numbers(text)
        self.controller.edit(
            f"Match pin {pin.number}", lambda b: match_edits.set_match(b, pin.number, numbers), f"match:{pin.number}"
        )
