"""Pads from a table: a heading says which column is what and in which unit, a line is a pad."""

import re
from collections.abc import Mapping, Sequence
from typing import NamedTuple, cast

from eider.errors import InputError
from eider.exchange.json_files import within_a_metre
from eider.geometry.lengths import parse_length
from eider.model.pattern import Hole, Pad, PadShape

# Headings by which a column is known, in small letters, without unit and punctuation.
_COLUMNS: Mapping[str, tuple[str, ...]] = {
    "number": ("number", "pad", "pad number", "pad no", "pin", "pin no", "pin number", "no", "name"),
    "x": ("x", "x centre", "x center", "centre x", "center x", "pos x", "x position"),
    "y": ("y", "y centre", "y center", "centre y", "center y", "pos y", "y position"),
    "width": ("width", "x size", "size x", "w", "dx"),
    "height": ("height", "y size", "size y", "h", "dy", "length"),
    "rotation": ("rotation", "angle", "rot"),
    "shape": ("shape", "form"),
    "corner": ("corner", "corner radius", "radius"),
    "hole": ("hole", "drill", "hole diameter"),
    "slot": ("slot", "slot length", "hole height"),
    "plated": ("plated", "plating"),
    "layers": ("layers", "layer", "side"),
}
_NEEDED = ("number", "x", "y", "width", "height")
_SHAPES = {"rect": "rectangle", "rectangular": "rectangle", "square": "rectangle", "round": "circle", "obround": "oval"}
_UNITS = ("mm", "mil", "mils", "in", "inch", "um", "µm", "μm")
MOST_PADS = 20_000


class PadTable(NamedTuple):
    """The pads of a table in mm, and the lines that were not understood."""

    pads: tuple[Pad, ...]
    log: tuple[str, ...]


class _Column(NamedTuple):
    place: int
    unit: str


def is_pad_table(rows: Sequence[Sequence[str]]) -> bool:
    """Whether the first row names the columns of pads."""
    return bool(rows) and all(name in _columns(rows[0]) for name in _NEEDED)


def read_pad_table(rows: Sequence[Sequence[str]], unit: str = "mm") -> PadTable:
    """The pads of a table with headings; `unit` is that of columns that say none.

    Raises:
        InputError: a column that is needed is missing, or there are too many lines.
    """
    columns = _columns(rows[0] if rows else (), unit)
    missing = [name for name in _NEEDED if name not in columns]
    if missing:
        raise InputError(f"the table has no column for {', '.join(missing)} of its pads")
    if len(rows) > MOST_PADS:
        raise InputError(f"the table has more than {MOST_PADS:,} lines; that is not a land pattern")
    pads, log = [], []
    for line, row in enumerate(rows[1:], start=2):
        cells = {name: row[c.place].strip() if c.place < len(row) else "" for name, c in columns.items()}
        if not any(cells.values()):
            continue
        try:
            pads.append(_pad(cells, columns))
        except InputError as fault:
            log.append(f"line {line}: {fault}")
    return PadTable(tuple(pads), tuple(log))


def _columns(header: Sequence[str], unit: str = "mm") -> dict[str, _Column]:
    found: dict[str, _Column] = {}
    for place, heading in enumerate(header):
        words = re.sub(r"[^\w µμ]+", " ", heading.casefold()).replace("_", " ").split()
        own = next((word for word in words if word in _UNITS), "")
        key = " ".join(word for word in words if word not in (*_UNITS, "deg"))
        name = next((known for known, headings in _COLUMNS.items() if key in headings), "")
        if name and name not in found:
            found[name] = _Column(place, {"mils": "mil", "inch": "in", "µm": "um", "μm": "um"}.get(own, own) or unit)
    return found


def _pad(cells: Mapping[str, str], columns: Mapping[str, _Column]) -> Pad:
    x, y, width, height = (_length(cells, columns, name) for name in ("x", "y", "width", "height"))
    if width <= 0 or height <= 0:
        raise InputError(f"pad {cells['number'] or 'without a number'} has no size")
    wanted = cells.get("shape", "").casefold() or "rectangle"
    shape = _SHAPES.get(wanted, wanted)
    if shape not in ("rectangle", "rounded", "oval", "circle"):
        raise InputError(f"pad {cells['number']}: the shape “{wanted}” is not one of a table")
    hole, slot, corner = (
        _length(cells, columns, name) if cells.get(name) else 0.0 for name in ("hole", "slot", "corner")
    )
    return Pad(
        cells["number"],
        x,
        y,
        width,
        height,
        rotation=_degrees(cells.get("rotation", "")),
        shape=cast(PadShape, shape),
        corner_radius=corner,
        hole=Hole(hole, slot or hole) if hole > 0 else None,
        plated=cells.get("plated", "").casefold() not in ("no", "false", "0", "unplated"),
        layers={"": "all" if hole > 0 else "top"}.get(cells.get("layers", ""), cells.get("layers", "")),
    )


def _length(cells: Mapping[str, str], columns: Mapping[str, _Column], name: str) -> float:
    return within_a_metre(parse_length(cells[name], unit=columns[name].unit), name)


def _degrees(text: str) -> float:
    if not text:
        return 0.0
    if not re.fullmatch(r"[-+]?\d{1,4}(\.\d{1,6})?", text):
        raise InputError(f"“{text[:20]}” is not an angle in degrees")
    return float(text)
