"""The log of Eider's own faults: a person gets a line, the developers find the trace here. It is kept small."""

import logging
from functools import cache
from logging.handlers import RotatingFileHandler
from pathlib import Path

import platformdirs

# Bytes of the log before it is begun again, and how many old ones are kept.
LARGEST, KEPT = 512 * 1024, 3
LOGGER = logging.getLogger("eider")


def log_folder() -> Path:
    """Where the log is."""
    return Path(platformdirs.user_log_dir("eider", ensure_exists=True))


def crash_words(fault: BaseException) -> str:
    """A fault of Eider's own for a person, who is then told where the details are."""
    return f"Eider failed unexpectedly ({type(fault).__name__}: {fault})"


def log_crash(fault: BaseException) -> Path:
    """Put a fault with its trace and the time into the log; returns where that is."""
    path = log_folder() / "faults.log"
    _handler(path)
    LOGGER.error("%s", fault, exc_info=fault)
    return path


@cache
def _handler(path: Path) -> logging.Handler:
    """The one handler of a log file."""
    handler = RotatingFileHandler(path, maxBytes=LARGEST, backupCount=KEPT, encoding="utf-8", delay=True)
    handler.setFormatter(logging.Formatter("%(asctime)s %(threadName)s %(message)s"))
    LOGGER.addHandler(handler)
    LOGGER.propagate = False
    return handler
