"""Pins: the pin table and the symbol that follows from it."""

from collections.abc import Mapping

import msgspec

from eider.drawings.finding_balloons import with_balloons
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing, unit_drawing
from eider.facts.categories import pin_columns
from eider.model.bundle import Bundle
from eider.model.library import FactField
from eider.model.symbol import Arrangement, CustomGraphic, GraphicStroke, Pin, PinMove
from eider.model.wording import counted
from eider.symbols.arrangement_quality import quality
from eider.symbols.custom_graphic import CUSTOM, custom_graphic_faults
from eider.symbols.graphics import has_forms
from eider.symbols.pin_moves import arrangement_moves
from eider.views.part_state import PartState, StepOptions, StepView, ViewOptions
from eider.views.step_registry import StepSpec


class PinsOptions(StepOptions, frozen=True):
    """What is shown of the symbol: the marks of electrical types, one unit alone (from 0) or all."""

    types: bool = False
    unit: int | None = None


class StrokeRow(msgspec.Struct, frozen=True):
    """A row of a custom graphic: its number from 1, and what is wrong with it."""

    index: int
    stroke: GraphicStroke
    fault: str


class CustomGraphicView(msgspec.Struct, frozen=True):
    """The rows of a custom graphic, its named lengths as text, and the first fault."""

    rows: tuple[StrokeRow, ...]
    lengths: str
    fault: str


class PinsView(StepView, frozen=True):
    """What Pins shows.

    `moves` are those by hand by the number of their pin, `move_words` in words and in the order of the arrangement;
    `unit_titles` are empty where there is one unit alone. `columns` are the further ones of the pin table.
    """

    pins: tuple[Pin, ...]
    count_words: str
    moves: Mapping[str, PinMove]
    move_words: tuple[str, ...]
    arrangement: Arrangement
    sides: int
    graphic: str
    form: str
    has_forms: bool
    custom: CustomGraphicView | None
    unit_titles: tuple[str, ...]
    drawing: Drawing | None
    quality: str
    columns: tuple[FactField, ...] = ()


def pins_view(state: PartState, options: ViewOptions) -> PinsView:
    """The pin table, its symbol as it is arranged, and what was moved in it."""
    bundle, chosen = state.bundle, options.of(PinsOptions)
    symbol = bundle.symbol
    moves = arrangement_moves(symbol, symbol.arrangement)
    names = {pin.number: pin.name or pin.number for pin in symbol.pins}
    unit = chosen.unit if chosen.unit is not None and chosen.unit < len(symbol.units) else None
    alone = 0 if len(symbol.units) == 1 else unit
    drawing = _drawing(bundle, alone, types=chosen.types)
    shown = symbol.units[alone or 0] if symbol.units and not symbol.graphic else None
    standard = bool(symbol.graphic) and symbol.graphic != CUSTOM
    return PinsView(
        pins=symbol.pins,
        count_words=_count_words(len(symbol.pins), bundle.sheet.pins),
        moves={move.pin: move for move in moves},
        move_words=tuple(_move_words(move, names) for move in moves),
        arrangement=symbol.arrangement,
        sides=symbol.sides if symbol.arrangement == "number" else 2,
        graphic=symbol.graphic,
        form=symbol.measures.form,
        has_forms=standard and has_forms(symbol.graphic),
        custom=_custom(symbol.custom or CustomGraphic()) if symbol.graphic == CUSTOM else None,
        unit_titles=tuple(u.name for u in symbol.units) if len(symbol.units) > 1 else (),
        drawing=with_balloons(drawing, state.findings) if drawing else None,
        quality=quality(shown, symbol.pins).words if shown else "",
        columns=pin_columns(state.rules.settings, bundle.part.category),
    )


def _count_words(pins: int, in_package: int) -> str:
    return f"{counted(pins, 'pin')}; the package has {in_package:,}"


def _drawing(bundle: Bundle, unit: int | None, *, types: bool) -> Drawing | None:
    symbol, name = bundle.symbol, bundle.part.name
    if not symbol.units:
        return None
    if unit is not None:
        return unit_drawing(symbol, unit, name, types=types)
    return symbol_drawing(symbol, name, types=types)


def _move_words(move: PinMove, names: Mapping[str, str]) -> str:
    after = f"after {names.get(move.after, move.after)} ({move.after})" if move.after else "first"
    apart = ", apart" if move.apart else ""
    return f"{names.get(move.pin, 'no pin')} ({move.pin}): {move.side}, {after}{apart}"


def _custom(own: CustomGraphic) -> CustomGraphicView:
    faults = {fault.row: fault.message for fault in reversed(custom_graphic_faults(own))}
    rows = tuple(StrokeRow(i, stroke, faults.get(i, "")) for i, stroke in enumerate(own.strokes, start=1))
    first = min(faults, default=None)
    told = "" if first is None else (f"row {first}: " if first else "") + faults[first]
    return CustomGraphicView(rows, "; ".join(f"{name} = {text}" for name, text in own.lengths.items()), told)


STEP = StepSpec(
    key="pins",
    title="Pins",
    order=20,
    areas=("symbol",),
    is_begun=lambda bundle: any(pin.name for pin in bundle.symbol.pins) or bool(bundle.symbol.graphic),
    view=pins_view,
    widget="eider.desktop.part.steps.pins.step:PinsStep",
)
