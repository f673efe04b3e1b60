"""Match: which pad belongs to which pin."""

from PyQt6.QtWidgets import QWidget

from eider.commands import match_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import PartStep
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import column, growing, label, panes
from eider.desktop.widgets.record_table import Column, RecordView
from eider.drawings.land_drawing import LandOptions, pattern_drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.model.address import Address, PadAddress, PinAddress
from eider.model.pattern import Pad
from eider.model.symbol import Pin
from eider.views.part_values import matched_pads, parse_pad_numbers

LAYERS = frozenset(("copper", "silkscreen", "courtyard", "package"))


class MatchStep(PartStep):
    """Symbol and footprint side by side; pointing at one lights the other."""

    key = "match"

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self._lit_pins: frozenset[str] = frozenset()
        self.pins = RecordView[Pin](
            [
                Column("Pin", lambda p: p.number, number=True),
                Column("Name", lambda p: p.name),
                Column(
                    "Pads",
                    self._pads_of,
                    self._set_pads,
                    fault=lambda p: "" if self._matched.get(p.number) else "no pad",
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
                    lambda p: ", ".join(self._named(n) for n in self._pins_of(p)),
                    fault=lambda p: "" if self._pins_of(p) else "no pin",
                ),
            ],
            context.theme,
        )
        self.pads.set_widths(46)
        self.pads.entered_record.connect(lambda pad: self._light(frozenset(self._pins_of(pad))))
        self.symbol = DrawingView(context.theme, "There are no pins yet.")
        self.lands = DrawingView(context.theme, "There are no lands yet.")
        for view in (self.symbol, self.lands):
            view.address_hovered.connect(self._point)
            view.address_clicked.connect(self._point)
        self._summary = label("", "number", wrap=True)
        self._matched: dict[str, tuple[str, ...]] = {}
        left = column(label("Pins", "head"), growing(self.pins))
        right = column(label("Pads", "head"), growing(self.pads))
        middle = column(self._summary, growing(panes(self.symbol, self.lands, sizes=(350, 380))), margins=6)
        self.build(panes(left, middle, right, sizes=(250, 800, 210)))

    def first(self) -> QWidget:
        return self.pins

    def refresh(self) -> None:
        super().refresh()
        bundle = self.controller.bundle
        self._matched = matched_pads(bundle)
        self.pins.show_records(bundle.symbol.pins)
        self.pads.show_records(bundle.footprint.pattern.pads if bundle.footprint.pattern else ())
        matched = sum(bool(pads) for pads in self._matched.values())
        pads = bundle.footprint.pattern.pads if bundle.footprint.pattern else ()
        free = [pad.number for pad in pads if not self._pins_of(pad)]
        text = f"{matched} of {len(bundle.symbol.pins)} pins have a pad"
        self._summary.setText(text + (f"; pads without a pin: {', '.join(free[:8])}" if free else ""))
        self._draw()

    def _pads_of(self, pin: Pin) -> str:
        return ", ".join(self.controller.bundle.part.match.get(pin.number, (pin.number,)))

    def _pins_of(self, pad: Pad) -> list[str]:
        return [pin for pin, pads in self._matched.items() if pad.number in pads]

    def _named(self, number: str) -> str:
        name = next((pin.name for pin in self.controller.bundle.symbol.pins if pin.number == number), "")
        return f"{number} {name}".strip()

    def _light(self, pins: frozenset[str]) -> None:
        if pins != self._lit_pins:
            self._lit_pins = pins
            self._draw()

    def _point(self, address: Address | None) -> None:
        if isinstance(address, PinAddress):
            self._light(frozenset((address.number,)))
        elif isinstance(address, PadAddress):
            self._light(frozenset(pin for pin, pads in self._matched.items() if address.number in pads))

    def _draw(self) -> None:
        bundle = self.controller.bundle
        if bundle.symbol.units:
            self.symbol.show_drawing(symbol_drawing(bundle.symbol, bundle.part.name, self._lit_pins))
        pattern = bundle.footprint.pattern
        if pattern:
            pads = frozenset(number for pin in self._lit_pins for number in self._matched.get(pin, ()))
            self.lands.show_drawing(pattern_drawing(pattern, (), LandOptions(LAYERS, self.context.unit, pads)))

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
