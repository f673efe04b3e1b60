"""Source: the datasheets of the part, and what has been captured from them."""

import msgspec

from eider.evidence.address_table import Coverage, evidence_coverage
from eider.model.part import DatasheetLink
from eider.views.part_state import PartState, ViewOptions
from eider.views.part_values import ValueRow, value_rows
from eider.views.step_registry import StepSpec


class SourceView(msgspec.Struct, frozen=True):
    """What Source shows."""

    datasheets: tuple[DatasheetLink, ...]
    coverage: Coverage
    values: tuple[ValueRow, ...]


def source_view(state: PartState, _options: ViewOptions) -> SourceView:
    """The documents and values of a part."""
    bundle = state.bundle
    return SourceView(bundle.part.datasheets, evidence_coverage(bundle), tuple(value_rows(bundle)))


STEP = StepSpec(
    key="source",
    title="Source",
    order=10,
    areas=("evidence",),
    is_begun=lambda bundle: bool(bundle.part.datasheets),
    view=source_view,
    widget="eider.desktop.part.source.step:SourceStep",
)
