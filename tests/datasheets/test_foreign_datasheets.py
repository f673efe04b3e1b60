"""Datasheets that other programs set (tools/foreign/datasheets): what is read of them against what was typed in."""

import json
import re
from pathlib import Path
from typing import Any

import pytest

from eider.datasheets import Datasheet
from eider.datasheets.documents.click_capture import Candidate, read_length
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import TableCapture, capture_table

FOREIGN = Path(__file__).parent / "foreign"
TRUTH: list[dict[str, Any]] = json.loads((FOREIGN / "truth.json").read_text(encoding="utf-8"))
LIMITS = ("min", "nom", "max")
SAME_MM = 0.0011


def middle_of(box: list[float]) -> tuple[float, float, float, float]:
    """The middle of a box, as a box."""
    x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    return x, y, x, y


def has_limits(candidate: Candidate, typed: dict[str, list[float | None]]) -> bool:
    """Whether a reading is the row of its letter, or of some letter where it gives none."""
    assert candidate.limits
    got = [getattr(candidate.limits, name) for name in LIMITS]
    wanted = [typed.get(candidate.letter, [])] if candidate.letter else list(typed.values())
    return any(same_values(one, got) for one in wanted)


def same_values(wanted: list[float | None], got: list[float | None]) -> bool:
    """Whether limits are the same in mm; what is not given must not be there."""
    pairs = zip(wanted, got, strict=False)
    return bool(wanted) and all(
        (a is None) == (b is None) and (a is None or abs(a - (b or 0)) < SAME_MM) for a, b in pairs
    )


def wrong_values(found: TableCapture, table: dict[str, Any]) -> list[str]:
    """The values that are other than typed, without a doubt said at their row or table."""
    assert found.dimensions
    # Of packages side by side the first is compared with the truth.
    rows = {row.letter: row for row in reversed(found.dimensions.rows)}
    told = []
    for letter, wanted in table["limits"].items():
        row = rows.get(letter)
        doubt = found.dimensions.doubt or (row.doubt if row else "")
        got = [getattr(row.limits, name) if row and row.limits else None for name in LIMITS]
        if not same_values(wanted, got) and not doubt:
            told.append(f"{table['style']}: {letter} {wanted} was read as {got}")
    return told


@pytest.mark.parametrize("document", TRUTH, ids=lambda document: document["file"])
def test_nothing_of_a_strangers_table_is_wrong_without_a_doubt(document: dict[str, Any]) -> None:
    datasheet = Datasheet(FOREIGN / document["file"])
    told = []
    for table in document["tables"]:
        if table["kind"] == "dimensions":
            found = capture_table(datasheet, table["page"], tuple(table["box"]), "dimensions")
            told += wrong_values(found, table)
        if table["kind"] == "pins":
            found = capture_table(datasheet, table["page"], tuple(table["box"]), "pins")
            assert found.pins
            reading, _rows = pins_from_table(found.pins)
            assert {pin.number: pin.name for pin in reading.pins} == table["pins"]
    datasheet.close()
    assert told == []


@pytest.mark.parametrize("document", TRUTH, ids=lambda document: document["file"])
def test_a_click_in_a_strangers_table_takes_its_row_or_asks(document: dict[str, Any]) -> None:
    datasheet = Datasheet(FOREIGN / document["file"])
    told = []
    for table in document["tables"]:
        page, box = datasheet.read(table["page"]), tuple(table["box"])
        numbers = [w for w in page.words if holds(box, w.box) and re.search(r"\d[.,]\d", w.text)]
        # Every third number is enough: each row has two or three.
        for word in numbers[::3] if table["kind"] == "dimensions" else []:
            click = read_length(page, *word.middle)
            first = click.candidates[0]
            # Of packages side by side the truth has the first.
            is_of_second = "SO-14" in first.how and first.letter == "D"
            if click.is_clear and not is_of_second and not has_limits(first, table["limits"]):
                told.append(f"{table['style']}: {word.text} was taken as {first.letter} {first.text}")
    datasheet.close()
    assert told == []


@pytest.mark.parametrize("document", TRUTH, ids=lambda document: document["file"])
def test_every_table_is_found_and_nothing_else_is_taken_for_one(document: dict[str, Any]) -> None:
    datasheet = Datasheet(FOREIGN / document["file"])
    found = [item for item in survey(datasheet) if item.kind in ("pins", "dimensions")]
    datasheet.close()
    wanted = [table for table in document["tables"] if table["kind"] in ("pins", "dimensions")]
    paired = [
        next((i.kind for i in found if i.page == table["page"] and holds(i.box, middle_of(table["box"]))), "not found")
        for table in wanted
    ]
    assert paired == [table["kind"] for table in wanted]
    # A table of several packages is listed for each.
    assert len({(item.page, item.box) for item in found}) == len(wanted)
