"""What several tests need."""

from eider.model.sheet import Dimension, PackageSheet
from eider.packages.reading import read_dimensions


def make_sheet(family: str, pins: int, kind: str = "", units: str = "mm", **dims: str) -> PackageSheet:
    texts = {letter: Dimension(text=text) for letter, text in dims.items()}
    sheet = PackageSheet(name="test", family=family, pins=pins, kind=kind, units=units, dims=texts)
    return read_dimensions(sheet).sheet
