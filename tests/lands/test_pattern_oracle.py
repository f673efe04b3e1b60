"""Whole patterns of every family compared with a calculation that was written apart from the code."""

import pytest

from eider.lands.pattern import make_pattern
from eider.packages.registry import all_families
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample
from pattern_oracle import ORACLES, worked_pads

RULEBOOK = standard_rulebook()
# Lands that a sheet gives by hand follow from no formula; those of a module's edge are worked out below.
BY_HAND = {"custom", "module-edge"}


def lengths(family: str) -> dict[str, str]:
    return {letter: str(text) for letter, text in SAMPLES[family].items() if letter not in ("pins", "kind")}


def test_every_family_is_worked_out_a_second_time() -> None:
    assert set(ORACLES) | BY_HAND == set(all_families())


@pytest.mark.parametrize("level", ["A", "B", "C"])
@pytest.mark.parametrize("family", sorted(ORACLES))
def test_the_pattern_is_the_one_worked_out_from_the_rules(family: str, level: str) -> None:
    made = make_pattern(sample(family), level, RULEBOOK)  # type: ignore[arg-type]
    found = sorted((pad.number, pad.x, pad.y, pad.width, pad.height) for pad in made.pads if pad.plated)
    wanted = worked_pads(family, int(str(SAMPLES[family]["pins"])), lengths(family), level)
    assert [pad[0] for pad in found] == [pad[0] for pad in wanted]
    for mine, theirs in zip(found, wanted, strict=True):
        assert mine[1:] == pytest.approx(theirs[1:], abs=1e-6), mine[0]
