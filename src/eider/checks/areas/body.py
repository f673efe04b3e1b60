"""Checks of the 3D body."""

from collections.abc import Iterator

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.model.address import FieldAddress
from eider.model.finding import Severity


@check("body.not-as-recipe", Severity.CAUTION, reads=("sheet", "body"))
def body_not_as_recipe(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The stored body has the size that the sheet gives, and sits on the board.

    A body of another height or place hides a collision in the enclosure.
    """
    expected, fault = view.fresh_body
    if expected is None:
        yield CheckHit(
            FieldAddress("body"), f"the body cannot be computed: {fault}", "no result", "a body", Severity.BLOCKER
        )
        return
    result = view.bundle.body.result
    if result != expected:
        shown = "no result" if result is None else f"{result.bounds[1][2]:g} mm high"
        yield CheckHit(
            FieldAddress("body"),
            "the stored body differs from what the package sheet gives",
            shown,
            f"{expected.bounds[1][2]:g} mm high",
        )
