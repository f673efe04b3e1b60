"""What agrees with a value: a second unit, the pinout figure, sums that have to fit; expected values worked by hand."""

from msgspec.structs import replace

from eider.commands.parts.new_parts import new_part
from eider.evidence.value_witnesses import has_second_reading, witnesses_of
from eider.geometry.lengths import parse_limits
from eider.model.address import DimensionAddress, FieldAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.library import Category, LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.part import FigurePin, PinoutFigure
from eider.model.symbol import Pin


def bundle_of(sheet: PackageSheet) -> Bundle:
    return replace(
        new_part("NVK-1", "ic", LibrarySettings(name="tests", categories={"ic": Category("Integrated circuit")})),
        sheet=sheet,
    )


def words(bundle: Bundle, letter: str) -> list[str]:
    return [witness.words for witness in witnesses_of(bundle, DimensionAddress(letter))]


def cited(sheet: PackageSheet, letter: str, text: str, agrees: str = "") -> PackageSheet:
    evidence = Evidence(EvidenceKind.DATASHEET, "0" * 64, 2, (0, 0, 9, 9), text, agrees=agrees)
    old = sheet.dims[letter]
    return replace(sheet, dims={**sheet.dims, letter: Dimension(old.text, old.limits, evidence)})


def test_leads_at_the_pitch_fill_the_side_of_the_body(so8: PackageSheet) -> None:
    """Four leads a side at 1.27: three pitches are 3.81 mm of a body of 4.80 to 5.00, in the middle 4.9."""
    assert words(bundle_of(so8), "e") == ["4 leads a side at 1.27 mm take 3.81 of D, 4.9 mm"]
    assert words(bundle_of(so8), "D") == words(bundle_of(so8), "e")
    twice = replace(so8, dims={**so8.dims, "e": Dimension("2.54", parse_limits("2.54"))})
    assert words(bundle_of(twice), "e") == []
    mil = replace(so8, dims={**so8.dims, "e": Dimension("0.5", parse_limits("0.5"))})
    assert words(bundle_of(mil), "e") == []


def test_a_foot_fits_between_body_and_span(so8: PackageSheet) -> None:
    """(6.00 − 3.90) / 2 = 1.05 mm for a foot of 0.835."""
    told = ["beside the body (E − E1) / 2 = 1.05 mm are left for a foot of 0.835 mm"]
    assert words(bundle_of(so8), "E") == told
    swapped = replace(so8, dims={**so8.dims, "E": so8.dims["E1"], "E1": so8.dims["E"]})
    assert words(bundle_of(swapped), "E") == []


def test_the_same_in_inches_is_a_second_reading(so8: PackageSheet) -> None:
    """0.31 mm is 0.0122 in and 0.51 is 0.0201: to three places .012 and .020."""
    agrees = bundle_of(cited(so8, "b", "0.31 0.51 .012 .020"))
    assert words(agrees, "b") == ["in inches it says the same: .012, .020"]
    assert has_second_reading(agrees, DimensionAddress("b"))
    for text in ("0.31 0.51", "0.31 0.51 .012 .021", "0.31 0.51 .013 .020", ".012 .020"):
        assert not has_second_reading(bundle_of(cited(so8, "b", text)), DimensionAddress("b"))
    told = bundle_of(cited(so8, "b", "0.31 0.51", "0.012–0.020 in"))
    assert words(told, "b") == ["in another unit it says the same: 0.012–0.020 in"]


def test_the_pinout_figure_is_a_second_reading_of_a_pins_name(so8: PackageSheet) -> None:
    bundle = bundle_of(so8)
    pins = (Pin(number="1", name="OUT"), Pin(number="2", name="IN-"), Pin(number="3", name="IN+"))
    drawn = tuple(FigurePin(number, name, 0.0, 0.0) for number, name in (("1", "OUT"), ("2", "IN+")))
    figure = PinoutFigure(document="0" * 64, page=1, box=(0, 0, 9, 9), pins=drawn, size=8.0)
    bundle = replace(bundle, symbol=replace(bundle.symbol, pins=pins), part=replace(bundle.part, pinout=figure))
    (one,) = witnesses_of(bundle, PinAddress("1"))
    assert one.words == "the pinout figure on page 1 says OUT, too"
    assert witnesses_of(bundle, PinAddress("2")) == witnesses_of(bundle, PinAddress("3")) == ()


def test_a_value_without_anything_beside_it_has_no_witness(so8: PackageSheet) -> None:
    assert witnesses_of(bundle_of(so8), FieldAddress("source")) == ()
    assert words(bundle_of(so8), "A") == []
