"""What was read from a datasheet goes into the part, each value with the place where it stood."""

from collections.abc import Iterable, Mapping, Sequence

import msgspec

from eider.datasheets.tables.dimension_tables import ReadDimension
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import TableCapture
from eider.datasheets.tables.value_reading import AGREES
from eider.errors import InputError
from eider.evidence.evidence_changes import put_value, utc_now
from eider.exchange.formats import bsdl, ibis
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.library import FactField
from eider.model.symbol import Pin
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter, Proposal
from eider.packages.registry import family_of
from eider.symbols.pin_columns import fit_columns
from eider.symbols.pin_table import PinReading

replace = msgspec.structs.replace
# Files in which a maker describes a device to machines.
MODELS = (*bsdl.SUFFIXES, *ibis.SUFFIXES)


def datasheet_evidence(
    document: str, page: int, box: tuple[float, float, float, float], seen: str, who: str
) -> Evidence:
    """Evidence of a place on a page, signed."""
    return Evidence(EvidenceKind.DATASHEET, document=document, page=page, box=box, text=seen, by=who, at=utc_now())


def family_members(capture: TableCapture) -> list[str]:
    """The sizes or variants of a family table, in its order; none where it speaks of one package."""
    return list(capture.dimensions.members if capture.dimensions else ())


def member_rows(capture: TableCapture, member: str = "") -> list[tuple[int, ReadDimension]]:
    """The dimensions of one member, each with its index in the capture."""
    rows = capture.dimensions.rows if capture.dimensions else ()
    return [(index, row) for index, row in enumerate(rows) if row.member == member]


def lettered_rows(rows: Iterable[ReadDimension]) -> tuple[DatasheetLetter, ...]:
    """The rows that have a letter and a length, for proposals of what the letters mean; of a letter's rows the last."""
    known = ((row, row.limits) for row in rows if row.limits and row.letter)
    return tuple({row.letter: DatasheetLetter(row.letter, limits, row.meaning) for row, limits in known}.values())


def proposals(bundle: Bundle, capture: TableCapture, member: str = "") -> tuple[Proposal, ...]:
    """The possible meanings of the sheet's letters in the part's family."""
    rows = lettered_rows(row for _, row in member_rows(capture, member))
    return propose_drawn_letters(family_of(bundle.sheet.family), bundle.sheet, rows, capture.drawn)


def use_dimensions(
    bundle: Bundle, capture: TableCapture, letters: Mapping[str, str], document: str, who: str, member: str = ""
) -> Bundle:
    """Take dimensions over under the standard's letters; a row whose letter has none is left out.

    A row that could not be read comes as the text that is there, and a finding speaks of it.
    """
    rows = member_rows(capture, member)
    # Only what this table gives gets another meaning: a sheet may be captured from several tables.
    taken = {letters.get(row.letter, "") for _, row in rows}
    aliases = {own: standard for own, standard in bundle.sheet.aliases.items() if standard not in taken}
    for index, row in rows:
        standard = letters.get(row.letter, "")
        if not standard:
            continue
        place = capture.places[index]
        agrees = next((note.removeprefix(AGREES) for note in row.notes if note.startswith(AGREES)), "")
        evidence = replace(datasheet_evidence(document, place.page, place.box, row.seen, who), agrees=agrees)
        bundle = put_value(bundle, DimensionAddress(standard), row.text, evidence)
        if row.letter != standard:
            aliases[row.letter] = standard
    return replace(bundle, sheet=replace(bundle.sheet, aliases=aliases))


def use_pin_reading(bundle: Bundle, reading: PinReading, origin: str, columns: Sequence[FactField] = ()) -> Bundle:
    """Take pins from a file over in place of those there are; a machine-readable model of the maker is evidence.

    Of its further columns those come along that the template `columns` has.
    """
    told = Evidence(EvidenceKind.SUPPLIER, text=origin, at=utc_now()) if origin.lower().endswith(MODELS) else None
    decided = {(pin.number, pin.name): pin for pin in bundle.symbol.pins}
    read = fit_columns(reading.pins, columns).pins
    pins = tuple(_as_decided(replace(pin, evidence=told), decided) for pin in read)
    return replace(bundle, symbol=replace(bundle.symbol, pins=pins))


def _as_decided(pin: Pin, decided: Mapping[tuple[str, str], Pin]) -> Pin:
    """What no source tells and someone decided for the pin of this number and name: group, unit, how it is drawn."""
    old = decided.get((pin.number, pin.name))
    if old is None:
        return pin
    more = {**old.more, **pin.more}
    return replace(pin, group=pin.group or old.group, unit=old.unit, shape=old.shape, shown=old.shown, more=more)


def use_pins(
    bundle: Bundle, capture: TableCapture, document: str, who: str, columns: Sequence[FactField] = ()
) -> Bundle:
    """Take a pin table over in place of the pins there are; what was decided for pins of the same name stays.

    A table with other numbers than the pins captured from the same document before adds to them: a sheet may list its
    pins in several tables. Of its further columns those come along that the template `columns` has.

    Raises:
        InputError: no pin could be read.
    """
    if capture.pins is None:
        raise InputError("this was read as dimensions, not as pins")
    reading, rows = pins_from_table(capture.pins)
    if not reading.pins:
        raise InputError("no pin could be read; say which column holds the numbers and which the names")
    decided = {(pin.number, pin.name): pin for pin in bundle.symbol.pins}
    pins = []
    for pin, row in zip(fit_columns(reading.pins, columns).pins, rows, strict=True):
        place, seen = capture.places[row], capture.pins.rows[row].seen
        evidence = datasheet_evidence(document, place.page, place.box, seen, who)
        pins.append(_as_decided(replace(pin, evidence=evidence), decided))
    before = pins_kept(bundle, capture, document)
    return replace(bundle, symbol=replace(bundle.symbol, pins=(*before, *pins)))


def pins_kept(bundle: Bundle, capture: TableCapture, document: str) -> tuple[Pin, ...]:
    """The pins that stay beside those of a table: all, where they come from this document and have other numbers."""
    numbers = {pin.number for pin in pins_from_table(capture.pins)[0].pins} if capture.pins else set()
    before = bundle.symbol.pins
    is_another_part = all(
        pin.number not in numbers and pin.evidence is not None and pin.evidence.document == document for pin in before
    )
    return before if is_another_part else ()
