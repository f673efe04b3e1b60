"""What families that are copper alone share: lands as they are given, no part above them, one view of them.

Test points, fiducials, jumpers and holes carry no part: no paste is printed, no solid stands on them.
"""

from eider.geometry.plane import Box, Point, box_outline, join_boxes
from eider.model.pattern import Hole, KeepOut, Pad, PadShape
from eider.packages.family import LandRecipe, Letter, ManualPad, Terminal, View, ViewDimension, ViewShape
from eider.packages.pads.pad_shapes import pad_outline

# Copper is drawn so thick from the side (mm).
COPPER = 0.035


def land(number: str, at: Point, size: tuple[float, float], shape: PadShape = "rectangle", hole: float = 0.0) -> Pad:
    """A land of a size at a place (mm) on the top; through the board where a round hole of a diameter goes through."""
    drilled = Hole(hole, hole) if hole else None
    return Pad(number, *at, *size, shape=shape, hole=drilled, layers="all" if hole else "top")


def bare_recipe(
    pads: tuple[ManualPad, ...],
    around: Box | None = None,
    *,
    joined: tuple[tuple[str, str], ...] = (),
    keep_outs: tuple[KeepOut, ...] = (),
) -> LandRecipe:
    """Lands without a body: what stands for it is the box `around` them, within which nothing else may stand."""
    box = around or join_boxes([manual.pad.box for manual in pads])
    first = next((manual.pad.number for manual in pads if manual.pad.number), "")
    return LandRecipe(
        manual_pads=pads,
        body=box,
        body_max=box,
        first_pin=first,
        polarised=False,
        goals="through-hole",
        joined=joined,
        keep_outs=keep_outs,
        bare=True,
    )


def terminals(pads: tuple[ManualPad, ...]) -> tuple[Terminal, ...]:
    """One terminal for each number: its first land."""
    found: dict[str, Terminal] = {}
    for pad in (manual.pad for manual in pads):
        if pad.number and pad.plated:
            found.setdefault(pad.number, Terminal(pad.number, pad.box, pad.box, round=pad.shape == "circle"))
    return tuple(found.values())


def views(pads: tuple[ManualPad, ...], around: Box, dimensions: tuple[ViewDimension, ...]) -> tuple[View, ...]:
    """The lands from above, with their lengths; from the side the board's surface alone."""
    shapes = tuple(ViewShape("terminal" if manual.pad.plated else "mark", pad_outline(manual.pad)) for manual in pads)
    x0, _, x1, _ = around
    board = ViewShape("board", box_outline((x0, -10 * COPPER, x1, 0.0)))
    copper = tuple(
        ViewShape("terminal", box_outline((manual.pad.box[0], 0.0, manual.pad.box[2], COPPER))) for manual in pads
    )
    return View("top", shapes, dimensions), View("side", (board, *copper), ())


def diameter(key: str, meaning: str, also: tuple[str, ...], share: tuple[float, float] = (0.0, 0.0)) -> Letter:
    """A diameter seen from above; it may be a usual share of the diameter d, of which other letters are `also`."""
    reference = "d" if any(share) else ""
    return Letter(key=key, meaning=meaning, view="top", reference=reference, typical=share, also=also)


def round_dimension(letter: str, size: float, row: int = 1) -> ViewDimension:
    """Where a diameter about the origin is shown."""
    return ViewDimension(letter, (-size / 2, 0.0), (size / 2, 0.0), "bottom", row)
