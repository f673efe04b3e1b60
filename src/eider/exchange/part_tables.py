"""Tables as pieces of parts: of pads or of pins, by their headings."""

from collections.abc import Sequence
from pathlib import Path

from eider.errors import InputError
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.pad_table import is_pad_table, read_pad_table
from eider.exchange.pin_source import PinSource
from eider.symbols.pin_table import read_pins

Table = tuple[str, Sequence[Sequence[str]]]


def found_tables(path: Path, tables: Sequence[Table]) -> FoundFile:
    """What the tables of a file hold, each with its title; pins and pads of one title are one part.

    Raises:
        InputError: none of them holds pads or pins.
    """
    parts, log = [], []
    for title, rows in tables:
        name = name_of(path) if len(tables) == 1 else name_of(Path(title)) or title
        if is_pad_table(rows):
            read = read_pad_table(rows)
            parts.append(FoundPart(name=name, source=_source(path, title), pads=read.pads, log=read.log))
            continue
        try:
            parts += found_pins(path, [PinSource(title, read_pins(rows))], name).parts
        except InputError as fault:
            log.append(f"{title or path.name}: {fault}")
    if not parts:
        raise InputError("it holds no pins and no pads")
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
        raise InputError("it holds no pins and no pads")
    return FoundFile(tuple(parts))


def _source(path: Path, title: str) -> str:
    return f"{path.name}, {title}" if title and title != path.stem else path.name
