"""What readers of parts give: pieces of parts as they are in a file, before anything is taken into a library."""

import re
from collections.abc import Iterable, Sequence
from pathlib import Path

import msgspec

from eider.exchange.layered_shapes import LINE_ROLES, LayeredShapes, pads_of_layers, strokes_of_layers
from eider.geometry.plane import Outline
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad, PatternStroke
from eider.model.symbol import GraphicStroke, Pin

replace = msgspec.structs.replace


class FoundPart(msgspec.Struct, frozen=True, kw_only=True):
    """A part, or a piece of one, as a file has it; pieces of one name in one delivery are one part.

    Attributes:
        name: what the file calls it.
        source: the file, and where in it.
        bundle: the whole part, where the file has it in Eider's own form; the rest is empty then.
        pins, pads, sheet, facts: what the file has of it; lengths in mm.
        shapes: lands that are shapes on layers, of which pads are made once all files of the part are there.
        silkscreen, assembly: lines round the lands, mm.
        graphic: the rows of a custom graphic, in grids.
        category: what the file calls its category; empty where it says none.
        outline, height: of the body as seen from above, mm; empty and 0 where the file has none.
        model, datasheet: a STEP file and a PDF that belong to it; empty where there is none.
        log: what of it was not understood, guessed or left out.
    """

    name: str
    source: str
    bundle: Bundle | None = None
    pins: tuple[Pin, ...] = ()
    pads: tuple[Pad, ...] = ()
    sheet: PackageSheet | None = None
    facts: dict[str, str] = {}
    shapes: LayeredShapes = LayeredShapes()
    silkscreen: tuple[PatternStroke, ...] = ()
    assembly: tuple[PatternStroke, ...] = ()
    graphic: tuple[GraphicStroke, ...] = ()
    outline: Outline = ()
    height: float = 0.0
    description: str = ""
    category: str = ""
    model: str = ""
    datasheet: str = ""
    log: tuple[str, ...] = ()

    @property
    def kinds(self) -> tuple[str, ...]:
        """What there is of it, in words."""
        if self.bundle is not None:
            return ("part",)
        there = {
            "pins": self.pins,
            "lands": self.pads or self.shapes.has_lands,
            "shapes": bool(self.shapes) and not self.shapes.has_lands,
            "symbol graphic": self.graphic,
            "silkscreen": self.silkscreen or strokes_of_layers(self.shapes, "silkscreen"),
            "body outline": self.outline,
            "package sheet": self.sheet,
            "facts": self.facts,
            "body": self.model,
            "datasheet": self.datasheet,
        }
        return tuple(kind for kind, found in there.items() if found)


class FoundFile(msgspec.Struct, frozen=True):
    """What one file holds: parts, documents by their sum, and what of it could not be read.

    `layers` are its layers by name, each with what it was taken for.
    """

    parts: tuple[FoundPart, ...]
    documents: dict[str, bytes] = {}
    log: tuple[str, ...] = ()
    layers: dict[str, str] = {}


# What pieces of a part have one of: of two, the first counts.
_PIECES = (
    "pins", "pads", "sheet", "model", "datasheet", "description", "category", "silkscreen", "assembly", "graphic",
    "outline", "height",
)  # fmt: skip


def grouped_parts(found: Iterable[FoundPart]) -> tuple[FoundPart, ...]:
    """Pieces of one name as one part, whichever way it is written; of two that say the same thing the first counts."""
    groups: dict[str, list[FoundPart]] = {}
    for part in found:
        groups.setdefault(part.name.casefold(), []).append(part)
    return tuple(made for parts in groups.values() for made in _joined(parts))


def _joined(parts: Sequence[FoundPart]) -> Iterable[FoundPart]:
    """A whole part stands alone; pieces are put together."""
    whole = [part for part in parts if part.bundle is not None]
    pieces = [part for part in parts if part.bundle is None]
    yield from whole
    if not pieces:
        return
    made, log = pieces[0], list(pieces[0].log)
    for part in pieces[1:]:
        log += part.log
        for field in _PIECES:
            value = getattr(part, field)
            if value and getattr(made, field):
                log.append(f"{field} of {part.source} left out: {made.source} has some already")
            elif value:
                made = replace(made, **{field: value})
        shapes, facts = made.shapes + part.shapes, {**part.facts, **made.facts}
        made = replace(made, shapes=shapes, facts=facts, source=f"{made.source}, {part.source}")
    yield _with_pads(replace(made, log=tuple(log)))


def _with_pads(part: FoundPart) -> FoundPart:
    """The part with the pads and lines that its shapes on layers are."""
    if not part.shapes:
        return part
    made = part
    for role in LINE_ROLES:
        if strokes := strokes_of_layers(part.shapes, role):
            made = replace(made, **{role: (*getattr(made, role), *strokes)})
    read = pads_of_layers(part.shapes)
    if read.pads and part.pads:
        return replace(made, log=(*part.log, f"lands as shapes of {part.source} left out: a table of pads is there"))
    if not read.pads:
        return made
    return replace(made, pads=read.pads, log=(*part.log, *read.log))


def name_of(path: Path) -> str:
    """What a part is called that a file holds without saying so: as the file, without suffixes and what it holds."""
    name = path.name
    while (suffix := Path(name).suffix) and not suffix[1:].isdigit() and len(suffix) <= 9 and name != suffix:
        name = name.removesuffix(suffix)
    while _WHAT.search(name):
        name = _WHAT.sub("", name)
    return name


# What a file holds, behind the name of its part; several words may follow each other.
_WHAT = re.compile(
    r"(?<=.)[-_ ](pins?|pads?|lands?|pinout|datasheet|body|model|footprint|symbol|facts|top|bottom|copper|mask|paste|"
    r"silkscreen|legend|profile|drills?|holes?|plated|unplated|component)$",
    re.I,
)
