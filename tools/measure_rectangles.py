"""Captures tables with rectangles drawn carelessly: measure_rectangles.py FOLDER … [-v].

Each table that is found in the PDFs of the folders is captured in the box that was found, and again in four boxes as
hands draw them: far outside, through its outermost letters, shifted, and with its last row cut. Prints for each how
many values (a limit, a name of a pin) are read alike, how many are not and are said to be doubtful, and how many are
neither.
"""

import sys
from collections import Counter
from collections.abc import Callable, Mapping
from contextlib import closing
from pathlib import Path

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.found_items import TABLES_READ
from eider.datasheets.pages.document import DatasheetError
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import TableCapture, capture_drawn, capture_table
from eider.geometry.plane import Box

# Points: as hands draw.
WAYS: Mapping[str, Callable[[Box], Box]] = {
    "outside": lambda b: (b[0] - 14, b[1] - 9, b[2] + 14, b[3] + 9),
    "through letters": lambda b: (b[0] + 4, b[1] + 4, b[2] - 4, b[3] - 4),
    "shifted": lambda b: (b[0] + 7, b[1] - 6, b[2] + 7, b[3] - 6),
    "last row cut": lambda b: (b[0] - 3, b[1] + 11, b[2] + 3, b[3] + 3),
}
Values = dict[tuple[str, str], str]


def values_of(capture: TableCapture) -> tuple[Values, set[tuple[str, str]], bool]:
    """The values of a capture by row and column, those with a doubt, and whether the whole has one."""
    found: Values = {}
    doubted: set[tuple[str, str]] = set()
    if capture.pins:
        reading, rows = pins_from_table(capture.pins)
        for pin, row in zip(reading.pins, rows, strict=True):
            found[pin.number, "name"] = pin.name
            if capture.pins.rows[row].doubt:
                doubted.add((pin.number, "name"))
        return found, doubted, bool(capture.pins.doubt)
    table = capture.dimensions
    for row in table.rows if table else ():
        key = (f"{row.letter} {row.member}", "limits")
        found[key] = repr(row.limits)
        if row.doubt:
            doubted.add(key)
    return found, doubted, bool(table and table.doubt)


def compare(exact: TableCapture, drawn: TableCapture | None) -> Counter[str]:
    """How many values of the exact capture the drawn one reads alike, with a doubt, or otherwise without one."""
    wanted, was_doubted, _whole = values_of(exact)
    found, doubted, whole = values_of(drawn) if drawn else ({}, set(), True)
    outcomes: Counter[str] = Counter()
    for key, value in wanted.items():
        if key in was_doubted:
            continue
        is_said = whole or key in doubted
        outcomes["alike" if found.get(key) == value else "said" if is_said else "neither"] += 1
    return outcomes


def main(folders: list[str], verbose: bool) -> None:
    """Measure the tables of some folders."""
    totals: dict[str, Counter[str]] = {way: Counter() for way in WAYS}
    for path in sorted(p for folder in folders for p in Path(folder).glob("*.pdf")):
        with closing(Datasheet(path)) as datasheet:
            try:
                tables = [item for item in survey(datasheet) if item.kind in TABLES_READ and not item.is_figure]
            except DatasheetError:
                continue
            for item in tables:
                kind = "pins" if item.kind == "pins" else "dimensions"
                exact = capture_table(datasheet, item.page, item.box, kind)
                for way, drawn in WAYS.items():
                    try:
                        read = capture_drawn(datasheet, item.page, drawn(item.box), kind)
                    except DatasheetError:
                        read = None
                    outcome = compare(exact, read)
                    totals[way] += outcome
                    if verbose and outcome["neither"]:
                        print(f"{path.name} page {item.page} {item.kind}, {way}: {dict(outcome)}")
    for way, outcome in totals.items():
        count = max(sum(outcome.values()), 1)
        told = ", ".join(
            f"{name} {outcome[name]} ({outcome[name] / count:.1%})" for name in ("alike", "said", "neither")
        )
        print(f"{way}: {told}")


if __name__ == "__main__":
    main([word for word in sys.argv[1:] if word != "-v"], "-v" in sys.argv)
