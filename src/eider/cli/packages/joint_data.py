"""What `eider joints` tells besides fillets: lands beside leads, their holes, and lands of thermal pads."""

from typing import Any

from eider.checks.areas.drilled_holes import leads_of, section_of
from eider.checks.part_under_check import PartUnderCheck
from eider.lands.slips.pattern_slip import offset
from eider.model.pattern import Pad


def land_offsets(view: PartUnderCheck) -> dict[str, tuple[float, float]]:
    """By how much each land lies beside the one that the package asks for, in x and y (mm), by number."""
    wanted = {pad.number: pad for pad in view.computed.pads} if view.computed else {}
    return {
        pad.number: tuple(round(v, 6) for v in offset(pad, wanted[pad.number]))  # type: ignore[misc]  # x and y
        for pad in view.pads
        if pad.number in wanted
    }


def hole_data(view: PartUnderCheck) -> list[dict[str, Any]]:
    """The hole of each lead through the board: its size, the lead's largest section, the play and the ring (mm).

    A lead without a hole has none in all of these.
    """
    leads, found = leads_of(view), []
    for pad in view.pads:
        if pad.number in leads:
            largest, _smallest = section_of(leads[pad.number], pad)
            hole = min(pad.hole.width, pad.hole.height) if pad.hole else None
            play = None if hole is None else round(hole - largest, 6)
            found.append({"number": pad.number, "hole": hole, "lead": round(largest, 6), "play": play,
                          "ring": _ring(pad), "plated": pad.plated and pad.hole is not None})  # fmt: skip
    return found


def _ring(pad: Pad) -> float | None:
    """The narrowest copper round a hole in the middle of its land (mm); None without a hole."""
    if pad.hole is None:
        return None
    return round(min(pad.width - pad.hole.width, pad.height - pad.hole.height) / 2, 6)


def thermal_data(view: PartUnderCheck) -> list[dict[str, Any]]:
    """The lands of thermal pads and tabs with their size and place, and those that the package asks for (mm)."""
    if view.recipe is None or view.computed is None:
        return []
    leads = view.recipe.laid_numbers
    wanted = {
        pad.number: pad for pad in view.computed.pads if pad.number not in leads and pad.hole is None and pad.number
    }
    return [
        {"number": pad.number, "width": pad.width, "height": pad.height, "wanted_width": wanted[pad.number].width,
         "wanted_height": wanted[pad.number].height, "dx": round(pad.x - wanted[pad.number].x, 6),
         "dy": round(pad.y - wanted[pad.number].y, 6)}
        for pad in view.pads
        if pad.number in wanted and pad.hole is None
    ]  # fmt: skip
