"""Whole datasheets that other programs set (tools/foreign/whole), drafted and compared with what was printed."""

import json
from pathlib import Path
from typing import Any

import pytest

from eider.demo.parts import LIBRARIAN
from eider.geometry.lengths import parse_limits
from eider.geometry.limits import Limits
from eider.lands.manufacturer_pattern import land_lengths
from eider.library import Library, init_library
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet

FOREIGN = Path(__file__).parent / "foreign_datasheets"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text(encoding="utf-8"))
# Half of a distance between middles is written with two places.
SAME = 0.011
MOST_DOUBTS = 10


@pytest.fixture(scope="module")
def library(tmp_path_factory: pytest.TempPathFactory) -> Library:
    return init_library(tmp_path_factory.mktemp("drafts") / "library", "Skerry Fieldworks", LIBRARIAN)


@pytest.fixture(scope="module", params=TRUTH, ids=lambda truth: truth["file"])
def drafted(request: pytest.FixtureRequest, library: Library) -> tuple[DatasheetDraft, dict[str, Any]]:
    truth: dict[str, Any] = request.param
    return draft_from_datasheet(library, FOREIGN / truth["file"], DraftChoice(name=truth["name"])), truth


def test_pins_and_package_are_those_that_were_printed(drafted: tuple[DatasheetDraft, dict[str, Any]]) -> None:
    draft, truth = drafted
    made = draft.bundle
    assert made.sheet.family == truth["family"]
    assert [pin.number for pin in made.symbol.pins] == [number for number, *_ in truth["pin_rows"]]
    read = {letter: parse_limits(d.text) for letter, d in made.sheet.dims.items()}
    assert read == {letter: Limits(**printed) for letter, printed in truth["limits"].items()}


def test_suggested_lands_are_those_that_were_printed(drafted: tuple[DatasheetDraft, dict[str, Any]]) -> None:
    draft, truth = drafted
    wanted = [[row[k] for k in "ZGX"] for row in truth["rows"]] + ([truth["middle"]] if truth["middle"] else [])
    given = [land_lengths(lands, {}) for lands in draft.bundle.footprint.suggested]
    assert len(given) == len(wanted)
    for lengths in given:
        assert lengths
        assert any(
            len(w) == len(lengths) and max(abs(a - b) for a, b in zip(lengths.values(), w, strict=True)) < SAME
            for w in wanted
        )


def test_a_draft_leaves_few_doubts(drafted: tuple[DatasheetDraft, dict[str, Any]]) -> None:
    assert len(drafted[0].doubts) <= MOST_DOUBTS
