"""The pinout: the package with every pin's name at its lead, as a datasheet draws it; the place of each in words."""

from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from msgspec.structs import replace

from eider.drawings.primitives import Area, Disc, Drawing, Horizontal, Primitive, Text
from eider.evidence.pin_pads import pads_by_pin
from eider.geometry.plane import Box, box_outline, join_boxes
from eider.model.address import PinAddress
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.packages.family import Terminal
from eider.packages.registry import family_of

Side = Literal["left", "right", "top", "bottom", "grid"]
# Names are as high as this share of the smallest distance of two leads, and no higher than so many mm.
SHARE, HIGHEST = 0.62, 1.2
# The mark lies so far behind the lead of the first pin, in heights of a name.
BEHIND = 2.6
# How far a name stands off its lead, and how wide a letter is, as shares of its height.
OFF, LETTER = 0.5, 0.98
# Of a grid each position is drawn so large, as a share of its pitch, and names fill so much of it.
CELL, FILLED = 0.88, 0.86
# Number and name of a cell together are so many heights of a text high. Below a figure's own name, names stand so far
# from the middle, and are so high, as shares of the cell.
IN_CELL, LOW, LOWEST = 2.6, 0.36, 0.2
# What is written beside a drawing is so high, as a share of its width.
CAPTION = 0.03
GROUNDS = ("GND", "VSS", "AGND", "DGND", "PGND", "EP", "PAD", "VEE", "SH")
_KINDS = {
    "power input": "supply",
    "power output": "supply",
    "input": "input",
    "output": "output",
    "tri-state": "output",
    "open collector": "output",
    "open emitter": "output",
    "bidirectional": "bidirectional",
}
ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


class PlacedTerminal(NamedTuple):
    """A terminal with the side of the package on which it stands, and its place in the row from the top or the left."""

    terminal: Terminal
    side: Side
    place: int
    of: int


def placed_terminals(terminals: Sequence[Terminal], body: Box) -> tuple[PlacedTerminal, ...]:
    """The terminals by the sides of the body; those of a grid, and pads under the body, stand on none."""
    sides: dict[Side, list[Terminal]] = {"left": [], "right": [], "top": [], "bottom": [], "grid": []}
    for terminal in terminals:
        sides[_side_of(terminal, body)].append(terminal)
    found = []
    for side, row in sides.items():
        upright = side in ("left", "right")
        ordered = sorted(row, key=lambda t: -_middle(t)[1] if upright else _middle(t)[0])
        found += [PlacedTerminal(t, side, place, len(row)) for place, t in enumerate(ordered)]
    return tuple(found)


def _middle(terminal: Terminal) -> tuple[float, float]:
    x0, y0, x1, y1 = terminal.whole
    return (x0 + x1) / 2, (y0 + y1) / 2


def _side_of(terminal: Terminal, body: Box) -> Side:
    """The side whose edge the terminal reaches or crosses; none where it lies inside of the body."""
    x0, y0, x1, y1 = terminal.whole
    bx0, by0, bx1, by1 = body
    near = 0.06 * min(bx1 - bx0, by1 - by0)
    beyond: dict[Side, float] = {"left": bx0 - x0, "right": x1 - bx1, "bottom": by0 - y0, "top": y1 - by1}
    side = max(beyond, key=lambda name: beyond[name])
    if beyond[side] >= -near:
        # In a corner the longer way of the terminal tells on which side it stands.
        flat = (x1 - x0) >= (y1 - y0)
        corner = [name for name, by in beyond.items() if by >= -near]
        # One that reaches across the whole body is at the end that is left.
        across = {name for pair in (("left", "right"), ("top", "bottom")) if set(pair) <= set(corner) for name in pair}
        corner = [name for name in corner if name not in across] or corner
        if len(corner) == 1:
            return corner[0]
        if len(corner) > 1:
            return next((name for name in corner if (name in ("left", "right")) == flat), side)
        return side
    return "grid"


def place_words(bundle: Bundle) -> Mapping[str, str]:
    """Where each pin is, in words: “right row, first from the bottom”; of a grid its row and column.

    Raises:
        SheetError: the package sheet is not complete.
    """
    placed = {p.terminal.number: p for p in _placed(bundle)[0]}
    found = {}
    for pin, pads in pads_by_pin(bundle).items():
        words = [_words(placed[pad]) for pad in pads if pad in placed]
        found[pin] = "; ".join(words) if words else "no terminal"
    return found


def _words(placed: PlacedTerminal) -> str:
    number = placed.terminal.number
    letters = number.rstrip("0123456789")
    if placed.side == "grid":
        if letters and number[len(letters) :]:
            return f"row {letters}, column {number[len(letters) :]}"
        return "under the body"
    row = f"{placed.side} row"
    if placed.of == 1:
        return f"{row}, alone"
    first, last = ("top", "bottom") if placed.side in ("left", "right") else ("left", "right")
    from_end = placed.of - 1 - placed.place
    at, end = (placed.place, first) if placed.place <= from_end else (from_end, last)
    ordinal = ORDINALS[at] if at < len(ORDINALS) else f"{at + 1}th"
    return f"{row}, {ordinal} from the {end}"


def _placed(bundle: Bundle) -> tuple[tuple[PlacedTerminal, ...], Box]:
    sheet = bundle.sheet
    family = family_of(sheet.family)
    dims = family.dims(sheet)
    body = family.lands(sheet, dims).body
    return placed_terminals(family.terminals(sheet, dims), body), body


def pinout_drawing(bundle: Bundle, *, from_below: bool = False) -> Drawing:
    """The package from above, or seen from below, with number and name of every pin at its lead.

    Raises:
        SheetError: the package sheet is not complete.
    """
    placed, body = _placed(bundle)
    pads_of = pads_by_pin(bundle)
    pin_of = {pad: pin for pin in bundle.symbol.pins for pad in pads_of[pin.number]}
    sign = -1.0 if from_below else 1.0
    nearest = _nearest([p.terminal for p in placed])
    height = min(SHARE * nearest, HIGHEST)
    placed = tuple(_as_cell(p, CELL * nearest) for p in placed)
    primitives: list[Primitive] = [Area(_flipped(body, sign), "body")]
    boxes = [body]
    for at in placed:
        pin = pin_of.get(at.terminal.number)
        primitives.append(Area(_flipped(at.terminal.whole, sign), role_of(pin), _address(pin)))
        texts = list(_labels(at, pin, height, sign))
        primitives += texts
        boxes += [_flip_box(at.terminal.whole, sign), *(_text_box(text) for text in texts)]
    first = next((p for p in placed if p.terminal.number in ("1", "A1")), None)
    if first is not None:
        x, y = _mark_at(first, height)
        primitives.append(Disc((sign * x, y), height / 3, "mark"))
    if from_below:
        box = join_boxes(boxes)
        small = CAPTION * (box[2] - box[0])
        primitives.append(Text(((box[0] + box[2]) / 2, box[1] - 1.5 * small), "seen from below", small, "note soft"))
        boxes.append((box[0], box[1] - 2.5 * small, box[2], box[3]))
    return Drawing(tuple(primitives), join_boxes(boxes))


def _mark_at(first: PlacedTerminal, height: float) -> tuple[float, float]:
    """The middle of the mark: behind the number of the first pin, as seen from its side."""
    x0, y0, x1, y1 = first.terminal.whole
    x, y = _middle(first.terminal)
    behind = BEHIND * height
    places = {"left": (x1 + behind, y), "right": (x0 - behind, y), "top": (x, y0 - behind), "bottom": (x, y1 + behind)}
    # Of a grid: outside of its first position, towards the corner.
    return places.get(first.side, (x0 - height / 2, y1 + height / 2))


def role_of(pin: Pin | None) -> str:
    """How a terminal is drawn by what its pin is: supply, ground, input, output, both ways, or anything else."""
    if pin is None:
        return "terminal"
    if pin.type == "power input" and pin.name.upper().startswith(GROUNDS):
        return "pinout ground"
    return f"pinout {_KINDS.get(pin.type, 'other')}"


def _address(pin: Pin | None) -> PinAddress | None:
    return PinAddress(pin.number) if pin else None


def _flip_box(box: Box, sign: float) -> Box:
    return box if sign > 0 else (-box[2], box[1], -box[0], box[3])


def _flipped(box: Box, sign: float) -> tuple[tuple[float, float], ...]:
    return box_outline(_flip_box(box, sign))


def _nearest(terminals: Sequence[Terminal]) -> float:
    """How far the nearest neighbours are apart (mm); a usual distance where there are none."""
    middles = [_middle(t) for t in terminals]
    nearest = HIGHEST / SHARE
    for index, (x, y) in enumerate(middles):
        # Neighbours follow each other in the order of the family; a few beside are enough.
        for u, v in middles[index + 1 : index + 4]:
            apart = max(abs(x - u), abs(y - v))
            nearest = min(nearest, apart) if apart > 0 else nearest
    return nearest


def _as_cell(placed: PlacedTerminal, size: float) -> PlacedTerminal:
    """A position of a grid as large as its name needs; other terminals as they are."""
    terminal = placed.terminal
    if placed.side != "grid" or terminal.number.isdecimal():
        return placed
    x, y = _middle(terminal)
    half = max(size, terminal.whole[2] - terminal.whole[0]) / 2
    return placed._replace(terminal=replace(terminal, whole=(x - half, y - half, x + half, y + half)))


def _labels(at: PlacedTerminal, pin: Pin | None, height: float, sign: float) -> Sequence[Primitive]:
    """The number inside at the lead and the name outside of it; of a grid one above the other."""
    x0, y0, x1, y1 = _flip_box(at.terminal.whole, sign)
    x, y = (x0 + x1) / 2, (y0 + y1) / 2
    number, name = at.terminal.number, pin.drawn if pin else ""
    overbar, address = bool(pin and pin.active_low), _address(pin)
    side = at.side
    if sign < 0 and side in ("left", "right"):
        side = "right" if side == "left" else "left"
    if side == "grid":
        small = min(height, FILLED * (y1 - y0) / IN_CELL)
        if not name:
            return (Text((x, y), number, small, "pinout number", address),)
        fitted = min(small, FILLED * (x1 - x0) / (LETTER * len(name)))
        return (
            Text((x, y + 0.6 * small), number, small, "pinout number", address),
            Text((x, y - 0.6 * small), name, fitted, "pin name", address, overbar=overbar),
        )
    off = OFF * height
    ways: dict[str, tuple[float, float, float, Horizontal, float, float]] = {
        "left": (x0 - off, y, 0.0, "right", x1 + off, y),
        "right": (x1 + off, y, 0.0, "left", x0 - off, y),
        "top": (x, y1 + off, 90.0, "left", x, y0 - off),
        "bottom": (x, y0 - off, 90.0, "right", x, y1 + off),
    }
    ax, ay, angle, end, nx, ny = ways[side]
    inner: Horizontal = {"left": "left", "right": "right", "top": "right", "bottom": "left"}[side]  # type: ignore[assignment]
    return (
        Text((ax, ay), name or "–", height, "pin name", address, end, angle=angle, overbar=overbar),
        Text((nx, ny), number, 0.85 * height, "pin number", address, inner, angle=angle),
    )


def _text_box(primitive: Primitive) -> Box:
    """About the box of a label, by the width of its letters."""
    if not isinstance(primitive, Text):
        raise TypeError("only labels have a text")
    (x, y), long = primitive.at, LETTER * primitive.height * len(primitive.text)
    half = primitive.height / 2
    low = {"left": 0.0, "middle": -long / 2, "right": -long}[primitive.horizontal]
    if primitive.angle:
        return x - half, y + low, x + half, y + low + long
    return x + low, y - half, x + low + long, y + half


def names_beside(drawing: Drawing, place: Box) -> Drawing:
    """The pinout with its names outside of a box (mm), so that a figure that is laid there leaves them to be read.

    In the positions of a grid names are at the lower edge, and the numbers are left to the figure.
    """
    named = {p.address: p for p in drawing.primitives if isinstance(p, Text) and p.role == "pinout number"}
    primitives = tuple(
        _beside(p, place, named.get(p.address)) if isinstance(p, Text) else p
        for p in drawing.primitives
        if not (isinstance(p, Text) and p.role == "pinout number" and p.address is not None)
    )
    texts = [_text_box(p) for p in primitives if isinstance(p, Text)]
    return Drawing(primitives, join_boxes([drawing.box, place, *texts]))


def _beside(text: Text, place: Box, number: Text | None) -> Text:
    if text.role != "pin name":
        return text
    if number is not None:
        # The number stands 0.6 of its height above the middle of its cell, of which it fills a known share.
        cell, middle = number.height * IN_CELL / FILLED, number.at[1] - 0.6 * number.height
        return replace(text, at=(text.at[0], middle - LOW * cell), height=min(text.height, LOWEST * cell))
    axis, off = (1 if text.angle else 0), OFF * text.height
    at = list(text.at)
    at[axis] = min(at[axis], place[axis] - off) if text.horizontal == "right" else max(at[axis], place[axis + 2] + off)
    return replace(text, at=(at[0], at[1]))
