"""XNC drill files, read; they are written together with Gerber layers."""

import re
from pathlib import Path

from eider.exchange.format_spec import FormatSpec
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints


def _read_parts(path: Path, hints: ReadingHints) -> FoundFile:
    from eider.exchange.formats.gerber.drill_reader import read_drill

    return read_drill(path, hints)


FORMAT = FormatSpec(
    key="xnc",
    title="Drill file (XNC)",
    suffixes=(".xnc", ".drl"),
    order=140,
    read_parts=_read_parts,
    recognises=lambda head: re.match(rb"(\s*(;[^\n]*)?\r?\n)*\s*M48\b", head) is not None,
)
