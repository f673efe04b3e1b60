"""The formats in which a part is exported, each by its key; a format writes one or more files into a folder."""

from collections.abc import Callable, Mapping
from pathlib import Path

import msgspec

from eider.bodies.body_solids import body_solids
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import InputError
from eider.exchange.csv_tables import pads_csv, pins_csv
from eider.exchange.svg import svg_text
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.packages.orientation import terminals_on


class ExportFormat(msgspec.Struct, frozen=True):
    """A format: key, what it is for a person, and its writer, which returns the files it made."""

    key: str
    title: str
    write: Callable[[Bundle, Path], list[Path]]


def _write_step(bundle: Bundle, folder: Path) -> list[Path]:
    from eider.bodies.step_writer import write_step

    path = folder / f"{safe_name(bundle.body.name)}.step"
    write_step(body_solids(bundle.sheet, bundle.body), bundle.body.name, path)
    return [path]


def _drawings(bundle: Bundle) -> Mapping[str, tuple[Drawing, str]]:
    """The drawings of a part by the stem of their file, each with what it is."""
    made = {f"{safe_name(bundle.symbol.name)}-symbol": (symbol_drawing(bundle.symbol, bundle.part.name), "symbol")}
    for pattern in bundle.footprint.patterns:
        terminals = terminals_on(bundle.sheet, pattern)
        stem = f"{safe_name(pattern.name)}-lands"
        drawn = pattern_drawing(pattern, terminals), f"land pattern, level {pattern.level}"
        # Names of leaded patterns are the same at every level.
        made[f"{stem}-{pattern.level}" if stem in made else stem] = drawn
    return made


def _write_svg(bundle: Bundle, folder: Path) -> list[Path]:
    made = []
    for stem, (drawing, what) in _drawings(bundle).items():
        made.append(folder / f"{stem}.svg")
        write_atomic(made[-1], svg_text(drawing, title=f"{bundle.part.name}: {what}").encode())
    return made


def _write_pdf(bundle: Bundle, folder: Path) -> list[Path]:
    from eider.exchange.pdf import Page, pdf_pages

    pages = [Page(f"{bundle.part.name}: {what}", drawing) for drawing, what in _drawings(bundle).values()]
    path = folder / f"{safe_name(bundle.part.name)}-drawings.pdf"
    write_atomic(path, pdf_pages(pages, bundle.part.name))
    return [path]


def _write_json(bundle: Bundle, folder: Path) -> list[Path]:
    path = folder / f"{safe_name(bundle.part.name)}.json"
    write_atomic(path, encode(bundle).encode())
    return [path]


def _write_csv(bundle: Bundle, folder: Path) -> list[Path]:
    name = safe_name(bundle.part.name)
    made = [folder / f"{name}-pins.csv"]
    write_atomic(made[0], pins_csv(bundle.symbol).encode())
    for index, pattern in enumerate(bundle.footprint.patterns):
        made.append(folder / (f"{name}-pads-{pattern.level}.csv" if index else f"{name}-pads.csv"))
        write_atomic(made[-1], pads_csv(pattern).encode())
    return made


FORMATS: Mapping[str, ExportFormat] = {
    entry.key: entry
    for entry in (
        ExportFormat("step", "Body as STEP (AP214)", _write_step),
        ExportFormat("svg", "Symbol and dimensioned land pattern as SVG", _write_svg),
        ExportFormat("pdf", "Symbol and land pattern as PDF, 1:1", _write_pdf),
        ExportFormat("json", "Everything as JSON", _write_json),
        ExportFormat("csv", "Pads and pins as CSV", _write_csv),
    )
}


def format_by_key(key: str, more: Mapping[str, ExportFormat]) -> ExportFormat:
    """The format of a key, from the registry or from `more`."""
    known = {**FORMATS, **more}
    if key not in known:
        raise InputError(f"format “{key}” is not known; known are {', '.join(known)}")
    return known[key]
