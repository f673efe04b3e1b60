"""Land patterns as JSON, in the form of the contract: computed by Eider or by anything else."""

from pathlib import Path
from typing import Any

from eider.errors import InputError
from eider.exchange.json_files import read_json
from eider.model.codec import convert, to_data
from eider.model.finding import Finding
from eider.model.pattern import Pad, Pattern


def pattern_data(pattern: Pattern, findings: tuple[Finding, ...] = ()) -> dict[str, Any]:
    """The plain data of a pattern with its findings."""
    data: dict[str, Any] = to_data(pattern)
    data["findings"] = to_data(findings)
    return data


def read_pads(path: Path) -> tuple[Pad, ...]:
    """The pads of a pattern file; all else in it is left aside."""
    data = read_json(path)
    pads = data.get("pads") if isinstance(data, dict) else data
    if not isinstance(pads, list) or not pads:
        raise InputError(f"{path} is no pattern: expected an object with a list “pads”")
    return convert(pads, tuple[Pad, ...], str(path))
