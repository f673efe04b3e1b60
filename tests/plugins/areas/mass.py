"""A check from outside: a heavy part is not held by its joints alone."""

from collections.abc import Iterator

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.model.address import FactAddress
from eider.model.finding import Severity


@check("mass.too-heavy", Severity.CAUTION, reads=("facts",))
def too_heavy(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A part of more than ten grams is held by more than its joints.

    Shock and vibration tear the lands off the board.
    """
    fact = view.bundle.part.facts.get("Mass")
    if fact is not None and fact.value.removesuffix(" g").isdecimal() and int(fact.value.removesuffix(" g")) > 10:
        yield CheckHit(FactAddress("Mass"), f"The part weighs {fact.value}", fact.value, "10 g at most")
