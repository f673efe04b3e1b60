"""A review: someone's working copy that others look at before it is released."""

from typing import Literal

import msgspec

from eider.model.address import Address
from eider.model.item_ref import ItemId

REVIEW_FORMAT = "eider-review/1"
ReviewState = Literal["requested", "declined", "approved"]


class ReviewNote(msgspec.Struct, frozen=True):
    """What a reviewer says of a place of the part (none: of the whole), who and when (ISO 8601, UTC)."""

    text: str
    by: str
    at: str
    address: Address | None = msgspec.field(name="place", default=None)


class ReviewEvent(msgspec.Struct, frozen=True):
    """A step of a review: what became of it, by whom, when, and the note."""

    state: ReviewState
    by: str
    email: str
    at: str
    note: str


class Review(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """The review of one part: from which revision it was changed (0: none), its steps, and notes on places."""

    format: str = REVIEW_FORMAT
    part: ItemId
    name: str
    revision: int
    events: tuple[ReviewEvent, ...]
    notes: tuple[ReviewNote, ...] = ()

    @property
    def state(self) -> ReviewState:
        """What became of it last."""
        return self.events[-1].state

    @property
    def requested(self) -> ReviewEvent:
        """The newest request."""
        return next(event for event in reversed(self.events) if event.state == "requested")
