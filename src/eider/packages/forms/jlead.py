"""The J-lead, as the families that have it share it: it runs down the body's side and turns in under it."""

from eider.geometry.bends import bend_at
from eider.geometry.limits import Limits
from eider.geometry.plane import Outline
from eider.geometry.rounding import tidy
from eider.geometry.solids import Strip
from eider.packages.family import Dims, Letter
from eider.packages.forms.gullwing import INNER_RADIUS

STAND_OFF, THICKNESS = 0.6, 0.2
# The lead leaves the body at this share of its height.
LEAVES_AT = 0.55


def profile(dims: Dims, span: Limits, body: Limits) -> Outline:
    """The lead from the side, pointing to +x: its contact on z = 0 reaches inwards from half the span (mm)."""
    tip, foot, thick = span.middle / 2, dims["L"].middle, dims["c"].middle
    inner = min(body.middle / 2, tip) - 0.05
    middle = LEAVES_AT * dims["A"].upper
    points = (
        (inner, middle + thick / 2),
        (tip, middle + thick / 2),
        (tip, 0.0),
        (tip - foot, 0.0),
        (tip - foot, thick),
        (tip - thick, thick),
        (tip - thick, middle - thick / 2),
        (inner, middle - thick / 2),
    )
    return tuple((tidy(x), tidy(z)) for x, z in points)


def strip(dims: Dims, span: Limits, body: Limits) -> Strip:
    """The lead as a solid: its profile, as wide as the lead, rounded where it bends down."""
    outline, thick, outside, inside = profile(dims, span, body), dims["c"].middle, 1, 6
    bends = (
        bend_at(outline, outside, (1 + INNER_RADIUS) * thick),
        bend_at(outline, inside, INNER_RADIUS * thick),
    )
    return Strip(outline, dims["b"].middle, bends)


LETTERS = (
    Letter(key="A", meaning="height", view="side", reference="E", typical=(0.08, 1.0), also=("H", "T")),
    Letter(key="A1", meaning="stand-off", view="side", assumed=STAND_OFF, reference="A", typical=(0.05, 0.8),
           also=("K",)),
    Letter(key="c", meaning="lead thickness", view="side", assumed=THICKNESS, reference="A", typical=(0.02, 0.4),
           also=("C",)),
)  # fmt: skip
