"""Land patterns as JSON, in the form of the contract: computed by Eider or by anything else."""

from pathlib import Path
from typing import Any, NamedTuple

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


class ReadPads(NamedTuple):
    """The pads of a pattern file and the orientation of its package; `turn` is None if the file does not give one."""

    pads: tuple[Pad, ...]
    turn: int | None
    mirrored: bool


def read_pads(path: Path) -> ReadPads:
    """Read the pads of a pattern file and its orientation; the rest of the file is ignored.

    Raises:
        InputError: the file is not a pattern.
        DocumentError: a pad of it has a value that a pad cannot have.
    """
    return pads_from_data(read_json(path), str(path))


def pads_from_data(data: Any, where: str) -> ReadPads:
    """The same from the data of a file; `where` names it in the error.

    Raises:
        InputError, DocumentError: as for a file.
    """
    pads = data.get("pads") if isinstance(data, dict) else data
    if not isinstance(pads, list) or not pads:
        raise InputError(f"{where} is not a pattern: expected an object with a list “pads”")
    found = convert([_with_openings(pad) for pad in pads], tuple[Pad, ...], where)
    lie = data if isinstance(data, dict) else {}
    turn = lie.get("turn")
    if turn is not None and turn not in (0, 90, 180, 270):
        raise InputError(f"{where}: turn is {str(turn)[:20]}; expected 0, 90, 180 or 270 degrees")
    return ReadPads(found, turn, bool(lie.get("mirrored")))


def _with_openings(pad: Any) -> Any:
    """Openings that other programs give as plain outlines in the form in which Eider has them."""
    if not isinstance(pad, dict):
        return pad
    return {**pad, **{key: [_opening(one) for one in pad[key] or ()] for key in ("mask", "paste") if key in pad}}


def _opening(opening: Any) -> Any:
    if not isinstance(opening, list):
        return opening
    return {"x": 0, "y": 0, "width": 0, "height": 0, "shape": "outline", "outline": opening}
