"""What a check found."""

from enum import StrEnum

import msgspec


class Severity(StrEnum):
    """How bad a finding is: a blocker stops the release."""

    BLOCKER = "blocker"
    CAUTION = "caution"
    NOTE = "note"


SEVERITY_ORDER = {Severity.BLOCKER: 0, Severity.CAUTION: 1, Severity.NOTE: 2}


class Finding(msgspec.Struct, frozen=True):
    """One result of a check.

    `place` leads to what the finding speaks of: `sheet.dims.E`, `lands.pads.3`, `symbol.pins.5`, `facts.Value`.
    `mend` is the title of the one action that mends it; empty where there is none.
    """

    check: str
    severity: Severity
    item: str
    place: str
    message: str
    measured: str = ""
    expected: str = ""
    mend: str = ""

    @property
    def key(self) -> str:
        """What a waiver holds on to: it changes when the thing the finding speaks of changes."""
        return "|".join((self.check, self.place, self.measured, self.expected))
