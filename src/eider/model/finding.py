"""What a check found."""

from enum import StrEnum

import msgspec

from eider.model.address import Address


class Severity(StrEnum):
    """How bad a finding is: a blocker stops the release."""

    BLOCKER = "blocker"
    CAUTION = "caution"
    NOTE = "note"


SEVERITY_ORDER = {Severity.BLOCKER: 0, Severity.CAUTION: 1, Severity.NOTE: 2}


class Finding(msgspec.Struct, frozen=True):
    """One result of a check.

    `address` (in files `place`) leads to what the finding speaks of: `sheet.dims.E`, `lands.pads.3`, `facts.Value`.
    `also` are the addresses of what else it speaks of.
    `quick_fix` (in files `mend`) is the title of the one action that mends it; empty where there is none.
    """

    check: str
    severity: Severity
    item: str
    address: Address = msgspec.field(name="place")
    message: str
    measured: str = ""
    expected: str = ""
    also: tuple[Address, ...] = ()
    quick_fix: str = msgspec.field(name="mend", default="")

    @property
    def key(self) -> str:
        """What a waiver holds on to: it changes when the thing the finding speaks of changes."""
        return "|".join((self.check, str(self.address), self.measured, self.expected))

    @property
    def figures(self) -> str:
        """What was measured and what is required, for a person: “0.186 mm; required: 0.25 mm”."""
        required = f"required: {self.expected}" if self.expected else ""
        return "; ".join(filter(None, (self.measured, required)))
