"""Match: which pad belongs to which pin."""

from collections.abc import Mapping

from eider.commands.pins.match_edits import MatchProposal, match_proposals
from eider.drawings.finding_balloons import with_balloons
from eider.drawings.land_drawing import LandOptions, pattern_drawing
from eider.drawings.pinout_drawing import names_beside, pinout_drawing, place_words
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError
from eider.evidence.figure_comparison import figure_on_package
from eider.evidence.pin_pads import pads_by_pin
from eider.geometry.plane import Box
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.part import PinoutFigure
from eider.model.pattern import Pad
from eider.model.symbol import Pin
from eider.packages.registry import family_of
from eider.views.part_state import PartState, StepView, ViewOptions
from eider.views.part_values import matched_pads
from eider.views.step_registry import StepSpec, step_of

LAYERS = frozenset(("copper", "silkscreen", "courtyard", "package"))
# So many pads without a pin are named.
NAMED = 8
INTERNAL = "internal"


class MatchView(StepView, frozen=True):
    """What Match shows.

    `pads_of` are the existing pads of each pin, `wanted` those that it should have, in words; `pins_of` the pins of
    each pad. `pinout` is the package from above and as seen from below, `places` where each pin stands, in words.
    `figure` is the datasheet's own, `figure_place` where its box lies (mm) upon the pinout seen from the same side,
    `beside_figure` that pinout with its names outside of the box.
    """

    pins: tuple[Pin, ...]
    pads: tuple[Pad, ...]
    pads_of: Mapping[str, tuple[str, ...]]
    wanted: Mapping[str, str]
    pins_of: Mapping[str, tuple[str, ...]]
    names: Mapping[str, str]
    summary: str
    symbol: Drawing | None
    lands: Drawing | None
    pinout: tuple[Drawing, ...]
    places: Mapping[str, str]
    mechanical: frozenset[str]
    internal: frozenset[str]
    proposals: tuple[MatchProposal, ...]
    figure: PinoutFigure | None
    figure_place: Box | None
    beside_figure: Drawing | None


def match_view(state: PartState, options: ViewOptions) -> MatchView:
    """Pins and pads, and which belong together."""
    bundle = state.bundle
    pinouts, place = _pinout(bundle), _figure_place(bundle)
    pattern, pins = bundle.footprint.pattern, bundle.symbol.pins
    pads = pattern.pads if pattern else ()
    pads_of = matched_pads(bundle)
    pins_of: dict[str, tuple[str, ...]] = {}
    for pin, numbers in pads_of.items():
        for number in numbers:
            pins_of[number] = (*pins_of.get(number, ()), pin)
    said = set(bundle.part.mechanical)
    free = list(dict.fromkeys(pad.number for pad in pads if pad.number not in pins_of and pad.number not in said))
    matched = sum(bool(numbers) for numbers in pads_of.values())
    more = f" and {len(free) - NAMED} more" if len(free) > NAMED else ""
    told = f"; pads without a pin: {', '.join(free[:NAMED])}{more}" if free else ""
    lands = pattern_drawing(pattern, (), LandOptions(LAYERS, options.unit)) if pattern else None
    symbol = symbol_drawing(bundle.symbol, bundle.part.name) if bundle.symbol.units else None
    return MatchView(
        pins=pins,
        pads=pads,
        pads_of=pads_of,
        wanted={pin: ", ".join(numbers) or INTERNAL for pin, numbers in pads_by_pin(bundle).items()},
        pins_of=pins_of,
        names={pin.number: f"{pin.number} {pin.name}".strip() for pin in pins},
        summary=f"{matched} of {len(pins)} pins have a pad{told}",
        symbol=with_balloons(symbol, state.findings, _is_mine) if symbol else None,
        lands=with_balloons(lands, state.findings, _is_mine) if lands else None,
        pinout=pinouts,
        places=_places(bundle),
        mechanical=frozenset(bundle.part.mechanical),
        internal=frozenset(bundle.part.internal),
        proposals=match_proposals(bundle),
        figure=bundle.part.pinout,
        figure_place=place,
        beside_figure=_beside_figure(bundle, pinouts, place),
    )


def _pinout(bundle: Bundle) -> tuple[Drawing, ...]:
    """From above and from below; none while the package sheet is not complete."""
    if not bundle.symbol.pins:
        return ()
    try:
        return pinout_drawing(bundle), pinout_drawing(bundle, from_below=True)
    except EiderError:
        return ()


def _figure_place(bundle: Bundle) -> Box | None:
    if bundle.part.pinout is None:
        return None
    family = family_of(bundle.sheet.family)
    try:
        return figure_on_package(family.terminals(bundle.sheet, family.dims(bundle.sheet)), bundle.part.pinout)
    except EiderError:
        return None


def _beside_figure(bundle: Bundle, pinouts: tuple[Drawing, ...], place: Box | None) -> Drawing | None:
    figure = bundle.part.pinout
    return names_beside(pinouts[figure.seen != "above"], place) if figure and pinouts and place else None


def _places(bundle: Bundle) -> Mapping[str, str]:
    try:
        return place_words(bundle)
    except EiderError:
        return {}


def _is_mine(finding: Finding) -> bool:
    return step_of(finding) == STEP.key


STEP = StepSpec(
    key="match",
    title="Match",
    order=60,
    areas=("match",),
    is_begun=lambda bundle: bool(bundle.symbol.pins) and bundle.footprint.pattern is not None,
    view=match_view,
    widget="eider.desktop.part.steps.match.step:MatchStep",
)
