"""Documents that a library keeps by their sum: datasheets, and the STEP files of makers."""

import enum
import hashlib
from collections.abc import Iterator
from pathlib import Path

from eider.library.errors import LibraryError
from eider.library.git.versions import Versions
from eider.library.item_paths import ATTACHED, document_path, model_file_path
from eider.library.library_files import LibraryFiles, is_sha256
from eider.model.bundle import Bundle


class DocumentKind(enum.Enum):
    """A kind of document: its suffix, and what it is called."""

    DATASHEET = ("pdf", "datasheet")
    MODEL = ("step", "STEP file")


class Attachments:
    """The documents of one library, those of releases and those of working copies."""

    def __init__(self, files: LibraryFiles, versions: Versions) -> None:
        self._files, self._versions = files, versions

    def keep(self, kind: DocumentKind, data: bytes) -> str:
        """Keep a document; returns its SHA-256. Whoever calls has made sure that the library can be written."""
        digest = hashlib.sha256(data).hexdigest()
        if not self.path(kind, digest).exists():
            self._files.write(f"{ATTACHED}/{digest}.{kind.value[0]}", data)
        return digest

    def path(self, kind: DocumentKind, sha256: str) -> Path:
        """Where a document lies: with the releases, or attached to a working copy.

        A released one that was left out when the library was opened by its address is fetched now.

        Raises:
            LibraryError: this is not a SHA-256, or the document cannot be fetched.
        """
        suffix, title = kind.value
        if not is_sha256(sha256):
            raise LibraryError(f"“{sha256[:80]}” is not a SHA-256 of a document; attach the {title} again")
        inside = released_path(kind, sha256)
        released = self._files.path(inside)
        if self._versions.is_left_out(inside):
            self._files.write(inside, self._versions.read(inside) or b"")
        return released if released.exists() else self._files.path(f"{ATTACHED}/{sha256}.{suffix}")

    def read(self, kind: DocumentKind, sha256: str) -> bytes | None:
        """The content of a document; None where the library does not have it.

        Raises:
            LibraryError: this is not a SHA-256, or the file is a link or damaged.
        """
        path = self.path(kind, sha256)
        data = self._files.read(path.relative_to(self._files.folder).as_posix())
        if data is not None and hashlib.sha256(data).hexdigest() != sha256:
            raise LibraryError(f"{path} is not the document that was attached; attach it again")
        return data


def released_path(kind: DocumentKind, sha256: str) -> str:
    """The path of a released document inside its library."""
    return model_file_path(sha256) if kind is DocumentKind.MODEL else document_path(sha256)


def linked_documents(bundle: Bundle) -> Iterator[tuple[DocumentKind, str]]:
    """The documents that a part links to by their sum: its datasheets, and the STEP file that is its body."""
    for link in bundle.part.datasheets:
        yield DocumentKind.DATASHEET, link.sha256
    if bundle.body.model is not None:
        yield DocumentKind.MODEL, bundle.body.model.sha256
