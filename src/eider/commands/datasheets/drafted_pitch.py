"""The pitch of a draft that its drawing shows and does not write: by the corners of the body, or measured to scale."""

from collections.abc import Mapping

from eider.datasheets.figures.drawn_pitch import DrawnPitch, drawn_pitches, points_of
from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing
from eider.model.evidence import EvidenceKind
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Family
from eider.packages.letters.drawn_lengths import letter_along_rows

PITCH, WIDTH, FOOT = "e", "b", "L"
# Drawings are to scale within so much of the body where they are to scale at all.
TO_SCALE = 0.03
# A pitch measured in a drawing is rounded to so many decimals of a mm.
MEASURED_TO = 2

UnwrittenPitch = tuple[str, EvidenceKind, str]


def unwritten_pitch(
    family: Family, sheet: PackageSheet, drawing: OutlineDrawing, taken: Mapping[str, DrawnLength]
) -> UnwrittenPitch | None:
    """The pitch that a drawing shows: the text for the sheet, on what it rests, and why it is doubtful.

    Args:
        family: the family of the package.
        sheet: its pins, options and known lengths.
        drawing: the drawing with its views and shapes.
        taken: the drawing's lengths by the standard's letters.

    Only views at which the terminals have a length are looked at: others may be tables or lands. None where no
    terminals are drawn as boxes, or the length along their rows is not written.
    """
    letter = letter_along_rows(family, sheet)
    body = taken.get(letter)
    if body is None or body.limits is None:
        return None
    views = {taken[key].view for key in (WIDTH, FOOT) if key in taken}
    pitches = (pitch for pitch in drawn_pitches(drawing) if pitch.view in views)
    found = next((pitch for pitch in pitches if pitch.axis == body.span.axis), None)
    if found is None:
        return None
    scale = body.limits.middle / points_of(body)
    width = taken.get(WIDTH)
    if width is not None and width.limits is not None and _are_at_corners(found, body, width, scale):
        told = f"not written: the drawing shows the terminals at the corners of the body, so it is {letter} − {WIDTH}"
        return f"{letter} - {WIDTH}", EvidenceKind.CALCULATED, told
    told = f"not written: measured in the drawing on the scale of {letter}, which need not be exact"
    return f"{found.pitch * scale:.{MEASURED_TO}f}", EvidenceKind.MEASURED, told


def _are_at_corners(found: DrawnPitch, body: DrawnLength, width: DrawnLength, scale: float) -> bool:
    """Whether two terminals of a row reach the edges of the body, by the drawing and by the lengths alike."""
    assert body.limits is not None
    assert width.limits is not None
    room = TO_SCALE * body.limits.middle
    reaches = abs(found.overall * scale - body.limits.middle) <= room
    return reaches and abs(found.pitch * scale - (body.limits.middle - width.limits.middle)) <= room
