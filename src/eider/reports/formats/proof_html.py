"""The proof as one HTML file, which any browser opens."""

from pathlib import Path

from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name


def _write(source: ExportSource, folder: Path) -> list[Path]:
    # Loaded on first use: other formats need neither pictures nor datasheets.
    from eider.reports.proof_html import proof_page

    paths = {sha: Path(path) for sha, path in source.documents.items()}
    page = proof_page(source.bundle, source.findings, source.rulebook, paths, source.materials)
    path = folder / f"{safe_name(source.bundle.part.name)}-proof.html"
    write_atomic(path, page.encode())
    return [path]


FORMAT = FormatSpec(
    key="html", title="Proof for the reviewer as HTML", suffixes=(".html",), order=61, write=_write, is_default=False
)
