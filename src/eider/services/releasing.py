"""Releases a part: fresh results, all checks, then commit and tags together with STEP model and datasheets."""

from collections.abc import Callable
from functools import lru_cache

import msgspec

from eider.bodies.body_solids import body_solids, fingerprint
from eider.commands.evaluation import EvaluationRules, evaluate_part
from eider.errors import EiderError
from eider.geometry.solids import Solid
from eider.library import Library
from eider.library.item_paths import document_path, model_path
from eider.library.release_commit import ReadyPart, Released, release_bundles
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.model.finding import Finding
from eider.services.tasks import Task


class BlockedError(EiderError):
    """A part that may not be released; `findings` are its blockers."""

    def __init__(self, name: str, findings: tuple[Finding, ...]) -> None:
        super().__init__(name, findings)
        self.name, self.findings = name, findings

    def __str__(self) -> str:
        first = self.findings[0]
        more = f" and {len(self.findings) - 1} more" if len(self.findings) > 1 else ""
        told = f"{self.name} cannot be released: {first.message} ({first.check}){more}"
        return f"{told}; resolve the blockers, then release again"


def rules_for(library: Library, bundle: Bundle) -> EvaluationRules:
    """The rules that a part of a library is held against."""
    return EvaluationRules(library.rulebook(bundle.footprint.rulebook), library.settings)


class StepRequest(msgspec.Struct, frozen=True):
    """The wish for a STEP file, in a form that another process can be handed."""

    solids: tuple[Solid, ...]
    name: str

    def __call__(self) -> bytes:
        """Make it."""
        return step_bytes(self.solids, self.name)


def release_part(
    library: Library,
    bundle: Bundle,
    note: str,
    task: Task | None = None,
    make_step: Callable[[StepRequest], bytes] = lambda request: request(),
) -> Released:
    """Release a part; `make_step` tells where the STEP file is made, here unless told otherwise.

    Raises:
        BlockedError: checks found blockers. EiderError: nothing was written, the message says why.
    """
    task = task or Task()
    if not note.strip():
        raise EiderError("a release needs a note that says what was done and why")
    library.require_writable()
    ready = _ready_part(library, bundle, task, make_step)
    task.report(0.8, "writing the revision")
    return release_bundles(library, (ready,), note.strip())[0]


def _ready_part(library: Library, bundle: Bundle, task: Task, make_step: Callable[[StepRequest], bytes]) -> ReadyPart:
    """A part with fresh results, its STEP model and its datasheets; raises as `release_part` does."""
    task.report(0.1, "running the recipes and checks")
    outcome = evaluate_part(bundle, rules_for(library, bundle))
    blockers = tuple(f for f in outcome.findings if f.severity == "blocker")
    if blockers:
        raise BlockedError(bundle.part.name, blockers)
    if bundle.part.release and encode(outcome.bundle) == encode(library.load_release(bundle.part.id)):
        raise EiderError(
            f"{bundle.part.name} is the same as its revision {bundle.part.release.revision}; nothing to release"
        )
    task.report(0.3, "writing the STEP model")
    body = outcome.bundle.body
    solids = body_solids(outcome.bundle.sheet, body)
    model = model_path(body.name)
    attachments: dict[str, bytes] = {}
    if fingerprint(solids, body.name).encode() not in (library.versions.read(model) or b""):
        attachments[model] = make_step(StepRequest(solids, body.name))
    for link in bundle.part.datasheets:
        data = library.read_datasheet(link.sha256)
        if data is not None:
            attachments[document_path(link.sha256)] = data
    return ReadyPart(outcome.bundle, attachments)


@lru_cache(maxsize=64)
def step_bytes(solids: tuple[Solid, ...], name: str) -> bytes:
    """The STEP file of a body; parts of a family share theirs, so it is kept."""
    from eider.bodies.step_writer import step_file

    return step_file(solids, name)
