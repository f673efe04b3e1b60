"""Source: the datasheets of the part, and what has been captured from them."""

from collections.abc import Iterator

from eider.evidence.address_table import Coverage, evidence_coverage
from eider.model.intake import ArrivalNote
from eider.model.part import DatasheetLink
from eider.views.doubt_rows import DoubtRow, doubt_rows
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.part_values import ValueRow, value_rows
from eider.views.step_registry import StepSpec


class SourceView(StepView, frozen=True):
    """What Source shows; `arrivals` tell, the newest first, what came from elsewhere and what was done on the way;
    `doubts` what a person has to look at."""

    datasheets: tuple[DatasheetLink, ...]
    coverage: Coverage
    values: tuple[ValueRow, ...]
    arrivals: tuple[str, ...] = ()
    doubts: tuple[DoubtRow, ...] = ()


def source_view(state: PartState, _options: ViewOptions) -> SourceView:
    """The documents and values of a part."""
    bundle = state.bundle
    told = tuple(line for note in reversed(bundle.part.arrivals) for line in _arrival_words(note))
    return SourceView(
        bundle.part.datasheets, evidence_coverage(bundle), tuple(value_rows(bundle)), told, doubt_rows(bundle)
    )


def _arrival_words(note: ArrivalNote) -> Iterator[str]:
    licence = f"; licence: {note.licence}" if note.licence else ""
    yield f"{note.source}, taken by {note.by} on {note.at[:10]}{licence}"
    yield from note.log


STEP = StepSpec(
    key="source",
    title="Source",
    order=10,
    areas=("evidence",),
    is_begun=lambda bundle: bool(bundle.part.datasheets),
    view=source_view,
    widget="eider.desktop.part.steps.source.step:SourceStep",
)
