"""Releases parts and what belongs to them: one commit, which is there as a whole or not at all."""

import re
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import msgspec

from eider.errors import EiderError
from eider.evidence.evidence_changes import utc_now
from eider.library.errors import ConflictError
from eider.library.git.commit_reading import Person
from eider.library.git.revision_trailers import RevisionEntry
from eider.library.item_paths import KIND_TYPES, item_path
from eider.library.releases.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.bundle import Bundle, Item
from eider.model.codec import decode, encode
from eider.model.item_ref import Ref
from eider.model.part import Part, Release

replace = msgspec.structs.replace
# Which field of a part refers to which kind of item.
REF_FIELDS = {"package": "package", "symbol": "symbol", "footprint": "footprint", "body": "body"}
# When a value was read, as documents print it.
_TIME = re.compile(r', "at": "[^"]*"')


class Released(msgspec.Struct, frozen=True):
    """What a release made: revision of the part, commit, and each new item revision with its path.

    `behind` says why the files in the folder do not follow yet, where they do not.
    """

    revision: int
    commit: str
    items: tuple[RevisionEntry, ...]
    behind: str = ""


def release_bundles(
    library: Library,
    bundles: Sequence[Bundle],
    note: str,
    attachments: Mapping[str, bytes] | None = None,
    tell: Callable[[float], None] = lambda _share: None,
) -> tuple[Released, ...]:
    """Commit parts as their next revisions, all together; items that did not change keep their revision.

    `attachments` are further files (STEP models, datasheets) by their path. Whether a part may be released is for the
    caller to decide; `tell` hears which share is done, and may raise to cancel while nothing has been written.

    Raises:
        ReadOnlyError, ConflictError, LibraryError: nothing was written.
    """
    library.require_writable()
    with locked(library):
        plan = _Plan(library, library.person(), note)
        made = []
        for index, bundle in enumerate(bundles):
            tell(0.8 * index / len(bundles))
            before = len(plan.entries)
            revision = plan.add(bundle)
            made.append((revision, before, len(plan.entries)))
        plan.attach(attachments or {})
        done = commit_noted(library, plan.files, note, plan.entries, [bundle.part.id for bundle in bundles])
        tell(1.0)
    return tuple(Released(revision, done.commit, tuple(plan.entries[i:j]), done.behind) for revision, i, j in made)


class _Known(msgspec.Struct, frozen=True):
    """A revision of an item: its number, path, who released it, and its file."""

    revision: int
    path: str
    by: str
    data: bytes


class _Plan:
    """Which items become which revision, and the files that this writes."""

    def __init__(self, library: Library, person: Person, note: str) -> None:
        self._library, self._person, self._note = library, person, note
        # Nobody else writes while the lock is held: what the index says now stays true.
        self._index = library.index
        self._index.refresh()
        self.files: dict[str, bytes | None] = {}
        self.entries: list[RevisionEntry] = []
        # The newest revisions that were looked up or that this plan makes: its next part may use the same items.
        self._found: dict[str, _Known | None] = {}
        self._owners: dict[str, str] = {}

    def add(self, bundle: Bundle) -> int:
        """Plan one more part; returns its revision.

        Raises:
            ConflictError: it, or one of its items, was released meanwhile, or another part has its name.
            EiderError: nothing in it differs from its newest revision.
        """
        part = bundle.part
        sheet_ref = part.package
        newest = self._newest(part.id)
        based_on = part.release.revision if part.release else 0
        if newest and newest.revision != based_on:
            raise ConflictError(
                f"{part.name} was released as revision {newest.revision} by {newest.by} meanwhile; this state was made "
                f"from {f'revision {based_on}' if based_on else 'none'}. Open the part again and make the change there"
            )
        for kind, item in bundle.items():
            if isinstance(item, Part):
                continue
            if kind in ("footprint", "body"):
                item = replace(item, package=sheet_ref)
            ref = self._settle(kind, item, getattr(part, REF_FIELDS[kind]))
            part = replace(part, **{REF_FIELDS[kind]: ref})
            sheet_ref = Ref(part.package.id, part.package.name)
        if newest and replace(decode(newest.data, Part, newest.path), release=None) == replace(part, release=None):
            raise EiderError(f"{part.name} is the same as its revision {based_on}; nothing to release")
        revision = based_on + 1
        if self._owner(item_path("part", part)) not in (None, part.id):
            raise ConflictError(f"there is another part named {part.name} in this category; give this one another name")
        release = Release(revision, self._note, self._person.name, utc_now())
        self._write("part", replace(part, release=release), revision)
        return revision

    def attach(self, attachments: Mapping[str, bytes]) -> None:
        """Write files beside the items, where the library does not have them yet."""
        for path, data in attachments.items():
            if self._library.versions.read(path) != data:
                self.files[path] = data

    def _settle(self, kind: str, item: Any, ref: Ref) -> Ref:
        """The exact revision of an item that the part is released with; a new one only where it changed."""
        newest = self._newest(item.id)
        if newest is None:
            shared = self._same_elsewhere(kind, item)
            if shared:
                return shared
            item = replace(item, name=self._free_name(kind, item))
            self._write(kind, item, 1)
            return Ref(item.id, item.name, 1)
        based_on = ref.revision or newest.revision
        if newest.revision != based_on:
            # Another part that shares the item was released with the same change: this one follows it.
            now = replace(item, name=decode(newest.data, KIND_TYPES[kind], newest.path).name)
            if _is_same(decode(newest.data, KIND_TYPES[kind], newest.path), now):
                return Ref(item.id, now.name, newest.revision)
        known = newest if based_on == newest.revision else self._known(item.id, based_on)
        # The computed name says nothing of other items that have it already.
        item = replace(item, name=self._free_name(kind, item))
        if known and _is_same(decode(known.data, KIND_TYPES[kind], known.path), item):
            return Ref(item.id, item.name, based_on)
        if newest.revision != based_on:
            raise ConflictError(
                f"{kind} {item.name} was released as revision {newest.revision} by {newest.by} meanwhile; this part "
                f"was made from revision {based_on}. Open it again and make the change there"
            )
        self._write(kind, item, based_on + 1)
        return Ref(item.id, item.name, based_on + 1)

    def _newest(self, item_id: str) -> _Known | None:
        if item_id not in self._found:
            self._found[item_id] = self._known(item_id, self._index.newest_revision(item_id))
        return self._found[item_id]

    def _known(self, item_id: str, revision: int) -> _Known | None:
        entry = self._index.revision(item_id, revision)
        return _Known(revision, entry.path, entry.by, self._library.read_document(entry)) if entry else None

    def _owner(self, path: str) -> str | None:
        return self._owners.get(path) or self._index.item_at(path)

    def _same_elsewhere(self, kind: str, item: Any) -> Ref | None:
        """An item of the library with the same name and content: parts share it."""
        other_id = self._owner(item_path(kind, item))
        newest = self._newest(other_id) if other_id else None
        if newest is None:
            return None
        other: Any = decode(newest.data, KIND_TYPES[kind], newest.path)
        is_same = _is_same(other, replace(item, id=other.id))
        return Ref(other.id, other.name, newest.revision) if is_same else None

    def _free_name(self, kind: str, item: Any) -> str:
        """The item's name, with a number behind where another item has it already."""
        name, count = item.name, 1
        while self._owner(item_path(kind, replace(item, name=name))) not in (None, item.id):
            count += 1
            name = f"{item.name}_{count}"
        return str(name)

    def _write(self, kind: str, item: Item, revision: int) -> None:
        path, data = item_path(kind, item), encode(item).encode()
        if revision > 1 and (old := self._newest(item.id)) and old.path != path:
            self.files[old.path] = None
        self.files[path] = data
        self.entries.append(RevisionEntry(item.id, revision, kind, path))
        self._found[item.id] = _Known(revision, path, self._person.name, data)
        self._owners[path] = item.id


def _is_same(before: Any, item: Any) -> bool:
    """Whether two states of an item are the same, but for the link to their package and when a value was read.

    Parts of one family share their items: what was read of the same place a second later is the same.
    """
    if hasattr(item, "package"):
        item = replace(item, package=before.package)
    return _TIME.sub("", encode(before)) == _TIME.sub("", encode(item))
