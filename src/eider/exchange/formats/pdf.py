"""PDF: symbol and land pattern, 1:1."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec, part_drawings
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    from eider.exchange.pdf_drawings import Page, pdf_pages

    name = source.bundle.part.name
    pages = [Page(f"{name}: {what}", drawing) for drawing, what in part_drawings(source.bundle).values()]
    path = folder / f"{safe_name(name)}-drawings.pdf"
    write_atomic(path, pdf_pages(pages, name))
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """A PDF is the datasheet of the part that it is called after."""
    return FoundFile((FoundPart(name=name_of(path), source=path.name, datasheet=str(path)),))


FORMAT = FormatSpec(
    key="pdf",
    title="Symbol and land pattern as PDF, 1:1",
    suffixes=(".pdf",),
    order=30,
    loses="body and facts",
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: head.startswith(b"%PDF-"),
)
