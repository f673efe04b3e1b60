"""Holds what Eider reads from the demo's datasheets against the truth that is beside them."""

import json
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

import msgspec

from eider.datasheets.pages.document import Datasheet
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import TableCapture, capture_table
from eider.geometry.expressions import MM_PER_UNIT

NEAR = 1e-6


class Score(msgspec.Struct, frozen=True):
    """Cells of one table: right, wrong without a mark, marked as doubtful, missed; `faults` names the last three."""

    document: str
    kind: str
    is_ruled: bool
    right: int
    wrong: int
    marked: int
    missed: int
    faults: tuple[str, ...]

    @property
    def total(self) -> int:
        """How many cells there are."""
        return self.right + self.wrong + self.marked + self.missed


def measure_reading(path: Path) -> list[Score]:
    """Capture every table of a datasheet in the box in which it was drawn."""
    truth = json.loads(path.with_suffix(".truth.json").read_text(encoding="utf-8"))
    datasheet = Datasheet(path)
    try:
        return [_score(path.stem, datasheet, table) for table in truth["tables"]]
    finally:
        datasheet.close()


def _score(name: str, datasheet: Datasheet, table: Mapping[str, Any]) -> Score:
    place = table["places"][0]
    found = capture_table(datasheet, place["page"], tuple(place["box"]))
    if found.kind != table["as"]:
        count = len(table["rows"])
        return Score(name, table["as"], table["ruled"], 0, 0, 0, count, (f"taken for {found.kind}",))
    outcomes = list(_pins(found, table) if found.kind == "pins" else _dimensions(found, table))
    counts = {what: sum(o == what for o, _ in outcomes) for what in ("right", "wrong", "marked", "missed")}
    faults = tuple(f"{o}: {text}" for o, text in outcomes if o != "right")
    return Score(name, found.kind, table["ruled"], **counts, faults=faults)


def _dimensions(found: TableCapture, table: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    rows = found.dimensions.rows if found.dimensions else ()
    general = found.dimensions.doubt if found.dimensions else ""
    by_key = {(row.member, row.letter): row for row in rows}
    per_unit = MM_PER_UNIT[table["unit"]]
    for true in table["rows"]:
        key = (true.get("member", ""), true["letter"])
        row = by_key.pop(key, None)
        for limit in ("min", "nom", "max"):
            wanted = true[limit]
            got = getattr(row.limits, limit) if row and row.limits else None
            if wanted is None and got is None:
                continue
            same = wanted is not None and got is not None and abs(got - wanted * per_unit) < NEAR
            doubt = (row.doubt or general) if row else ""
            outcome = "right" if same else "missed" if row is None else "marked" if doubt else "wrong"
            yield outcome, f"{' '.join(filter(None, key))} {limit}: {wanted} read as {got} ({doubt})"
    for key, row in by_key.items():
        if row.limits is not None:
            yield ("marked" if row.doubt or general else "wrong"), f"{key}: {row.text}, nothing of the kind is there"


def _pins(found: TableCapture, table: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    pin_table = found.pins
    if pin_table is None:
        return
    reading, places = pins_from_table(pin_table)
    doubts = [pin_table.rows[place].doubt or pin_table.doubt for place in places]
    by_number = {pin.number: (pin, doubt) for pin, doubt in zip(reading.pins, doubts, strict=True)}
    for true in table["rows"]:
        pin, doubt = by_number.pop(true["number"], (None, ""))
        if pin is None:
            yield "missed", f"pin {true['number']}"
            continue
        yield "right", f"pin {true['number']}"
        pairs = [("name", pin.name), ("active_low", pin.active_low)]
        pairs += [("type", pin.type)] if "type" in pin_table.columns else []
        for what, got in pairs:
            same = got == true[what] or (what == "type" and pin.assumed)
            outcome = "right" if same else "marked" if doubt else "wrong"
            yield outcome, f"pin {true['number']} {what}: {true[what]} read as {got} ({doubt})"
    for number in by_number:
        yield "wrong", f"pin {number} is not there"
