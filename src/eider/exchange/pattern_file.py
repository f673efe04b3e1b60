"""Land patterns as JSON, in the form of the contract: computed by Eider or by anything else."""

import math
from pathlib import Path
from typing import Any, NamedTuple

from eider.errors import InputError
from eider.exchange.json_files import read_json, within_a_metre
from eider.exchange.pad_table import MOST_PADS
from eider.geometry.shapes import is_area
from eider.model.codec import convert, to_data
from eider.model.finding import Finding
from eider.model.pattern import Opening, Pad, Pattern


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
    if len(pads) > MOST_PADS:
        raise InputError(f"{where} has {len(pads)} pads; a pattern has {MOST_PADS} at most")
    found = convert([_with_openings(pad) for pad in pads], tuple[Pad, ...], where)
    for pad in found:
        _require_possible(pad, where)
    lie = data if isinstance(data, dict) else {}
    turn = lie.get("turn")
    if turn is not None and turn not in (0, 90, 180, 270):
        raise InputError(f"{where}: turn is {str(turn)[:20]}; expected 0, 90, 180 or 270 degrees")
    return ReadPads(found, turn, bool(lie.get("mirrored")))


def _require_possible(pad: Pad, where: str) -> None:
    """Refuse a pad that no board can have.

    Raises:
        InputError: a length of it is not finite or more than a metre, or an outline encloses nothing.
    """
    what = f"{where}: pad {pad.number[:20]}"
    shapes: tuple[Pad | Opening, ...] = (pad, *pad.mask, *pad.paste)
    for shape in shapes:
        for name in ("x", "y", "width", "height"):
            within_a_metre(getattr(shape, name), f"{what}: {name}")
        for point in shape.outline:
            within_a_metre(max(point, key=abs), f"{what}: a corner of its outline")
        if shape.shape == "outline" and not is_area(shape.outline):
            raise InputError(f"{what}: its outline encloses no area; give three points or more that do not cross")
    if not math.isfinite(pad.rotation):
        raise InputError(f"{what}: rotation is {pad.rotation:g}; give degrees")
    if pad.hole is not None:
        for name in ("width", "height", "x", "y"):
            within_a_metre(getattr(pad.hole, name), f"{what}: {name} of its hole")


def _with_openings(pad: Any) -> Any:
    """Openings that other programs give as plain outlines in the form in which Eider has them."""
    if not isinstance(pad, dict):
        return pad
    given = {key: pad[key] or () for key in ("mask", "paste") if key in pad}
    return {**pad, **{key: _opened(value) for key, value in given.items()}}


def _opened(openings: Any) -> Any:
    return [_opening(one) for one in openings] if isinstance(openings, list | tuple) else openings


def _opening(opening: Any) -> Any:
    if not isinstance(opening, list):
        return opening
    return {"x": 0, "y": 0, "width": 0, "height": 0, "shape": "outline", "outline": opening}
