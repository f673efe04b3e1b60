"""SVG: symbol and dimensioned land pattern, written; outlines of copper and graphics of symbols, read."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec, part_drawings
from eider.exchange.found_parts import FoundFile
from eider.exchange.reading_hints import ReadingHints
from eider.exchange.svg_drawings import svg_text
from eider.library.atomic_files import write_atomic


def _write(source: ExportSource, folder: Path) -> list[Path]:
    made = []
    for stem, (drawing, what) in part_drawings(source.bundle).items():
        made.append(folder / f"{stem}.svg")
        write_atomic(made[-1], svg_text(drawing, title=f"{source.bundle.part.name}: {what}").encode())
    return made


def _read_parts(path: Path, hints: ReadingHints) -> FoundFile:
    from eider.exchange.formats.svg.reader import read_svg

    return read_svg(path, hints)


FORMAT = FormatSpec(
    key="svg",
    title="Symbol, dimensioned land pattern and pinout as SVG",
    suffixes=(".svg",),
    order=20,
    loses="body and facts",
    write=_write,
    read_parts=_read_parts,
    recognises=lambda head: b"<svg" in head or b":svg" in head,
)
