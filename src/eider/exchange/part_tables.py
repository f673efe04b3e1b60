"""Tables of facts, pads and pins: read as parts or pieces of them, by their headings, and written."""

from collections.abc import Sequence
from pathlib import Path

from eider.errors import InputError
from eider.exchange.fact_rows import found_rows, is_fact_table
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.pad_table import is_pad_table, read_pad_table
from eider.exchange.pin_source import PinSource
from eider.geometry.lengths import format_length
from eider.model.pattern import Pattern
from eider.model.symbol import Symbol
from eider.symbols.pin_table import read_pins

# Titles of sheets that say what is in them and not of which part.
_PLAIN_TITLES = frozenset({"pins", "pads", "lands", "facts", "sheet1", "sheet", "table"})
Table = tuple[str, Sequence[Sequence[str]]]


def found_tables(path: Path, tables: Sequence[Table]) -> FoundFile:
    """What the tables of a file hold: pins and pads of one title are one part, each row of facts is one.

    Raises:
        InputError: none of them holds parts, pads or pins.
    """
    parts, log = list[FoundPart](), list[str]()
    for title, rows in tables:
        name = name_of(path) if len(tables) == 1 or title.casefold() in _PLAIN_TITLES else name_of(Path(title)) or title
        if is_fact_table(rows):
            found, told = found_rows(rows, _source(path, title))
            parts += found
            log += told
            continue
        if is_pad_table(rows):
            read = read_pad_table(rows)
            parts.append(FoundPart(name=name, source=_source(path, title), pads=read.pads, log=read.log))
            continue
        try:
            parts += found_pins(path, [PinSource(title, read_pins(rows))], name).parts
        except InputError as fault:
            log.append(f"{title or path.name}: {fault}")
    if not parts:
        raise InputError("it holds no pins, no pads and no parts")
    return FoundFile(tuple(parts), log=tuple(log))


def found_pins(path: Path, sources: Sequence[PinSource], name: str = "") -> FoundFile:
    """The pins of a file; of several packages or components each is a part called by both names.

    Raises:
        InputError: there are no pins.
    """
    parts = []
    for source in sources:
        log = tuple(f"line {fault.line}: {fault.message}" for fault in source.reading.faults)
        if source.reading.pins:
            own = name or (name_of(path) if len(sources) == 1 else f"{name_of(path)} {source.title}")
            parts.append(FoundPart(name=own, source=_source(path, source.title), pins=source.reading.pins, log=log))
    if not parts:
        raise InputError("it holds no pins, no pads and no parts")
    return FoundFile(tuple(parts))


def _source(path: Path, title: str) -> str:
    return f"{path.name}, {title}" if title and title != path.stem else path.name


def pad_rows(pattern: Pattern) -> list[tuple[str, ...]]:
    """Every pad with its centre and size in mm, headings first."""
    rows: list[tuple[str, ...]] = [
        ("number", "x mm", "y mm", "width mm", "height mm", "rotation deg", "shape", "corner mm", "hole mm", "slot mm",
         "plated", "layers")
    ]  # fmt: skip
    for pad in pattern.pads:
        lengths = (format_length(v, with_unit=False) for v in (pad.x, pad.y, pad.width, pad.height))
        hole = pad.hole
        rest = (
            pad.corner_radius,
            hole.width if hole else 0.0,
            hole.height if hole and hole.height != hole.width else 0.0,
        )
        texts = (format_length(value, with_unit=False) if value else "" for value in rest)
        plated = "" if hole is None else "yes" if pad.plated else "no"
        rows.append((pad.number, *lengths, f"{pad.rotation:g}", pad.shape, *texts, plated, pad.layers))
    return rows


def pin_rows(symbol: Symbol) -> list[tuple[str, ...]]:
    """The pin table with the further columns that any pin has, headings first."""
    more = tuple(dict.fromkeys(name for pin in symbol.pins for name in pin.more))
    rows: list[tuple[str, ...]] = [
        ("number", "name", "type", "active low", "group", "description", "alternatives", *more)
    ]
    rows += [
        (p.number, p.name, p.type, "yes" if p.active_low else "no", p.group, p.description, " / ".join(p.alternatives),
         *(p.more.get(name, "") for name in more))
        for p in symbol.pins
    ]  # fmt: skip
    return rows
