"""What a package usually looks like: stands in for lengths that are not given yet, in drawings only."""

import math

import msgspec

from eider.geometry.limits import Limits
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.family import Letter
from eider.packages.registry import family_of


def with_typical(sheet: PackageSheet) -> PackageSheet:
    """The sheet with a usual length for each letter that is missing, as far as one follows from those that are there.

    A letter is its usual share of the one it is compared with, and the other way round.
    """
    family = family_of(sheet.family)
    known = {k: d.limits.middle for k, d in sheet.dims.items() if d.limits is not None and d.limits.middle > 0}
    found = True
    while found:
        found = False
        for letter in family.letters:
            # A thermal pad that nobody gave is none.
            if not letter.reference or (letter.optional and not letter.pictured):
                continue
            share = usual_share(letter)
            if letter.key not in known and letter.reference in known:
                known[letter.key], found = known[letter.reference] * share, True
            elif letter.key in known and letter.reference not in known:
                known[letter.reference], found = known[letter.key] / share, True
    missing = {k: Dimension(limits=Limits(nom=round(v, 3))) for k, v in known.items() if sheet.limits(k) is None}
    return msgspec.structs.replace(sheet, dims={**sheet.dims, **missing})


def usual_share(letter: Letter) -> float:
    """The middle of the usual range: between its ends as ratios go."""
    low, high = letter.typical
    return math.sqrt(max(low, 0.02 * high) * high)
