"""Request and answer of the computing side: one state of a part in, its results, findings and a view out."""

from typing import NamedTuple

from eider.commands.parts.evaluation import EvaluationRules, check_evaluated, compute_part
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_MATERIALS
from eider.model.bundle import Bundle
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.step_registry import StepState, make_view, trail

# From so many pads on the results are shown before the checks have run over them. With fewer the checks take less time
# than painting the window once more.
MANY_PADS = 200


class PartRequest(NamedTuple):
    """What is wanted of a state: its recipes, the last state that was answered, and the step to be shown.

    Without `is_changed` only the view is made again; with `reads_rules` the rulebook is read again.
    `shown` is what the step shows now.
    """

    bundle: Bundle
    before: PartState
    key: str
    options: ViewOptions
    is_changed: bool
    reads_rules: bool
    shown: StepView | None = None


class PartAnswer(NamedTuple):
    """Everything that a window shows of a state: results and findings, how far each step is, and the step's view.

    A state of many pads is answered before the checks have run over it; `check_answer` is then to follow.
    """

    state: PartState
    trail: tuple[StepState, ...]
    key: str
    options: ViewOptions
    view: StepView


def answer_part(request: PartRequest, library: Library) -> PartAnswer:
    """Work out a state; what no change touched since the one before is taken from it.

    Raises:
        EiderError: the rulebook of the footprint cannot be read.
    """
    state = request.before
    if request.is_changed or request.reads_rules:
        rules, wanted = state.rules, request.bundle.footprint.rulebook
        if request.reads_rules or rules.rulebook.name != wanted:
            rules = EvaluationRules(library.rulebook(wanted), rules.settings, SHARED_MATERIALS.read_sound(library))
        computed = compute_part(request.bundle, rules, state.evaluated)
        pattern = computed.bundle.footprint.pattern
        is_large = pattern is not None and len(pattern.pads) >= MANY_PADS
        state = PartState(computed if is_large else check_evaluated(computed), rules)
    return _answer(state, request.key, request.options, request.shown)


def check_answer(answer: PartAnswer) -> PartAnswer:
    """The answer with what the checks find in its results."""
    state = PartState(check_evaluated(answer.state.evaluated), answer.state.rules)
    return _answer(state, answer.key, answer.options, answer.view)


def _answer(state: PartState, key: str, options: ViewOptions, shown: StepView | None) -> PartAnswer:
    view = make_view(state, key, options, shown)
    return PartAnswer(state, trail(state.bundle, state.findings), key, options, view)
