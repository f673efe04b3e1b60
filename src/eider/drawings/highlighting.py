"""Highlights what is selected in a drawing, without drawing the rest again."""

from collections.abc import Collection

from msgspec.structs import replace

from eider.drawings.primitives import Area, DimensionLine, Disc, Drawing, Line, Plain, Primitive, Text
from eider.model.address import Address


def highlighted(drawing: Drawing, address: Address | None) -> Drawing:
    """The drawing with the dimension of an address in the accent colour; one that is wrong stays red."""
    if address is None:
        return drawing
    return Drawing(
        tuple(_in_hand(item) if _is_plain_dimension(item, address) else item for item in drawing.primitives),
        drawing.box,
    )


def _is_plain_dimension(item: Primitive, address: Address) -> bool:
    return isinstance(item, DimensionLine | Line) and item.role == "dimension" and item.address == address


def _in_hand(item: Primitive) -> Primitive:
    if isinstance(item, DimensionLine):
        return replace(item, role="hand", text=f"{item.text} {item.detail}".strip())
    return replace(item, role="hand") if isinstance(item, Line) else item


def lit(items: Collection[Plain], addresses: Collection[Address]) -> tuple[Plain, ...]:
    """What is to be painted over a drawing so that the things of some addresses stand out: pads and pins."""
    found: list[Plain] = []
    for item in items:
        if item.address not in addresses:
            continue
        if isinstance(item, Line) and item.role == "pin":
            found.append(replace(item, role="lit"))
        elif isinstance(item, Area) and item.role.startswith("copper"):
            found.append(Line((*item.outline, item.outline[0]), "lit", item.address))
        elif isinstance(item, Disc) and item.role.startswith("copper"):
            found.append(replace(item, role="lit"))
        elif isinstance(item, Text) and item.role == "pin number":
            found.append(replace(item, role="hand text"))
    return tuple(found)
