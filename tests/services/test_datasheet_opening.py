"""Datasheets of a library: those of a colleague are tried before they are shown, each once on this machine."""

import hashlib
from pathlib import Path

import pytest
from reportlab.pdfgen import canvas

from eider.datasheets.pages import page_trial
from eider.datasheets.pages.document import DatasheetError
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.library.item_paths import document_path
from eider.library.library_opening import open_library
from eider.services.datasheets.datasheet_opening import attach_datasheet, open_datasheet


def drawn_pdf(path: Path, lines: int) -> Path:
    """A page with a text and many lines."""
    page = canvas.Canvas(str(path))
    page.drawString(100, 700, path.stem)
    strokes = (f"{n * 7 % 600} {n * 13 % 800} m {n % 600} {n % 800} l S" for n in range(lines))
    page.addLiteral("\n".join(strokes))
    page.save()
    return path


@pytest.fixture
def tried(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> list[Path]:
    """The documents that were tried, on a machine that has seen none before."""
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    paths: list[Path] = []
    real = page_trial.try_pages

    def noted(path: Path) -> None:
        paths.append(path)
        real(path)

    monkeypatch.setattr(page_trial, "try_pages", noted)
    return paths


def test_a_document_is_tried_when_it_is_attached_and_not_again(
    library: Library, tmp_path: Path, tried: list[Path]
) -> None:
    path = drawn_pdf(tmp_path / "NVK-1.pdf", 10)
    link = attach_datasheet(library, path)
    assert (link.name, link.pages, link.sha256) == ("NVK-1.pdf", 1, hashlib.sha256(path.read_bytes()).hexdigest())
    for _ in range(2):
        document = open_datasheet(library, link.sha256)
        assert "NVK-1" in document.text(1)
        document.close()
    assert tried == [path]


def test_a_document_that_came_with_a_clone_is_tried_before_it_is_opened(
    library: Library, tmp_path: Path, tried: list[Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(page_trial, "LONGEST_PAGE_S", 1)
    data = drawn_pdf(tmp_path / "slow.pdf", 300_000).read_bytes()
    sha256 = hashlib.sha256(data).hexdigest()
    library.files.write(document_path(sha256), data)
    for _ in range(2):
        with pytest.raises(DatasheetError, match="page 1 of .* takes more than 1 s"):
            open_datasheet(open_library(library.folder), sha256)
    assert len(tried) == 2, "what was refused once is not let in the second time"


def test_a_document_that_is_refused_is_not_kept(
    library: Library, tmp_path: Path, tried: list[Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(page_trial, "LONGEST_PAGE_S", 1)
    path = drawn_pdf(tmp_path / "slow.pdf", 300_000)
    with pytest.raises(DatasheetError, match=r"slow\.pdf takes more than"):
        attach_datasheet(library, path)
    assert tried == [path]
    assert not library.attachments.path(DocumentKind.DATASHEET, hashlib.sha256(path.read_bytes()).hexdigest()).exists()


def test_a_damaged_document_and_a_missing_one_are_told_as_such(
    library: Library, tmp_path: Path, tried: list[Path]
) -> None:
    path = tmp_path / "torn.pdf"
    path.write_bytes(b"%PDF-1.5 torn")
    with pytest.raises(DatasheetError, match=r"torn\.pdf cannot be opened: the file is damaged or no PDF"):
        attach_datasheet(library, path)
    with pytest.raises(DatasheetError, match="no longer exists"):
        open_datasheet(library, "a" * 64)
    assert tried == [path]
