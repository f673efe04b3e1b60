"""A land pattern: the result of a footprint's recipe, and the form in which any pattern is checked."""

from typing import Literal

import msgspec

from eider.geometry.plane import Box, Outline, Point, bounds, rotated

Level = Literal["A", "B", "C"]
LEVELS: tuple[Level, ...] = ("A", "B", "C")
DrawnLayer = Literal["silkscreen", "assembly"]
KeptOut = Literal["copper", "vias", "parts"]
PadShape = Literal["rectangle", "rounded", "oval", "circle", "outline"]


class Hole(msgspec.Struct, frozen=True, gc=False, omit_defaults=True):
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


class Opening(msgspec.Struct, frozen=True, gc=False, omit_defaults=True):
    """An opening of solder mask or stencil: its centre in the pattern, and its form as that of a pad (mm)."""

    x: float
    y: float
    width: float
    height: float
    rotation: float = 0.0
    shape: PadShape = "rectangle"
    corner_radius: float = 0.0
    outline: Outline = ()

    @property
    def box(self) -> Box:
        """The box around the opening, turned as it stands on the board."""
        return placed_box(self)


class Pad(msgspec.Struct, frozen=True, gc=False):
    """One land: centre, size before rotation (width along x), degrees counter-clockwise.

    `mask` and `paste` hold its openings.
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
    mask: tuple[Opening, ...] = ()
    paste: tuple[Opening, ...] = ()
    layers: str = "top"
    outline: Outline = ()

    @property
    def hole_centre(self) -> Point:
        """Where the hole is in the pattern; the centre of a pad without one."""
        if self.hole is None or (self.hole.x == 0 and self.hole.y == 0):
            return self.x, self.y
        ((x, y),) = rotated([(self.hole.x, self.hole.y)], self.rotation)
        return self.x + x, self.y + y

    @property
    def box(self) -> Box:
        """The box around the pad, turned as it stands on the board."""
        return placed_box(self)


def placed_box(shape: Pad | Opening) -> Box:
    """The box around a pad or an opening, turned as it stands on the board."""
    x, y, rotation = shape.x, shape.y, shape.rotation
    if shape.shape == "outline":
        x0, y0, x1, y1 = bounds(rotated(shape.outline, rotation))
        return x + x0, y + y0, x + x1, y + y1
    w, h = shape.width / 2, shape.height / 2
    if rotation % 180 == 0:
        return x - w, y - h, x + w, y + h
    if rotation % 90 == 0:
        return x - h, y - w, x + h, y + w
    return bounds(rotated([(x - w, y - h), (x + w, y - h), (x + w, y + h), (x - w, y + h)], rotation, (x, y)))


class PatternStroke(msgspec.Struct, frozen=True, gc=False):
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

    `inputs` are the lengths that went in, `notes` the limits that acted after the equations, `reached` the fillets that
    the rounded and limited lands really give.
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
    reached: Goals | None = None

    @property
    def reached_words(self) -> str:
        """The fillets in words; empty where they are not known."""
        if self.reached is None:
            return ""
        fillets = (("toe", self.reached.toe), ("heel", self.reached.heel), ("side", self.reached.side))
        return "reached: " + ", ".join(f"{name} {value:.4f}" for name, value in fillets) + " mm"


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


class Via(msgspec.Struct, frozen=True, gc=False):
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
