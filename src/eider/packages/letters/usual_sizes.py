"""How large packages of a family usually are: what gives a whole column of the wrong unit away."""

import tomllib
from collections.abc import Iterator, Mapping
from functools import cache

import msgspec

from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.limits import Limits
from eider.packaged_data import packaged_text
from eider.packages.family import Dims

# Units that are taken for millimetres by mistake.
UNITS = ("mil", "in")


class UnusualSize(msgspec.Struct, frozen=True):
    """A length outside of what is usual (mm), and the unit in which all such lengths of the sheet would fit, if any."""

    letter: str
    limits: Limits
    low: float
    high: float
    unit: str


@cache
def usual_ranges() -> Mapping[str, Mapping[str, tuple[float, float]]]:
    """The least and the most (mm) of the lengths of each family that tell its size."""
    text = packaged_text("packages/usual_sizes.toml")
    return msgspec.convert(tomllib.loads(text), dict[str, dict[str, tuple[float, float]]])


def unusual_sizes(family: str, dims: Dims) -> Iterator[UnusualSize]:
    """The lengths that are smaller or larger than those of any usual package; a family without ranges has none."""
    ranges = {letter: ends for letter, ends in usual_ranges().get(family, {}).items() if letter in dims}
    outside = [letter for letter, (low, high) in ranges.items() if not low <= dims[letter].middle <= high]
    if not outside:
        return
    unit = next((unit for unit in UNITS if _all_fit(ranges, dims, outside, MM_PER_UNIT[unit])), "")
    for letter in outside:
        yield UnusualSize(letter, dims[letter], *ranges[letter], unit)


def _all_fit(ranges: Mapping[str, tuple[float, float]], dims: Dims, letters: list[str], factor: float) -> bool:
    return all(ranges[letter][0] <= dims[letter].middle * factor <= ranges[letter][1] for letter in letters)
