"""A design as its list of parts told it: which parts of the library it has, in which revision, and where."""

import msgspec

from eider.model.item_ref import ItemId


class DesignPart(msgspec.Struct, frozen=True, omit_defaults=True):
    """A part of a design: the revision that was the newest when the list was kept, and its references."""

    revision: int
    references: tuple[str, ...] = ()


class Design(msgspec.Struct, frozen=True):
    """The parts of a design by their ids; the list that told them, who kept it, and when (ISO 8601, UTC)."""

    file: str
    by: str
    at: str
    parts: dict[ItemId, DesignPart]
