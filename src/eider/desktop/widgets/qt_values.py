"""What Qt gives at any time, although its types say that it may give nothing."""

from pathlib import Path
from typing import TypeVar

from PyQt6.QtGui import QDropEvent

T = TypeVar("T")


def present(value: T | None) -> T:
    """A header, a viewport, an event of Qt's own: never None where this is asked.

    Raises:
        TypeError: it is None after all.
    """
    if value is None:
        raise TypeError("Qt gave nothing where it always gives something")
    return value


def dropped_files(event: QDropEvent | None) -> list[Path]:
    """The files and folders of this machine that are dropped; none where it is anything else."""
    data = event.mimeData() if event is not None else None
    return [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()] if data is not None else []
