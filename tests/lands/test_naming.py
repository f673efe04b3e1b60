"""Names by template, and courtyards by contour; expected values by hand."""

import pytest
from shapely.geometry import Polygon, box

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.lands.pattern import NamingError, filled, make_pattern
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

WORDS = {"standard": "SOIC127P600X175-8", "level": "N", "pins": "8"}
LENGTHS = {"E": 6.0, "A": 1.75, "e": 1.27}


@pytest.mark.parametrize(
    ("template", "name"),
    [
        ("{standard}{level}", "SOIC127P600X175-8N"),
        ("SF-{pins}-{e}P{E}", "SF-8-127P600"),
        ("{e:mm}x{E:mm}", "1.27x6"),
        # 1.75 is 17.5 tenths; a half counts down, as in the trade's size codes.
        ("H{A:tenths}", "H17"),
    ],
)
def test_a_template_is_filled_in(template: str, name: str) -> None:
    assert filled(template, WORDS, LENGTHS) == name


@pytest.mark.parametrize("template", ["{nope}", "{E", "{E:furlong}", "{pins:mm}", "a/b", "", "{standard.__class__}"])
def test_a_template_that_gives_no_name_is_refused(template: str) -> None:
    with pytest.raises(NamingError):
        filled(template, WORDS, LENGTHS)


def test_the_rulebooks_template_names_the_pattern(so8: PackageSheet) -> None:
    rules = standard_rulebook().with_values({"naming.*": "{family}-{pins}{density}"})
    assert make_pattern(so8, "A", rules).name == "gullwing-dual-8A"
    own = rules.with_values({"naming.gullwing-dual": "SO{pins}"})
    assert make_pattern(so8, "A", own).name == "SO8"


def test_a_contour_follows_lands_and_body(so8: PackageSheet) -> None:
    made = make_pattern(so8, "B", standard_rulebook().with_values({"lines.courtyard_form": "contour"}))
    # Body 4.00 × 5.00 at most with 0.25 round it; lands end at 1.905 + 0.3 along the row, and reach
    # to 3.45, with 0.25 round them 3.70; the mark of pin 1 is above its pad and does not reach out of that.
    whole = Polygon(made.courtyard)
    assert whole.bounds == pytest.approx((-3.7, -2.75, 3.7, 2.75))
    assert whole.contains(box(-2.24, -2.74, 2.24, 2.74))
    assert not whole.contains(box(-3.69, 2.5, -3.6, 2.7))
    assert whole.area < 7.4 * 5.5


@pytest.mark.parametrize("family", SAMPLES)
def test_a_contour_holds_what_a_rectangle_does(family: str) -> None:
    rules = standard_rulebook().with_values({"lines.courtyard_form": "contour"})
    made = make_pattern(sample(family), "B", rules)
    plain = make_pattern(sample(family), "B", standard_rulebook())
    assert Polygon(plain.courtyard).buffer(1e-6).contains(Polygon(made.courtyard))
    view = PartUnderCheck(bare_bundle(sample(family), made, "B"), rules, LibrarySettings(name=""))
    assert "lands.courtyard" not in {f.check for f in run_checks(view)}
