"""Tables as CSV (RFC 4180): pads and pins."""

import csv
import io
from collections.abc import Iterable, Sequence

from eider.geometry.lengths import format_length
from eider.model.pattern import Pattern
from eider.model.symbol import Symbol


def pads_csv(pattern: Pattern) -> str:
    """Every pad with its centre and size in mm."""
    header = ("number", "x mm", "y mm", "width mm", "height mm", "rotation deg", "shape", "hole mm", "layers")
    rows = (
        (
            pad.number,
            *(format_length(v, with_unit=False) for v in (pad.x, pad.y, pad.width, pad.height)),
            f"{pad.rotation:g}",
            pad.shape,
            format_length(pad.hole.width, with_unit=False) if pad.hole else "",
            pad.layers,
        )
        for pad in pattern.pads
    )
    return _csv(header, rows)


def pins_csv(symbol: Symbol) -> str:
    """The pin table."""
    header = ("number", "name", "type", "active low", "group", "description", "alternatives")
    rows = (
        (p.number, p.name, p.type, "yes" if p.active_low else "no", p.group, p.description, " / ".join(p.alternatives))
        for p in symbol.pins
    )
    return _csv(header, rows)


def _csv(header: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(header)
    writer.writerows(rows)
    return text.getvalue()
