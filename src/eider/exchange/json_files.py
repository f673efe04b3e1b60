"""Reading files that come from outside, with a limit on their size."""

import math
import stat
from pathlib import Path
from typing import Any

from eider.errors import InputError
from eider.geometry.rounding import tidy
from eider.model.codec import parse_json

MOST_MM = 1000.0
LARGEST_TEXT = 64 * 1024 * 1024


def require_size(path: Path, largest: int) -> None:
    """Refuse a file of more bytes.

    Raises:
        InputError: it has more.
    """
    if path.stat().st_size > largest:
        raise InputError(f"{path.name} is larger than {largest >> 20} MB")


def within_a_metre(value: float, what: str) -> float:
    """A length of a file in mm, cut to what is not a noise.

    Raises:
        InputError: it is not finite, or more than a metre: no part is so large.
    """
    if not math.isfinite(value) or abs(value) > MOST_MM:
        raise InputError(f"{what} is {value:g} mm, more than a metre; check the unit of the file")
    return tidy(value)


def plain_number(text: str, what: str) -> float:
    """Read a number as a file writes it.

    Raises:
        InputError: it is none, or not finite.
    """
    try:
        value = float(text)
    except ValueError:
        raise InputError(f"{what} is “{text[:30]}”, which is not a number") from None
    if not math.isfinite(value):
        raise InputError(f"{what} is “{text[:30]}”, which is not a number")
    return value


def read_text(path: Path) -> str:
    """The text of a file.

    Raises:
        InputError: it is not there, is not a regular file, is too large, or is not text.
    """
    try:
        status = path.stat()
        if not stat.S_ISREG(status.st_mode):
            raise InputError(f"{path} is not a regular file; save what it gives into one, and name that")
        if status.st_size > LARGEST_TEXT:
            raise InputError(f"{path} is larger than {LARGEST_TEXT >> 20} MB; that is not a file of this kind")
        return path.read_text(encoding="utf-8-sig")
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    except UnicodeDecodeError as fault:
        raise InputError(f"{path} is not UTF-8 text (byte {fault.start}); save it as UTF-8") from fault
    except (OSError, ValueError) as fault:
        raise InputError(f"{str(path)[:120]} cannot be read: {getattr(fault, 'strerror', fault)}") from fault


def read_json(path: Path) -> Any:
    """The data of a JSON file, of finite numbers only; the error names line and column.

    Raises:
        InputError: the file cannot be read.
        DocumentError: it is not JSON, or is nested too deeply.
    """
    return parse_json(read_text(path), str(path))
