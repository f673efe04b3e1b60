"""What slips are made of: changes of a sound part, each a function from part to part."""

from collections.abc import Callable
from typing import Any

import msgspec

from eider.commands.lands import footprint_edits
from eider.evidence.evidence_changes import set_evidence
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.lengths import format_limits
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.finding import Severity
from eider.model.footprint import Adjustment, SilkscreenOverride
from eider.model.package_sheet import Dimension
from eider.model.pattern import Pattern, PatternStroke
from eider.model.symbol import Pin, PlacedPin

replace = msgspec.structs.replace
Change = Callable[[Bundle], Bundle]


class Flaw(msgspec.Struct, frozen=True):
    """One slip as people make it, and the check that finds it.

    Attributes:
        check: the id of the check that must find it.
        slip: what was done, in a few words.
        change: makes the flawed part of the sound one.
        base: the demo part that it happens to.
        stored: the result was changed in its file, after the recipe ran: the recipe is not run again.
        brings: other checks that the same slip trips, because one follows from the other.
        severity: where it differs from the check's own.
        variant: tells further slips that the same check finds; the first has none.
    """

    check: str
    slip: str
    change: Change
    base: str = "NVK-1216T"
    stored: bool = False
    brings: frozenset[str] = frozenset()
    severity: Severity | None = None
    variant: str = ""

    @property
    def part_name(self) -> str:
        """What the flawed part is called."""
        return "-".join(filter(None, (self.check.replace(".", "-"), self.variant))).upper()


def misread(letter: str, text: str) -> Change:
    """A wrong value that was taken from the datasheet, so that it bears evidence."""

    def change(bundle: Bundle) -> Bundle:
        old = bundle.sheet.dims.get(letter, Dimension())
        evidence = replace(old.evidence, text=text) if old.evidence else None
        return _with_dims(bundle, {**bundle.sheet.dims, letter: Dimension(text, evidence=evidence)})

    return change


def mils_as_mm(bundle: Bundle) -> Bundle:
    """The column of mils of the datasheet, read as if it were that of millimetres.

    Raises:
        ValueError: a length of the sheet cannot be read.
    """
    dims = {}
    for letter, old in bundle.sheet.dims.items():
        if old.limits is None:
            raise ValueError("a flaw of a whole column needs a sheet that can be read")
        ends = (old.limits.min, old.limits.nom, old.limits.max)
        mils = Limits(*(None if end is None else round(end / MM_PER_UNIT["mil"], 1) for end in ends))
        text = format_limits(mils, with_unit=False)
        evidence = replace(old.evidence, text=text) if old.evidence else None
        dims[letter] = Dimension(text, evidence=evidence)
    return _with_dims(bundle, dims)


def left_out(letter: str) -> Change:
    """A dimension that is not in the sheet."""

    def change(bundle: Bundle) -> Bundle:
        return _with_dims(bundle, {key: value for key, value in bundle.sheet.dims.items() if key != letter})

    return change


def exchanged(first: str, second: str) -> Change:
    """Two dimensions under each other's letter."""

    def change(bundle: Bundle) -> Bundle:
        dims = bundle.sheet.dims
        return _with_dims(bundle, {**dims, first: dims[second], second: dims[first]})

    return change


def without_evidence(letter: str) -> Change:
    """A dimension whose place in the datasheet nobody noted."""

    def change(bundle: Bundle) -> Bundle:
        dims = bundle.sheet.dims
        return _with_dims(bundle, {**dims, letter: replace(dims[letter], evidence=None)})

    return change


def _with_dims(bundle: Bundle, dims: dict[str, Dimension]) -> Bundle:
    return replace(bundle, sheet=replace(bundle.sheet, dims=dims))


def wrong_place(letter: str, other: str) -> Change:
    """The evidence of one dimension under another's letter."""
    return lambda b: set_evidence(b, {DimensionAddress(letter): b.sheet.dims[other].evidence})


def with_doubt(bundle: Bundle) -> Bundle:
    """The part as a draft leaves it: the letter of one length was guessed, and nobody has confirmed it."""
    address = DimensionAddress("E1")
    held = bundle.sheet.dims["E1"].evidence
    reason = "taken as E1, the body width: told by its length alone"
    page, box, document = (held.page, held.box, held.document) if held else (0, None, "")
    doubt = Doubt(str(address), "E 4.30–4.50", reason, document, page, box)
    return replace(bundle, part=replace(bundle.part, to_confirm=(doubt,)))


def with_pin(number: str, /, **changes: Any) -> Change:
    """A pin of the table with other values, its evidence kept."""

    def change(bundle: Bundle) -> Bundle:
        pins = tuple(replace(pin, **changes) if pin.number == number else pin for pin in bundle.symbol.pins)
        return replace(bundle, symbol=replace(bundle.symbol, pins=pins))

    return change


def placed_pin(number: str, /, **changes: Any) -> Change:
    """A pin of the stored drawing of the first unit with other values."""
    return _first_unit(lambda pin: replace(pin, **changes) if pin.number == number else pin)


def undrawn(is_gone: Callable[[PlacedPin], bool]) -> Change:
    """The stored drawing of the first unit without some of its pins."""
    return _first_unit(lambda pin: None if is_gone(pin) else pin)


def _first_unit(map_pin: Callable[[PlacedPin], PlacedPin | None]) -> Change:
    def change(bundle: Bundle) -> Bundle:
        first, *others = bundle.symbol.units
        pins = tuple(made for pin in first.pins if (made := map_pin(pin)) is not None)
        return replace(bundle, symbol=replace(bundle.symbol, units=(replace(first, pins=pins), *others)))

    return change


def adjusted(*rows: tuple[str, str, str]) -> Change:
    """Hand changes of pads: number, what, value of each."""

    def change(bundle: Bundle) -> Bundle:
        for pad, what, value in rows:
            bundle = footprint_edits.adjust_pad(bundle, Adjustment(pad, what, value))
        return bundle

    return change


def dressed(*changes: SilkscreenOverride) -> Change:
    """Hand changes of what surrounds the lands."""
    return lambda b: footprint_edits.set_silkscreen_overrides(b, changes)


def stored_pattern(map_pattern: Callable[[Pattern], Pattern]) -> Change:
    """Another land pattern in the file than the recipe gave."""

    def change(bundle: Bundle) -> Bundle:
        if bundle.footprint.pattern is None:
            raise ValueError("a flaw of a stored pattern needs a part that has one")
        return replace(bundle, footprint=replace(bundle.footprint, pattern=map_pattern(bundle.footprint.pattern)))

    return change


def stored_pad(number: str, /, **changes: Any) -> Change:
    """A pad of the stored pattern with other values."""
    return stored_pattern(
        lambda p: replace(p, pads=tuple(replace(x, **changes) if x.number == number else x for x in p.pads))
    )


def stored_mark(*strokes: PatternStroke) -> Change:
    """Other marks of pin 1 in the stored pattern."""
    return stored_pattern(lambda p: replace(p, silkscreen=(*(s for s in p.silkscreen if s.role != "mark"), *strokes)))


def pins_from(table: Callable[[tuple[Pin, ...]], tuple[Pin, ...]]) -> Change:
    """Another pin table."""
    return lambda b: replace(b, symbol=replace(b.symbol, pins=table(b.symbol.pins)))
