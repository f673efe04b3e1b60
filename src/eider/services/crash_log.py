"""The log of Eider's own faults: a person gets a line, the developers find the rest here."""

import traceback
from pathlib import Path

import platformdirs


def log_crash(fault: BaseException) -> Path:
    """Put a fault with its trace into the log; returns where that is."""
    path = Path(platformdirs.user_log_dir("eider", ensure_exists=True)) / "faults.log"
    with path.open("a", encoding="utf-8") as file:
        file.write("".join(traceback.format_exception(fault)) + "\n")
    return path
