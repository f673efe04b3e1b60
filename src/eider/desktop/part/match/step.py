"""Match: which pad belongs to which pin."""

from PyQt6.QtWidgets import QWidget

from eider.commands import match_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import PartStep
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import column, growing, label, panes
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.address import Address, PadAddress, PinAddress
from eider.model.pattern import Pad
from eider.model.symbol import Pin
from eider.views.part_values import parse_pad_numbers
from eider.views.steps.match import MatchView

LAYERS = frozenset(("copper", "silkscreen", "courtyard", "package"))


class MatchStep(PartStep):
    """Symbol and footprint side by side; pointing at one lights the other."""

    key = "match"

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
                    fault=lambda p: "" if self._pads_of(p.number) else "no pad",
                ),
            ],
            context.theme,
        )
        self.pins.set_widths(46, 92)
        self.pins.edited.connect(controller.session.end_merge)
        self.pins.entered_record.connect(lambda pin: self._light(frozenset((pin.number,))))
        self.pads = RecordView[Pad](
            [
                Column("Pad", lambda p: p.number, number=True),
                Column(
                    "Pins",
                    lambda p: ", ".join(self._named(n) for n in self._pins_of(p.number)),
                    fault=lambda p: "" if self._pins_of(p.number) else "no pin",
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
        left = column(label("Pins", "head"), growing(self.pins))
        right = column(label("Pads", "head"), growing(self.pads))
        middle = column(self._summary, growing(panes(self.symbol, self.lands, sizes=(350, 380))), margins=6)
        self.build(panes(left, middle, right, sizes=(250, 800, 210)))

    def first(self) -> QWidget:
        return self.pins

    def show_view(self, view: MatchView) -> None:
        self._view = view
        self.pins.show_records(view.pins)
        self.pads.show_records(view.pads)
        self._summary.setText(view.summary)
        self.symbol.show_drawing(view.symbol)
        self.lands.show_drawing(view.lands)
        self._show_light()

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

    def show_address(self, address: Address) -> None:
        if isinstance(address, PinAddress):
            self.pins.select_where(lambda pin: pin.number == address.number)
        elif isinstance(address, PadAddress):
            self.pads.select_where(lambda pad: pad.number == address.number)

    def _set_pads(self, pin: Pin, text: str) -> None:
        numbers = parse_pad_numbers(text)
        self.controller.edit(
            f"Match pin {pin.number}", lambda b: match_edits.set_match(b, pin.number, numbers), f"match:{pin.number}"
        )
