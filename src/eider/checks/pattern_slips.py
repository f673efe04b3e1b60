"""The slips of the pattern that a part has, beside the one that its package asks for."""

from functools import partial

from eider.checks.part_under_check import PartUnderCheck
from eider.errors import EiderError
from eider.lands.pattern import make_pattern
from eider.lands.slips.diagnosis import diagnose
from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level, Pad
from eider.packages.sheet_parsing import without_tolerances


def slips_of(view: PartUnderCheck) -> tuple[PatternSlip, ...]:
    """What went wrong with the pattern, the cause before what it does; none where its package gives no lands."""
    if view.recipe is None or not view.pads or view.computed is None:
        return ()
    compared = ComparedPattern(view.pads, view.computed.pads, view.recipe, view.terminals)
    sheet = view.bundle.sheet
    return diagnose(compared, partial(_lands_of, view, sheet), partial(_lands_of, view, without_tolerances(sheet)))


def _lands_of(view: PartUnderCheck, sheet: PackageSheet, level: Level) -> tuple[Pad, ...] | None:
    """The lands of a level as this footprint lies; None where the sheet gives none."""
    try:
        return make_pattern(sheet, level, view.rulebook, orientation=view.orientation).pads
    except EiderError:
        return None
