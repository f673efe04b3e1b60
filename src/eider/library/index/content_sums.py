"""What an item holds, as a sum: items that say the same have one, whatever they are called and whoever made them."""

import hashlib
from collections.abc import Sequence

from eider.model.codec import decode
from eider.model.footprint import Footprint
from eider.model.pattern import Pad
from eider.model.symbol import Pin, Symbol

# Lengths are compared in steps of so many mm.
STEP = 0.001


def lands_sum(pads: Sequence[Pad]) -> str:
    """The sum of lands: number, place, size and form of each to a micrometre; empty where there are none.

    Openings follow the rulebook and are not compared.
    """
    figures = sorted(
        (pad.number, pad.shape, pad.plated, *(round(v / STEP) + 0 for v in (pad.x, pad.y, *_size(pad))), *_hole(pad))
        for pad in pads
    )
    return _sum(figures) if figures else ""


def _size(pad: Pad) -> tuple[float, float, float]:
    """Width and height as the pad lies, and its corners."""
    x0, y0, x1, y1 = pad.box
    return x1 - x0, y1 - y0, pad.corner_radius


def _hole(pad: Pad) -> tuple[int, int]:
    return (round(pad.hole.width / STEP), round(pad.hole.height / STEP)) if pad.hole else (0, 0)


def pins_sum(pins: Sequence[Pin]) -> str:
    """The sum of a pin table: number, name and type of each; empty where no pin has a name."""
    rows = sorted((pin.number, pin.name, pin.type) for pin in pins)
    return _sum(rows) if any(pin.name for pin in pins) else ""


def content_sum(kind: str, data: bytes, path: str) -> str:
    """The sum of a footprint's lands or a symbol's pins as they are in a file; empty for other kinds.

    Raises:
        DocumentError: the file is no such document.
    """
    if kind == "footprint":
        pattern = decode(data, Footprint, path).pattern
        return lands_sum(pattern.pads) if pattern else ""
    return pins_sum(decode(data, Symbol, path).pins) if kind == "symbol" else ""


def _sum(rows: object) -> str:
    return hashlib.sha256(repr(rows).encode()).hexdigest()[:20]
