"""The eight steps of a part, and the state of each."""

from collections.abc import Sequence
from typing import Literal

import msgspec

from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.packages.registry import all_families

StepKey = Literal["source", "pins", "package", "lands", "body", "match", "facts", "review"]
STEPS: tuple[tuple[StepKey, str], ...] = (
    ("source", "Source"),
    ("pins", "Pins"),
    ("package", "Package"),
    ("lands", "Lands"),
    ("body", "Body"),
    ("match", "Match"),
    ("facts", "Facts"),
    ("review", "Review"),
)
State = Literal["empty", "begun", "complete", "findings"]


class StepState(msgspec.Struct, frozen=True):
    """How far a step is; `findings` counts blockers and cautions, `blockers` only those."""

    key: StepKey
    title: str
    state: State
    findings: int = 0
    blockers: int = 0


def step_of(finding: Finding) -> StepKey:
    """The step in which a finding is mended."""
    area = finding.check.split(".", 1)[0]
    by_check: dict[str, StepKey] = {
        "sheet": "package",
        "evidence": "source",
        "lands": "lands",
        "symbol": "pins",
        "match": "match",
        "body": "body",
        "facts": "facts",
    }
    return "source" if finding.address == "source" else by_check.get(area, "review")


def trail(bundle: Bundle, findings: Sequence[Finding]) -> tuple[StepState, ...]:
    """The state of every step."""
    begun = _begun(bundle)
    states = []
    for key, title in STEPS:
        mine = [f for f in findings if f.severity != "note" and (key == "review" or step_of(f) == key)]
        blockers = sum(f.severity == "blocker" for f in mine)
        if key == "review":
            state: State = (
                "complete" if bundle.part.release and not mine else "begun" if all(begun.values()) else "empty"
            )
            states.append(StepState(key, title, state, 0, 0))
            continue
        state = "empty" if not begun[key] else "findings" if mine else "complete"
        states.append(StepState(key, title, state, len(mine), blockers))
    return tuple(states)


def _begun(bundle: Bundle) -> dict[StepKey, bool]:
    return {
        "source": bool(bundle.part.datasheets),
        "pins": any(pin.name for pin in bundle.symbol.pins) or bool(bundle.symbol.graphic),
        "package": bool(bundle.sheet.dims),
        "lands": bundle.footprint.pattern is not None,
        "body": bundle.body.result is not None,
        "match": bool(bundle.symbol.pins) and bundle.footprint.pattern is not None,
        "facts": bool(bundle.part.facts),
    }


def family_titles() -> tuple[tuple[str, str, str], ...]:
    """Key, title and summary of every package family."""
    return tuple((family.key, family.title, family.summary) for family in all_families().values())
