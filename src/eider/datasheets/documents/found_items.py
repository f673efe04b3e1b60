"""What is found in a datasheet: tables and figures, each of a kind, at a place, for a package."""

from collections.abc import Mapping
from typing import Literal

import msgspec

from eider.geometry.plane import Box

FoundKind = Literal["pins", "dimensions", "outline", "lands", "ordering", "family", "ratings", "pinout"]
FOUND_WORDS: Mapping[FoundKind, str] = {
    "pins": "table of pins",
    "dimensions": "table of dimensions",
    "outline": "outline drawing",
    "lands": "suggested lands",
    "ordering": "ordering table",
    "family": "family table",
    "ratings": "electrical table",
    "pinout": "pinout figure",
}
# Tables that are read row by row; those of dimensions are of one package or of a family.
DIMENSIONS: tuple[FoundKind, ...] = ("dimensions", "family")
TABLES_READ: tuple[FoundKind, ...] = ("pins", *DIMENSIONS)


class FoundItem(msgspec.Struct, frozen=True):
    """A table or figure of a document: what it is, where (PDF points), for which package, and how sure that is.

    `confidence` is from 0 to 1; `rows` counts what was read of it. Lands are suggested in tables and in figures.
    """

    kind: FoundKind
    page: int
    box: Box
    package: str
    confidence: float
    rows: int
    is_figure: bool = False


def rounded_box(box: Box) -> Box:
    """A box to a tenth of a point."""
    x0, y0, x1, y1 = (round(value, 1) for value in box)
    return x0, y0, x1, y1
