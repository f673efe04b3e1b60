"""Reading files that come from outside, with a limit on their size."""

import json
from pathlib import Path
from typing import Any

from eider.errors import InputError

LARGEST_TEXT = 64 * 1024 * 1024


def read_text(path: Path) -> str:
    """The text of a file.

    Raises:
        InputError: it is not there, is too large, or is no text.
    """
    try:
        if path.stat().st_size > LARGEST_TEXT:
            raise InputError(f"{path} is larger than {LARGEST_TEXT >> 20} MB; that is no file of this kind")
        return path.read_text(encoding="utf-8-sig")
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    except UnicodeDecodeError as fault:
        raise InputError(f"{path} is no UTF-8 text (byte {fault.start}); save it as UTF-8") from fault
    except OSError as fault:
        raise InputError(f"{path} cannot be read: {fault.strerror}") from fault


def read_json(path: Path) -> Any:
    """The data of a JSON file; the error names line and column.

    Raises:
        InputError: the file cannot be read, is no JSON, or is nested too deeply.
    """
    try:
        return json.loads(read_text(path))
    except json.JSONDecodeError as fault:
        raise InputError(f"{path} is no JSON: {fault.msg} in line {fault.lineno}, column {fault.colno}") from fault
    except RecursionError as fault:
        raise InputError(f"{path} is nested too deeply to be a document") from fault
