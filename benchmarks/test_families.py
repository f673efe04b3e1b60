"""A family of 1,000 resistors made, checked and released (aim: 60 s), and held against the library again."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from pytest_benchmark.fixture import BenchmarkFixture

from eider.demo.build import attach, resistor_family
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.demo.preferred_values import E96
from eider.demo.sheets import write_chip_datasheet
from eider.library import Library, init_library
from eider.library.documents.family_files import read_family
from eider.model.family_table import FamilyRow, FamilyTable
from eider.services.families.family_tables import plan_family, release_members
from eider.services.releasing.part_releasing import release_part

MEMBERS = 1000


@pytest.fixture
def library(tmp_path: Path) -> Library:
    made = init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)
    write_chip_datasheet(tmp_path / "LYN-R.pdf", "lyn-r")
    series, sheet = chips("lyn-r"), attach(made, tmp_path / "LYN-R.pdf", 2)
    for size in series.sizes:
        release_part(made, chip_part(made, series, size, "1 kΩ", sheet), "base")
    return made


def _table(library: Library) -> FamilyTable:
    sizes = [size.size for size in chips("lyn-r").sizes]
    values = [f"{digits / 100:.3g} {unit}" for unit in ("Ω", "kΩ", "MΩ") for digits in E96]
    values += [f"{digits / 10:.3g} kΩ" for digits in E96]
    rows = [FamilyRow({"Size": size, "Resistance": value}) for size in sizes for value in values]
    return replace(resistor_family(library), rows=tuple(rows[:MEMBERS]))


def test_a_thousand_members_are_made_checked_and_released(benchmark: BenchmarkFixture, library: Library) -> None:
    table = _table(library)

    def release() -> int:
        return len(release_members(library, plan_family(library, table), "the whole series", None)[1])

    count = benchmark.pedantic(release, rounds=1)
    bases = 3
    assert count >= MEMBERS - bases
    again = plan_family(library, read_family(library, table.name))
    assert again.count("same") == count


def test_a_thousand_members_are_held_against_the_library(benchmark: BenchmarkFixture, library: Library) -> None:
    release_members(library, plan_family(library, _table(library)), "the whole series", None)
    table = read_family(library, "LYN-R-E96")
    benchmark.pedantic(plan_family, (library, table), rounds=3)
