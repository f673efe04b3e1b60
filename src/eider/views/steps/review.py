"""Review: all findings, the values with their evidence, the waivers, and what is in the way of a release."""

from eider.evidence.address_table import evidence_coverage
from eider.model.part import Waiver
from eider.model.wording import counted
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.part_values import ValueRow, value_rows
from eider.views.step_registry import State, StepProgress, StepSpec


class ReviewView(StepView, frozen=True):
    """What Review shows."""

    summary: str
    coverage: str
    values: tuple[ValueRow, ...]
    waivers: tuple[Waiver, ...]
    blockers: int
    has_lands: bool


def review_view(state: PartState, _options: ViewOptions) -> ReviewView:
    """The whole part, for whoever signs it."""
    bundle, counts = state.bundle, state.evaluated.counts
    words = ", ".join(counted(n, name) for name, n in counts.items() if n)
    return ReviewView(
        summary=words or "No findings",
        coverage=evidence_coverage(bundle).words,
        values=tuple(value_rows(bundle)),
        waivers=bundle.part.waivers,
        blockers=counts["blocker"],
        has_lands=bundle.footprint.pattern is not None,
    )


def _state(progress: StepProgress) -> State:
    """Complete when what is released has no findings; begun as soon as all other steps are."""
    if progress.bundle.part.release and not progress.findings:
        return "complete"
    return "begun" if progress.all_begun else "empty"


STEP = StepSpec(
    key="review",
    title="Review",
    order=80,
    shows_whole_part=True,
    is_begun=lambda bundle: bundle.part.release is not None,
    state=_state,
    view=review_view,
    widget="eider.desktop.part.steps.review.step:ReviewStep",
)
