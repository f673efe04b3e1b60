"""Exports parts in open formats."""

from collections.abc import Mapping, Sequence
from pathlib import Path

import msgspec

from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.errors import EiderError, InputError
from eider.exchange.format_spec import ExportSource
from eider.library import Library
from eider.library.documents.attachments import linked_documents
from eider.model.bundle import Bundle
from eider.model.wording import counted
from eider.services.publishing.format_registry import export_format
from eider.services.releasing.withdrawing import withdrawn_words
from eider.services.tasks import Task


class Exported(msgspec.Struct, frozen=True):
    """The files that were made, and for each format what was done or why not."""

    files: tuple[str, ...]
    log: tuple[str, ...]


def documents_of(library: Library, bundle: Bundle) -> dict[str, str]:
    """The files of a part's datasheets and of its model by their sum, in a form that another process can be handed."""
    paths = {sha256: library.attachments.path(kind, sha256) for kind, sha256 in linked_documents(bundle)}
    return {sha: str(path) for sha, path in paths.items() if path.exists()}


def export_part(
    bundle: Bundle,
    keys: Sequence[str],
    folder: Path,
    rules: EvaluationRules,
    documents: Mapping[str, str] | None = None,
    task: Task | None = None,
) -> Exported:
    """Write one part in several formats into a folder, which is made; one that fails does not stop the others.

    Raises:
        InputError: the folder cannot be made.
    """
    task = task or Task()
    chosen = [export_format(key) for key in keys]
    findings = evaluate_part(bundle, rules, fresh=False).findings
    source = ExportSource(bundle, findings, rules.rulebook, documents or {}, rules.all_materials)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise InputError(f"{folder} cannot be made: {fault.strerror}") from fault
    files: list[str] = []
    withdrawn = withdrawn_words(bundle)
    log = [f"{bundle.part.name} is {withdrawn}"] if withdrawn else []
    for index, entry in enumerate(chosen):
        task.report(index / len(chosen), f"writing {entry.title}")
        try:
            made = entry.write(source, folder) if entry.write else []
        except (EiderError, OSError) as fault:
            log.append(f"{entry.key}: not written: {fault}")
            continue
        files += [str(path) for path in made]
        log.append(f"{entry.key}: {entry.title}: {counted(len(made), 'file')}")
    return Exported(tuple(files), tuple(log))


class ExportRequest(msgspec.Struct, frozen=True):
    """The wish for an export, in a form that another process can be handed."""

    bundle: Bundle
    keys: tuple[str, ...]
    folder: str
    rules: EvaluationRules
    documents: dict[str, str] = {}

    def __call__(self) -> Exported:
        """Do it."""
        return export_part(self.bundle, self.keys, Path(self.folder), self.rules, self.documents)
