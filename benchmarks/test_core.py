"""The core: lands, checks, STEP, search."""

import random
import subprocess
from pathlib import Path

import pytest
from msgspec.structs import replace
from pytest_benchmark.fixture import BenchmarkFixture

from eider.bodies.solids.body_solids import body_solids
from eider.bodies.step_files.step_writer import step_file
from eider.checks import PartUnderCheck, run_checks
from eider.commands.parts.evaluation import rerun_recipes
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part, converter_part
from eider.lands.joint_yield import joint_yield
from eider.lands.joints import pattern_joints
from eider.lands.pattern import make_pattern
from eider.library import init_library
from eider.library.index.part_index import Index
from eider.model.part import DatasheetLink, Fact
from eider.rulebooks import standard_rulebook
from helpers import hundred_leads, make_sheet

LINK = DatasheetLink("0" * 64, "x.pdf", 4)


def sixteen() -> object:
    return make_sheet(
        "gullwing-dual",
        16,
        E="6.2–6.6",
        E1="4.3–4.5",
        D="4.9–5.1",
        e="0.65",
        b="0.19–0.30",
        L="0.45–0.75",
        A="max 1.2",
        A1="0.05–0.15",
        c="0.09–0.20",
    )


def test_pattern_of_16_leads(benchmark: BenchmarkFixture) -> None:
    benchmark(make_pattern, sixteen(), "B", standard_rulebook())


def test_pattern_of_100_leads(benchmark: BenchmarkFixture) -> None:
    benchmark(make_pattern, hundred_leads(), "B", standard_rulebook())


def test_all_checks_of_a_part(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    library = init_library(tmp_path / "library", "bench", LIBRARIAN)
    part = converter_part(library, LINK)
    benchmark(lambda: run_checks(PartUnderCheck(part, standard_rulebook(), library.settings)))


def test_recipes_of_a_part(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    library = init_library(tmp_path / "library", "bench", LIBRARIAN)
    benchmark(rerun_recipes, converter_part(library, LINK), standard_rulebook())


def test_step_of_16_leads(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    solids = body_solids(sixteen())  # type: ignore[arg-type]
    (tmp_path / "warm.step").write_bytes(step_file(solids, "warm"))
    benchmark(step_file, solids, "bench")


@pytest.fixture(scope="module")
def ten_thousand(tmp_path_factory: pytest.TempPathFactory) -> Index:
    """An index of 10,000 generated capacitors."""
    library = init_library(tmp_path_factory.mktemp("many") / "library", "bench", LIBRARIAN)
    series, index = chips(), library.index
    index.refresh()
    chance = random.Random(1)
    base = chip_part(library, series, series.sizes[1], "100 nF", LINK)
    with index._db:
        for number in range(10_000):
            value = f"{chance.choice((1, 2.2, 4.7, 10, 22, 47, 100, 220, 470))} {chance.choice(('pF', 'nF', 'µF'))}"
            name = f"LYN-C{chance.choice(('1005', '1608', '2012'))}-{number:05d}"
            facts = {**base.part.facts, "Capacitance": Fact(value), "Part number": Fact(name)}
            part = replace(
                base.part, id=f"{number:016x}", name=name, description=f"Chip capacitor {value}", facts=facts
            )
            index._put(part, "released", "chip", base.footprint.name, {})
    return index


@pytest.mark.parametrize("words", ["0.1u 50v", "lyn*2012", "capacitor 4.7 nf", "c1608-0999"])
def test_search_in_10000_parts(benchmark: BenchmarkFixture, ten_thousand: Index, words: str) -> None:
    found = benchmark(ten_thousand.search, words.split())
    print(f"\n{words}: {found.total} hits")


def test_command_line_lands(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    path = tmp_path / "sheet.json"
    path.write_text('{"family":"chip","pins":2,"dims":{"D":"2.0±0.15","E":"1.25±0.15","L":"0.5±0.25","A":"max 0.9"}}')
    benchmark.pedantic(
        lambda: subprocess.run(["./eider", "lands", str(path)], check=True, capture_output=True), rounds=5
    )


def test_joint_yield_of_100_leads_and_a_million_samples(benchmark: BenchmarkFixture) -> None:
    sheet, rulebook = hundred_leads(), standard_rulebook()
    pads = make_pattern(sheet, "B", rulebook).pads
    groups = pattern_joints(sheet, pads, rulebook)
    found = benchmark.pedantic(lambda: joint_yield(groups, pads, rulebook, "B"), rounds=3)
    assert found.samples == 1_000_000
