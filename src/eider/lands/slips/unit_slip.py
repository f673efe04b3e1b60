"""A pattern in another unit than it was read in: all its lengths are so many times those of the package."""

from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip

# A pattern of this package may differ from the computed one by so large a share before its unit is thought of.
OWN_SIZE = 0.2
# How many times too large or small a pattern is that was read in another unit than its own: its unit, and the one it
# was read in.
_FACTORS = {
    1000 / 25.4: ("mil", "mm"),
    1 / 25.4: ("inches", "mm"),
    25.4: ("mm", "inches"),
    25.4 / 1000: ("mm", "mil"),
    1000.0: ("micrometres", "mm"),
    0.1: ("mm", "tenths of a mm"),
    10.0: ("tenths of a mm", "mm"),
}


def unit_slip(compared: ComparedPattern) -> PatternSlip | None:
    """The unit that was mixed up; None where the pattern is of about the right size, or of no such multiple of it."""
    for factor, (unit, read_in) in _FACTORS.items():
        if compared.spread and abs(compared.spread / factor - 1) <= OWN_SIZE:
            message = (
                f"The pattern is in {unit} and was read in {read_in}: it is {factor:.4g} times as large as the package."
            )
            return PatternSlip("unit", message, f"Read it again in {unit}.", explains_all=True)
    return None
