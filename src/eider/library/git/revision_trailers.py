"""What a commit says of the revisions that it makes, in trailers at the end of its message.

Each line `Eider-Revision: KIND ID REVISION PATH` names a file of the commit. They are in the commit itself, so that a
release is there as a whole or not at all: moving the branch is its only visible step.
"""

from collections.abc import Iterator, Sequence

import msgspec

REVISION = "Eider-Revision"
# Ends every message of Eider's, so that nothing in a person's note is taken for a trailer.
FORMAT = "Eider-Format: 2"


class RevisionEntry(msgspec.Struct, frozen=True):
    """A revision that a commit makes of an item: what kind it is, and its file."""

    id: str
    revision: int
    kind: str
    path: str


class ItemRevision(msgspec.Struct, frozen=True):
    """One released revision of an item: `path` is its file in the commit `commit`; `at` is ISO 8601 in UTC."""

    id: str
    revision: int
    kind: str
    path: str
    note: str
    by: str
    at: str
    commit: str


def commit_message(note: str, entries: Sequence[RevisionEntry]) -> str:
    """The message of a commit: why, and which revisions it makes."""
    trailers = [f"{REVISION}: {e.kind} {e.id} {e.revision} {e.path}" for e in entries]
    return "\n".join([note.strip(), "", *trailers, FORMAT, ""])


def is_own_message(message: str) -> bool:
    """Whether Eider wrote the message of a commit."""
    return message.rstrip("\n").rpartition("\n\n")[2].splitlines()[-1:] == [FORMAT]


def parse_message(message: str) -> tuple[str, tuple[RevisionEntry, ...]]:
    """The note of a commit and the revisions that it makes; none where Eider did not write the message."""
    if not is_own_message(message):
        return message.strip(), ()
    note, _, trailers = message.rstrip("\n").rpartition("\n\n")
    return note.strip(), tuple(_entries(trailers.splitlines()))


def _entries(lines: Sequence[str]) -> Iterator[RevisionEntry]:
    for line in lines:
        name, _, value = line.partition(": ")
        kind, item_id, revision, path = [*value.split(" ", 3), "", "", ""][:4]
        if name == REVISION and path and revision.isascii() and revision.isdigit():
            yield RevisionEntry(item_id, int(revision), kind, path)
