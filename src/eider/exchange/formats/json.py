"""JSON: everything of a part, in Eider's own documented form."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.codec import encode


def _write(source: ExportSource, folder: Path) -> list[Path]:
    path = folder / f"{safe_name(source.bundle.part.name)}.json"
    write_atomic(path, encode(source.bundle).encode())
    return [path]


FORMAT = FormatSpec(key="json", title="Everything as JSON", suffixes=(".json",), order=40, write=_write)
