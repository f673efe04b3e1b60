"""A sheet that is being filled in, or filled in wrongly, is told what is wrong; nothing breaks on it."""

from collections.abc import Callable

import pytest
from msgspec.structs import replace
from tests.packages.test_families import SAMPLES, sample

from eider.cli.packages.lands import bare_bundle
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.library import LibrarySettings
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook

RULES = EvaluationRules(standard_rulebook(), LibrarySettings(name="x"))
LENGTHS = ("0", "-1", "0.001", "1000", "1000–2000")
FIELDS = ("", "nonsense", "0", "-3", "9999", "1, 2, 3", "A1")
PINS = ("1", "2", "3", "7", "400")


def _changes(bundle: Bundle) -> list[Callable[[], Bundle]]:
    """What a user may make of a sheet on the way, one thing at a time."""
    sheet = bundle.sheet

    def without(letter: str) -> Bundle:
        return replace(bundle, sheet=replace(sheet, dims={k: d for k, d in sheet.dims.items() if k != letter}))

    return [
        *(lambda k=k: without(k) for k in sheet.dims),
        *(lambda k=k, t=t: package_edits.set_dimension(bundle, k, t) for k in sheet.dims for t in LENGTHS),
        *(
            lambda f=f, t=t: package_edits.set_field(bundle, f.key, t)
            for f in family_of(sheet.family).fields
            for t in FIELDS
        ),
        *(lambda t=t: package_edits.set_pins(bundle, t) for t in PINS),
    ]


# Of the changes of each family every so many-th is tried always, and all of them in the sweep.
STRIDE = 11


@pytest.mark.parametrize(
    ("number", "family"), list(enumerate(SAMPLES)), ids=lambda value: value if isinstance(value, str) else None
)
def test_a_sheet_that_is_not_finished_or_wrong_is_checked_without_a_fault(number: int, family: str) -> None:
    # Begun elsewhere for each family, so that together they try every kind of change.
    _try_changes(family, slice(number % STRIDE, None, STRIDE))


@pytest.mark.sweep
@pytest.mark.parametrize("family", SAMPLES)
def test_every_change_of_a_sheet_is_checked_without_a_fault(family: str) -> None:
    bundle = bare_bundle(sample(family), None, "B")
    assert _try_changes(family, slice(None)) >= len(bundle.sheet.dims)


def _try_changes(family: str, which: slice) -> int:
    """Evaluate the sheet after each of some changes; returns how many were not refused."""
    bundle = bare_bundle(sample(family), None, "B")
    tried = 0
    for change in _changes(bundle)[which]:
        try:
            changed = change()
        except InputError:
            # Refused with a word, before it came into the sheet.
            continue
        tried += 1
        outcome = evaluate_part(changed, RULES)
        made, lacks = outcome.bundle.footprint.pattern, {f.check for f in outcome.findings}
        assert made is not None or "lands.not-computed" in lacks
    return tried


def test_pads_by_hand_that_name_an_outline_that_is_not_there_are_told_with_their_row() -> None:
    bundle = bare_bundle(sample("custom"), None, "B")
    pads = [replace(pad, outline="nowhere") for pad in bundle.sheet.pads]
    findings = evaluate_part(package_edits.set_pads(bundle, pads), RULES).findings
    told = next(f.message for f in findings if f.check == "lands.not-computed")
    assert "row 1" in told
    assert "no outline “nowhere”" in told


def test_a_grid_at_no_pitch_is_told_as_one_overlap_of_all_its_lands() -> None:
    bundle = package_edits.set_dimension(bare_bundle(sample("ball-grid"), None, "B"), "e", "0")
    told = [f.message for f in evaluate_part(bundle, RULES).findings if f.check == "lands.pads-overlap"]
    # 64 balls at one place are 2,016 pairs, and one slip.
    assert told == ["Pads A1, A2, A3, A4, A5, A6, A7, A8 and 56 more overlap"]
