"""Pins of a draft from a list or a pinout figure, where a datasheet has no table of them."""

from collections.abc import Sequence
from typing import NamedTuple

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.datasheets.figures.pin_lists import ListedPin
from eider.datasheets.figures.pinout_figures import ReadFigure
from eider.datasheets.pages.page_frame import joined
from eider.evidence.figure_comparison import names_of, printed_names
from eider.geometry.plane import Box
from eider.model.address import PinAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.wording import counted
from eider.symbols.pin_names import is_partly_barred, without_bars
from eider.symbols.pin_table import read_pins

replace = msgspec.structs.replace


def with_pins_of_figure(
    bundle: Bundle, read: ReadFigure, document: str, page: int, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the numbers and names that a figure shows, each with the place of its number as evidence.

    A figure tells no types and may leave pins out: that is a doubt of its own.
    """
    half = read.size / 2
    shown = [
        _Shown(pin.number, pin.name, (pin.x - half, pin.y - half, pin.x + half, pin.y + half), pin.number)
        for pin in sorted(read.pins, key=lambda pin: (len(pin.number), pin.number))
    ]
    told = "read from the pinout figure, as no table of pins was found: types are assumed"
    return _with_shown(bundle, shown, Doubt("symbol", "", told, document, page, read.box), who)


def with_pins_beside(
    bundle: Bundle, read: ReadFigure, document: str, page: int, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the pins that its pinout figure has beside those of the table, as a map of balls has unused ones.

    Only where the figure agrees with the table in each of its pins: else it is another package's.
    """
    known = {pin.number: names_of(pin) for pin in bundle.symbol.pins}
    drawn = {pin.number: printed_names(pin.name) for pin in read.pins}
    if not set(known) < set(drawn) or not all(known[number] & drawn[number] for number in known):
        return bundle, []
    rest = tuple(pin for pin in read.pins if pin.number not in known)
    made, doubts = with_pins_of_figure(bundle, replace(read, pins=rest), document, page, who)
    told = "in the pinout figure alone, and not in the table of pins"
    pins = (*bundle.symbol.pins, *made.symbol.pins)
    return replace(made, symbol=replace(made.symbol, pins=pins)), [replace(doubts[0], reason=told), *doubts[1:]]


def with_listed_pins(
    bundle: Bundle, pins: Sequence[ListedPin], document: str, page: int, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the pins that a list numbers, each with its entry as evidence; that it is one is a doubt."""
    shown = [_Shown(pin.number, pin.name, pin.box, f"{pin.number} {pin.name}") for pin in pins]
    told = "read from a list, as no table of pins was found: types are assumed"
    return _with_shown(bundle, shown, Doubt("symbol", "", told, document, page, joined(*(p.box for p in pins))), who)


class _Shown(NamedTuple):
    """A pin as a datasheet shows it, with its place and what is printed there."""

    number: str
    name: str
    box: Box
    seen: str


def _with_shown(bundle: Bundle, shown: Sequence[_Shown], doubt: Doubt, who: str) -> tuple[Bundle, list[Doubt]]:
    """The part with these pins, each with evidence on the page of the doubt, which gets their count."""
    places = {pin.number: pin for pin in shown}
    rows = [["Pin", "Name"], *([pin.number, pin.name] for pin in places.values())]
    pins = tuple(
        replace(pin, evidence=datasheet_evidence(doubt.document, doubt.page, at.box, at.seen, who))
        for pin in read_pins(rows).pins
        if (at := places.get(pin.number)) is not None
    )
    made = replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    told = "a bar is over a part of this name"
    barred = [
        replace(doubt, address=str(PinAddress(at.number)), reading=without_bars(at.name), reason=told, box=at.box)
        for at in shown
        if is_partly_barred(at.name)
    ]
    return made, [replace(doubt, reading=counted(len(pins), "pin")), *barred]
