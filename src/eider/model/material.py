"""What a body is made of: the materials of a library."""

from typing import Annotated, Literal, get_args

import msgspec

MaterialClass = Literal["metal", "plastic", "ceramic", "glass", "ink", "board"]
Finish = Literal["matt", "satin", "gloss"]
CLASSES: tuple[MaterialClass, ...] = get_args(MaterialClass)
FINISHES: tuple[Finish, ...] = get_args(Finish)
HexColour = Annotated[str, msgspec.Meta(pattern="^#[0-9A-Fa-f]{6}$")]


class Material(msgspec.Struct, frozen=True):
    """One material: its colour (`#RRGGBB`, sRGB of IEC 61966-2-1), how it shines, and what it is.

    Metal stays solid where a body is shown see-through.
    """

    colour: HexColour
    finish: Finish = "matt"
    kind: MaterialClass = msgspec.field(default="plastic", name="class")
