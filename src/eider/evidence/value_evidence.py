"""The evidence of a part's values: whether there is any, in words, and how many values have some."""

from collections.abc import Mapping
from typing import Protocol

import msgspec

from eider.model.address import Address
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import Part


class EvidencedValue(msgspec.Struct, frozen=True):
    """A value of a part: its address (in files `place`), what it is called, its text, and its evidence.

    `former` and `former_text` are what was there before someone changed the value by hand.
    """

    address: Address = msgspec.field(name="place")
    name: str
    text: str
    evidence: Evidence | None
    former_text: str = ""
    former: Evidence | None = None

    @property
    def is_covered(self) -> bool:
        """Whether there is evidence; an assumption is none."""
        return self.evidence is not None and self.evidence.kind != EvidenceKind.ASSUMED


class HasEvidence(Protocol):
    """What carries evidence: a dimension, a fact, or a value of either with its address."""

    @property
    def evidence(self) -> Evidence | None:
        """Where the value came from."""

    @property
    def former_text(self) -> str:
        """What was there before someone changed the value by hand."""

    @property
    def former(self) -> Evidence | None:
        """The evidence of what was there before."""


def datasheet_names(part: Part) -> dict[str, str]:
    """The names of a part's documents by their sum."""
    return {link.sha256: link.name for link in part.datasheets}


def describe_evidence(evidence: Evidence | None, names: Mapping[str, str]) -> str:
    """Evidence in words; `names` gives the names of the part's documents by their sum."""
    if evidence is None:
        return "none yet"
    if evidence.kind == EvidenceKind.DATASHEET:
        document = names.get(evidence.document, "datasheet")
        if evidence.page and len(names) == 1 and evidence.document in names:
            return f"page {evidence.page}"
        return f"page {evidence.page}, {document}" if evidence.page else document
    if evidence.kind == EvidenceKind.ENTERED and evidence.by:
        return f"entered by {evidence.by}"
    if evidence.kind == EvidenceKind.ELSEWHERE:
        return f"from elsewhere: {evidence.text}"
    return f"{evidence.kind}: {evidence.text}" if evidence.text else str(evidence.kind)


def is_struck(evidence: Evidence | None, former: Evidence | None) -> bool:
    """Whether a value has lost its proof: it was changed by hand."""
    return evidence is None and former is not None


def evidence_words(value: HasEvidence, names: Mapping[str, str]) -> str:
    """The evidence of a value in words; of one that was changed by hand, what was proven before."""
    if is_struck(value.evidence, value.former):
        return f"{value.former_text}, {describe_evidence(value.former, names)}"
    return describe_evidence(value.evidence, names)
