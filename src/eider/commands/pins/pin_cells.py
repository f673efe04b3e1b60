"""The columns of the pin table: what each shows of a pin, and what a text that is typed or pasted there makes of it."""

from collections.abc import Callable, Sequence

import msgspec

from eider.commands.pins.pin_edits import set_pin_table
from eider.errors import InputError
from eider.evidence.evidence_changes import typed_pin
from eider.model.bundle import Bundle
from eider.model.library import FactField
from eider.model.symbol import PIN_SHAPES, PIN_TYPES, Pin
from eider.symbols.pin_columns import MORE, column_text, with_column
from eider.symbols.pin_names import guess_type
from eider.symbols.pin_table import make_pin

replace = msgspec.structs.replace
ASSUMED, YES = "assumed", "yes"


class PinCell(msgspec.Struct, frozen=True):
    """One column: the field of a pin, its heading, and texts to choose from where there are any."""

    field: str
    title: str
    show: Callable[[Pin], str]
    put: Callable[[Pin, str], Pin]
    choices: tuple[str, ...] = ()


def confidence(pin: Pin) -> str:
    """How sure an assumed type is, in words for the table; empty for one that someone confirmed."""
    if not pin.assumed:
        return ""
    guess = guess_type(pin.name)
    return f"{ASSUMED} {guess.confidence:.0%}" if guess and guess.type == pin.type else ASSUMED


def _text(field: str) -> Callable[[Pin, str], Pin]:
    return lambda pin, text: replace(pin, **{field: text.strip()})


def _put_name(pin: Pin, text: str) -> Pin:
    """A name typed again proposes its type where none is decided yet, as a pasted one does."""
    if pin.type != "undecided":
        return replace(pin, name=text.strip())
    guess, _ = make_pin(pin.number, text)
    return replace(pin, name=text.strip(), type=guess.type, assumed=guess.assumed)


def _put_type(pin: Pin, text: str) -> Pin:
    if text not in PIN_TYPES:
        raise InputError(f"“{text}” is not an electrical type; choose one of {', '.join(PIN_TYPES)}")
    return replace(pin, type=text, assumed=False)


def _put_shape(pin: Pin, text: str) -> Pin:
    if text not in PIN_SHAPES:
        raise InputError(f"“{text}” is not a pin shape; choose one of {', '.join(filter(None, PIN_SHAPES))}")
    return replace(pin, shape=text)


def _put_others(pin: Pin, text: str) -> Pin:
    return replace(pin, alternatives=tuple(piece.strip() for piece in text.split(",") if piece.strip()))


PIN_CELLS = (
    PinCell("number", "Pin", lambda p: p.number, _text("number")),
    PinCell("name", "Name", lambda p: p.name, _put_name),
    PinCell("type", "Type", lambda p: p.type, _put_type, PIN_TYPES),
    PinCell("assumed", "Confidence", confidence, lambda p, text: replace(p, assumed=text.startswith(ASSUMED)),
            ("", ASSUMED)),
    PinCell("active_low", "Active low", lambda p: YES if p.active_low else "",
            lambda p, text: replace(p, active_low=text == YES), ("", YES)),
    PinCell("group", "Group", lambda p: p.group, _text("group")),
    PinCell("unit", "Unit", lambda p: p.unit, _text("unit")),
    PinCell("shown", "Drawn as", lambda p: p.shown, _text("shown")),
    PinCell("alternatives", "Other functions", lambda p: ", ".join(p.alternatives), _put_others),
    PinCell("shape", "Shape", lambda p: p.shape, _put_shape, PIN_SHAPES),
    PinCell("description", "Description", lambda p: p.description, _text("description")),
)  # fmt: skip
BY_FIELD = {cell.field: cell for cell in PIN_CELLS}


def more_cell(column: FactField) -> PinCell:
    """A further column of a category's template; a choice is chosen from its choices."""
    field = f"{MORE}{column.name}"
    choices = ("", *column.choices) if column.kind == "choice" else ("", "yes", "no") if column.kind == "yes/no" else ()
    return PinCell(
        field,
        column.name,
        lambda pin: column_text(pin, field),
        lambda pin, text: with_column(pin, field, text),
        choices,
    )


def paste_cells(bundle: Bundle, row: int, fields: Sequence[str], cells: Sequence[Sequence[str]]) -> Bundle:
    """Cells of a spreadsheet put into the table from a row on, under these fields; what hangs over is left out.

    Raises:
        InputError: a cell cannot be read; nothing is changed.
    """
    pins = list(bundle.symbol.pins)
    for down, line in enumerate(cells):
        if row + down >= len(pins):
            break
        pin = before = pins[row + down]
        for field, text in zip(fields, line, strict=False):
            if field.startswith(MORE):
                pin = with_column(pin, field, text)
            elif field in BY_FIELD:
                pin = BY_FIELD[field].put(pin, text.strip())
        pins[row + down] = typed_pin(before, pin)
    return set_pin_table(bundle, pins)


def draw_next_function(bundle: Bundle, rows: Sequence[int]) -> Bundle:
    """The next of its alternative functions is drawn at each pin; after the last its name again.

    Raises:
        InputError: no pin of the rows has alternative functions.
    """
    pins = list(bundle.symbol.pins)
    if not any(pins[row].alternatives for row in rows):
        raise InputError("none of the selected pins has other functions; split its name first, or type them")
    for row in rows:
        ways = ("", *pins[row].alternatives)
        now = ways.index(pins[row].shown) if pins[row].shown in ways else 0
        pins[row] = replace(pins[row], shown=ways[(now + 1) % len(ways)])
    return set_pin_table(bundle, pins)
