"""Draws the demo's datasheets as PDF, and writes the true values beside each as JSON."""

from collections.abc import Callable, Mapping
from functools import partial
from pathlib import Path

from eider.demo.sheets.brief import (
    write_choke,
    write_diode,
    write_electrolytic,
    write_front_end,
    write_memory,
    write_oscillator,
    write_power_switch,
    write_socket,
    write_tantalum,
    write_terminals,
    write_transistor,
)
from eider.demo.sheets.brimfall import (
    write_holder_datasheet,
    write_regulator_datasheet,
    write_transformer_datasheet,
)
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
    "BRM-CH16": write_holder_datasheet,
    "LYN-C": write_chip_datasheet,
    "LYN-R": partial(write_chip_datasheet, key="lyn-r"),
    "LYN-Y32": write_crystal_datasheet,
    "OHC-125": write_connector_datasheet,
    "NVK-N2S": write_transistor,
    "NVK-3301Q": write_front_end,
    "NVK-M64B": write_memory,
    "LYN-T3528": write_tantalum,
    "LYN-D5226": write_diode,
    "LYN-X25": write_oscillator,
    "OHC-350-04": write_terminals,
    "BRM-E100": write_electrolytic,
    "BRM-ECH47": write_choke,
    "BRM-S40": write_power_switch,
    "OHC-S5": write_socket,
}


def write_datasheets(folder: Path) -> list[Path]:
    """All of them into a folder, which is made where it is not there; returns the PDFs."""
    folder.mkdir(parents=True, exist_ok=True)
    paths = [folder / f"{name}.pdf" for name in DATASHEETS]
    for path, write in zip(paths, DATASHEETS.values(), strict=True):
        write(path)
    return paths
