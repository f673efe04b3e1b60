"""Captures tables of foreign datasheets and holds what is read against the truth: measure_capture.py FOLDER SEED [-v].

Prints for each style how many values are right, wrong or missing with a doubt said, and wrong or missing without one.
"""

import json
import sys
from collections import Counter
from pathlib import Path
from typing import Any

from eider.datasheets import Datasheet
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import capture_table
from eider.errors import EiderError

NAMES = ("min", "nom", "max")
SAME = 0.0011
OUTCOMES = ("right", "doubted", "unmarked")


def score(folder: Path, document: dict[str, Any], table: dict[str, Any], told: list[str]) -> Counter[str]:
    """The outcomes of one table's values, and in words what went wrong."""
    datasheet = Datasheet(folder / document["file"])
    try:
        found = capture_table(datasheet, table["page"], tuple(table["box"]), table["kind"])
    except EiderError as fault:
        told.append(f"{document['file']} {table['style']}: {fault}")
        return Counter(doubted=len(table["limits"]) + len(table["pins"]))
    finally:
        datasheet.close()
    about = f"{document['file']} {table['style']}"
    return _dimensions(found, table, about, told) if table["kind"] == "dimensions" else _pins(found, table, about, told)


def _dimensions(found: Any, table: dict[str, Any], about: str, told: list[str]) -> Counter[str]:
    outcomes: Counter[str] = Counter()
    # Of packages side by side the first is compared with the truth.
    read = {row.letter: row for row in reversed(found.dimensions.rows)}
    for letter, wanted in table["limits"].items():
        row = read.get(letter)
        doubt = found.dimensions.doubt or (row.doubt if row else "")
        limits = [getattr(row.limits, name) for name in NAMES] if row and row.limits else [None] * 3
        for name, value, got in zip(NAMES, wanted, limits, strict=True):
            if value is None and got is None:
                continue
            right = value is not None and got is not None and abs(value - got) < SAME
            outcome = "right" if right else "doubted" if doubt else "unmarked"
            outcomes[outcome] += 1
            if not right:
                told.append(
                    f"{about}: {letter} {name} {value} read as {got} ({row.seen if row else 'no row'}) {doubt!r}"
                )
    extra = [
        letter for letter in read if letter not in table["limits"] and read[letter].limits and not read[letter].doubt
    ]
    if extra and not found.dimensions.doubt:
        outcomes["unmarked"] += len(extra)
        told.append(f"{about}: rows that are none: {extra}")
    return outcomes


def _pins(found: Any, table: dict[str, Any], about: str, told: list[str]) -> Counter[str]:
    outcomes: Counter[str] = Counter()
    reading, rows = pins_from_table(found.pins)
    names = {pin.number: (pin.name, found.pins.rows[row].doubt) for pin, row in zip(reading.pins, rows, strict=True)}
    for number, name in table["pins"].items():
        got, doubt = names.get(number, ("", ""))
        outcome = "right" if got == name else "doubted" if doubt or found.pins.doubt else "unmarked"
        outcomes[outcome] += 1
        if outcome != "right":
            told.append(f"{about}: pin {number} {name} read as {got!r}")
    return outcomes


def main(folder: Path, seed: int, *, verbose: bool) -> None:
    """Measure all documents of a seed."""
    by_style: dict[str, Counter[str]] = {}
    told: list[str] = []
    for document in json.loads((folder / f"truth-{seed}.json").read_text()):
        for table in document["tables"]:
            if table["kind"] != "other":
                by_style.setdefault(table["style"], Counter()).update(score(folder, document, table, told))
    if verbose:
        print("\n".join(told))
    total: Counter[str] = Counter()
    for style, outcomes in sorted(by_style.items()):
        print(f"{style:22}", *(f"{name} {outcomes[name]:4}" for name in OUTCOMES))
        total.update(outcomes)
    count = max(sum(total.values()), 1)
    print(f"{'all':22}", *(f"{name} {total[name]:4} ({100 * total[name] / count:.1f} %)" for name in OUTCOMES))


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), verbose="-v" in sys.argv)
