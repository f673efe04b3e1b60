"""Slips in land patterns: some of the recipe, some of a result that was changed in its file."""

from eider.commands.lands import manufacturer_lands
from eider.demo.flaws.changes import (
    Flaw,
    adjusted,
    dressed,
    misread,
    replace,
    stored_mark,
    stored_pad,
    stored_pattern,
)
from eider.model.bundle import Bundle
from eider.model.finding import Severity
from eider.model.footprint import KeptDistance, SilkscreenOverride
from eider.model.package_sheet import Dimension
from eider.model.pattern import Hole, Pad, PatternStroke
from eider.rulebooks import standard_rulebook

BY_FILE = frozenset({"lands.not-as-recipe"})
POST = Pad("H9", 1.0, -1.7, 1.0, 1.0, shape="circle", hole=Hole(1.0, 1.0), plated=False, layers="all")


def _suggested(bundle: Bundle) -> Bundle:
    """The maker's own lands, 0.3 mm longer on each side than the computed."""
    bundle = manufacturer_lands.set_source(bundle, "suggested", standard_rulebook())
    for key, text in (("Z", "7.9"), ("G", "4.2"), ("X", "0.4")):
        bundle = manufacturer_lands.set_suggested(bundle, "row 1 and row 2", key, text)
    return bundle


def _suggested_beside(bundle: Bundle) -> Bundle:
    """The same lands of the maker, which the footprint does not take."""
    return manufacturer_lands.set_source(_suggested(bundle), "computed", standard_rulebook())


def _kept_then_moved(bundle: Bundle) -> Bundle:
    """The datasheet's 10.50 from the first hole to the last, kept, and then a pitch of another connector."""
    kept = KeptDistance("hole 1 centre", "hole 4 centre", "x", Dimension("10.50±0.05"))
    bundle = replace(bundle, footprint=replace(bundle.footprint, distances=(kept,)))
    return misread("e", "3.81")(bundle)


def _row_at(step: float, shift: float = 0.0, first: int = 1) -> tuple[tuple[str, str, str], ...]:
    """Eight pads from `first` on at another step or place."""
    return tuple((str(first + n), "y", f"{(3.5 - n) * step + shift:.4f}") for n in range(8))


FLAWS = (
    Flaw("lands.not-computed", "a hand change that cannot be read", adjusted(("3", "width", "1.2 furlong"))),
    Flaw("lands.not-as-recipe", "a number changed in the file", stored_pad("5", height=0.42), stored=True),
    Flaw(
        "lands.lie",
        "a pattern drawn as seen from below",
        stored_pattern(lambda p: replace(p, pads=tuple(replace(pad, x=-pad.x) for pad in p.pads))),
        stored=True,
        brings=BY_FILE | {"lands.pin-1-mark", "body.terminal-off-land"},
    ),
    Flaw(
        "lands.slip",
        "a row moved along itself by a quarter of its pitch",
        adjusted(*_row_at(0.65, 0.16)),
        brings=frozenset({"lands.joint-below-level", "lands.origin-not-centre"}),
    ),
    Flaw("lands.adjustment-lost", "a hand change of a pad that is gone", adjusted(("99", "width", "1.5"))),
    Flaw("lands.joint-below-level", "a land narrower than its lead needs", adjusted(("3", "height", "0.3"))),
    Flaw("lands.differs-from-computed", "the maker's lands, longer than needed", _suggested),
    Flaw("lands.differs-from-suggested", "the maker's lands, kept beside the computed", _suggested_beside),
    Flaw(
        "lands.pitch",
        "a metric pitch drawn on the inch grid, over twelve ways",
        adjusted(*((str(n), "x", f"{(n - 6.5) * 1.27:.4f}") for n in range(1, 13))),
        "OHC-125-12R",
        brings=frozenset({"lands.kept-distance"}),
        severity=Severity.BLOCKER,
    ),
    Flaw(
        "lands.not-symmetric",
        "one land further out than its opposite",
        adjusted(("3", "x", "-2.95"), ("3", "width", "1.7")),
        brings=frozenset({"lands.origin-not-centre"}),
    ),
    Flaw(
        "lands.origin-not-centre",
        "the origin beside the middle",
        adjusted(*_row_at(0.65, 0.1), *_row_at(-0.65, 0.1, 9)),
    ),
    Flaw(
        "lands.pad-numbers",
        "a number given twice",
        adjusted(("3", "number", "2")),
        brings=frozenset({"match.pin-without-pad"}),
    ),
    Flaw(
        "lands.pads-overlap",
        "a land as wide as the pitch",
        adjusted(("3", "height", "1.0")),
        brings=frozenset({"lands.mask-web"}),
    ),
    Flaw("lands.gap-between-lands", "a land too wide for its neighbours", adjusted(("3", "height", "0.52"))),
    Flaw("lands.mask-web", "openings that leave no web between them", adjusted(("3", "mask", "0.13"))),
    Flaw("lands.paste-release", "an opening of the stencil that keeps its paste", adjusted(("3", "paste", "-0.12"))),
    Flaw("lands.hole-size", "a drill thinner than the pin", adjusted(("2", "hole", "0.9")), "OHC-350-04"),
    Flaw(
        "lands.ring",
        "a drill nearly as large as the land",
        adjusted(("2", "width", "1.7"), ("2", "height", "1.7")),
        "OHC-350-04",
    ),
    Flaw(
        "lands.hole-to-hole",
        "two drills that meet",
        adjusted(("2", "x", "0")),
        brings=frozenset({"lands.pitch", "lands.pads-overlap", "lands.mask-web", "body.terminal-off-land"}),
        base="OHC-350-04",
    ),
    Flaw(
        "lands.hole-to-land",
        "a post beside a land",
        stored_pattern(lambda p: replace(p, pads=(*p.pads, POST))),
        "OHC-350-04",
        stored=True,
        brings=BY_FILE,
    ),
    Flaw(
        "lands.thermal-gap",
        "a thermal land that reaches its neighbours",
        adjusted(("25", "width", "3.62")),
        "NVK-3301Q",
        brings=frozenset({"lands.differs-from-suggested"}),
    ),
    Flaw(
        "lands.thermal-reduced",
        "a thermal pad read with the digits of another package",
        misread("D2", "3.60–3.80"),
        "NVK-3301Q",
        brings=frozenset({"lands.differs-from-suggested"}),
    ),
    Flaw(
        "lands.thermal-coverage",
        "one window of paste over a whole thermal land",
        adjusted(("25", "paste", "0")),
        "NVK-3301Q",
    ),
    Flaw(
        "lands.courtyard",
        "a courtyard that was left out",
        stored_pattern(lambda p: replace(p, courtyard=())),
        stored=True,
        brings=BY_FILE,
    ),
    Flaw(
        "lands.silkscreen-over-opening",
        "a mark drawn over a land",
        stored_mark(PatternStroke(((-3.7, 2.45), (-2.4, 2.45)), 0.12, "mark")),
        stored=True,
        brings=BY_FILE,
    ),
    Flaw(
        "lands.silkscreen-hidden",
        "lines under the body alone",
        stored_pattern(lambda p: replace(p, silkscreen=(PatternStroke(((-1.0, 0.0), (1.0, 0.0)), 0.12, "body"),))),
        stored=True,
        brings=BY_FILE | {"lands.pin-1-mark"},
    ),
    Flaw("lands.kept-distance", "a row moved after its distance was kept", _kept_then_moved, "OHC-350-04"),
    Flaw("lands.pin-1-mark", "no mark at pin 1", dressed(SilkscreenOverride("hide", layer="silkscreen", text="mark"))),
    Flaw(
        "lands.keep-out",
        "a land where nothing but the post may be",
        dressed(SilkscreenOverride("keep-out", "-3,1 -2,1 -2,2 -3,2", text="copper")),
    ),
)
