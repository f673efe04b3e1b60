"""Releases a part and what belongs to it: one commit, one annotated tag per item and revision."""

import fcntl
import json
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from typing import Any

import msgspec

from eider.library.atomic_files import write_atomic
from eider.library.errors import ConflictError
from eider.library.item_paths import KIND_TYPES, PRIVATE, item_path
from eider.library.store import Library
from eider.library.versions import Person, Tagging
from eider.model.bundle import Bundle, Item
from eider.model.codec import decode, encode
from eider.model.item_ref import Ref
from eider.model.part import Part, Release

replace = msgspec.structs.replace
MARKER = "releasing.json"
# Which field of a part refers to which kind of item.
REF_FIELDS = {"package": "package", "symbol": "symbol", "footprint": "footprint", "body": "body"}


class Released(msgspec.Struct, frozen=True):
    """What a release made: revision of the part, commit, and each new item revision with its path."""

    revision: int
    commit: str
    items: tuple[Tagging, ...]


def release_bundle(library: Library, bundle: Bundle, note: str, attachments: dict[str, bytes]) -> Released:
    """Commit and tag a part; items that did not change since the part's last release keep their revision.

    `attachments` are further files (STEP models, datasheets) by their path. Whether the part may be released is for
    the caller to decide.

    Raises:
        ReadOnlyError, ConflictError: nothing was written.
    """
    library.require_writable()
    with locked(library):
        person = library.person()
        plan = _Plan(library, bundle, person, note)
        fresh = {path: data for path, data in attachments.items() if library.versions.read(path) != data}
        files = {**plan.files, **fresh}
        _mark(library, sorted(files))
        commit = library.versions.commit(files, note, person, tuple(plan.tags))
        for path in files:
            _bring(library, path)
        _unmark(library)
        library.copies.discard(bundle.part.id)
    return Released(revision=plan.part_revision, commit=commit, items=tuple(plan.tags))


class _Plan:
    """Which items become which revision, and the files that this writes."""

    def __init__(self, library: Library, bundle: Bundle, person: Person, note: str) -> None:
        self._library = library
        library.index.refresh()
        self.files: dict[str, bytes | None] = {}
        self.tags: list[Tagging] = []
        part = bundle.part
        sheet_ref = part.package
        for kind, item in bundle.items():
            if isinstance(item, Part):
                continue
            if kind in ("footprint", "body"):
                item = replace(item, package=sheet_ref)
            ref = self._settle(kind, item, getattr(part, REF_FIELDS[kind]))
            part = replace(part, **{REF_FIELDS[kind]: ref})
            sheet_ref = Ref(part.package.id, part.package.name)
        self.part_revision = len(library.versions.history(part.id)) + 1
        at = datetime.now(tz=UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
        owner = library.index.item_at(item_path("part", part))
        if owner not in (None, part.id):
            raise ConflictError(f"there is another part named {part.name} in this category; give this one another name")
        self._write(
            "part", replace(part, release=Release(self.part_revision, note, person.name, at)), self.part_revision
        )

    def _settle(self, kind: str, item: Any, ref: Ref) -> Ref:
        """The exact revision of an item that the part is released with; a new one only where it changed."""
        history = self._library.versions.history(item.id)
        if not history:
            shared = self._same_elsewhere(kind, item)
            if shared:
                return shared
            item = replace(item, name=self._free_name(kind, item))
            self._write(kind, item, 1)
            return Ref(item.id, item.name, 1)
        based_on = ref.revision or len(history)
        before = decode(
            self._library.read_document(history[based_on - 1]), KIND_TYPES[kind], history[based_on - 1].path
        )
        if encode(before) == encode(item):
            return Ref(item.id, item.name, based_on)
        newest = history[-1]
        if newest.revision != based_on:
            raise ConflictError(
                f"{kind} {item.name} was released as revision {newest.revision} by {newest.by} meanwhile; this part "
                f"was made from revision {based_on}. Open it anew and make the change there"
            )
        self._write(kind, item, based_on + 1)
        return Ref(item.id, item.name, based_on + 1)

    def _same_elsewhere(self, kind: str, item: Any) -> Ref | None:
        """An item of the library with the same name and content: parts share it."""
        other_id = self._library.index.item_at(item_path(kind, item))
        history = self._library.versions.history(other_id) if other_id else ()
        if not other_id or not history:
            return None
        other: Any = decode(self._library.read_document(history[-1]), KIND_TYPES[kind], history[-1].path)
        alike = replace(item, id=other.id)
        if hasattr(alike, "package"):
            alike = replace(alike, package=other.package)
        return Ref(other.id, other.name, len(history)) if encode(alike) == encode(other) else None

    def _free_name(self, kind: str, item: Any) -> str:
        """The item's name, with a number behind where another item has it already."""
        name, count = item.name, 1
        while self._library.index.item_at(item_path(kind, replace(item, name=name))) not in (None, item.id):
            count += 1
            name = f"{item.name}_{count}"
        return str(name)

    def _write(self, kind: str, item: Item, revision: int) -> None:
        path = item_path(kind, item)
        if revision > 1 and (old := self._library.versions.revision(item.id, revision - 1)) and old.path != path:
            self.files[old.path] = None
        self.files[path] = encode(item).encode()
        self.tags.append(Tagging(item.id, revision, kind, path))


def _bring(library: Library, path: str) -> None:
    """Make a file in the folder what the newest commit says."""
    data = library.versions.read(path)
    if data is None:
        (library.folder / path).unlink(missing_ok=True)
    else:
        write_atomic(library.folder / path, data)


@contextmanager
def locked(library: Library) -> Iterator[None]:
    """Only one process releases at a time."""
    folder = library.folder / PRIVATE
    folder.mkdir(exist_ok=True)
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _mark(library: Library, paths: list[str]) -> None:
    write_atomic(library.folder / PRIVATE / MARKER, json.dumps({"paths": paths}).encode())


def _unmark(library: Library) -> None:
    (library.folder / PRIVATE / MARKER).unlink(missing_ok=True)


def finish_interrupted(library: Library) -> None:
    """After a release that was killed: bring the files in the folder to what was committed, or was before."""
    marker = library.folder / PRIVATE / MARKER
    if library.read_only or not marker.exists():
        return
    with locked(library):
        try:
            paths = json.loads(marker.read_bytes())["paths"]
        except (ValueError, KeyError, FileNotFoundError):
            paths = []
        for path in paths:
            _bring(library, path)
        _unmark(library)
