"""Working copies: the unreleased state of a part, one file each, whole at every moment, outside of git."""

from collections.abc import Iterator
from pathlib import Path

import msgspec

from eider.library.atomic_files import write_atomic
from eider.library.item_paths import PRIVATE, safe_name
from eider.model.bundle import Bundle
from eider.model.codec import DocumentError, decode, encode


class WorkingCopy(msgspec.Struct, frozen=True, kw_only=True):
    """A part as it is being worked on, and how many findings of each severity it had when it was saved."""

    bundle: Bundle
    findings: dict[str, int] = {}


class WorkingCopies:
    """The working copies of one library."""

    def __init__(self, library: Path) -> None:
        self.folder = library / PRIVATE / "working"

    def path(self, part_id: str) -> Path:
        """The file of a part's working copy."""
        return self.folder / f"{safe_name(part_id)}.json"

    def save(self, copy: WorkingCopy) -> None:
        """Write a working copy; the one before is replaced only once the new one is on disk."""
        write_atomic(self.path(copy.bundle.part.id), encode(copy).encode())

    def load(self, part_id: str) -> WorkingCopy | None:
        """The working copy of a part; None where there is none.

        A damaged file is moved aside, never overwritten, and the error says where it lies.

        Raises:
            DocumentError: the working copy is damaged; it has been moved aside.
        """
        path = self.path(part_id)
        try:
            data = path.read_bytes()
        except FileNotFoundError:
            return None
        try:
            return decode(data, WorkingCopy, str(path))
        except DocumentError as fault:
            aside = path.with_suffix(".damaged")
            path.replace(aside)
            raise DocumentError(f"{fault}; the damaged working copy was moved to {aside}") from fault

    def discard(self, part_id: str) -> None:
        """Take a working copy away."""
        self.path(part_id).unlink(missing_ok=True)

    def stamps(self) -> dict[str, int]:
        """Part ids with the time of the last change of their working copies, in nanoseconds."""
        return {path.stem: path.stat().st_mtime_ns for path in self._files()}

    def _files(self) -> Iterator[Path]:
        if self.folder.is_dir():
            yield from sorted(self.folder.glob("*.json"))
