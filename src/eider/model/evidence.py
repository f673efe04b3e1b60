"""Where a value came from."""

from enum import StrEnum

import msgspec


class EvidenceKind(StrEnum):
    """The kinds of evidence; *assumed* is the weakest."""

    DATASHEET = "datasheet"
    CALCULATED = "calculated"
    SUPPLIER = "supplier"
    MEASURED = "measured"
    STANDARD = "standard"
    ENTERED = "entered"
    ELSEWHERE = "elsewhere"
    ASSUMED = "assumed"


class Evidence(msgspec.Struct, frozen=True, omit_defaults=True):
    """The place or the reason that a value rests on.

    `document` is the SHA-256 of a datasheet, `page` counts from 1, `box` is x0, y0, x1, y1 in PDF points from the
    lower left corner of the page, `text` what was read there or why the value is assumed; `agrees` what is printed
    beside it in another unit and says the same.
    """

    kind: EvidenceKind
    document: str = ""
    page: int = 0
    box: tuple[float, float, float, float] | None = None
    text: str = ""
    by: str = ""
    at: str = ""
    confirmed_by: str = ""
    agrees: str = ""
