"""What every reader of pins gives."""

from collections.abc import Sequence

import msgspec

from eider.model.symbol import Pin
from eider.symbols.pin_table import MOST_PINS, TOO_MANY, PinReading, RowFault


class PinSource(msgspec.Struct, frozen=True):
    """One pin table of a file: of one package, one component, one sheet of a workbook.

    `rows` are its cells where it is a table of cells, so that columns can be assigned; else it is empty.
    """

    title: str
    reading: PinReading
    rows: tuple[tuple[str, ...], ...] = ()


def source_of(title: str, pins: Sequence[tuple[int, Pin]], faults: Sequence[RowFault]) -> PinSource:
    """A source from pins with the line (from 1) where each stands; of more pins than there may be, the rest is told."""
    if len(pins) > MOST_PINS:
        faults = [*faults, RowFault(pins[MOST_PINS][0], TOO_MANY)]
        pins = pins[:MOST_PINS]
    reading = PinReading(
        tuple(pin for _, pin in pins), tuple(sorted(faults, key=lambda f: f.line)), {}, tuple(line for line, _ in pins)
    )
    return PinSource(title, reading)
