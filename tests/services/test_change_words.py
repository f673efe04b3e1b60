"""What a difference of two recipes is called."""

import pytest

from eider.library.git.revision_compare import Difference
from eider.services.releasing.change_words import change_words, place_words


@pytest.mark.parametrize(
    ("place", "words"),
    [
        ("sheet.dims.E.text", "Dimension E"),
        ("sheet.dims[E].text", "Dimension E"),
        ("part.facts.Rated power.value", "Rated power"),
        ("part.facts[Shelf]", "Shelf"),
        ("symbol.pins[3].name", "Name of pin 3"),
        ("symbol.pins[3]", "Pin 3"),
        ("footprint.adjustments[1 width].value", "Adjustment of width of pad 1"),
        ("sheet.name", "Name of the package"),
        ("part.description", "Description"),
        ("body.model", "STEP file of the body"),
        ("body.offset", "body.offset"),
    ],
)
def test_a_place_has_words(place: str, words: str) -> None:
    assert place_words(place) == words


def test_what_follows_is_left_out_and_evidence_is_told_once() -> None:
    found = [
        Difference("sheet.dims.D.text", "1", "2"),
        Difference("sheet.dims.D.limits.max", 1.0, 2.0),
        Difference("sheet.dims.D.evidence.page", 1, 2),
        Difference("sheet.dims.D.evidence.by", "a", "b"),
        Difference("part.package.name", "x", "y"),
    ]
    assert list(change_words(found)) == ["Dimension D changed from 1 to 2", "Evidence of Dimension D changed"]
    assert list(change_words(found, with_evidence=False)) == ["Dimension D changed from 1 to 2"]
