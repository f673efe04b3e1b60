"""Where an item is used, and what following another state of it would change; nothing follows by itself."""

from collections.abc import Collection, Iterator, Sequence
from typing import NamedTuple

import msgspec

from eider.commands.parts.evaluation import EvaluatedPart
from eider.errors import EiderError, InputError, NotFoundError
from eider.library import Library
from eider.library.documents.family_files import family_names, read_family
from eider.library.git.revision_compare import compare_revisions
from eider.library.index.item_reader import ItemHead
from eider.library.item_paths import KIND_TYPES
from eider.library.releases.release_commit import REF_FIELDS
from eider.model.bundle import Bundle, Item
from eider.model.codec import decode, to_data
from eider.model.finding import Finding
from eider.model.item_ref import Ref
from eider.services.facts.designs import DesignUse, designs_using
from eider.services.parts.part_evaluation import EvaluationRun, save_part
from eider.services.releasing.change_words import change_words
from eider.services.tasks import Task

replace = msgspec.structs.replace
# What a part calls the item of a kind in its bundle.
FIELDS = {"package": "sheet", "symbol": "symbol", "footprint": "footprint", "body": "body"}


class UsingPart(msgspec.Struct, frozen=True):
    """A part that uses an item: the revision that it uses, and whether that is not the newest."""

    id: str
    name: str
    state: str
    revision: int
    is_behind: bool


class ItemUse(msgspec.Struct, frozen=True):
    """Who uses an item: parts, the family tables whose members begin with it, and designs with these parts."""

    id: str
    kind: str
    name: str
    newest: int
    parts: tuple[UsingPart, ...]
    families: tuple[str, ...] = ()
    designs: tuple[DesignUse, ...] = ()


class PartImpact(msgspec.Struct, frozen=True):
    """What following another state of an item would change in a part: in words, and the findings that come and go."""

    id: str
    name: str
    revision: int
    newest: int
    changes: tuple[str, ...]
    appear: tuple[Finding, ...]
    vanish: tuple[Finding, ...]
    fault: str = ""


def items_of(library: Library, name: str) -> tuple[ItemHead, ...]:
    """The items that a name means: those of the part that is called so, or else an item of that name or id.

    Raises:
        NotFoundError: neither a part nor an item is called so.
    """
    library.index.refresh()
    row = library.index.find(name)
    if row is None:
        named = tuple(library.index.items_named(name))
        if not named:
            raise NotFoundError(f"there is no part and no item “{name}” in {library.folder}")
        return named
    part = library.load(row.id).part
    refs = [(kind, getattr(part, field)) for kind, field in REF_FIELDS.items()]
    return tuple(ItemHead(ref.id, kind, ref.name) for kind, ref in refs)


def item_use(library: Library, head: ItemHead) -> ItemUse:
    """Who uses an item."""
    newest = library.index.newest_revision(head.id)
    parts = []
    for row in library.index.parts_using(head.id):
        ref = _ref_of(library.load(row.id), head.id)
        revision = ref.revision or 0 if ref else 0
        parts.append(UsingPart(row.id, row.name, row.state, revision, 0 < revision < newest))
    used_by = {part.id for part in parts}
    families, designs = tuple(_families(library, used_by)), designs_using(library, used_by)
    return ItemUse(head.id, head.kind, head.name, newest, tuple(parts), families, designs)


def _families(library: Library, part_ids: Collection[str]) -> Iterator[str]:
    for name in family_names(library):
        if any(base.part.id in part_ids for base in read_family(library, name).definition.bases):
            yield name


def _ref_of(bundle: Bundle, item_id: str) -> Ref | None:
    refs: list[Ref] = [getattr(bundle.part, field) for field in REF_FIELDS.values()]
    return next((ref for ref in refs if ref.id == item_id), None)


def newest_item(library: Library, head: ItemHead) -> tuple[Item, Ref]:
    """The newest revision of an item, and how a part refers to it.

    Raises:
        NotFoundError: it was never released.
    """
    newest = library.index.newest_revision(head.id)
    entry = library.revision(head.id, newest) if newest else None
    if entry is None:
        raise NotFoundError(f"{head.kind} {head.name} was never released; there is nothing to follow")
    item: Item = decode(library.read_document(entry), KIND_TYPES[head.kind], entry.path)
    return item, Ref(head.id, item.name, newest)


def with_item(bundle: Bundle, kind: str, item: Item, ref: Ref) -> Bundle:
    """A part with another state of one of its items."""
    part = replace(bundle.part, **{REF_FIELDS[kind]: ref})
    return replace(bundle, part=part, **{FIELDS[kind]: item})


def impact_of(
    library: Library, head: ItemHead, candidate: Item | None = None, task: Task | None = None
) -> tuple[PartImpact, ...]:
    """What would change in each part that uses an item and does not follow its newest revision yet.

    With a `candidate`, a state that is not released yet, in each part that uses the item at all.

    Raises:
        NotFoundError: the item was never released. CancelledError: the user cancelled.
    """
    task = task or Task()
    item, ref = newest_item(library, head)
    item = candidate if candidate is not None else item
    found, impacts = [], _Impacts(library, head.kind, item, ref)
    rows = library.index.parts_using(head.id)
    for index, row in enumerate(rows):
        task.report(index / len(rows), f"looking at {row.name}")
        bundle = library.load(row.id)
        own = _ref_of(bundle, head.id)
        revision = own.revision or 0 if own else 0
        if candidate is None and not 0 < revision < (ref.revision or 0):
            continue
        found.append(impacts.of(bundle, revision))
    return tuple(found)


class _Evaluated(NamedTuple):
    """A part as it is and as it would be, and what changes in words."""

    before: EvaluatedPart
    after: EvaluatedPart
    changes: tuple[str, ...]


class _Impacts:
    """Works out part after part; what a part has in common with the one before it is taken from there."""

    def __init__(self, library: Library, kind: str, item: Item, ref: Ref) -> None:
        self._kind, self._item, self._ref = kind, item, ref
        self._as_is, self._as_would_be = EvaluationRun(library), EvaluationRun(library)
        self._last: _Evaluated | None = None

    def of(self, bundle: Bundle, revision: int) -> PartImpact:
        """The impact on one part, which uses this revision."""
        part, newest = bundle.part, self._ref.revision or 0
        try:
            made = self._last = self._evaluated(bundle)
        except EiderError as fault:
            return PartImpact(part.id, part.name, revision, newest, (), (), (), str(fault))
        old, new = ({finding.key: finding for finding in one.findings} for one in (made.before, made.after))
        appear = tuple(finding for key, finding in new.items() if key not in old)
        vanish = tuple(finding for key, finding in old.items() if key not in new)
        return PartImpact(part.id, part.name, revision, newest, made.changes, appear, vanish)

    def _evaluated(self, bundle: Bundle) -> _Evaluated:
        before = self._as_is.evaluated(bundle)
        after = self._as_would_be.evaluated(with_item(bundle, self._kind, self._item, self._ref))
        last = self._last
        if last and _drawn(before) == _drawn(last.before) and _drawn(after) == _drawn(last.after):
            return _Evaluated(before, after, last.changes)
        words = change_words(compare_revisions(_shown(before.bundle), _shown(after.bundle)))
        return _Evaluated(before, after, tuple(words))


def _drawn(part: EvaluatedPart) -> tuple[Item, ...]:
    """What `_shown` is made of."""
    return part.bundle.sheet, part.bundle.symbol, part.bundle.footprint


def _shown(bundle: Bundle) -> object:
    """A part with the pads and pins that follow, without the bodies and links of which nobody reads the numbers."""
    pattern = bundle.footprint.pattern
    pads = {pad.number: to_data(pad) for pad in pattern.pads} if pattern else {}
    return {
        "sheet": to_data(bundle.sheet),
        "symbol": to_data(replace(bundle.symbol, units=())),
        "footprint": to_data(replace(bundle.footprint, pattern=None, also=())),
        "pads": pads,
    }


def follow_item(library: Library, head: ItemHead, part_ids: Sequence[str], task: Task | None = None) -> tuple[str, ...]:
    """Make working copies of parts that follow the newest revision of an item; returns their names.

    Raises:
        InputError: one of the parts does not use the item. CancelledError: the user cancelled; what was kept stays.
        LibraryError: nothing can be written.
    """
    task = task or Task()
    library.require_writable()
    item, ref = newest_item(library, head)
    kept, run = [], EvaluationRun(library)
    for index, part_id in enumerate(part_ids):
        bundle = library.load(part_id)
        task.report(index / len(part_ids), f"moving {bundle.part.name}")
        if _ref_of(bundle, head.id) is None:
            raise InputError(f"{bundle.part.name} does not use {head.kind} {head.name}")
        save_part(library, run.evaluated(with_item(bundle, head.kind, item, ref)))
        kept.append(bundle.part.name)
    return tuple(kept)
