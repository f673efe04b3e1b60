"""The timeline of a library: who released what, when and why; written for an audit, and old states restored."""

from collections.abc import Sequence
from itertools import groupby
from pathlib import Path

import msgspec

from eider.errors import InputError
from eider.exchange.table_files import write_table
from eider.library import Library
from eider.library.git.revision_trailers import ItemRevision
from eider.library.releases.release_commit import REF_FIELDS
from eider.model.bundle import Bundle
from eider.services.parts.part_evaluation import save_evaluated

replace = msgspec.structs.replace
_HEADINGS = ("At", "Who", "Kind", "Item", "Revision", "Note", "Commit", "Id")


class TimelineFilter(msgspec.Struct, frozen=True):
    """Which revisions are wanted: of kinds, by a person, from a day on (ISO 8601), with words in name or note."""

    kinds: tuple[str, ...] = ("part",)
    by: str = ""
    since: str = ""
    words: str = ""

    def holds(self, made: ItemRevision) -> bool:
        """Whether a revision is wanted."""
        text = f"{item_name(made)} {made.note}".casefold()
        return (
            (not self.kinds or made.kind in self.kinds)
            and self.by.casefold() in made.by.casefold()
            and made.at >= self.since
            and all(word in text for word in self.words.casefold().split())
        )


def item_name(made: ItemRevision) -> str:
    """What an item was called when it was released, as its file was."""
    return made.path.rpartition("/")[2].removesuffix(f".{made.kind}.json").removesuffix(".toml")


def library_timeline(library: Library, wanted: TimelineFilter | None = None) -> tuple[ItemRevision, ...]:
    """The revisions of a library, the newest first as commits follow each other; those of one commit by name."""
    wanted = wanted or TimelineFilter()
    library.index.refresh()
    found = filter(wanted.holds, library.index.all_revisions())
    commits = groupby(found, key=lambda made: made.commit)
    return tuple(made for _commit, together in commits for made in sorted(together, key=item_name))


def write_audit(path: Path, revisions: Sequence[ItemRevision]) -> None:
    """Write a timeline as CSV or as a workbook, by the suffix of the name.

    Raises:
        LibraryError: the file cannot be written.
    """
    rows = [(r.at, r.by, r.kind, item_name(r), r.revision, r.note, r.commit, r.id) for r in revisions]
    write_table(path, "Audit", [_HEADINGS, *rows])


def restore_revision(library: Library, part_id: str, revision: int) -> Bundle:
    """Make a working copy that is as an old revision was; released, it is the next one, and all others stay.

    Raises:
        InputError: the part is being worked on, or this is its newest revision.
        NotFoundError: there is no such revision. ReadOnlyError: nothing can be written.
    """
    library.require_writable()
    old, newest = library.load_release(part_id, revision), library.load_release(part_id)
    if library.copies.sum_of(part_id):
        raise InputError(f"{newest.part.name} is being worked on; release or discard the working copy first")
    if newest.part.release and newest.part.release.revision == revision:
        raise InputError(f"revision {revision} is the newest of {newest.part.name}; there is nothing to restore")
    made = based_on(old, newest)
    save_evaluated(library, made)
    return made


def based_on(mine: Bundle, newest: Bundle) -> Bundle:
    """A state of a part as if it had been begun from its newest revision: links to the same items follow that."""
    links = {}
    for field in REF_FIELDS:
        own, other = getattr(mine.part, field), getattr(newest.part, field)
        links[field] = replace(own, revision=other.revision) if own.id == other.id else own
    return replace(mine, part=replace(mine.part, release=newest.part.release, **links))
