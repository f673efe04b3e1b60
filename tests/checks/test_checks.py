"""Every check: none of it on a sound part, exactly its finding on one with its flaw, and its mend mends."""

from collections.abc import Callable

import pytest
from msgspec.structs import replace

from eider.checks import PartView, all_checks, mend, run_checks
from eider.demo.build import MADE
from eider.evidence.changes import set_evidence
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.footprint import Adjustment
from eider.model.part import DatasheetLink
from eider.model.pattern import Hole, Pad, Pattern, Stroke
from eider.model.symbol import OwnGraphic, Pin, PlacedPin, SymbolMeasures
from eider.model.symbol import Stroke as DrawnRow
from eider.rulebooks import standard_rulebook
from eider.workbench import edits, suggesting, symbol_edits
from eider.workbench.generate import regenerate
from helpers import make_sheet

Flaw = Callable[[Bundle], Bundle]


def dim(letter: str, text: str) -> Flaw:
    return lambda b: edits.set_dimension(b, letter, text)


def pins(change: Callable[[Pin], Pin], number: str = "9") -> Flaw:
    return lambda b: edits.set_pin_table(b, [change(p) if p.number == number else p for p in b.symbol.pins])


def pattern(change: Callable[[Pattern], Pattern]) -> Flaw:
    def apply(b: Bundle) -> Bundle:
        assert b.footprint.pattern
        return replace(b, footprint=replace(b.footprint, pattern=change(b.footprint.pattern)))

    return apply


def pad(number: str, **changes: object) -> Flaw:
    def moved(p: Pattern) -> Pattern:
        return replace(p, pads=tuple(replace(x, **changes) if x.number == number else x for x in p.pads))

    return pattern(moved)


def without_pins(gone: Callable[[PlacedPin], bool]) -> Flaw:
    def apply(b: Bundle) -> Bundle:
        unit = b.symbol.units[0]
        kept = tuple(pin for pin in unit.pins if not gone(pin))
        return replace(b, symbol=replace(b.symbol, units=(replace(unit, pins=kept),)))

    return apply


def suggested(z: str) -> Flaw:
    def apply(b: Bundle) -> Bundle:
        group = "row 1 and row 2"
        b = suggesting.set_source(b, "suggested", standard_rulebook())
        for key, text in (("Z", z), ("G", "4.8"), ("X", "0.4")):
            b = suggesting.set_suggested(b, group, key, text)
        return b

    return apply


def adjusted(what: str, value: str, number: str = "3") -> Flaw:
    return lambda b: edits.adjust(b, Adjustment(number, what, value))


def marks(strokes: tuple[Stroke, ...]) -> Flaw:
    return pattern(lambda p: replace(p, silkscreen=(*(s for s in p.silkscreen if s.role != "mark"), *strokes)))


def unit_pin(number: str, **changes: object) -> Flaw:
    def apply(b: Bundle) -> Bundle:
        unit = b.symbol.units[0]
        placed = tuple(replace(p, **changes) if p.number == number else p for p in unit.pins)
        return replace(b, symbol=replace(b.symbol, units=(replace(unit, pins=placed),)))

    return apply


# Flaws of a recipe are followed by `regenerate`; flaws of a stored result are not.
RECIPES: dict[str, Flaw] = {
    "sheet.family": lambda b: replace(b, sheet=replace(b.sheet, family="unheard-of")),
    "sheet.missing-dimension": dim("b", ""),
    "sheet.unreadable": dim("b", "0.19–x"),
    "sheet.unknown-letter": dim("Q", "1.0"),
    "sheet.max-below-min": dim("b", "0.30–0.19"),
    "sheet.not-positive": dim("b", "0–0.30"),
    "sheet.implausible": dim("D", "4.0–4.2"),
    "sheet.mixed-unit": dim("A1", "2–6"),
    "sheet.no-tolerance": dim("b", "0.25"),
    "sheet.no-evidence": dim("b", "0.20–0.30"),
    "sheet.letters-exchanged": lambda b: dim("E1", "6.20–6.60")(dim("E", "4.30–4.50")(b)),
    "evidence.changed-by-hand": dim("b", "0.20–0.30"),
    "evidence.same-place": lambda b: set_evidence(b, {"sheet.dims.D": b.sheet.dims["E1"].evidence}),
    "lands.not-computed": dim("L", ""),
    "lands.adjustment-lost": adjusted("width", "1.5", "99"),
    "lands.joint-below-level": adjusted("width", "1.2"),
    "lands.pitch": adjusted("y", "1.2"),
    "lands.origin-not-centre": adjusted("x", "-3.0", "1"),
    "lands.pad-numbers": adjusted("number", "2", "3"),
    "lands.pads-overlap": adjusted("height", "1.0"),
    "lands.gap-between-lands": adjusted("height", "0.55"),
    "lands.mask-web": adjusted("height", "0.6"),
    "lands.paste-release": adjusted("height", "0.1"),
    "symbol.no-pins": lambda b: edits.set_pin_table(b, ()),
    "symbol.number-duplicate": pins(lambda p: replace(p, number="10")),
    "symbol.count-against-package": lambda b: edits.set_pin_table(b, b.symbol.pins[:-1]),
    "symbol.name-missing": pins(lambda p: replace(p, name="")),
    "symbol.type-undecided": pins(lambda p: replace(p, type="undecided")),
    "symbol.type-assumed": pins(lambda p: replace(p, assumed=True)),
    "symbol.active-low-name": pins(lambda p: replace(p, name="PWRDN#", active_low=False)),
    "symbol.graphic-unfit": lambda b: replace(b, symbol=replace(b.symbol, graphic="capacitor")),
    "symbol.side-unusual": lambda b: symbol_edits.put_on_side(b, ["9"], "right"),
    "symbol.active-low-odd": pins(lambda p: replace(p, type="not connected", active_low=True)),
    "symbol.move-lost": lambda b: symbol_edits.put_pins(b, ["9"], "left", "99"),
    "symbol.own-drawing": lambda b: symbol_edits.set_own(b, OwnGraphic({}, (DrawnRow("line", "0,0 1"),))),
    "symbol.characters": pins(lambda p: replace(p, name="POWER DOWN")),
    "symbol.other-style": lambda b: replace(b, symbol=replace(b.symbol, measures=SymbolMeasures(grid=2.5))),
    "symbol.reference-letter": lambda b: replace(b, symbol=replace(b.symbol, reference="Q")),
    "match.pin-without-pad": lambda b: edits.set_match(b, "9", ["77"]),
    "match.pad-without-pin": lambda b: edits.set_match(b, "9", ["10"]),
    "match.pad-of-two-pins": lambda b: edits.set_match(b, "9", ["10"]),
    "facts.no-category": lambda b: edits.set_about(b, category="unheard-of"),
    "facts.required": lambda b: edits.set_fact(b, "Manufacturer", ""),
    "facts.other-spelling": lambda b: edits.rename_fact(b, "Manufacturer", "Mfr"),
    "facts.part-name": lambda b: edits.set_about(b, name="nvk 1216"),
    "facts.no-datasheet": lambda b: replace(b, part=replace(b.part, datasheets=())),
}
RECIPES["lands.differs-from-computed"] = suggested("7.9")


def package(family: str, pins: int, flaw: Flaw | None = None, **dims: str) -> Flaw:
    """Another package in place of the sound part's, with a flaw of its own in its pattern."""

    def apply(b: Bundle) -> Bundle:
        sheet = replace(make_sheet(family, pins, **dims), id=b.sheet.id)
        made = regenerate(replace(b, sheet=sheet), standard_rulebook())
        return flaw(made) if flaw else made

    return apply


HEADER = {"e": "2.54", "b": "0.62–0.66", "A": "8"}
THERMAL = {
    "D": "3.9–4.1",
    "E": "3.9–4.1",
    "e": "0.65",
    "b": "0.25–0.35",
    "L": "0.3–0.5",
    "A": "0.8",
    "D2": "2",
    "E2": "2",
}
POST = Pad("H9", 0.9, 0.0, 1.0, 1.0, shape="circle", hole=Hole(1.0, 1.0), plated=False, layers="all")
RESULTS: dict[str, Flaw] = {
    "lands.not-as-recipe": pad("5", width=1.0),
    "lands.courtyard": pattern(lambda p: replace(p, courtyard=())),
    "lands.silkscreen-over-opening": marks((Stroke(((-3.7, 2.3), (-2.0, 2.3)), 0.12, "mark"),)),
    "lands.pin-1-mark": marks(()),
    "lands.not-symmetric": pad("5", x=-2.5),
    "lands.silkscreen-hidden": pattern(
        lambda p: replace(p, silkscreen=(Stroke(((-1.0, 0.0), (1.0, 0.0)), 0.12, "body"),))
    ),
    "lands.hole-size": package("header", 3, pad("2", hole=Hole(0.9, 0.9)), **HEADER),
    "lands.ring": package("header", 3, pad("2", hole=Hole(1.7, 1.7)), **HEADER),
    "lands.hole-to-hole": package("header", 3, pad("2", x=-1.3), **HEADER),
    "lands.hole-to-land": package("header", 2, pattern(lambda p: replace(p, pads=(*p.pads, POST))), **HEADER),
    "lands.thermal-gap": package("no-lead-quad", 16, pad("17", width=2.9), **THERMAL),
    "lands.thermal-coverage": package("no-lead-quad", 16, pad("17", paste=()), **THERMAL),
    "symbol.pin-off-grid": unit_pin("9", x=1.0),
    "symbol.pins-meet": lambda b: unit_pin("9", x=b.symbol.units[0].pins[0].x, y=b.symbol.units[0].pins[0].y)(b),
    "symbol.supply-hidden": without_pins(lambda pin: pin.type == "power input"),
    "symbol.unit-empty": without_pins(lambda _pin: True),
    "symbol.pin-off-body": unit_pin("9", y=200.0),
    "symbol.texts-overlap": unit_pin("9", name="A_NAME_MUCH_LONGER_THAN_ANY_BODY_IS_WIDE"),
    "symbol.not-as-recipe": unit_pin("9", name="OTHER"),
    "body.not-as-recipe": lambda b: replace(b, body=replace(b.body, result=None)),
}


def found(bundle: Bundle, library: Library) -> tuple[Finding, ...]:
    return run_checks(PartView(bundle, standard_rulebook(), library.settings))


def test_a_sound_part_has_no_findings(sound: Bundle, library: Library) -> None:
    assert found(sound, library) == ()


@pytest.mark.parametrize("name", [name for name, _, _ in MADE[1:]])
def test_the_other_parts_of_the_demo_are_sound_too(name: str, library: Library) -> None:
    make = next(make for key, make, _ in MADE if key == name)
    assert found(make(library, DatasheetLink("0" * 64, "x.pdf")), library) == ()


def test_every_check_has_a_sample_here_a_title_and_a_reason() -> None:
    assert set(all_checks()) == set(RECIPES) | set(RESULTS)
    for entry in all_checks().values():
        assert entry.title.endswith(".") and len(entry.title) > 10, entry.id
        assert len(entry.why) > 20, entry.id


@pytest.mark.parametrize("check_id", [*RECIPES, *RESULTS])
def test_a_flaw_gives_its_finding(check_id: str, sound: Bundle, library: Library) -> None:
    flawed = (
        regenerate(RECIPES[check_id](sound), standard_rulebook()) if check_id in RECIPES else RESULTS[check_id](sound)
    )
    hits = [f for f in found(flawed, library) if f.check == check_id]
    assert hits
    assert all(f.item == flawed.part.name and f.place and f.message for f in hits)


@pytest.mark.parametrize("check_id", [key for key, entry in all_checks().items() if entry.mend])
def test_a_mend_mends(check_id: str, sound: Bundle, library: Library) -> None:
    flawed = (
        regenerate(RECIPES[check_id](sound), standard_rulebook()) if check_id in RECIPES else RESULTS[check_id](sound)
    )
    hit = next(f for f in found(flawed, library) if f.check == check_id)
    mended = regenerate(mend(PartView(flawed, standard_rulebook(), library.settings), hit), standard_rulebook())
    assert hit.key not in {f.key for f in found(mended, library)}


def test_the_mend_of_a_mixed_unit_reads_mil(sound: Bundle, library: Library) -> None:
    # 2–6 mil is 0.0508–0.1524 mm.
    flawed = regenerate(dim("A1", "2–6")(sound), standard_rulebook())
    hit = next(f for f in found(flawed, library) if f.check == "sheet.mixed-unit")
    limits = mend(PartView(flawed, standard_rulebook(), library.settings), hit).sheet.limits("A1")
    assert limits is not None
    assert (limits.min, limits.max) == pytest.approx((0.0508, 0.1524))


def test_below_c_is_a_blocker_and_says_by_how_much(sound: Bundle, library: Library) -> None:
    flawed = regenerate(adjusted("width", "0.8")(sound), standard_rulebook())
    hits = [f for f in found(flawed, library) if f.check == "lands.joint-below-level"]
    # Pad 3 is 0.8 long about −2.875: Z 3.275 + 3.65 = 6.925, G 2.475 + 2.1 = 4.575. Toe (6.925 − 6.2 − 0.4153)/2 is
    # above C; heel (5.4915 − 4.575 − 0.5937)/2 = 0.1614 is 0.089 short of the 0.25 of C.
    by_fillet = {f.message.split()[0]: f for f in hits}
    assert by_fillet["toe"].severity == "caution"
    assert by_fillet["heel"].severity == "blocker"
    assert "0.089 mm short" in by_fillet["heel"].message


def test_a_pitch_on_the_wrong_grid_adds_up(sound: Bundle, library: Library) -> None:
    # 0.65 drawn as 25 mil (0.635): 0.015 each, 7 × 0.015 = 0.105 over the row of eight.
    flawed = sound
    for number in range(1, 9):
        y = (4.5 - number) * 0.635
        flawed = edits.adjust(flawed, Adjustment(str(number), "y", f"{y:.4f}"))
    hits = [f for f in found(regenerate(flawed, standard_rulebook()), library) if f.check == "lands.pitch"]
    assert len(hits) == 1
    assert "0.105 mm" in hits[0].message
    assert hits[0].severity == "blocker"


def test_a_waiver_holds_until_the_thing_changes(sound: Bundle, library: Library) -> None:
    flawed = regenerate(adjusted("height", "0.55")(sound), standard_rulebook())
    hit = next(f for f in found(flawed, library) if f.check == "lands.gap-between-lands")
    accepted = edits.waive(flawed, hit, "the maker's own pattern", "Skerry reviewer")
    assert hit.check not in {f.check for f in found(accepted, library)}
    changed = regenerate(adjusted("height", "0.57")(accepted), standard_rulebook())
    assert hit.check in {f.check for f in found(changed, library)}


def test_a_blocker_cannot_be_waived(sound: Bundle, library: Library) -> None:
    flawed = regenerate(dim("b", "")(sound), standard_rulebook())
    blocker = next(f for f in found(flawed, library) if f.severity == "blocker")
    with pytest.raises(Exception, match="must be mended"):
        edits.waive(flawed, blocker, "no time", "Skerry engineer")
