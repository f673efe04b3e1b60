"""Gerber X2 and X3 with XNC drill files: what they carry, and what is lost, is in docs/format/gerber.md."""

import re
from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec, named_patterns, require_lands
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.exchange.formats.gerber.writer import gerber_files

    require_lands(source.bundle)
    made = []
    for stem, pattern in named_patterns(source.bundle):
        for ending, text in gerber_files(pattern, source.bundle).items():
            made.append(folder / f"{stem}-{ending}")
            write_atomic(made[-1], text.encode())
    return made


def _read_parts(path: Path, hints: ReadingHints) -> FoundFile:
    from eider.exchange.formats.gerber.reader import read_gerber

    return read_gerber(path, hints)


FORMAT = FormatSpec(
    key="gerber",
    title="Land pattern as Gerber layers, with XNC drill files",
    suffixes=(".gbr", ".ger", ".gbx"),
    order=49,
    loses="the symbol, body, facts, recipes, evidence and texts of the silkscreen",
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: re.search(rb"%FS[LTD]?[AI]X\d\dY\d\d|%MO(MM|IN)\*%", head) is not None,
)
