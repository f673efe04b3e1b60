"""Nothing that somebody wrote into a sheet is left out in silence."""

from typing import Any

import pytest

from eider.exchange.package_sheet import sheet_from_data

SHEET: dict[str, Any] = {
    "family": "gullwing-dual", "pins": 8,
    "dims": {"E": "5.80–6.20", "E1": "3.8-4.0", "D": "4.8-5.0", "e": 1.27, "b": "0.31-0.51", "L": "0.4-1.27",
             "A": 1.75},
}  # fmt: skip


@pytest.mark.parametrize(
    ("more", "unread"),
    [
        ({}, {}),
        ({"fused": ["1", "2"], "note": "from page 3"}, {}),
        ({"fusedd": ["1", "2"]}, {"fusedd": "fused is known"}),
        ({"numberring": "row"}, {"numberring": "numbering is known"}),
        ({"numbering": "snake"}, {"numbering": "“snake” is not a value of it; expected: row, zigzag, around"}),
        ({"options": {"fuesd": ["1"]}}, {"options.fuesd": "options.fused is known"}),
        (
            {"options": {"staggered": True}},
            {"options.staggered": "staggered belongs at the top of the sheet, beside pins"},
        ),
        ({"b": 0.4}, {"b": "letters belong in dims"}),
        ({"quux": 1}, {"quux": "Dual gull-wing has no input of that name"}),
    ],
)
def test_what_is_not_read_is_told_with_what_was_meant(more: dict[str, Any], unread: dict[str, str]) -> None:
    assert sheet_from_data({**SHEET, **more}, "sheet.json").unread == unread
