"""A 3D body: generated from the package sheet or someone's STEP file, and what is known of it."""

from typing import Literal

import msgspec

from eider.model.item_ref import ItemId, Ref, Sha256

BODY_FORMAT = "eider-body/1"
Corner = tuple[float, float, float]


class BodyResult(msgspec.Struct, frozen=True):
    """The box around the solids in mm (seating plane at z = 0), and how many solids with instances there are."""

    solids: int
    bounds: tuple[Corner, Corner]


class ModelTerminal(msgspec.Struct, frozen=True):
    """Where one terminal of a placed model stands, seen from above: x0, y0, x1, y1 in mm."""

    number: str
    box: tuple[float, float, float, float]


class ModelMeasure(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """What was measured of a model as it is placed, mm.

    Attributes:
        bounds: lowest and highest corner of the box around it.
        seating: height of what it stands on above the board.
        terminals: where its terminals stand.
        solids, triangles, colours: how many there are; triangles of the fine mesh.
        unsound: names of solids that are not closed.
        score: how well it stands, 1 where everything agrees.
        pin1: whether a mark tells which end is which; `mark_at` is the terminal at which it lies.
        doubts: what was left out, guessed or not decided when it was read and placed.
    """

    bounds: tuple[Corner, Corner]
    seating: float = 0.0
    terminals: tuple[ModelTerminal, ...] = ()
    solids: int = 0
    triangles: int = 0
    colours: int = 0
    unsound: tuple[str, ...] = ()
    score: float = 0.0
    pin1: Literal["found", "ambiguous", "unknown"] = "unknown"
    mark_at: str = ""
    doubts: tuple[str, ...] = ()


class ImportedModel(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """A STEP file that is the body of a part, and how it is placed: times `scale`, turned, moved by `offset` (mm).

    `file` is the name that it came with, `unit` and `protocol` are the file's own. `chosen` tells that a person chose
    or changed the placement.
    """

    sha256: Sha256
    file: str
    unit: str = "mm"
    protocol: str = ""
    rotation: tuple[Corner, Corner, Corner] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    offset: Corner = (0.0, 0.0, 0.0)
    scale: float = 1.0
    chosen: bool = False
    measure: ModelMeasure


class ComposedSolid(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """A simple solid of a composed body, or many alike. Lengths are sums over the letters of the package sheet.

    A letter stands for the middle of its limits, with `min` or `max` behind it for these.

    Attributes:
        shape: `box`, `cylinder`, `ball`, `prism`, `strip` or `revolved`.
        x, y, z: its middle from above, and the height of its lowest point.
        length, width, height: along x, y and z; `length` is the diameter of a cylinder or ball. Of a ball `height` cuts
            off the top, of a strip only `width` counts.
        outline: of a prism places `x,y x,y …` about its middle, or the name of an outline of the sheet; of a strip
            `x,z x,z …`, of a revolved profile `r,z r,z …`.
        turn: degrees counter-clockwise about its middle.
        count, dx, dy: so many in a row about (x, y), from each to the next.
        mirror: `x`, `y` or `both`: the same again at the other side of that axis.
        edges: which edges are rounded or chamfered by `corner`: `top`, `upright` or `all`.
        cuts: it is cut out of the solid before it.
        joins: it is one with the solid before it.
    """

    name: str
    shape: str = "box"
    material: str = "mould compound"
    x: str = "0"
    y: str = "0"
    z: str = "0"
    length: str = ""
    width: str = ""
    height: str = ""
    outline: str = ""
    turn: str = ""
    count: str = ""
    dx: str = ""
    dy: str = ""
    mirror: str = ""
    edges: str = ""
    corner: str = ""
    chamfered: bool = False
    cuts: bool = False
    joins: bool = False


class Body(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe and result: the package sheet with `materials` per solid; `composed` solids or a `model` in its place."""

    format: str = BODY_FORMAT
    id: ItemId
    name: str
    package: Ref
    materials: dict[str, str] = {}
    model: ImportedModel | None = None
    composed: tuple[ComposedSolid, ...] = ()
    result: BodyResult | None = None
