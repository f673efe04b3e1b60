"""Which reader takes which file of pins."""

from collections.abc import Callable, Mapping
from pathlib import Path

from eider.errors import InputError
from eider.exchange.json_files import read_text
from eider.exchange.pins import bsdl, ibis, workbook
from eider.exchange.pins.source import PinSource
from eider.symbols.pin_table import read_pins, split_table

Reader = Callable[[Path], list[PinSource]]


def _text_table(path: Path) -> list[PinSource]:
    rows = split_table(read_text(path))
    return [PinSource(path.stem, read_pins(rows), tuple(tuple(row) for row in rows))]


_READERS: Mapping[str, Reader] = {
    **dict.fromkeys((".csv", ".tsv", ".txt"), _text_table),
    **dict.fromkeys(workbook.SUFFIXES, workbook.read_workbook),
    **dict.fromkeys(bsdl.SUFFIXES, lambda path: bsdl.read_bsdl(read_text(path))),
    **dict.fromkeys(ibis.SUFFIXES, lambda path: ibis.read_ibis(read_text(path))),
}
PATTERNS = " ".join(f"*{suffix}" for suffix in _READERS)


def read_pin_file(path: Path) -> list[PinSource]:
    """The pin tables of a file, by its suffix; one without a known suffix is read as a table of text.

    Raises:
        InputError: it cannot be read, or holds no pins.
    """
    sources = _READERS.get(path.suffix.lower(), _text_table)(path)
    if not any(source.reading.pins for source in sources):
        raise InputError(f"{path} holds no pins: expected a line for each, with number, name and type")
    return sources
