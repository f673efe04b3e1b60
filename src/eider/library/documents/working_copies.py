"""Working copies: the unreleased state of a part, one file each, whole at every moment, outside of git."""

import hashlib
from collections.abc import Sequence
from pathlib import Path

import msgspec

from eider.library.item_paths import PRIVATE, safe_name
from eider.library.library_files import LibraryFiles
from eider.model.bundle import Bundle
from eider.model.codec import DocumentError, decode, encode


class WorkingCopy(msgspec.Struct, frozen=True, kw_only=True):
    """A part as it is being worked on, and how many findings of each severity it had when it was saved."""

    bundle: Bundle
    findings: dict[str, int] = {}


class WorkingCopies:
    """The working copies of one library."""

    FOLDER = f"{PRIVATE}/working"

    def __init__(self, files: LibraryFiles) -> None:
        self._files = files

    def path(self, part_id: str) -> Path:
        """The file of a part's working copy."""
        return self._files.path(self._name(part_id))

    def save(self, copy: WorkingCopy) -> None:
        """Write a working copy; the one before is replaced only once the new one is on disk."""
        self._files.write(self._name(copy.bundle.part.id), encode(copy).encode())

    def load(self, part_id: str) -> WorkingCopy | None:
        """The working copy of a part; None where there is none.

        A damaged file is moved aside, never overwritten, and the error says where it lies.

        Raises:
            DocumentError: the working copy is damaged; it has been moved aside.
        """
        data = self._files.read(self._name(part_id))
        if data is None:
            return None
        path = self.path(part_id)
        try:
            return decode(data, WorkingCopy, str(path))
        except DocumentError as fault:
            aside = path.with_suffix(f".damaged-{hashlib.sha256(data).hexdigest()[:8]}")
            self._files.move(self._name(part_id), aside.name)
            raise DocumentError(f"{fault}; the damaged working copy was moved to {aside}") from fault

    def discard(self, part_id: str) -> None:
        """Remove a working copy, and the note for its release."""
        self._files.remove(self._name(part_id))
        self._files.remove(self._note_name(part_id))

    def save_note(self, part_id: str, note: str) -> None:
        """Write what was typed so far as the note of a part's next release; an empty one is removed."""
        if note.strip():
            self._files.write(self._note_name(part_id), note.encode())
        else:
            self._files.remove(self._note_name(part_id))

    def note(self, part_id: str) -> str:
        """What was typed so far as the note of a part's next release."""
        return (self._files.read(self._note_name(part_id)) or b"").decode("utf-8", "replace")

    def sum_of(self, part_id: str) -> str:
        """The SHA-256 of a working copy's file, or an empty text if the part has no working copy."""
        data = self._files.read(self._name(part_id))
        return hashlib.sha256(data).hexdigest() if data is not None else ""

    def damaged(self) -> list[Path]:
        """The damaged working copies that were moved aside."""
        names = sorted(name for name in self._files.stamps(self.FOLDER) if ".damaged" in name)
        return [self._files.path(f"{self.FOLDER}/{name}") for name in names]

    def stamps(self) -> dict[str, int]:
        """Part ids with the time of the last change of their working copies, in nanoseconds."""
        found = self._files.stamps(self.FOLDER)
        return {
            name.removesuffix(".json"): stamp
            for name, stamp in sorted(found.items())
            if name.endswith(".json") and not name.startswith(".")
        }

    def _name(self, part_id: str) -> str:
        return f"{self.FOLDER}/{safe_name(part_id)}.json"

    def _note_name(self, part_id: str) -> str:
        return f"{self.FOLDER}/{safe_name(part_id)}.note.txt"


def damage_words(found: Sequence[Path]) -> str:
    """Says that working copies could not be read, and where they lie."""
    more = f" and {len(found) - 1} more" if len(found) > 1 else ""
    return f"A damaged working copy{more} was moved aside; it lies in {found[0]}"
