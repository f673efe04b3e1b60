"""Facts: the parameters of the part by its category."""

import msgspec

from eider.evidence.value_evidence import datasheet_names, evidence_words
from eider.facts.categories import category_of
from eider.facts.fact_reading import read_fact
from eider.model.library import FactField
from eider.model.part import Part
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.step_registry import StepSpec


class FactRow(msgspec.Struct, frozen=True):
    """A fact: its value as typed and as printed, what is wrong with it, and what the category says of it.

    `accepted` are the forms that its template takes; `is_besides` where the category has no such fact.
    """

    name: str
    value: str
    printed: str
    fault: str
    accepted: str
    choices: tuple[str, ...]
    unit: str
    is_required: bool
    evidence: str
    is_besides: bool


class FactsView(StepView, frozen=True):
    """What Facts shows: the part's own fields, how parts of its category are named, and its facts."""

    part: Part
    naming: str
    rows: tuple[FactRow, ...]
    part_number: str


def facts_view(state: PartState, _options: ViewOptions) -> FactsView:
    """The facts of the category in their order, then those besides."""
    part = state.bundle.part
    category = category_of(state.rules.settings, part.category)
    names = datasheet_names(part)
    fields = {field.name: field for field in category.facts} if category else {}
    rows = []
    for name in [*fields, *(key for key in part.facts if key not in fields)]:
        fact, wanted = part.facts.get(name), fields.get(name)
        evidence = evidence_words(fact, names) if fact else ""
        unit, is_required = (wanted.unit, wanted.required) if wanted else ("", False)
        text = fact.value if fact else ""
        reading = read_fact(wanted or FactField(name), text)
        if wanted and wanted.hidden and not reading.fault:
            continue
        rows.append(
            FactRow(
                name,
                text,
                reading.printed,
                reading.fault,
                reading.accepted,
                _choices(wanted),
                unit,
                is_required,
                evidence,
                wanted is None,
            )
        )
    example = category.name_example if category else ""
    known = part.facts.get("Part number")
    return FactsView(
        part, f"Naming rule: {example}" if example else "", tuple(rows), known.value if known else part.name
    )


def _choices(field: FactField | None) -> tuple[str, ...]:
    """What can be chosen for a fact; nothing where it is typed. The empty one comes first."""
    if field is None or field.kind not in ("choice", "yes/no"):
        return ()
    return ("", *(field.choices if field.kind == "choice" else ("yes", "no")))


STEP = StepSpec(
    key="facts",
    title="Facts",
    order=70,
    areas=("facts",),
    is_begun=lambda bundle: bool(bundle.part.facts),
    view=facts_view,
    widget="eider.desktop.part.steps.facts.step:FactsStep",
)
