"""What there is to know of an item that several parts use: who else uses it, and whether it has a newer revision."""

import msgspec

from eider.commands.parts.shared_items import SharedItem, SharedKind
from eider.errors import NotFoundError
from eider.library import Library
from eider.library.git.revision_trailers import ItemRevision
from eider.model.body import Body
from eider.model.item_ref import Ref
from eider.model.symbol import Symbol


class SharedItemNews(msgspec.Struct, frozen=True):
    """The other parts that use an item, by name; and its newest revision, where the part does not use it yet."""

    users: tuple[str, ...] = ()
    newer: ItemRevision | None = None


def shared_item_news(library: Library, ref: Ref, part_name: str) -> SharedItemNews:
    """Look in the library; `part_name` is the part that asks."""
    history = library.history(ref.id)
    users = tuple(name for name in library.index.users_of(ref.id) if name != part_name)
    is_behind = bool(history and ref.revision and history[-1].revision > ref.revision)
    return SharedItemNews(users, history[-1] if is_behind else None)


def released_item(library: Library, kind: SharedKind, item_id: str, revision: int) -> tuple[SharedItem, Ref]:
    """A released revision of an item, and how a part refers to it.

    Raises:
        NotFoundError: there is no such revision. LibraryError: it cannot be read.
    """
    entry = library.revision(item_id, revision)
    if entry is None:
        raise NotFoundError(f"{kind} {item_id} has no revision {revision} in {library.folder}; fetch it with git")
    item = library.read_item(Symbol, entry) if kind == "symbol" else library.read_item(Body, entry)
    return item, Ref(item_id, item.name, revision)
