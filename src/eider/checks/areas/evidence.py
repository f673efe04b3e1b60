"""Checks of where values came from."""

from collections.abc import Iterator

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.evidence.address_table import evidenced_values
from eider.evidence.evidence_changes import restore_value
from eider.model.address import DimensionAddress, parse_address
from eider.model.bundle import Bundle
from eider.model.evidence import EvidenceKind
from eider.model.finding import Finding, Severity


def _restore(view: PartUnderCheck, finding: Finding) -> Bundle:
    return restore_value(view.bundle, finding.address)


@check(
    "evidence.changed-by-hand",
    Severity.NOTE,
    reads=("sheet", "lands", "symbol", "facts"),
    quick_fix=QuickFix("Restore the datasheet's value", _restore),
)
def changed_by_hand(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Values are those that their evidence shows.

    One that was typed over has lost its proof: either the datasheet says otherwise now, or it was a slip.
    """
    for value in evidenced_values(view.bundle):
        if value.former is not None:
            page = f" (page {value.former.page})" if value.former.page else ""
            message = f"{value.name} was changed by hand; its evidence{page} shows {value.former_text}"
            yield CheckHit(value.address, message, value.text, value.former_text)


@check("evidence.same-place", Severity.CAUTION, reads=("sheet",))
def same_place(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No two lengths were read at one place of the datasheet.

    The value of the next row, taken twice, fits as often as not.
    """
    seen: dict[tuple[object, ...], str] = {}
    for letter, dimension in view.bundle.sheet.dims.items():
        evidence = dimension.evidence
        if evidence is None or evidence.kind != EvidenceKind.DATASHEET or evidence.box is None:
            continue
        place = (evidence.document, evidence.page, evidence.box)
        if place in seen and not _shares_row(view, letter, seen[place]):
            message = f"{letter} and {seen[place]} were both read from the same place on page {evidence.page}"
            yield CheckHit(DimensionAddress(letter), message, f"“{evidence.text}”", "a place each")
        seen.setdefault(place, letter)


@check("evidence.to-confirm", Severity.BLOCKER, reads=("doubts",))
def to_confirm(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Someone has looked at every reading of a draft that could be otherwise.

    A value read from a datasheet and not compared with its page is a guess: confirm or correct it in Source.
    """
    for doubt in view.bundle.part.to_confirm:
        read = f"“{doubt.reading}” is not confirmed" if doubt.reading else "The draft is not confirmed"
        page = f" (page {doubt.page})" if doubt.page else ""
        yield CheckHit(
            parse_address(doubt.address),
            f"{read}{page}: {doubt.reason}",
            doubt.reading or "nothing",
            "confirmed or corrected",
        )


def _shares_row(view: PartUnderCheck, one: str, other: str) -> bool:
    """A row of the sheet that names two letters (`D, E`) gives both; they are then lengths and widths of one kind."""
    sheet = view.bundle.sheet
    return {one, other} in ({"D", "E"}, {"D1", "E1"}, {"D2", "E2"}) and sheet.limits(one) == sheet.limits(other)
