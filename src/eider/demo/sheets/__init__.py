"""Draws the demo's datasheets as PDF, and writes the true values beside each as JSON."""

from collections.abc import Callable, Mapping
from pathlib import Path

from eider.demo.sheets.brimfall import write_regulator_datasheet, write_transformer_datasheet
from eider.demo.sheets.lyng import write_chip_datasheet, write_crystal_datasheet
from eider.demo.sheets.norrvik import write_controller_datasheet, write_converter_datasheet, write_gates_datasheet
from eider.demo.sheets.ostholm import write_connector_datasheet

__all__ = ["DATASHEETS", "write_chip_datasheet", "write_converter_datasheet", "write_datasheets"]

DATASHEETS: Mapping[str, Callable[[Path], None]] = {
    "NVK-1216T": write_converter_datasheet,
    "NVK-U100P": write_controller_datasheet,
    "NVK-4GT": write_gates_datasheet,
    "BRM-L18": write_regulator_datasheet,
    "BRM-PT6": write_transformer_datasheet,
    "LYN-C": write_chip_datasheet,
    "LYN-Y32": write_crystal_datasheet,
    "OHC-125": write_connector_datasheet,
}


def write_datasheets(folder: Path) -> list[Path]:
    """All of them into a folder; returns the PDFs."""
    paths = [folder / f"{name}.pdf" for name in DATASHEETS]
    for path, write in zip(paths, DATASHEETS.values(), strict=True):
        write(path)
    return paths
