"""EDIF 2 0 0: what it carries, and what is lost, is in docs/format/edif.md."""

import re
from pathlib import Path

from eider.errors import InputError
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.exchange.formats.edif.writer import edif_file

    if not source.bundle.symbol.units:
        raise InputError("there is no symbol yet")
    path = folder / f"{safe_name(source.bundle.part.name)}.edif"
    write_atomic(path, edif_file([source.bundle]))
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    from eider.exchange.formats.edif.reader import read_edif

    return read_edif(path)


FORMAT = FormatSpec(
    key="edif",
    title="EDIF 2 0 0: symbols with their pins, units and facts",
    suffixes=(".edif", ".edf", ".edn"),
    order=47,
    loses="lands, body, recipes and evidence",
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: re.match(rb"\s*\(\s*edif\s", head, re.IGNORECASE) is not None,
)
