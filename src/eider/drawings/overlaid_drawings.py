"""Two drawings of one kind laid over each other: what only one of them has stands out by colour and by line."""

from collections.abc import Collection
from typing import Any, Literal

from msgspec.structs import asdict, replace

from eider.drawings.primitives import Area, DimensionLine, Disc, Drawing, Line, Plain, Primitive, Text

Shown = Literal["both", "left", "right"]
# Figures that differ by less (mm) are the same.
SAME = 0.0005
# Lines that follow the size of a drawing and say nothing.
_BACKGROUND = frozenset({"centre", "board"})


def overlaid(left: Drawing, right: Drawing, shown: Shown = "both") -> Drawing:
    """One of two drawings, or both over each other, in one box so that nothing moves between the three.

    Of both, what they have in common is drawn pale; what only the left one has is dashed, with − before texts of its
    own, and what only the right one has is drawn full and wide, with +. Dimensions are those of the right one;
    those that differ stand out.
    """
    box = (
        min(left.box[0], right.box[0]),
        min(left.box[1], right.box[1]),
        max(left.box[2], right.box[2]),
        max(left.box[3], right.box[3]),
    )
    if shown != "both":
        return Drawing((left if shown == "left" else right).primitives, box)
    of_left, of_right = ({_key(item): item for item in drawing.primitives} for drawing in (left, right))
    common = [_pale(item) for key, item in of_right.items() if key in of_left]
    # A text that is on both sides, elsewhere or higher, was neither added nor removed.
    words = _words(left) & _words(right)
    gone = [_marked(item, "only left", "−", words) for key, item in of_left.items() if key not in of_right]
    new = [_marked(item, "only right", "+", words) for key, item in of_right.items() if key not in of_left]
    # Dashes over wide lines: the other way round small differences would be covered.
    return Drawing((*common, *(item for item in (*new, *gone) if item is not None)), box)


def with_former(now: Drawing, before: Drawing) -> Drawing:
    """The present drawing, with dashed lines where the former one had something else; its texts are left out."""
    keys = {_key(item) for item in now.primitives}
    gone = (item for item in before.primitives if _key(item) not in keys and not isinstance(item, Text | DimensionLine))
    return now.with_extra(made for item in gone if (made := _marked(item, "only left", "", ())) is not None)


def is_same_drawing(left: Drawing, right: Drawing) -> bool:
    """Whether nothing that is drawn differs."""
    return {_key(item) for item in left.primitives} == {_key(item) for item in right.primitives}


def _key(item: Primitive) -> tuple[object, ...]:
    """What is drawn, whatever it stands for."""
    fields = {name: _rounded(value) for name, value in asdict(item).items() if name != "address"}
    return (type(item).__name__, *fields.values())


def _rounded(value: Any) -> object:
    if isinstance(value, float):
        return round(value / SAME)
    return tuple(_rounded(v) for v in value) if isinstance(value, tuple) else value


def _pale(item: Primitive) -> Primitive:
    """What both have, as a background; lines keep no more than a hair, so that what differs is seen through it."""
    if isinstance(item, Text):
        return replace(item, role="in both text")
    if isinstance(item, Area | Disc):
        return replace(item, role="in both")
    return replace(item, role="in both", width=0.0) if isinstance(item, Line) else item


def _words(drawing: Drawing) -> set[str]:
    return {item.text for item in drawing.primitives if isinstance(item, Text)}


def _marked(item: Primitive, role: str, sign: str, on_both: Collection[str]) -> Primitive | None:
    """What only one has; of dimensions only those of the right one are drawn, as two would lie on each other."""
    if isinstance(item, Line) and item.role in _BACKGROUND:
        return _pale(item)
    if isinstance(item, Text):
        text = item.text if item.text in on_both else f"{sign}{item.text}"
        return replace(item, role=f"{role} text", text=text)
    if isinstance(item, DimensionLine):
        return replace(item, role="hand", optional=False) if role == "only right" else None
    if isinstance(item, Area):
        return Line((*item.outline, item.outline[0]), role, item.address)
    if isinstance(item, Line):
        return replace(item, role=role, width=0.0)
    return replace(item, role=role) if isinstance(item, Plain) else item
