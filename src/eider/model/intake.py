"""How parts of one source become parts of the library, and what was told when one came in."""

from typing import Literal

import msgspec

# What of a part that arrived can be taken by itself.
IntakeItem = Literal["footprint", "body", "symbol", "facts", "datasheet"]
INTAKE_ITEMS: tuple[IntakeItem, ...] = ("footprint", "body", "symbol", "facts", "datasheet")


class IntakeMap(msgspec.Struct, frozen=True, omit_defaults=True):
    """How a source names things, what its files do not say, and what is to be done with them; learned, kept by source.

    Attributes:
        category: that of its parts, where a file does not say one that the library has.
        names: what parts are called here, by their name there.
        facts: the same of facts; an empty name leaves one out.
        by_convention: parts are named as their category composes names, where all facts for it are there.
        layers: what a layer is for, by its name; see `exchange.layered_shapes.ROLES`.
        unit: that of plain numbers where a file names none: mm, mil, in or um.
        drawings: whether silkscreen and assembly drawing are made again by the rulebook, or kept.
        corrections: what is done to the lands of a part before they are taken; see `lands.pad_faults.CORRECTIONS`.
        packages: parts of the library whose package sheet holds for a part that has none.
        licence: under which its files may be used.
    """

    category: str = ""
    names: dict[str, str] = {}
    facts: dict[str, str] = {}
    by_convention: bool = False
    layers: dict[str, str] = {}
    unit: Literal["", "mm", "mil", "in", "um"] = ""
    drawings: Literal["rulebook", "kept"] = "rulebook"
    corrections: dict[str, tuple[str, ...]] = {}
    packages: dict[str, str] = {}
    licence: str = ""


class ArrivalNote(msgspec.Struct, frozen=True, omit_defaults=True):
    """Where a part, or a revision of it, came from, and what was guessed, changed or left out on the way.

    `by` took it at `at` (ISO 8601, UTC).
    """

    source: str
    by: str
    at: str
    licence: str = ""
    log: tuple[str, ...] = ()
