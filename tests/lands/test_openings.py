"""Openings of pads by hand, where several pads bear one number or none."""

from eider.lands.pads import manual_openings, with_openings
from eider.lands.pattern import make_pattern
from eider.model.outline import PadSpec
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.pattern import Pad
from eider.packages.family import ManualPad
from eider.packages.pads.pad_shapes import pad_outline
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import standard_rulebook

RULEBOOK = standard_rulebook()


def laid(*pads: PadSpec) -> tuple[Pad, ...]:
    sheet = PackageSheet(name="", family="custom", pins=2, dims={"A": Dimension("2")}, pads=pads)
    return make_pattern(parse_dimensions(sheet).sheet, "B", RULEBOOK).pads


def test_the_second_pad_of_a_number_keeps_its_paste() -> None:
    first, second, _ = laid(
        PadSpec("1", x="-3", width="1", height="1", paste="none"),
        PadSpec("1", x="0", width="1", height="1"),
        PadSpec("2", x="3", width="1", height="1"),
    )
    assert (len(first.paste), len(second.paste)) == (0, 1)


def test_unnumbered_holes_each_have_their_own_mask() -> None:
    pads = laid(
        PadSpec("1", x="-6", width="1", height="1"),
        PadSpec("", x="-3", hole="1", plated=False, mask="0.2"),
        PadSpec("", x="3", hole="2", plated=False, mask="0.5"),
    )
    widths = [pad.mask[0].width for pad in pads if not pad.number]
    assert widths == [1.4, 3.0]


def test_an_opening_is_as_its_pad_grown() -> None:
    (pad,) = with_openings((Pad("1", 1.0, 2.0, 2.0, 1.0, shape="oval"),), RULEBOOK)
    assert pad_outline(pad.mask[0]) == pad_outline(pad, 0.05)
    assert manual_openings((pad,), (ManualPad(pad=pad),), RULEBOOK) == (pad,)
