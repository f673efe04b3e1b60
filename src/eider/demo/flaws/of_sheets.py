"""Slips in package sheets and in the evidence of values."""

from eider.commands.packages import package_edits
from eider.demo.flaws.changes import (
    Flaw,
    exchanged,
    left_out,
    mils_as_mm,
    misread,
    replace,
    with_doubt,
    without_evidence,
    wrong_place,
)

# Without lands that can be computed again, the old ones stay as they were.
NO_LANDS = frozenset({"lands.not-computed"})

FLAWS = (
    Flaw(
        "sheet.family",
        "a family that Eider does not have",
        lambda b: replace(b, sheet=replace(b.sheet, family="unheard-of")),
        brings=NO_LANDS | {"body.not-as-recipe"},
    ),
    Flaw(
        "sheet.unknown-kind",
        "a kind that the family does not know",
        lambda b: replace(b, sheet=replace(b.sheet, kind="led")),
        base="LYN-T3528",
    ),
    Flaw(
        "sheet.unusual-size",
        "a whole column of mils read as millimetres",
        mils_as_mm,
    ),
    Flaw(
        "sheet.not-read",
        "a key of the sheet's text that is misspelt",
        lambda b: replace(b, sheet=replace(b.sheet, unread={"numberring": "numbering is known"})),
    ),
    Flaw("sheet.missing-dimension", "the lead's thickness forgotten", left_out("c")),
    Flaw("sheet.unreadable", "a letter typed for a digit", misread("c", "0.09–O.20")),
    Flaw(
        "sheet.unknown-letter",
        "a letter that the family does not have",
        lambda b: replace(b, sheet=replace(b.sheet, dims={**b.sheet.dims, "Q": b.sheet.dims["c"]})),
        brings=frozenset({"evidence.same-place"}),
    ),
    Flaw(
        "sheet.max-below-min",
        "a slipped digit: the maximum below the minimum",
        misread("b", "0.30–0.19"),
        brings=NO_LANDS,
    ),
    Flaw("sheet.not-positive", "a lost digit: a thickness of zero", misread("c", "0–0.20")),
    Flaw("sheet.implausible", "a body shorter than its row of leads", misread("D", "4.00–4.20")),
    Flaw(
        "sheet.letters-exchanged",
        "the sheet's span and width under each other's letter",
        exchanged("E", "E1"),
        brings=frozenset({"sheet.implausible", "body.not-as-recipe"}),
    ),
    Flaw(
        "sheet.mixed-unit",
        "mil for millimetres",
        misread("c", "3.5–8"),
        brings=frozenset({"body.seating"}),
    ),
    Flaw("sheet.no-tolerance", "a nominal width for its limits", misread("b", "0.25")),
    Flaw("sheet.no-evidence", "a value whose place nobody noted", without_evidence("b")),
    Flaw(
        "evidence.changed-by-hand",
        "a value typed over that of the datasheet",
        lambda b: package_edits.set_dimension(b, "b", "0.20–0.30"),
        brings=frozenset({"sheet.no-evidence"}),
    ),
    Flaw("evidence.same-place", "the value of the next row, taken twice", wrong_place("D", "E1")),
    Flaw("evidence.to-confirm", "a guess of the draft that nobody looked at", with_doubt),
)
