"""STEP files and how they are placed: the reading beside the kernel's own, the alignment of many terminals."""

import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from OCP.STEPCAFControl import STEPCAFControl_Reader
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDocStd import TDocStd_Document
from pytest_benchmark.fixture import BenchmarkFixture

from eider.bodies.pictures.body_camera import Camera
from eider.bodies.pictures.body_mesh import Mesh, mesh_block
from eider.bodies.pictures.body_renderer import PictureStyle, Renderer
from eider.bodies.placement.alignment import align_model
from eider.bodies.placement.alignment_target import target_of_sheet
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.step_files.step_reader import read_step
from eider.bodies.step_files.step_writer import step_file
from eider.geometry.solids import Look
from eider.model.package_sheet import PackageSheet
from helpers import make_sheet

WIDTH, HEIGHT = 900, 700


@pytest.fixture(scope="module")
def quad() -> PackageSheet:
    """A quad of 100 leads."""
    return make_sheet(
        "gullwing-quad", 100, D="15.8–16.2", D1="13.9–14.1", E="15.8–16.2", E1="13.9–14.1", e="0.5", b="0.17–0.27",
        L="0.45–0.75", A="max 1.6", A1="0.05–0.15", c="0.09–0.2",
    )  # fmt: skip


@pytest.fixture(scope="module")
def quad_step(quad: PackageSheet, tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("step") / "quad.step"
    path.write_bytes(step_file(body_solids(quad), "quad"))
    return path


def _bare_reading(path: Path) -> None:
    reader = STEPCAFControl_Reader()
    reader.SetColorMode(True)
    reader.SetNameMode(True)
    reader.ReadFile(str(path))
    reader.Transfer(TDocStd_Document(TCollection_ExtendedString("BinXCAF")))


def _median(work: Callable[[], object], rounds: int = 7) -> float:
    times = []
    for _ in range(rounds):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return float(np.median(times)) * 1000


def test_reading_beside_the_kernels_own(quad_step: Path, capsys: pytest.CaptureFixture[str]) -> None:
    _bare_reading(quad_step)
    bare, ours = _median(lambda: _bare_reading(quad_step)), _median(lambda: read_step(quad_step))
    with capsys.disabled():
        print(f"\nSTEP of 100 leads: kernel alone {bare:.0f} ms, with faces {ours:.0f} ms, {ours / bare:.2f} times")


def test_size_and_time_of_leads_written_once(quad: PackageSheet, capsys: pytest.CaptureFixture[str]) -> None:
    from msgspec.structs import replace

    shared = body_solids(quad)
    apart = tuple(replace(solid, placements=(place,)) for solid in shared for place in solid.placements)
    sizes = [len(step_file(solids, "quad")) for solids in (shared, apart)]
    times = [_median(lambda solids=solids: step_file(solids, "quad"), 3) for solids in (shared, apart)]
    with capsys.disabled():
        print(f"\n100 leads written once: {sizes[0] / sizes[1]:.2f} of the size, {times[0] / times[1]:.2f} of the time")


def test_alignment_of_400_terminals(benchmark: BenchmarkFixture, tmp_path: Path) -> None:
    sheet = make_sheet("ball-grid", 400, D="16.9–17.1", E="16.9–17.1", e="0.8", b="0.4–0.5", A="max 1.6", A1="0.35")
    path = tmp_path / "balls.step"
    path.write_bytes(step_file(body_solids(sheet), "balls"))
    model, target = read_step(path).model, target_of_sheet(sheet)
    found = benchmark(lambda: align_model(model, target))
    assert len(found.placements[0].terminals) == 400


@pytest.mark.parametrize("triangles", [20_000, 300_000])
@pytest.mark.parametrize("smooth", [True, False])
def test_pictures_of_a_heavy_model(benchmark: BenchmarkFixture, triangles: int, smooth: bool) -> None:
    chance = np.random.default_rng(1)
    middles = chance.uniform(-5, 5, (triangles, 1, 3))
    mesh = Mesh(mesh_block(middles + chance.uniform(-0.1, 0.1, (triangles, 3, 3)), Look()))
    renderer = Renderer()
    renderer.show(mesh)
    benchmark(lambda: renderer.picture(Camera(), WIDTH, HEIGHT, PictureStyle(), smooth=smooth))
    renderer.close()
