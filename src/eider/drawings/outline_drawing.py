"""An outline that is given step by step: the way so far, the selected step, and where it goes wrong."""

from collections.abc import Mapping

import msgspec

from eider.drawings.primitives import Area, Balloon, Disc, Drawing, Line, Primitive, unit_note
from eider.errors import InputError
from eider.geometry.plane import Outline, bounds
from eider.model.address import OutlineStepAddress
from eider.model.outline import OutlineSpec
from eider.packages.pads.outlines import OutlineError, make_outline, walk


def outline_drawing(
    spec: OutlineSpec, names: Mapping[str, float], in_hand: int = -1, others: Mapping[str, OutlineSpec] | None = None
) -> Drawing | None:
    """The outline with its steps, each leading back to its row; `in_hand` is one counted from 0.

    A step that cannot be read ends the way there; None where not even the start can be.
    """
    fault: OutlineError | None = None
    whole: Outline = ()
    try:
        whole = make_outline(spec, names, others)
    except OutlineError as wrong:
        fault = wrong
    points, ends = _way(spec, names)
    if not points:
        return None
    primitives: list[Primitive] = [Area(whole, "copper")] if whole else []
    begin = 0
    for index, end in enumerate(ends):
        role = "hand" if index == in_hand else "dimension"
        primitives.append(Line(tuple(points[begin : end + 1]), role, OutlineStepAddress(index)))
        begin = end
    box = bounds([*points, *whole])
    size = max(box[2] - box[0], box[3] - box[1], 0.1)
    primitives.append(Disc(points[0], 0.015 * size, "dimension arrow"))
    if fault and fault.at:
        primitives.append(Balloon(fault.at, max(fault.step, 1), "blocker"))
    return Drawing((*primitives, unit_note("mm")), box)


def _way(spec: OutlineSpec, names: Mapping[str, float]) -> tuple[list[tuple[float, float]], list[int]]:
    """The points of the steps up to the first that cannot be gone."""
    for count in range(len(spec.steps), -1, -1):
        try:
            walked = walk(msgspec.structs.replace(spec, steps=spec.steps[:count]), names)
        except InputError:
            continue
        return walked.points, walked.ends
    return [], []
