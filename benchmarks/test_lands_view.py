"""The drawing of large land patterns: redraw of 1,024 balls, and a dimension that is dragged for 100 leads."""

import os

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from msgspec.structs import replace
from pytest_benchmark.fixture import BenchmarkFixture
from pytestqt.qtbot import QtBot

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.drawings.land_drawing import pattern_drawing
from eider.lands.pattern import make_pattern
from eider.model.library import LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.orientation import terminals_on
from eider.packages.sheet_parsing import with_dimension
from eider.rulebooks import standard_rulebook
from helpers import hundred_leads, make_sheet

RULEBOOK = standard_rulebook()


def balls() -> PackageSheet:
    """A grid of 32 × 32 at 0.80 mm."""
    sheet = make_sheet(
        "ball-grid", 1024, D="26.9–27.1", E="26.9–27.1", e="0.8", b="0.45–0.55", A="max 2.2", A1="0.3–0.5"
    )
    return replace(sheet, rows=32, columns=32)


@pytest.fixture
def view(qtbot: QtBot) -> DrawingView:
    """A view as large as that of Lands in a window of 1280 × 800."""
    made = DrawingView(Theme("light"))
    qtbot.addWidget(made)
    made.resize(630, 520)
    made.show()
    return made


def redraw(view: DrawingView, sheet: PackageSheet) -> None:
    """Sheet to lands to painted pixels, without what runs in other threads."""
    pattern = make_pattern(sheet, "B", RULEBOOK)
    view.show_drawing(pattern_drawing(pattern, terminals_on(sheet, pattern)))
    view.grab()


def test_pads_of_1024_balls(benchmark: BenchmarkFixture) -> None:
    benchmark(make_pattern, balls(), "B", RULEBOOK)


def test_checks_of_1024_balls(benchmark: BenchmarkFixture) -> None:
    sheet = balls()
    bundle = bare_bundle(sheet, make_pattern(sheet, "B", RULEBOOK), "B")
    benchmark(lambda: run_checks(PartUnderCheck(bundle, RULEBOOK, LibrarySettings(name=""))))


def test_redraw_of_1024_balls(benchmark: BenchmarkFixture, view: DrawingView) -> None:
    sheet = balls()
    pattern = make_pattern(sheet, "B", RULEBOOK)
    drawing = pattern_drawing(pattern, terminals_on(sheet, pattern))

    def show() -> None:
        view.show_drawing(None)
        view.show_drawing(drawing)
        view.grab()

    benchmark(show)


def test_a_dimension_dragged_for_100_leads(benchmark: BenchmarkFixture, view: DrawingView) -> None:
    """Each step another length; 30 steps a second are one in 33 ms."""
    sheet, step = hundred_leads(), iter(range(10_000))

    def drag() -> None:
        length = 0.45 + 0.001 * (next(step) % 100)
        redraw(view, with_dimension(sheet, "L", Dimension(f"{length:.3f}–0.750")))

    benchmark(drag)
