"""DXF: the land pattern by layers; what it carries, and what is lost, is in docs/format/dxf.md."""

import re
from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec, named_patterns, require_lands
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.exchange.formats.dxf.writer import dxf_text

    require_lands(source.bundle)
    made = []
    for stem, pattern in named_patterns(source.bundle, "-lands"):
        made.append(folder / f"{stem}.dxf")
        write_atomic(made[-1], dxf_text(pattern).encode())
    return made


def _read_parts(path: Path, hints: ReadingHints) -> FoundFile:
    from eider.exchange.formats.dxf.reader import read_dxf

    return read_dxf(path, hints)


FORMAT = FormatSpec(
    key="dxf",
    title="Land pattern as DXF, by layers",
    suffixes=(".dxf",),
    order=48,
    loses="symbol, body, facts, recipes and evidence",
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: re.match(rb"\s*0\s+SECTION\b", head) is not None,
)
