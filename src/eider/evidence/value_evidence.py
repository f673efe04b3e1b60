"""The values of a part by place, each with its evidence; and how many have any."""

from collections.abc import Iterator

import msgspec

from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind

DIMENSION, FACT, PIN = "sheet.dims.", "facts.", "symbol.pins."
SUGGESTED, DISTANCE = "lands.suggested.", "lands.distances."


class EvidencedValue(msgspec.Struct, frozen=True):
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


def evidenced_values(bundle: Bundle) -> Iterator[EvidencedValue]:
    """Every value: dimensions, suggested lands, kept distances, facts, the pins of a symbol that is no graphic."""
    for letter, d in bundle.sheet.dims.items():
        yield EvidencedValue(f"{DIMENSION}{letter}", letter, d.text or "given", d.evidence, d.former_text, d.former)
    for lands in bundle.footprint.suggested:
        for key, d in lands.lengths.items():
            name = f"suggested {key}, {lands.group}"
            yield EvidencedValue(f"{SUGGESTED}{lands.group}.{key}", name, d.text, d.evidence, d.former_text, d.former)
    for kept in bundle.footprint.distances:
        d = kept.shall
        yield EvidencedValue(f"{DISTANCE}{kept.key}", kept.key, d.text, d.evidence, d.former_text, d.former)
    for name, f in bundle.part.facts.items():
        yield EvidencedValue(f"{FACT}{name}", name, f.value, f.evidence, f.former_text, f.former)
    for pin in bundle.symbol.pins if not bundle.symbol.graphic else ():
        name = f"{pin.name} (active low)" if pin.active_low else pin.name
        yield EvidencedValue(f"{PIN}{pin.number}", f"pin {pin.number}", name, pin.evidence, pin.former_text, pin.former)


def evidence_coverage(bundle: Bundle) -> Coverage:
    """The evidence of all values."""
    values = list(evidenced_values(bundle))
    without = tuple(value.place for value in values if not value.is_covered)
    confirmed = sum(bool(v.evidence and v.evidence.confirmed_by) for v in values)
    return Coverage(len(values), len(values) - len(without), confirmed, without)


def describe_evidence(evidence: Evidence | None, names: dict[str, str]) -> str:
    """Evidence in words; `names` gives the names of the part's documents by their sum."""
    if evidence is None:
        return "none yet"
    if evidence.kind == EvidenceKind.DATASHEET:
        document = names.get(evidence.document, "datasheet")
        if evidence.page and len(names) == 1 and evidence.document in names:
            return f"page {evidence.page}"
        return f"page {evidence.page}, {document}" if evidence.page else document
    return f"{evidence.kind}: {evidence.text}" if evidence.text else str(evidence.kind)


def is_struck(evidence: Evidence | None, former: Evidence | None) -> bool:
    """Whether a value has lost its proof: it was changed by hand."""
    return evidence is None and former is not None


def evidence_words(evidence: Evidence | None, former_text: str, former: Evidence | None, names: dict[str, str]) -> str:
    """Evidence in words; of a value that was changed by hand, what was proven before."""
    if is_struck(evidence, former):
        return f"{former_text}, {describe_evidence(former, names)}"
    return describe_evidence(evidence, names)
