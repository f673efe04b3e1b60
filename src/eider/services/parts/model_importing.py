"""Brings the STEP files of makers into a library, measured and placed; and reads those that it has."""

import contextlib
from pathlib import Path

import platformdirs

from eider.bodies.placement.alignment_target import AlignmentTarget, target_of_sheet
from eider.bodies.placement.model_measure import aligned_models, measured
from eider.bodies.step_files.step_process import ImportedStep, import_step, pack_step, unpack_step
from eider.bodies.step_files.step_text import StepError
from eider.errors import EiderError
from eider.library import Library
from eider.library.atomic_files import write_atomic
from eider.library.documents.attachments import DocumentKind
from eider.model.body import ImportedModel
from eider.model.package_sheet import PackageSheet
from eider.services.tasks import Task

# What is kept of a file that was read is of this form; another one is made again.
CACHE_VERSION = 3


def import_model(
    library: Library, sheet: PackageSheet, path: Path, task: Task | None = None
) -> tuple[ImportedModel, ...]:
    """Keep a STEP file with a library; returns every way to place it on the package that was found, best first.

    Raises:
        StepError: the file is damaged or holds no solids; nothing was kept.
        SheetError: the package sheet is not complete.
        CancelledError: the user cancelled; nothing was kept.
    """
    task = task or Task()
    library.require_writable()
    target = target_of_sheet(sheet)
    step = import_step(path, task.report)
    task.report(0.97, "placing it on its lands")
    sha256 = library.attachments.keep(DocumentKind.MODEL, path.read_bytes())
    _note(sha256, step)
    return aligned_models(step.model, step.triangles, target, sha256, path.name)


def read_model(library: Library, sha256: str, task: Task | None = None) -> ImportedStep:
    """A STEP file of a library as it was read, from what this machine knows of it or from the file itself.

    Raises:
        StepError: the file is damaged. LibraryError: the library does not have it.
    """
    try:
        return unpack_step(_cache(sha256).read_bytes())
    except (OSError, StepError):
        step = import_step(library.attachments.path(DocumentKind.MODEL, sha256), (task or Task()).report)
        _note(sha256, step)
        return step


def measure_again(library: Library, model: ImportedModel, sheet: PackageSheet) -> ImportedModel:
    """The model measured where it is placed now.

    Raises:
        EiderError: file or sheet cannot be used.
    """
    step = read_model(library, model.sha256)
    return measured(model, step.model, step.triangles, target_of_sheet(sheet))


def place_again(library: Library, model: ImportedModel, sheet: PackageSheet) -> tuple[ImportedModel, ...]:
    """Every way to place a model of the library that was found, best first; for another package, or after a mistake."""
    step, target = read_model(library, model.sha256), target_of_sheet(sheet)
    return aligned_models(step.model, step.triangles, target, model.sha256, model.file)


def model_on(path: Path, target: AlignmentTarget, sha256: str) -> tuple[ImportedStep, tuple[ImportedModel, ...]]:
    """A STEP file outside of any library, read and placed."""
    step = import_step(path)
    return step, aligned_models(step.model, step.triangles, target, sha256, path.name)


def _cache(sha256: str) -> Path:
    return Path(platformdirs.user_cache_dir("eider")) / "models" / f"{sha256}-{CACHE_VERSION}.npz"


def _note(sha256: str, step: ImportedStep) -> None:
    """Keep what was read; where that cannot be, it is read again the next time."""
    with contextlib.suppress(EiderError, OSError):
        write_atomic(_cache(sha256), pack_step(step))
