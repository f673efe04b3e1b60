"""Tables as CSV (RFC 4180): pads, pins and facts."""

import csv
import io
from collections.abc import Iterable, Sequence
from pathlib import Path

from msgspec.structs import replace

from eider.exchange.fact_rows import fact_rows
from eider.exchange.format_spec import ExportSource, FormatSpec, named_patterns
from eider.exchange.found_parts import FoundFile
from eider.exchange.json_files import read_text
from eider.exchange.part_tables import found_tables, pad_rows, pin_rows
from eider.exchange.pin_source import PinSource
from eider.exchange.reading_hints import ReadingHints
from eider.exchange.table_files import read_table
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.pattern import Pattern
from eider.model.symbol import Symbol
from eider.symbols.pin_table import read_pins, split_table


def pads_csv(pattern: Pattern) -> str:
    """Every pad with its centre and size in mm."""
    return _csv(pad_rows(pattern))


def pins_csv(symbol: Symbol) -> str:
    """The pin table, with the further columns that any pin has."""
    return _csv(pin_rows(symbol))


def _csv(rows: Iterable[Sequence[str]]) -> str:
    text = io.StringIO()
    csv.writer(text).writerows(rows)
    return text.getvalue()


def _write(source: ExportSource, folder: Path) -> list[Path]:
    bundle = source.bundle
    name = safe_name(bundle.part.name)
    made = [folder / f"{name}-pins.csv"]
    write_atomic(made[0], pins_csv(bundle.symbol).encode())
    for stem, pattern in named_patterns(bundle, "-pads"):
        made.append(folder / f"{stem}.csv")
        write_atomic(made[-1], pads_csv(pattern).encode())
    made.append(folder / f"{name}-facts.csv")
    write_atomic(made[-1], _csv(fact_rows([bundle.part])).encode())
    return made


def read_pin_table_file(path: Path) -> list[PinSource]:
    """A table of text with a line for each pin; the readers of pins fall back on it."""
    rows = split_table(read_text(path))
    return [PinSource(path.stem, read_pins(rows), tuple(tuple(row) for row in rows))]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """A table of parts, pads or pins, by its headings."""
    table = read_table(path)
    rows = [[" ".join(cell.split()) for cell in row] for row in table.rows]
    found = found_tables(path, [("", rows)])
    return replace(found, log=(*table.doubts, *found.log))


FORMAT = FormatSpec(
    key="csv",
    title="Pads, pins and facts as CSV",
    suffixes=(".csv", ".tsv", ".txt"),
    order=50,
    loses="drawings and body",
    write=_write,
    read_pins=read_pin_table_file,
    read_parts=_read_parts,
)
