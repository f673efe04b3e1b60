"""What a file from elsewhere does not say, and the user said of its source: its unit, and what its layers are for."""

from typing import Literal

import msgspec

Unit = Literal["", "mm", "mil", "in", "um"]
MM_OF: dict[str, float] = {"mm": 1.0, "mil": 0.0254, "in": 25.4, "um": 0.001}


class ReadingHints(msgspec.Struct, frozen=True):
    """How files of one source are read.

    Attributes:
        unit: that of plain numbers where a file names none; empty: mm.
        layers: what a layer is for, by its name: one of `layered_shapes.ROLES`, or `none` to leave it out.
    """

    unit: Unit = ""
    layers: dict[str, str] = {}

    @property
    def scale(self) -> float:
        """Mm of a plain number."""
        return MM_OF[self.unit or "mm"]


NO_HINTS = ReadingHints()
