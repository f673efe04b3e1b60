"""Something in a draft that a person has to look at: what was read, why it is doubtful, and where it stands."""

import msgspec

from eider.geometry.plane import Box


class Doubt(msgspec.Struct, frozen=True, omit_defaults=True):
    """A doubt of a draft.

    Attributes:
        address: of the value, as text; `sheet.family` or `source` where it is about more than one value.
        reading: what was taken; empty where nothing was.
        reason: why it may be wrong.
        document: SHA-256 of the datasheet in which it stands; page from 1, box in PDF points.
    """

    address: str
    reading: str
    reason: str
    document: str = ""
    page: int = 0
    box: Box | None = None
