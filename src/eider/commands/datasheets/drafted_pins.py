"""Pins of a draft from a list or a pinout figure, where a datasheet has no table of them."""

from collections.abc import Sequence

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.datasheets.figures.pin_lists import ListedPin
from eider.datasheets.figures.pinout_figures import ReadFigure
from eider.datasheets.pages.page_frame import joined
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.wording import counted
from eider.symbols.pin_table import read_pins

replace = msgspec.structs.replace


def with_pins_of_figure(
    bundle: Bundle, read: ReadFigure, document: str, page: int, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the numbers and names that a figure shows, each with the place of its number as evidence.

    A figure tells no types and may leave pins out: that is a doubt of its own.
    """
    shown = {pin.number: pin for pin in sorted(read.pins, key=lambda pin: (len(pin.number), pin.number))}
    rows = [["Pin", "Name"], *([pin.number, pin.name] for pin in shown.values())]
    half = read.size / 2
    pins = tuple(
        replace(
            pin,
            evidence=datasheet_evidence(
                document, page, (at.x - half, at.y - half, at.x + half, at.y + half), at.number, who
            ),
        )
        for pin in read_pins(rows).pins
        if (at := shown.get(pin.number)) is not None
    )
    made = replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    told = "read from the pinout figure, as no table of pins was found: types are assumed"
    return made, [Doubt("symbol", counted(len(pins), "pin"), told, document, page, read.box)]


def with_listed_pins(
    bundle: Bundle, pins: Sequence[ListedPin], document: str, page: int, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the pins that a list numbers, each with its entry as evidence; that it is one is a doubt."""
    places = {pin.number: pin for pin in pins}
    read = read_pins([["Pin", "Name"], *([pin.number, pin.name] for pin in pins)]).pins
    made = tuple(
        replace(pin, evidence=datasheet_evidence(document, page, at.box, f"{at.number} {at.name}", who))
        for pin in read
        if (at := places.get(pin.number)) is not None
    )
    told = "read from a list, as no table of pins was found: types are assumed"
    box = joined(*(pin.box for pin in pins))
    bundle = replace(bundle, symbol=replace(bundle.symbol, pins=made))
    return bundle, [Doubt("symbol", counted(len(made), "pin"), told, document, page, box)]
