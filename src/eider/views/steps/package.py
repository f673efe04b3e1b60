"""Package: the family and the package sheet, drawn to scale beside it."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial

import msgspec

from eider.drawings.finding_balloons import with_balloons
from eider.drawings.outline_drawing import outline_drawing
from eider.drawings.package_drawing import begun_drawings
from eider.drawings.primitives import Drawing
from eider.errors import EiderError, InputError
from eider.model.address import dimension_letter
from eider.model.bundle import Bundle
from eider.model.finding import Severity
from eider.model.outline import OutlineSpec, PadSpec
from eider.model.package_sheet import PackageSheet
from eider.packages.family import FamilyField
from eider.packages.pads.manual_pads import make_manual_pads
from eider.packages.pads.outlines import make_outline
from eider.packages.registry import all_families
from eider.packages.sheet_parsing import parse_dimensions
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.part_values import DimensionRow, dimension_rows
from eider.views.step_registry import StepSpec, step_of


class PadRow(msgspec.Struct, frozen=True):
    """A pad of the sheet by hand: its index, and what is wrong with it."""

    index: int
    value: PadSpec
    fault: str = ""


class OutlineView(msgspec.Struct, frozen=True):
    """An outline of the sheet: how it is given, what is wrong with it, and its drawing with the steps as dimensions."""

    spec: OutlineSpec
    fault: str
    drawing: Drawing | None


class ManualPadsView(msgspec.Struct, frozen=True):
    """Pads by hand, their first fault, and the outlines that they name."""

    pads: tuple[PadRow, ...]
    fault: str
    outlines: Mapping[str, OutlineView]


class PackageView(StepView, frozen=True):
    """What Package shows.

    `wrong` tells by letter what cannot be true of a dimension; `drawings` are the views from above and from the side,
    none while nothing can be drawn, then `hint` says why.
    """

    sheet: PackageSheet
    kinds: tuple[str, ...]
    fields: tuple[FamilyField, ...]
    rows: tuple[DimensionRow, ...]
    wrong: Mapping[str, str]
    drawings: tuple[Drawing, ...]
    hint: str
    manual_pads: ManualPadsView | None


def package_view(state: PartState, options: ViewOptions) -> PackageView:
    """The sheet of a part with its drawings."""
    bundle = state.bundle
    sheet, family = bundle.sheet, all_families().get(bundle.sheet.family)
    wrong = dict(_wrong(state))
    drawings: tuple[Drawing, ...] = ()
    hint = ""
    try:
        drawings = begun_drawings(sheet, unit=options.unit, wrong=wrong)
    except EiderError as fault:
        hint = str(fault)
    return PackageView(
        sheet=sheet,
        kinds=family.kinds if family else (),
        fields=family.fields if family else (),
        rows=tuple(dimension_rows(bundle, parse_dimensions(sheet), options.unit)),
        wrong=wrong,
        drawings=tuple(with_balloons(drawing, state.findings) for drawing in drawings),
        hint=hint,
        manual_pads=_manual_pads(bundle) if family else None,
    )


def _wrong(state: PartState) -> Iterator[tuple[str, str]]:
    """By letter what cannot be true of a value that is given; the worst finding of each comes last."""
    for finding in reversed(state.findings):
        letter = dimension_letter(finding.address)
        is_mine = step_of(finding) == STEP.key and finding.severity != Severity.NOTE
        if letter in state.bundle.sheet.dims and is_mine:
            yield letter, finding.message


def _manual_pads(bundle: Bundle) -> ManualPadsView:
    sheet, lengths = bundle.sheet, sheet_lengths(bundle)
    faults = [fault_of(partial(make_manual_pads, (pad,), sheet.outlines, lengths)) for pad in sheet.pads]
    first = next((f"row {i + 1}: {text}" for i, text in enumerate(faults) if text), "")
    rows = tuple(PadRow(i, pad, faults[i]) for i, pad in enumerate(sheet.pads))
    outlines = {
        name: OutlineView(
            spec,
            fault_of(partial(make_outline, spec, lengths, sheet.outlines)),
            outline_drawing(spec, lengths, -1, sheet.outlines),
        )
        for name, spec in sheet.outlines.items()
    }
    return ManualPadsView(rows, first, outlines)


def sheet_lengths(bundle: Bundle) -> dict[str, float]:
    """The sheet's letters in mm."""
    dims = parse_dimensions(bundle.sheet).sheet.dims
    return {key: d.limits.middle for key, d in dims.items() if d.limits is not None}


def fault_of(make: Callable[[], object]) -> str:
    """What is wrong with what is made; empty where nothing is."""
    try:
        make()
    except InputError as fault:
        return str(fault).removeprefix("pads, row 1 ")
    return ""


STEP = StepSpec(
    key="package",
    title="Package",
    order=30,
    areas=("sheet",),
    is_begun=lambda bundle: bool(bundle.sheet.dims),
    view=package_view,
    widget="eider.desktop.part.steps.package.step:PackageStep",
)
