"""What several tests need."""

import numpy as np

from eider.geometry.limits import Limits
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.family import OpposedRows
from eider.packages.sheet_parsing import parse_dimensions


def make_sheet(family: str, pins: int, kind: str = "", units: str = "mm", **dims: str) -> PackageSheet:
    texts = {letter: Dimension(text=text) for letter, text in dims.items()}
    sheet = PackageSheet(name="test", family=family, pins=pins, kind=kind, units=units, dims=texts)
    return parse_dimensions(sheet).sheet


def hundred_leads() -> PackageSheet:
    """A quad of 100 gullwing leads at 0.50 mm."""
    return make_sheet(
        "gullwing-quad",
        100,
        D="15.8–16.2",
        D1="13.9–14.1",
        E="15.8–16.2",
        E1="13.9–14.1",
        e="0.5",
        b="0.17–0.27",
        L="0.45–0.75",
        A="max 1.6",
        A1="0.05–0.15",
        c="0.09–0.20",
    )


def opposed_rows(
    length: tuple, foot: tuple, width: tuple, goals: str, measures: dict, pitch: float = 0.0
) -> OpposedRows:
    """One terminal on each side; each length is given by its two limits (mm), in either order."""
    limits = [Limits(min=min(pair), max=max(pair)) for pair in (length, foot, width)]
    return OpposedRows(
        group="test",
        axis="x",
        length=limits[0],
        foot=limits[1],
        width=limits[2],
        first=("1",),
        second=("2",),
        at_first=np.zeros(1),
        at_second=np.zeros(1),
        goals=goals,
        measures=measures,
        pitch=pitch,
    )
