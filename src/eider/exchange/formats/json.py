"""JSON: everything of a part, in Eider's own documented form."""

from pathlib import Path

from eider.errors import InputError
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.json_files import read_json
from eider.exchange.package_sheet import sheet_from_data
from eider.exchange.pattern_file import pads_from_data
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.bundle import BUNDLE_FORMAT, Bundle
from eider.model.codec import convert, encode
from eider.model.package_sheet import SHEET_FORMAT


def _write(source: ExportSource, folder: Path) -> list[Path]:
    path = folder / f"{safe_name(source.bundle.part.name)}.json"
    write_atomic(path, encode(source.bundle).encode())
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """A part as Eider writes it, a package sheet, or the pads of a pattern.

    Raises:
        InputError: the file is not JSON, or none of these.
    """
    data = read_json(path)
    kind = data.get("format", "") if isinstance(data, dict) else ""
    if kind == BUNDLE_FORMAT:
        bundle = convert(data, Bundle, path.name)
        return FoundFile((FoundPart(name=bundle.part.name, source=path.name, bundle=bundle),))
    if kind == SHEET_FORMAT:
        sheet = sheet_from_data(data, path.name)
        return FoundFile((FoundPart(name=sheet.name or name_of(path), source=path.name, sheet=sheet),))
    if isinstance(data, dict) and isinstance(data.get("pads"), list):
        pads = pads_from_data(data, str(path)).pads
        return FoundFile((FoundPart(name=str(data.get("name") or name_of(path)), source=path.name, pads=pads),))
    raise InputError(f"{path.name} is JSON, but neither a part, a package sheet nor a pattern of Eider")


FORMAT = FormatSpec(
    key="json",
    title="Everything as JSON",
    suffixes=(".json",),
    order=40,
    write=_write,
    read_parts=_read_parts,
)
