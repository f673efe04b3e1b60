"""The steps of the trail: each module of `views.steps` registers one: its areas, its state, its view, its widget."""

from collections.abc import Callable, Mapping, Sequence
from functools import cache
from typing import Literal

import msgspec

from eider.discovery import modules_of
from eider.evidence.address_table import step_of_address
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.views import steps
from eider.views.part_state import PartState, StepView, ViewOptions

State = Literal["empty", "begun", "complete", "findings"]


class StepProgress(msgspec.Struct, frozen=True):
    """What the state of a step follows from: the part, the findings that belong to the step, and other steps begun."""

    bundle: Bundle
    findings: tuple[Finding, ...]
    is_begun: bool
    all_begun: bool


def state_of_work(progress: StepProgress) -> State:
    """Empty until it is begun, then complete unless there are findings."""
    return "empty" if not progress.is_begun else "findings" if progress.findings else "complete"


class StepSpec(msgspec.Struct, frozen=True, kw_only=True):
    """A step of the trail.

    Attributes:
        key, title: its name in code and on screen.
        order: its place in the order of the work.
        areas: the areas of checks whose findings are cleared here.
        shows_whole_part: whether its state counts the findings of all steps, as Review does.
        is_begun: whether there is anything of it in a part.
        state: how far it is, from its progress.
        view: everything that the step shows, as frozen values; called off the Qt thread.
        widget: `module:name` of what makes its widget from a controller and a context; the desktop imports it.
    """

    key: str
    title: str
    order: int
    areas: tuple[str, ...] = ()
    shows_whole_part: bool = False
    is_begun: Callable[[Bundle], bool]
    state: Callable[[StepProgress], State] = state_of_work
    view: Callable[[PartState, ViewOptions], StepView]
    widget: str


@cache
def all_steps() -> Mapping[str, StepSpec]:
    """Every step by its key, in the order of the work.

    Raises:
        TypeError: two modules register one key.
    """
    found = sorted((module.STEP for module in modules_of(steps)), key=lambda step: step.order)
    made: dict[str, StepSpec] = {}
    for step in found:
        if step.key in made:
            raise TypeError(f"two modules register the step {step.key}")
        made[step.key] = step
    return made


def step_of(finding: Finding) -> str:
    """The key of the step in which a finding is cleared: by the area of its check, else by its address."""
    area = finding.check.partition(".")[0]
    if str(finding.address) == "source":
        return "source"
    found = next((step.key for step in all_steps().values() if area in step.areas), "")
    return found or step_of_address(finding.address)


def make_view(state: PartState, key: str, options: ViewOptions, before: StepView | None = None) -> StepView:
    """What a step shows of a state; pieces that are as in the view before are the same objects."""
    made = all_steps()[key].view(state, options)
    if type(before) is not type(made):
        return made
    kept = {name: old for name in made.__struct_fields__ if (old := getattr(before, name)) == getattr(made, name)}
    return msgspec.structs.replace(made, **kept)


class StepState(msgspec.Struct, frozen=True):
    """How far a step is; `findings` counts blockers and cautions, `blockers` only those."""

    key: str
    title: str
    state: State
    findings: int = 0
    blockers: int = 0


def trail(bundle: Bundle, findings: Sequence[Finding]) -> tuple[StepState, ...]:
    """The state of every step."""
    begun = {key: step.is_begun(bundle) for key, step in all_steps().items()}
    states = []
    for key, step in all_steps().items():
        mine = tuple(f for f in findings if f.severity != "note" and step_of(f) == key)
        others = all(value for other, value in begun.items() if other != key)
        told = tuple(f for f in findings if f.severity != "note") if step.shows_whole_part else mine
        state = step.state(StepProgress(bundle, told, begun[key], others))
        blockers = sum(f.severity == "blocker" for f in mine)
        states.append(StepState(key, step.title, state, len(mine), blockers))
    return tuple(states)
