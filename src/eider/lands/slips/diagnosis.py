"""What went wrong with a pattern, in one sentence each: the cause before what it does to every fillet."""

from eider.lands.slips.land_slips import land_slips
from eider.lands.slips.nominal_slip import LevelLands, nominal_slip
from eider.lands.slips.numbering_slips import numbering_slip
from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip
from eider.lands.slips.row_slips import row_slips, span_slips
from eider.lands.slips.unit_slip import unit_slip


def diagnose(compared: ComparedPattern, wanted: LevelLands, nominal: LevelLands) -> tuple[PatternSlip, ...]:
    """The slips of a pattern; one that explains all others stands alone.

    Args:
        compared: the pattern beside the one that the package asks for.
        wanted: the lands of a level in the same orientation.
        nominal: the same without the tolerances of the package.
    """
    if not compared.pads or not compared.wanted:
        return ()
    numbering = None
    for find in (unit_slip, numbering_slip):
        numbering = find(compared)
        if numbering is not None and numbering.explains_all:
            return (numbering,)
    if numbering is not None:
        return numbering, *land_slips(compared)
    spans = [*span_slips(compared)] or [*nominal_slip(compared, wanted, nominal)]
    return *spans, *row_slips(compared), *land_slips(compared)
