"""A land pattern: the result of a footprint's recipe, and the form in which any pattern is checked."""

from typing import Literal

import msgspec

from eider.geometry.shapes import Box, Outline, Point, bounds, rotated

Level = Literal["A", "B", "C"]
LEVELS: tuple[Level, ...] = ("A", "B", "C")
DrawnLayer = Literal["silkscreen", "assembly"]
KeptOut = Literal["copper", "vias", "parts"]
PadShape = Literal["rectangle", "rounded", "oval", "circle", "outline"]


class Hole(msgspec.Struct, frozen=True, omit_defaults=True):
    """A drilled hole, or a slot where width and height differ (mm, finished size).

    `x`, `y` are its centre from that of its pad, before the pad is turned.
    """

    width: float
    height: float
    x: float = 0.0
    y: float = 0.0

    @property
    def reach(self) -> float:
        """How far it reaches from its centre (mm): a slot by half its length."""
        return max(self.width, self.height) / 2


class Pad(msgspec.Struct, frozen=True):
    """One land: centre, size before rotation (width along x), degrees counter-clockwise.

    `mask` and `paste` hold the outlines of the openings, in the coordinates of the pattern.
    """

    number: str
    x: float
    y: float
    width: float
    height: float
    rotation: float = 0.0
    shape: PadShape = "rectangle"
    corner_radius: float = 0.0
    hole: Hole | None = None
    plated: bool = True
    mask: tuple[Outline, ...] = ()
    paste: tuple[Outline, ...] = ()
    layers: str = "top"
    outline: Outline = ()

    @property
    def hole_centre(self) -> Point:
        """Where the hole stands in the pattern; the centre of a pad without one."""
        if self.hole is None or (self.hole.x == 0 and self.hole.y == 0):
            return self.x, self.y
        ((x, y),) = rotated([(self.hole.x, self.hole.y)], self.rotation)
        return self.x + x, self.y + y

    @property
    def box(self) -> Box:
        """The box round the pad, turned as it stands on the board."""
        if self.shape == "outline":
            x0, y0, x1, y1 = bounds(rotated(self.outline, self.rotation))
            return self.x + x0, self.y + y0, self.x + x1, self.y + y1
        if self.rotation % 180 == 0:
            w, h = self.width / 2, self.height / 2
        elif self.rotation % 90 == 0:
            w, h = self.height / 2, self.width / 2
        else:
            half_w, half_h = self.width / 2, self.height / 2
            return bounds(
                rotated(
                    [
                        (self.x - half_w, self.y - half_h),
                        (self.x + half_w, self.y - half_h),
                        (self.x + half_w, self.y + half_h),
                        (self.x - half_w, self.y + half_h),
                    ],
                    self.rotation,
                    (self.x, self.y),
                )
            )
        return self.x - w, self.y - h, self.x + w, self.y + h


class PatternStroke(msgspec.Struct, frozen=True):
    """A line of silkscreen or assembly drawing; `role` tells what it is: body, mark or text."""

    points: Outline
    width: float
    role: str = "body"


class PatternText(msgspec.Struct, frozen=True):
    """A text of silkscreen or assembly drawing about its middle (mm); `REF` stands for the reference designator."""

    text: str
    x: float
    y: float
    height: float
    layer: DrawnLayer
    angle: float = 0.0


class KeepOut(msgspec.Struct, frozen=True):
    """An area in which there is to be no copper, no via or no other part."""

    outline: Outline
    of: KeptOut


class Goals(msgspec.Struct, frozen=True):
    """Solder-joint goals per side in mm, for toe (outer), heel (inner) and side fillet."""

    toe: float
    heel: float
    side: float


class Derivation(msgspec.Struct, frozen=True):
    """How the lands of one group came about; lengths in mm, names as in the solder-joint equations.

    `inputs` are the lengths that went in, `notes` the limits that acted after the equations.
    """

    group: str
    numbers: tuple[str, ...]
    Z: float
    G: float
    X: float
    Z_raw: float
    G_raw: float
    X_raw: float
    goals: Goals
    inputs: dict[str, float]
    formulas: tuple[str, ...]
    notes: tuple[str, ...] = ()


class SizeDerivation(msgspec.Struct, frozen=True):
    """How lands came about that follow from no joint equation: thermal lands, balls, holes (mm).

    `values` are the lengths that came out, by name; `formulas` the words of the standard with the numbers put in.
    """

    group: str
    numbers: tuple[str, ...]
    values: dict[str, float]
    inputs: dict[str, float]
    formulas: tuple[str, ...]
    notes: tuple[str, ...] = ()


class Via(msgspec.Struct, frozen=True):
    """A plated hole in a thermal land, which leads heat into the board: centre and drill in mm."""

    number: str
    x: float
    y: float
    drill: float


class Pattern(msgspec.Struct, frozen=True):
    """A complete land pattern; the origin is the centre of the package unless the recipe says otherwise.

    The package lies in it turned by `turn` degrees counter-clockwise, after it was `mirrored` left to right.
    """

    name: str
    level: Level
    family: str
    pads: tuple[Pad, ...]
    courtyard: Outline = ()
    silkscreen: tuple[PatternStroke, ...] = ()
    assembly: tuple[PatternStroke, ...] = ()
    derivation: tuple[Derivation, ...] = ()
    sizes: tuple[SizeDerivation, ...] = ()
    vias: tuple[Via, ...] = ()
    texts: tuple[PatternText, ...] = ()
    keep_outs: tuple[KeepOut, ...] = ()
    turn: int = 0
    mirrored: bool = False
