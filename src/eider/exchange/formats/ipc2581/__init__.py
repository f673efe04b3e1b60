"""IPC-2581 B and C: what it carries, and what is lost, is in docs/format/ipc-2581.md."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec, require_lands
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.exchange.formats.ipc2581.writer import ipc2581_file

    require_lands(source.bundle)
    path = folder / f"{safe_name(source.bundle.part.name)}.ipc2581.xml"
    write_atomic(path, ipc2581_file([source.bundle]))
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    # XML is loaded when it is wanted.
    from eider.exchange.formats.ipc2581.reader import read_ipc2581

    return read_ipc2581(path)


FORMAT = FormatSpec(
    key="ipc2581",
    title="IPC-2581C: packages, lands, pins, bill line and vendor",
    suffixes=(".ipc2581.xml", ".cvg", ".xml"),
    order=46,
    loses="the symbol's drawing, the body, courtyard, recipes and evidence",
    is_default=False,
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: b"<IPC-2581" in head or b":IPC-2581" in head,
)
