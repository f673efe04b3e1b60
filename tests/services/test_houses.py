"""What was learned of one sheet of a house, used in the next: letters, names, readings that were right."""

import sys
from contextlib import closing
from pathlib import Path

import pytest
from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).parent.parent.parent / "tools"))

from foreign.houses import PACKAGES, Sheet, house_sheets

from command_line import answer, eider
from drawn_tables import DUAL_ROWS, draw
from eider.commands.datasheets.house_rules import (
    AS_BEFORE,
    letters_known,
    reading_key,
    rule_words,
    rules_learned,
    settled_by_house,
    with_known_signs,
    with_rules,
)
from eider.datasheets import Datasheet
from eider.datasheets.documents.house_marks import house_marks
from eider.errors import InputError
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_HOUSES
from eider.model.doubt import Doubt
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.house import House, HouseRule
from eider.model.symbol import Pin
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet
from eider.services.datasheets.houses import change_rule, known_houses, learn_from_sheet, learn_house

# A house that names every length in its own way.
OWN_LETTERS = 1
WHO = ("NVK-1.pdf", "Lia", "2026-12-01T09:00:00Z")


def rule(kind: str = "letter", key: str = "gullwing-dual K", value: str = "L", *, seen: bool = False) -> HouseRule:
    return HouseRule(kind, key, value, *WHO, seen=seen)  # type: ignore[arg-type]  # one of the kinds


def drafted(library: Library, folder: Path, sheet: Sheet) -> DatasheetDraft:
    return draft_from_datasheet(library, folder / f"{sheet.name}.pdf", DraftChoice(sheet.name, "ic", sheet.package))


def learned_from(library: Library, folder: Path, sheet: Sheet) -> DatasheetDraft:
    """Draft a sheet, set its letters to what they mean, confirm all of it, and keep what that teaches."""
    draft = drafted(library, folder, sheet)
    aliases = {own: standard for own, standard in sheet.letters.items() if own != standard}
    bundle = replace(draft.bundle, sheet=replace(draft.bundle.sheet, aliases=aliases))
    document = draft.bundle.part.datasheets[0].sha256
    learn_from_sheet(library, document, bundle, draft.doubts, f"{sheet.name}.pdf")
    return draft


def test_the_second_sheet_of_a_house_asks_one_question_and_the_third_none(library: Library, tmp_path: Path) -> None:
    first, second, third = house_sheets(tmp_path, OWN_LETTERS)
    before = len(learned_from(library, tmp_path, first).doubts)
    draft = learned_from(library, tmp_path, second)
    asked = [doubt for doubt in draft.doubts if doubt.reason.startswith(AS_BEFORE)]
    assert before >= 9
    assert len(draft.doubts) <= before / 3
    assert [f"confirmed in {first.name}.pdf" in doubt.reason for doubt in asked] == [True]
    last = drafted(library, tmp_path, third)
    assert not [doubt for doubt in last.doubts if f"confirmed in {first.name}.pdf" in doubt.reason]
    for standard, (low, high) in PACKAGES[third.package].items():
        limits = last.bundle.sheet.dims[standard].limits
        assert limits and (limits.lower, limits.upper) == pytest.approx((float(low), float(high)))


def test_another_house_is_asked_as_if_nothing_had_been_learned(library: Library, tmp_path: Path) -> None:
    learned_from(library, tmp_path, house_sheets(tmp_path, OWN_LETTERS)[0])
    other = house_sheets(tmp_path, 4)[0]
    draft = drafted(library, tmp_path, other)
    assert not any(doubt.reason.startswith(AS_BEFORE) for doubt in draft.doubts)
    assert draft.doubts


def test_a_house_is_told_by_head_and_foot_without_numbers_and_names_of_parts(tmp_path: Path) -> None:
    (sheet, *_rest) = house_sheets(tmp_path, OWN_LETTERS)
    with closing(Datasheet(tmp_path / f"{sheet.name}.pdf")) as datasheet:
        assert house_marks(datasheet) == ("brackwater semi",)


def test_a_rule_that_is_switched_off_or_taken_back_is_not_used(library: Library, tmp_path: Path) -> None:
    first, second, _third = house_sheets(tmp_path, OWN_LETTERS)
    before = len(learned_from(library, tmp_path, first).doubts)
    house = known_houses(library)["Brackwater Semi"]
    off = replace(house, rules=tuple(replace(known, active=False) for known in house.rules))
    SHARED_HOUSES.save(library, "Brackwater Semi", off, replaces=house)
    assert len(drafted(library, tmp_path, second).doubts) == before
    change_rule(library, "Brackwater Semi", off.rules[0], None)
    assert known_houses(library)["Brackwater Semi"].rules == off.rules[1:]
    with pytest.raises(InputError, match="no such rule"):
        change_rule(library, "Brackwater Semi", rule(), None)


def test_what_was_learned_is_listed_and_changed_from_the_command_line(library: Library, tmp_path: Path) -> None:
    folder = str(library.folder)
    assert "nothing was learned yet" in eider("houses", folder).stdout
    learned_from(library, tmp_path, house_sheets(tmp_path, OWN_LETTERS)[0])
    listed = answer("houses", folder)
    assert listed[0]["house"] == "Brackwater Semi"
    assert any(entry["words"] == "K is L (gullwing-dual)" for entry in listed)
    eider("houses", folder, "--off", "1")
    assert ", switched off" in eider("houses", folder).stdout.splitlines()[0]
    assert len(answer("houses", folder, "--remove", "1")) == len(listed) - 1
    assert "there is no rule 999" in eider("houses", folder, "--on", "999", status=2).stderr


def test_a_sheet_without_marks_teaches_nothing(library: Library, tmp_path: Path) -> None:
    draw(tmp_path / "LYN-1.pdf", DUAL_ROWS)
    with closing(Datasheet(tmp_path / "LYN-1.pdf")) as datasheet:
        draft = draft_from_datasheet(library, tmp_path / "LYN-1.pdf")
        assert learn_house(library, datasheet, draft.bundle, draft.doubts, "LYN-1.pdf") is None
    assert known_houses(library) == {}


def test_a_name_that_ends_as_the_house_writes_active_low_is(library: Library, tmp_path: Path) -> None:
    evidence = Evidence(EvidenceKind.DATASHEET, text="5 RESET_L see text")
    bundle = drafted(library, tmp_path, house_sheets(tmp_path, OWN_LETTERS)[0]).bundle
    pins = (Pin(number="5", name="RESET", active_low=True, evidence=evidence), Pin(number="6", name="CS_L"))
    bundle = replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    learned = rules_learned(bundle, (), *WHO)
    assert ("active low", "_L") in [(one.kind, one.key) for one in learned]
    made = with_known_signs(bundle, House((), learned))
    assert [(pin.name, pin.active_low) for pin in made.symbol.pins] == [("RESET", True), ("CS", True)]


def test_what_is_of_one_sheet_alone_is_not_learned(library: Library, tmp_path: Path) -> None:
    bundle = drafted(library, tmp_path, house_sheets(tmp_path, OWN_LETTERS)[0]).bundle
    for address, reason in (
        ("sheet.dims.A", "recognised in a picture"),
        ("source", "another table of pins stands here; it was not taken"),
        ("source", "no table of pins was found"),
        ("symbol.pins.3", "no name"),
        ("source", f"{AS_BEFORE}, as Lia confirmed in A.pdf: …"),
    ):
        assert reading_key(bundle, Doubt(address, "", reason)) == ""
    told = reading_key(bundle, Doubt("sheet.dims.L", "K 0.40–1.27", "taken as L: 0.22 of D, usual 0.05 to 0.4"))
    assert told == "gullwing-dual | sheet.dims.L | K | taken as L: # of D, usual # to #"


def test_a_letter_that_means_something_else_now_takes_the_place_of_what_was_learned() -> None:
    house = with_rules(House(("x",)), [rule(value="b")])
    house = with_rules(house, [rule(value="L"), rule("reading", "k", "old")])
    assert letters_known(house, "gullwing-dual") == {"K": "L"}
    assert letters_known(house, "gullwing-quad") == letters_known(None, "gullwing-dual") == {}
    off = replace(house, rules=tuple(replace(one, active=False) for one in house.rules))
    assert with_rules(off, [rule(value="L")]).rules == off.rules
    assert [rule_words(one) for one in house.rules] == ["K is L (gullwing-dual)", "datasheet: k"]


def test_a_rule_that_was_seen_at_work_is_not_asked_about_again(library: Library, tmp_path: Path) -> None:
    bundle = drafted(library, tmp_path, house_sheets(tmp_path, OWN_LETTERS)[0]).bundle
    doubt = Doubt("sheet.dims.L", "K 0.40–1.27", "taken as L, the foot length: told by its length alone")
    kept, used = settled_by_house(bundle, [doubt], House(("x",), (rule(),)), "0" * 64)
    assert [one.reading for one in kept] == ["1 reading"] and used == (rule(),)
    kept, used = settled_by_house(bundle, [doubt], House(("x",), (rule(seen=True),)), "0" * 64)
    assert kept == [] and used == (rule(seen=True),)
    assert settled_by_house(bundle, [doubt], None, "0" * 64) == ([doubt], ())
