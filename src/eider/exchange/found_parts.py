"""What readers of parts give: pieces of parts as they stand in a file, before anything is taken into a library."""

import re
from collections.abc import Iterable, Sequence
from pathlib import Path

import msgspec

from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.model.symbol import Pin

replace = msgspec.structs.replace


class FoundPart(msgspec.Struct, frozen=True, kw_only=True):
    """A part, or a piece of one, as a file has it; pieces of one name in one delivery are one part.

    Attributes:
        name: what the file calls it.
        source: the file, and where in it.
        bundle: the whole part, where the file has it in Eider's own form; the rest is empty then.
        pins, pads, sheet, facts: what the file has of it; lengths in mm.
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
    description: str = ""
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
            "lands": self.pads,
            "package sheet": self.sheet,
            "facts": self.facts,
            "body": self.model,
            "datasheet": self.datasheet,
        }
        return tuple(kind for kind, found in there.items() if found)


class FoundFile(msgspec.Struct, frozen=True):
    """What one file holds: parts, documents by their sum, and what of it could not be read."""

    parts: tuple[FoundPart, ...]
    documents: dict[str, bytes] = {}
    log: tuple[str, ...] = ()


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
        for field in ("pins", "pads", "sheet", "model", "datasheet", "description"):
            value = getattr(part, field)
            if value and getattr(made, field):
                log.append(f"{field} of {part.source} left out: {made.source} has some already")
            elif value:
                made = replace(made, **{field: value})
        made = replace(made, facts={**part.facts, **made.facts}, source=f"{made.source}, {part.source}")
    yield replace(made, log=tuple(log))


def name_of(path: Path) -> str:
    """What a part is called that a file holds without saying so: as the file, without suffixes and what it holds."""
    name = path.name
    while (suffix := Path(name).suffix) and not suffix[1:].isdigit() and len(suffix) <= 9 and name != suffix:
        name = name.removesuffix(suffix)
    return (
        re.sub(r"[-_ ](pins?|pads?|lands?|pinout|datasheet|body|model|footprint|symbol)$", "", name, flags=re.I) or name
    )
