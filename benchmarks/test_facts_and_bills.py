"""Facts across 5,000 parts and a bill of 2,000 lines against 50,000 parts."""

from collections.abc import Sequence
from pathlib import Path

import pytest
from pytest_benchmark.fixture import BenchmarkFixture

from eider.commands.facts.fact_table import FactsOfPart, FactTable, changes_between, fact_table, fill_down, sort_parts
from eider.exchange.table_files import write_workbook
from eider.library.index.part_index import PartRow
from eider.library.index.search_words import holding
from eider.model.library import Category, FactField, LibrarySettings
from eider.reports.bill_of_materials import STANDARD_COLUMNS, BillTable, bill_table
from eider.reports.design_lists import DesignLine, PartFinder, bill_lines

PARTS, FACTS, LIBRARY, LINES = 5_000, 20, 50_000, 2_000
RATINGS = tuple(FactField(f"Rating {n}", kind="number", unit="V") for n in range(FACTS - 3))
SETTINGS = LibrarySettings(
    name="",
    categories={
        "resistor": Category(
            title="Resistor",
            facts=(
                FactField("Resistance", kind="number", unit="Ω", is_value=True),
                FactField("Manufacturer", required=True),
                FactField("Part number", required=True),
                *RATINGS,
            ),
        )
    },
)


def facts_of(n: int) -> dict[str, str]:
    return {"Resistance": f"{n % 976} Ω", "Manufacturer": "Lyng Passive", "Part number": f"LYN-{n}"}


@pytest.fixture(scope="module")
def table() -> FactTable:
    ratings = {fact.name: f"{n} V" for n, fact in enumerate(RATINGS)}
    parts = [FactsOfPart(str(n), f"LYN-R{n}", "resistor", {**facts_of(n), **ratings}) for n in range(PARTS)]
    return fact_table(parts, SETTINGS)


@pytest.fixture(scope="module")
def library() -> list[PartRow]:
    return [
        PartRow(f"{n}", f"LYN-R{n}", "resistor", "", "released", 1, "RESC1608", "chip", facts_of(n), 0, 0, 0, "")
        for n in range(LIBRARY)
    ]


@pytest.fixture(scope="module")
def design() -> list[DesignLine]:
    return [
        DesignLine(n, (f"R{n}",), part=f"LYN-R{n * 23 % LIBRARY}")
        if n % 2
        else DesignLine(n, (f"R{n}",), value=f"{n % 976}R", package="RESC1608")
        for n in range(2, LINES + 2)
    ]


def test_a_column_of_5000_parts_filled_down(benchmark: BenchmarkFixture, table: FactTable) -> None:
    changed = benchmark(fill_down, table, range(PARTS), ["Rating 3"])
    assert not list(changes_between(table, changed))


def test_5000_parts_put_in_order_by_value(benchmark: BenchmarkFixture, table: FactTable) -> None:
    ordered = benchmark(sort_parts, table, "Resistance", SETTINGS)
    assert ordered.parts[0].facts["Resistance"] == "0 Ω"


def _bill(lines: Sequence[DesignLine], library: Sequence[PartRow]) -> BillTable:
    return bill_table(bill_lines(lines, PartFinder(library, SETTINGS)), STANDARD_COLUMNS, SETTINGS)


def test_a_bill_of_2000_lines_from_50000_parts(
    benchmark: BenchmarkFixture, library: list[PartRow], design: list[DesignLine]
) -> None:
    bill = benchmark.pedantic(_bill, (design, library), rounds=5)
    print(f"\n{len(bill.rows) - 1} lines, {len(bill.findings)} findings")


def test_a_bill_of_2000_lines_written_as_a_workbook(
    benchmark: BenchmarkFixture, library: list[PartRow], design: list[DesignLine], tmp_path: Path
) -> None:
    bill = _bill(design, library)
    benchmark.pedantic(write_workbook, (tmp_path / "bill.xlsx", "Bill", bill.rows), rounds=5)


class Entry:
    """A part as a search looks at it."""

    def __init__(self, text: str) -> None:
        self.text = text


@pytest.mark.parametrize("words", ["4700 ohm", "4k7", "lyn-r123"])
def test_a_search_by_value_in_50000_parts(benchmark: BenchmarkFixture, words: str) -> None:
    entries = [Entry(f"lyn-r{n} chip resistor {n % 976 / 10:g}kω 1% 1608") for n in range(LIBRARY)]
    found = benchmark(holding, entries, words.split())
    print(f"\n{words}: {len(found)} hits")
