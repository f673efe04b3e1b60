"""The tables in which a capture is shown: dimensions with what their letters mean, and pins."""

from collections.abc import Callable
from typing import NamedTuple

from eider.desktop.part.capture_columns import LEFT_OUT
from eider.desktop.theme import Theme
from eider.desktop.widgets.record_table import Column, RecordView


class CapturedDimensionRow(NamedTuple):
    """A row of the panel: its place `at` in the capture, texts, the standard's letter chosen for it, and why."""

    at: int
    letter: str
    text: str
    meaning: str
    seen: str
    standard: str
    why: str
    doubt: str


class CapturedPinRow(NamedTuple):
    """A row of the panel for a pin."""

    at: int
    number: str
    name: str
    active_low: bool
    type: str
    more: str
    doubt: str


def dimension_table(
    theme: Theme,
    set_letter: Callable[[CapturedDimensionRow, str], None],
    choices: Callable[[CapturedDimensionRow], list[str]],
) -> RecordView[CapturedDimensionRow]:
    """The table of dimensions; the column of meanings can be changed."""
    made = RecordView[CapturedDimensionRow](
        [
            Column("In sheet", lambda r: r.letter),
            Column("Read as", lambda r: r.text, fault=lambda r: r.doubt),
            Column("Meaning", lambda r: r.standard or LEFT_OUT, set_letter, choices=choices),
            Column("Doubts", lambda r: r.doubt, fault=lambda r: r.doubt),
            Column("As printed", lambda r: r.seen),
            Column("Why", lambda r: r.why),
        ],
        theme,
    )
    made.set_widths(64, 150, 84, 150, 140)
    return made


def pin_table(theme: Theme) -> RecordView[CapturedPinRow]:
    """The table of pins."""
    made = RecordView[CapturedPinRow](
        [
            Column("Pin", lambda r: r.number, number=True),
            Column("Name", lambda r: r.name),
            Column("Active low", lambda r: "yes" if r.active_low else ""),
            Column("Type", lambda r: r.type),
            Column("Description", lambda r: r.more),
            Column("Doubts", lambda r: r.doubt, fault=lambda r: r.doubt),
        ],
        theme,
    )
    made.set_widths(52, 130, 76, 130, 260)
    return made
