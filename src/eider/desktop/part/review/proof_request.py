"""The request to make a proof, in a form that another process can be handed."""

from pathlib import Path

import msgspec

from eider.bodies.materials import materials_with
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.material import Material
from eider.reports.proof_changes import ProofChanges
from eider.rulebooks import Rulebook


class ProofRequest(msgspec.Struct, frozen=True):
    """Writes the proof into a folder, and returns its path."""

    bundle: Bundle
    findings: tuple[Finding, ...]
    rulebook: Rulebook
    documents: dict[str, str]
    folder: str
    materials: dict[str, Material] = {}
    changes: ProofChanges | None = None

    def __call__(self) -> str:
        from eider.reports.proof import write_proof

        paths = {sha: Path(path) for sha, path in self.documents.items()}
        materials = materials_with(self.materials)
        folder = Path(self.folder)
        return str(write_proof(self.bundle, self.findings, self.rulebook, folder, paths, materials, self.changes))
