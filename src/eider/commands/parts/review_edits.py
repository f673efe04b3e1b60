"""Waivers: findings accepted with a reason."""

import msgspec

from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.part import Waiver

replace = msgspec.structs.replace


def waive(bundle: Bundle, finding: Finding, reason: str, by: str) -> Bundle:
    """Accept a finding with a reason; a blocker cannot be accepted.

    Raises:
        InputError: the finding is a blocker, or the reason is empty.
    """
    if finding.severity == "blocker":
        raise InputError(f"{finding.check} is a blocker: correct it, it cannot be accepted")
    if not reason.strip():
        raise InputError("a waiver needs a reason, for whoever reads the part in a year")
    entry = Waiver(finding.check, finding.key, reason.strip(), by, utc_now())
    return replace(bundle, part=replace(bundle.part, waivers=(*bundle.part.waivers, entry)))


def withdraw_waiver(bundle: Bundle, key: str) -> Bundle:
    """Take a waiver back."""
    kept = tuple(waiver for waiver in bundle.part.waivers if waiver.key != key)
    return replace(bundle, part=replace(bundle.part, waivers=kept))
