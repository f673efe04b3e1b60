"""Items that several parts use: taken over from one, followed to a newer revision, or made a part's own."""

from typing import Literal

import msgspec

from eider.commands.parts.new_parts import new_id
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.item_ref import Ref
from eider.model.symbol import Symbol

SharedKind = Literal["symbol", "body"]
SharedItem = Symbol | Body
replace = msgspec.structs.replace


def shared_ref(bundle: Bundle, kind: SharedKind) -> Ref:
    """How the part refers to the item."""
    return bundle.part.symbol if kind == "symbol" else bundle.part.body


def make_exclusive(bundle: Bundle, kind: SharedKind) -> Bundle:
    """An item of the part's own in place of the one that it shares with others: a copy that begins again."""
    item: SharedItem = bundle.symbol if kind == "symbol" else bundle.body
    own = replace(item, id=new_id())
    return use_item(bundle, kind, own, replace(shared_ref(bundle, kind), id=own.id, revision=None))


def use_item(bundle: Bundle, kind: SharedKind, item: SharedItem, ref: Ref) -> Bundle:
    """A released item, which other parts may use as well, in place of the part's own."""
    return replace(bundle, part=replace(bundle.part, **{kind: ref}), **{kind: item})
