"""Lands: the land pattern as a dimensioned drawing, its derivation, its joints, its pads and adjustments."""

from collections.abc import Mapping

import msgspec

from eider.drawings.finding_balloons import with_balloons
from eider.drawings.land_drawing import SHOWN, LandOptions, pattern_drawing
from eider.drawings.primitives import Drawing
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.lands.manufacturer_pattern import is_same
from eider.model.address import KeptDistanceAddress
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment, SilkscreenOverride
from eider.model.pattern import LEVELS, Derivation, Level, Pad, SizeDerivation
from eider.model.wording import counted
from eider.packages.orientation import extreme_terminals, terminals_on
from eider.views.derivation_inputs import InputRow, derivation_inputs
from eider.views.joint_view import JointView, joint_view
from eider.views.kept_distance_rows import DistanceRow, distance_rows, kept_lines
from eider.views.manufacturer_rows import SuggestedRow, compared, forms_of, suggested_rows
from eider.views.part_state import PartState, StepOptions, StepView, ViewOptions
from eider.views.part_values import level_lands
from eider.views.step_registry import StepSpec


class LandsOptions(StepOptions, frozen=True):
    """What is shown of the lands: layers by name, the number of the pad whose joint is drawn, the comparison."""

    layers: frozenset[str] = SHOWN
    pad: str = ""
    compares: bool = False


class LengthRow(msgspec.Struct, frozen=True):
    """A length of a group of lands: as the equation gives it, where one does, and as it is (mm)."""

    group: str
    name: str
    raw: float | None
    value: float


class OverrideRow(msgspec.Struct, frozen=True):
    """A change of what surrounds the lands: its index, and itself."""

    index: int
    change: SilkscreenOverride


class PadDifferenceRow(msgspec.Struct, frozen=True):
    """How a pad differs from the computed one, in words."""

    number: str
    words: str


class RecipeView(msgspec.Struct, frozen=True):
    """The choices of a footprint's recipe; `summaries` are the lengths of each level in words."""

    level: Level
    also: frozenset[Level]
    summaries: Mapping[Level, str]
    rulebook: str
    revision: str
    turn: int
    is_mirrored: bool


class ManufacturerView(msgspec.Struct, frozen=True):
    """The manufacturer's land pattern: the lengths that are typed, the forms to choose from, and the differences."""

    is_chosen: bool
    forms: Mapping[str, tuple[str, ...]]
    rows: tuple[SuggestedRow, ...]
    differences: tuple[PadDifferenceRow, ...]
    summary: str


class LandsView(StepView, frozen=True):
    """What Lands shows; `distance_faults` are the findings of kept distances."""

    name: str
    recipe: RecipeView
    pads: tuple[Pad, ...]
    adjustments: tuple[Adjustment, ...]
    overrides: tuple[OverrideRow, ...]
    lengths: tuple[LengthRow, ...]
    formulas: str
    inputs: tuple[InputRow, ...]
    joint: JointView
    manufacturer: ManufacturerView | None
    distances: tuple[DistanceRow, ...]
    distance_faults: Mapping[KeptDistanceAddress, str]
    drawing: Drawing | None


def lands_view(state: PartState, options: ViewOptions) -> LandsView:
    """The lands of a part, how they came about, and what joints they give."""
    chosen, bundle, view = options.of(LandsOptions), state.bundle, state.under_check
    footprint = bundle.footprint
    pattern = footprint.pattern
    groups, sizes = (pattern.derivation, pattern.sizes) if pattern else ((), ())
    return LandsView(
        name=footprint.name,
        recipe=_recipe(state, options.unit),
        pads=pattern.pads if pattern else (),
        adjustments=footprint.adjustments,
        overrides=tuple(OverrideRow(i, change) for i, change in enumerate(footprint.overrides)),
        lengths=_lengths(groups, sizes),
        formulas=_formulas(groups, sizes, has_lands=pattern is not None),
        inputs=tuple(derivation_inputs(view, options.unit)),
        joint=joint_view(state, chosen.pad),
        manufacturer=_manufacturer(state) if chosen.compares else None,
        distances=tuple(distance_rows(view)),
        distance_faults={
            f.address: f.message for f in reversed(state.findings) if isinstance(f.address, KeptDistanceAddress)
        },
        drawing=_drawing(state, options),
    )


def _recipe(state: PartState, unit: str) -> RecipeView:
    footprint = state.bundle.footprint
    told = level_lands(state.bundle, state.rules.rulebook)
    summaries = {}
    for level in LEVELS:
        words = [f"{name} {format_length(value, unit, with_unit=False)}" for name, value in told.get(level, ())]
        summaries[level] = f"{'  '.join(words)} {unit}" if words else ""
    made = footprint.rulebook_revision
    return RecipeView(
        footprint.level,
        frozenset(footprint.also_levels),
        summaries,
        footprint.rulebook,
        f"computed with revision {made}" if made else "",
        footprint.turn,
        footprint.mirrored,
    )


def _lengths(groups: tuple[Derivation, ...], sizes: tuple[SizeDerivation, ...]) -> tuple[LengthRow, ...]:
    solved = [
        LengthRow(group.group, name, getattr(group, f"{name}_raw"), getattr(group, name))
        for group in groups
        for name in ("Z", "G", "X")
    ]
    sized = [LengthRow(size.group, name, None, value) for size in sizes for name, value in size.values.items()]
    return (*solved, *sized)


def _formulas(groups: tuple[Derivation, ...], sizes: tuple[SizeDerivation, ...], *, has_lands: bool) -> str:
    texts = [text for g in groups for text in (f"{g.group}:", *g.formulas, *g.notes, g.reached_words) if text]
    texts += [text for size in sizes for text in (f"{size.group}:", *size.formulas, *size.notes)]
    if texts:
        return "\n\n".join([*texts, "All lengths in mm."])
    by_hand = "These pads are entered by hand, as sums over the sheet's letters: see Manual pads in Package."
    return by_hand if has_lands else ""


def _manufacturer(state: PartState) -> ManufacturerView:
    bundle = state.bundle
    found = compared(state.under_check)
    differing = tuple(PadDifferenceRow(d.number, d.words) for d in found if not is_same(d))
    return ManufacturerView(
        bundle.footprint.source == "suggested",
        forms_of(bundle, state.rules.rulebook),
        tuple(suggested_rows(bundle)),
        differing,
        _difference_words(bundle, len(differing), len(found)),
    )


def _difference_words(bundle: Bundle, differing: int, pads: int) -> str:
    if not pads:
        return "no lands yet"
    footprint = bundle.footprint
    if footprint.source == "computed" and not footprint.has_suggestion:
        return "Draw a rectangle around the suggested lands in the datasheet, or choose them above and type them."
    would = "differ" if footprint.source == "suggested" else "would differ"
    return f"{differing} of {counted(pads, 'pad')} {would}"


def _drawing(state: PartState, options: ViewOptions) -> Drawing | None:
    bundle, layers = state.bundle, options.of(LandsOptions).layers
    pattern = bundle.footprint.pattern
    if pattern is None:
        return None
    try:
        terminals = terminals_on(bundle.sheet, pattern)
    except EiderError:
        terminals = ()
    extremes = extreme_terminals(bundle.sheet, pattern) if "limits" in layers else ()
    shown = LandOptions(layers, options.unit, frozenset(), extremes)
    drawing = pattern_drawing(pattern, terminals, shown).with_extra(kept_lines(state.under_check))
    return with_balloons(drawing, state.findings)


STEP = StepSpec(
    key="lands",
    title="Lands",
    order=40,
    areas=("lands",),
    is_begun=lambda bundle: bundle.footprint.pattern is not None,
    view=lands_view,
    widget="eider.desktop.part.steps.lands.step:LandsStep",
)
