"""Gives a datasheet's drawing its scale by the lengths that were read in it, so that Eider's lies over it by itself."""

import statistics
from collections.abc import Sequence
from typing import Literal, NamedTuple

import msgspec

from eider.datasheets.figures.outline_drawings import DrawnLength, OutlineDrawing
from eider.drawings.datasheet_overlay import overlay_drawing, place, scale_by
from eider.errors import InputError
from eider.geometry.plane import Point
from eider.model.bundle import Bundle
from eider.model.package_sheet import DatasheetPicture
from eider.packages.registry import family_of

# Lengths whose scales differ by no more than this share are drawn to one scale; so many of them make one.
SAME_SCALE, FEWEST = 0.08, 2
replace = msgspec.structs.replace


class _Scaled(NamedTuple):
    """A length in the drawing whose letter the sheet knows: points to the mm."""

    found: DrawnLength
    standard: str
    mm: float

    @property
    def scale(self) -> float:
        return (self.found.span.stop - self.found.span.start) / self.mm


def scale_from_outline(bundle: Bundle, picture: DatasheetPicture, drawing: OutlineDrawing) -> DatasheetPicture:
    """The picture with the scale of the view that most lengths agree on, and what it shows.

    Raises:
        InputError: no view has two lengths that the sheet knows, they are not drawn to one scale, or the package
            cannot be drawn yet.
    """
    known = [scaled for found in drawing.lengths if (scaled := _known(bundle, found)) is not None]
    agreeing = [_agreeing([one for one in known if one.found.view == view]) for view in range(len(drawing.views))]
    view = max(range(len(agreeing)), key=lambda index: len(agreeing[index]), default=-1)
    if view < 0 or len(agreeing[view]) < FEWEST:
        raise InputError(_why_not(known))
    shows = _shows(bundle, [one.standard for one in agreeing[view]])
    drawn_here = [one for one in agreeing[view] if one.standard in _letters(bundle, shows)] or agreeing[view]
    longest = max(drawn_here, key=lambda one: one.found.span.stop - one.found.span.start)
    span = longest.found.span
    ends = [(at, span.level) if span.axis == "horizontal" else (span.level, at) for at in (span.start, span.stop)]
    scale = scale_by(ends[0], ends[1], longest.mm, longest.standard)
    made = replace(picture, scale=scale, shows=shows, shift=(0.0, 0.0))
    x0, y0, x1, y1 = drawing.views[view].box
    return replace(made, shift=_shift_to(bundle, made, ((x0 + x1) / 2, (y0 + y1) / 2)))


def _known(bundle: Bundle, found: DrawnLength) -> _Scaled | None:
    """A length that the sheet has under the letter that is at it, or of which the value is there."""
    if found.doubt or found.view < 0:
        return None
    sheet = bundle.sheet
    if found.letter:
        standard = sheet.aliases.get(found.letter, found.letter)
        limits = sheet.limits(standard)
    else:
        limits = found.limits
        same = [key for key in sheet.dims if (own := sheet.limits(key)) and limits and own.middle == limits.middle]
        standard = same[0] if len(same) == 1 else ""
    if limits is None or not limits.middle > 0:
        return None
    return _Scaled(found, standard, limits.middle)


def _agreeing(known: Sequence[_Scaled]) -> list[_Scaled]:
    """Those of a view that are drawn to the scale of most."""
    if not known:
        return []
    usual = statistics.median(one.scale for one in known)
    return [one for one in known if abs(one.scale - usual) <= SAME_SCALE * usual]


def _why_not(known: Sequence[_Scaled]) -> str:
    if len(known) < FEWEST:
        return "fewer than two lengths of the sheet were found in the drawing; set the scale by two clicks"
    told = ", ".join(f"{one.standard or one.found.text} {one.scale:.1f}" for one in known[:4])
    return f"the drawing is not to scale ({told} points to the mm); set the scale by two clicks"


def _letters(bundle: Bundle, shows: str) -> set[str]:
    family = family_of(bundle.sheet.family)
    views = family.views(bundle.sheet, family.dims(bundle.sheet))
    return {dimension.letter for view in views if view.name == shows for dimension in view.dimensions}


def _shows(bundle: Bundle, letters: Sequence[str]) -> Literal["top", "side"]:
    """The view of Eider's that draws most of the letters."""
    top, side = (len(set(letters) & _letters(bundle, shows)) for shows in ("top", "side"))
    return "side" if side > top else "top"


def _shift_to(bundle: Bundle, picture: DatasheetPicture, middle: Point) -> Point:
    """The shift under which the middle of Eider's drawing falls on a place of the page."""
    placement = place(picture, bundle)
    if placement is None:
        return 0.0, 0.0
    x0, y0, x1, y1 = overlay_drawing(bundle, picture.shows).box
    x, y = (x0 + x1) / 2 * placement.scale, (y0 + y1) / 2 * placement.scale
    for _ in range(placement.quarters):
        x, y = -y, x
    wanted = middle[0] - x, middle[1] - y
    return round(wanted[0] - placement.origin[0], 2), round(wanted[1] - placement.origin[1], 2)
