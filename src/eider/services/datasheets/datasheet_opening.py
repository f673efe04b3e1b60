"""Attaches datasheets to a library, and opens those that it has."""

import hashlib
from pathlib import Path

from eider.datasheets import Datasheet
from eider.datasheets.pages.page_trial import try_pages_once
from eider.errors import InputError
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.model.part import DatasheetLink

LARGEST_PDF = 200 * 1024 * 1024


def attach_datasheet(library: Library, path: Path) -> DatasheetLink:
    """Keep a PDF with a library, for a part to link to.

    Raises:
        InputError: it is too large, damaged, or a page of it takes too much time or memory; nothing was kept.
        LibraryError: the library cannot be written.
    """
    if path.stat().st_size > LARGEST_PDF:
        raise InputError(f"{path.name} is larger than {LARGEST_PDF >> 20} MB; attach a smaller PDF")
    library.require_writable()
    data = path.read_bytes()
    try_pages_once(path, hashlib.sha256(data).hexdigest())
    document = Datasheet(path)
    try:
        return DatasheetLink(library.attachments.keep(DocumentKind.DATASHEET, data), path.name, document.pages)
    finally:
        document.close()


def open_datasheet(library: Library, sha256: str) -> Datasheet:
    """Open a document of a library; one that came with a clone is tried first, as one that is attached is.

    Raises:
        DatasheetError: it is missing, damaged, or a page of it takes too much time or memory.
        LibraryError: this is not a SHA-256.
    """
    path = library.attachments.path(DocumentKind.DATASHEET, sha256)
    if path.exists():
        try_pages_once(path, sha256)
    return Datasheet(path)
