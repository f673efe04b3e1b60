"""IDF 3.0: the outline of the body with its height; what is lost is in docs/format/idf.md."""

import re
from pathlib import Path

from eider.errors import InputError
from eider.exchange.body_outline import body_outline
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile, FoundPart
from eider.exchange.idf_text import IdfComponent, idf_text, read_idf
from eider.exchange.json_files import read_text
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    bundle = source.bundle
    pattern, result = bundle.footprint.pattern, bundle.body.result
    if pattern is None or result is None:
        raise InputError("there is no body yet, or there are no lands")
    number = bundle.part.facts.get("Part number")
    component = IdfComponent(
        pattern.name, number.value if number else bundle.part.name, body_outline(pattern), result.bounds[1][2]
    )
    path = folder / f"{safe_name(bundle.part.name)}.emp"
    write_atomic(path, idf_text([component]).encode())
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """The components of a library file, each called by its part number, else by its geometry."""
    read = read_idf(read_text(path))
    if not read.components:
        raise InputError(f"{path.name} has no component")
    parts = tuple(
        FoundPart(
            name=component.number.strip() or component.geometry,
            source=f"{path.name}, {component.geometry}",
            outline=component.outline,
            height=component.height,
            log=() if component.is_electrical else ("the file calls it mechanical: it has no pins",),
        )
        for component in read.components
    )
    return FoundFile(parts, log=read.log)


FORMAT = FormatSpec(
    key="idf",
    title="Outline and height of the body as IDF 3.0",
    suffixes=(".emp", ".idf"),
    order=45,
    loses="all but the body's outline, its height and names",
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: re.match(rb"\s*(#[^\n]*\n\s*)*\.HEADER\b", head, re.IGNORECASE) is not None,
)
