"""Patterns from files, to be compared with a part without becoming one of its own."""

from pathlib import Path

from eider.exchange.pattern_file import read_pads
from eider.packages.orientation import PackageOrientation
from eider.views.joint_yield_view import OtherPattern


def read_other_pattern(path: Path) -> OtherPattern:
    """The pads of a pattern file; where it does not say how the package lies, it lies as the rulebook has it.

    Raises:
        InputError: the file cannot be read, or is not a pattern.
    """
    read = read_pads(path)
    lying = None if read.turn is None else PackageOrientation(read.turn // 90, read.mirrored)
    return OtherPattern(path.name, read.pads, lying)
