"""Land patterns at their true size on A4; `eider print` takes other papers and several parts."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.reports.footprint_print import print_pages, print_tiles

    path = folder / f"{safe_name(source.bundle.part.name)}-print.pdf"
    write_atomic(path, print_pages(print_tiles([source.bundle])))
    return [path]


FORMAT = FormatSpec(
    key="print",
    title="Land pattern to print, 1:1 on A4",
    suffixes=(),
    order=62,
    loses="all but the lands, silkscreen and courtyard",
    is_default=False,
    write=_write,
)
