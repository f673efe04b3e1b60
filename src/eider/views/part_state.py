"""One state of an open part: what all its views are made from, worked out once."""

from typing import TypeVar

import msgspec

from eider.checks import PartUnderCheck
from eider.commands.parts.evaluation import EvaluatedPart, EvaluationRules
from eider.model.bundle import Bundle
from eider.model.finding import Finding


class StepView(msgspec.Struct, frozen=True):
    """Everything that a step shows."""


class StepOptions(msgspec.Struct, frozen=True):
    """What a user chose to see of a step; what nobody chose is in the defaults."""


Chosen = TypeVar("Chosen", bound=StepOptions)


class ViewOptions(msgspec.Struct, frozen=True):
    """What the user chose to see: the unit of lengths, and the step's own options; None before the first choice."""

    unit: str = "mm"
    of_step: StepOptions | None = None

    def of(self, kind: type[Chosen]) -> Chosen:
        """What was chosen in a step that has choices of this kind."""
        return self.of_step if isinstance(self.of_step, kind) else kind()


class PartState:
    """An evaluated part with the rules it is compared with; made on the computing side, read by everybody."""

    def __init__(self, evaluated: EvaluatedPart, rules: EvaluationRules) -> None:
        self.evaluated, self.rules = evaluated, rules

    @property
    def bundle(self) -> Bundle:
        """The part with its results."""
        return self.evaluated.bundle

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the checks found, worst first; their numbers count from 1."""
        return self.evaluated.findings

    @property
    def under_check(self) -> PartUnderCheck:
        """The part as the checks saw it, with all that they worked out."""
        return self.evaluated.under_check
