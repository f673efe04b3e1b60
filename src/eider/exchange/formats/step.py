"""STEP (ISO 10303-21, AP214): the 3D body, placed on its lands, coloured, in millimetres."""

from functools import partial
from pathlib import Path

from eider.bodies.placement.model_measure import placement_of
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.step_files.step_process import placed_step
from eider.bodies.step_files.step_text import Protocol
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.reading_hints import ReadingHints
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def write_step(source: ExportSource, folder: Path, protocol: Protocol) -> list[Path]:
    """Write the body of a part into a folder.

    Raises:
        EiderError: the sheet is not complete, or the model is not there.
    """
    bundle = source.bundle
    path = folder / f"{safe_name(bundle.body.name)}{'' if protocol == 'AP214' else f'-{protocol}'}.step"
    name, model = bundle.body.name, bundle.body.model
    if model is not None:
        write_atomic(path, placed_step(source.model_file(), placement_of(model), name, protocol))
        return [path]
    # The CAD kernel takes a second to load: for other formats it is not needed.
    from eider.bodies.step_files.step_writer import step_file

    write_atomic(path, step_file(body_solids(bundle.sheet, bundle.body, source.materials), name, protocol))
    return [path]


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """A STEP file is the body of the part that it is called after; it is measured when it is placed."""
    return FoundFile((FoundPart(name=name_of(path), source=path.name, model=str(path)),))


FORMAT = FormatSpec(
    key="step",
    title="Body as STEP (AP214)",
    suffixes=(".step", ".stp"),
    order=10,
    loses="symbol, lands and facts",
    write=partial(write_step, protocol="AP214"),
    read_parts=_read_parts,
    recognises=lambda head: head.lstrip().startswith(b"ISO-10303-21"),
)
