"""The values of a part by place, each with its evidence; and how many have any."""

from collections.abc import Iterator

import msgspec

from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind

DIMENSION, FACT, PIN = "sheet.dims.", "facts.", "symbol.pins."


class Held(msgspec.Struct, frozen=True):
    """A value of a part: its place in the document, what it is called, its text, and its evidence.

    `former` and `former_text` are what was there before somebody changed the value by hand.
    """

    place: str
    name: str
    text: str
    evidence: Evidence | None
    former_text: str = ""
    former: Evidence | None = None

    @property
    def is_covered(self) -> bool:
        """Whether there is evidence; an assumption is none."""
        return self.evidence is not None and self.evidence.kind != EvidenceKind.ASSUMED


class Coverage(msgspec.Struct, frozen=True):
    """How many values of a part have evidence, how many a second person confirmed; `without` are places without."""

    total: int
    covered: int
    confirmed: int
    without: tuple[str, ...]


def held_values(bundle: Bundle) -> Iterator[Held]:
    """Every value: dimensions, facts, and the pins of a symbol that is no standard graphic."""
    for letter, d in bundle.sheet.dims.items():
        yield Held(f"{DIMENSION}{letter}", letter, d.text or "given", d.evidence, d.former_text, d.former)
    for name, f in bundle.part.facts.items():
        yield Held(f"{FACT}{name}", name, f.value, f.evidence, f.former_text, f.former)
    for pin in bundle.symbol.pins if not bundle.symbol.graphic else ():
        yield Held(f"{PIN}{pin.number}", f"pin {pin.number}", pin.name, pin.evidence, pin.former_text, pin.former)


def coverage(bundle: Bundle) -> Coverage:
    """The evidence of all values."""
    values = list(held_values(bundle))
    without = tuple(value.place for value in values if not value.is_covered)
    confirmed = sum(bool(v.evidence and v.evidence.confirmed_by) for v in values)
    return Coverage(len(values), len(values) - len(without), confirmed, without)
