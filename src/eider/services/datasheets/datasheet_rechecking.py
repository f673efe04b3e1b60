"""A newer datasheet is attached: what became of the values that were captured from the one before."""

from collections.abc import Callable, Sequence

import msgspec

from eider.datasheets import Datasheet
from eider.datasheets.documents.datasheet_revision import Pages, RevisionMatch, find_in_revision
from eider.datasheets.pages.document import PageText
from eider.datasheets.tables.value_reading import cleaned
from eider.evidence.address_table import evidenced_values
from eider.evidence.evidence_changes import set_evidence, utc_now
from eider.model.address import Address
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind


class ValueRecheck(msgspec.Struct, frozen=True):
    """A value that was captured from an older datasheet, and what became of it in the newer one."""

    address: Address
    name: str
    value: str
    before: Evidence
    found: RevisionMatch

    @property
    def words(self) -> str:
        """What a reader is told."""
        there = f"page {self.found.page}"
        return {
            "same": f"unchanged at {there}",
            "elsewhere": f"moved from page {self.before.page} to {there}",
            "differs": f"reads differently on {there}: {cleaned(self.found.text)}, before {cleaned(self.before.text)}",
            "gone": "is no longer there",
        }[self.found.outcome]


def recheck_values(
    bundle: Bundle, old_sha: str, old: Datasheet, new: Datasheet, go_on: Callable[[float, str], None] | None = None
) -> list[ValueRecheck]:
    """Look for each value with evidence in `old` in the newer document; `go_on` is told how far it is."""
    held = [v for v in evidenced_values(bundle) if v.evidence and v.evidence.document == old_sha and v.evidence.box]
    if not held:
        return []
    texts: list[PageText] = []
    for page in range(1, new.pages + 1):
        if go_on:
            go_on(page / new.pages, f"page {page} of {new.pages}")
        texts.append(new.read(page))
    newer, old_pages = Pages(texts), {}
    found = []
    for value in held:
        evidence = value.evidence
        if evidence is None or evidence.box is None:
            continue
        if evidence.page not in old_pages:
            old_pages[evidence.page] = old.read(evidence.page)
        again = find_in_revision(old_pages[evidence.page], evidence.box, newer)
        found.append(ValueRecheck(value.address, value.name, value.text, evidence, again))
    return found


def move_evidence(bundle: Bundle, checked: Sequence[ValueRecheck], document: str, who: str) -> Bundle:
    """Let the values that read the same in the newer document rest on it; others keep their old evidence."""
    moved: dict[Address, Evidence | None] = {
        c.address: Evidence(
            EvidenceKind.DATASHEET,
            document=document,
            page=c.found.page,
            box=c.found.box,
            text=c.before.text,
            by=who,
            at=utc_now(),
        )
        for c in checked
        if c.found.outcome in ("same", "elsewhere")
    }
    return set_evidence(bundle, moved)
