"""The proof: everything of one revision of a part, for the reviewer."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec


def _write(source: ExportSource, folder: Path) -> list[Path]:
    # Loaded on first use: other formats do not need a PDF library.
    from eider.reports.proof import write_proof

    paths = {sha: Path(path) for sha, path in source.documents.items()}
    return [write_proof(source.bundle, source.findings, source.rulebook, folder, paths, source.materials)]


FORMAT = FormatSpec(key="proof", title="Proof for the reviewer as PDF", suffixes=(".pdf",), order=60, write=_write)
