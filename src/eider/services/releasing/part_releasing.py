"""Releases parts: fresh results, all checks, then one commit together with STEP models and datasheets."""

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache

import msgspec

from eider.bodies.solids.body_solids import body_solids, fingerprint
from eider.bodies.solids.materials import materials_with
from eider.commands.parts.evaluation import EvaluatedPart, evaluate_part
from eider.errors import EiderError
from eider.geometry.solids import Solid
from eider.library import Library
from eider.library.documents.attachments import DocumentKind, released_path
from eider.library.documents.shared_tables import SHARED_MATERIALS
from eider.library.item_paths import model_path
from eider.library.releases.release_commit import Released, release_bundles
from eider.library.sharing.shared_server import MovedError
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.services.parts.part_rules import rules_for
from eider.services.sharing.review_approval import approval_fault, approval_words, close_reviews
from eider.services.sharing.roles import require_role
from eider.services.sharing.synchronising import synchronise
from eider.services.tasks import Task

# So often a release follows others that are pushed at the same moment.
MOST_TRIES = 6


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
    return release_parts(library, (bundle,), note, task, make_step)[0]


def release_parts(
    library: Library,
    bundles: Sequence[Bundle],
    note: str,
    task: Task | None = None,
    make_step: Callable[[StepRequest], bytes] = lambda request: request(),
    beside: Mapping[str, bytes] | None = None,
) -> tuple[Released, ...]:
    """Release parts together: all of them, in one commit, or none; `beside` are further files of the commit by path.

    Raises:
        BlockedError: checks found blockers in one of them. CancelledError: the user cancelled.
        EiderError: nothing was written, the message says why.
    """
    task = task or Task()
    if not note.strip():
        raise EiderError("a release needs a note that says what was done and why")
    library.require_writable()
    require_role(library, "release")
    for bundle in bundles:
        if fault := approval_fault(library, bundle):
            raise EiderError(f"{bundle.part.name} cannot be released: {fault}")
    ready: list[Bundle] = []
    last: EvaluatedPart | None = None
    attachments: dict[str, bytes] = dict(beside or {})
    for index, bundle in enumerate(bundles):
        task.report(0.1 + 0.7 * index / len(bundles), f"checking {bundle.part.name}")
        # Parts of a family have much in common, which is computed once.
        last = _checked(library, bundle, last)
        ready.append(last.bundle)
        _attach(library, ready[-1], attachments, make_step)

    def tell(share: float) -> None:
        task.report(0.8 + 0.2 * share, "writing the revision" if len(ready) == 1 else "writing the revisions")

    told = "\n\n".join(filter(None, (note.strip(), approval_words(library, bundles))))
    released: tuple[Released, ...] | None = None
    for attempt in range(1, MOST_TRIES + 1):
        try:
            released = release_bundles(library, ready, told, attachments, tell)
            break
        except MovedError:
            if attempt == MOST_TRIES:
                raise
            # Others released something else at the same moment: this follows theirs.
            synchronise(library, task)
    close_reviews(library, [bundle.part.id for bundle in bundles])
    return released or ()


def _checked(library: Library, bundle: Bundle, before: EvaluatedPart | None) -> EvaluatedPart:
    """The part with fresh results, where nothing keeps it from being released."""
    outcome = evaluate_part(bundle, rules_for(library, bundle), before=before)
    blockers = tuple(f for f in outcome.findings if f.severity == "blocker")
    if blockers:
        raise BlockedError(bundle.part.name, blockers)
    return outcome


def _attach(
    library: Library, bundle: Bundle, attachments: dict[str, bytes], make_step: Callable[[StepRequest], bytes]
) -> None:
    """Put the STEP model and the datasheets of a part to those of the others."""
    _attach_model(library, bundle, attachments, make_step)
    for link in bundle.part.datasheets:
        _attach_document(library, DocumentKind.DATASHEET, link.sha256, attachments)


def _attach_model(
    library: Library, bundle: Bundle, attachments: dict[str, bytes], make_step: Callable[[StepRequest], bytes]
) -> None:
    """The maker's file, once for all parts that use it; or the file made from the generated body."""
    if bundle.body.model is not None:
        sha256 = bundle.body.model.sha256
        if not _attach_document(library, DocumentKind.MODEL, sha256, attachments):
            file = bundle.body.model.file
            raise EiderError(f"{bundle.part.name}: its model {file} is no longer in the library; import it again")
        return
    materials = materials_with(SHARED_MATERIALS.read_sound(library))
    solids, model = body_solids(bundle.sheet, bundle.body, materials), model_path(bundle.body.name)
    mark = fingerprint(solids, bundle.body.name).encode()
    if mark not in attachments.get(model, b"") and mark not in (library.versions.read(model) or b""):
        attachments[model] = make_step(StepRequest(solids, bundle.body.name))


def _attach_document(library: Library, kind: DocumentKind, sha256: str, attachments: dict[str, bytes]) -> bool:
    """Put a document of the library to the others; whether the library has it."""
    path = released_path(kind, sha256)
    # What bears its sum as its name needs no comparison.
    if library.versions.has(path):
        return True
    data = attachments.get(path) or library.attachments.read(kind, sha256)
    if data is not None:
        attachments[path] = data
    return data is not None


@lru_cache(maxsize=64)
def step_bytes(solids: tuple[Solid, ...], name: str) -> bytes:
    """The STEP file of a body; parts of a family share theirs, so it is kept."""
    from eider.bodies.step_files.step_writer import step_file

    return step_file(solids, name)
