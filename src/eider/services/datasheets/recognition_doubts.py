"""What of a draft was read in a picture, and is to be confirmed because nothing else that is printed bears it out."""

from collections.abc import Collection, Sequence

from eider.commands.datasheets.drafted_outline import DIMS, FAMILY
from eider.datasheets.recognition.recognised_page import RECOGNISED, is_recognised_within
from eider.evidence.address_table import evidenced_values
from eider.evidence.value_evidence import EvidencedValue
from eider.evidence.value_witnesses import has_second_reading
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.services.datasheets.draft_source import DraftSource


def settle_recognition(bundle: Bundle, source: DraftSource, doubts: Sequence[Doubt]) -> list[Doubt]:
    """The doubts of a draft, with one about each value that was read in a picture and that nothing else bears out.

    Doubts of rows that were recognised become those of the values that were taken from them.
    """
    kept = [doubt for doubt in doubts if doubt.reason != RECOGNISED]
    known = {doubt.address for doubt in kept}
    for value in evidenced_values(bundle):
        evidence, address = value.evidence, str(value.address)
        if evidence is None or evidence.page not in source.contents.recognised or evidence.box is None:
            continue
        words = source.datasheet.read(evidence.page).words
        is_settled = address in known or (has_second_reading(bundle, value.address) and _is_plain(bundle, value, known))
        if not is_settled and is_recognised_within(words, evidence.box):
            kept.append(Doubt(address, value.text, RECOGNISED, source.document, evidence.page, evidence.box))
    return kept


def _is_plain(bundle: Bundle, value: EvidencedValue, doubted: Collection[str]) -> bool:
    """Whether what a value means is plain once its figures are borne out.

    It is where the sheet's letter is the standard's, in a table whose every row could be read: one that could not may
    be the one that the letter means.
    """
    address = value.address
    if not isinstance(address, DimensionAddress):
        return True
    return address.letter not in bundle.sheet.aliases.values() and not {DIMS, FAMILY}.intersection(doubted)
