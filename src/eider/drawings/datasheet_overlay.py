"""Eider's own outline or land pattern laid over the datasheet's drawing of it."""

import math

import msgspec

from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.package_drawing import package_drawings
from eider.drawings.primitives import Area, Disc, Drawing, Line
from eider.errors import InputError
from eider.geometry.plane import Point
from eider.model.bundle import Bundle
from eider.model.package_sheet import DatasheetPicture, PictureScale
from eider.packages.family import View
from eider.packages.registry import family_of


class OverlayPlacement(msgspec.Struct, frozen=True):
    """Where a drawing in mm lies on a page: points per mm, quarters turned counter-clockwise, and its origin."""

    scale: float
    quarters: int
    origin: Point


def overlay_drawing(bundle: Bundle, shows: str) -> Drawing:
    """The outline from above or from the side, or the lands, without dimensions and texts.

    Raises:
        InputError: the part cannot be drawn yet; a SheetError names the dimension that is missing.
    """
    if shows == "lands":
        if bundle.footprint.pattern is None:
            raise InputError("there are no lands yet")
        drawing = pattern_drawing(bundle.footprint.pattern, ())
    else:
        drawing = package_drawings(bundle.sheet)[0 if shows == "top" else 1]
    plain = tuple(p for p in drawing.primitives if isinstance(p, Area | Disc | Line))
    return Drawing(plain, drawing.box)


def scale_by(a: Point, b: Point, length: float, letter: str = "") -> PictureScale:
    """The scale of a drawing from two of its points (PDF points) and the length in mm between them.

    Raises:
        InputError: the points lie at one place, or the length is not a length.
    """
    if math.dist(a, b) < 1.0:
        raise InputError("the two points lie at one place; click the two ends of a length")
    if not 0 < length < math.inf:
        raise InputError("the length between the two points must be above zero")
    return PictureScale(a, b, length, letter)


def place(picture: DatasheetPicture, bundle: Bundle) -> OverlayPlacement | None:
    """How Eider's drawing lies over a picture; None while the picture has no scale.

    The two points are the ends of the length in Eider's drawing where that shows the letter; across it, and for
    a length without a letter, the middle of the picture is the middle of the package. `shift` is added.
    """
    scale = picture.scale
    if scale is None:
        return None
    (ax, ay), (bx, by) = sorted((scale.a, scale.b))
    factor = math.dist(scale.a, scale.b) / scale.length
    measured = _measured(bundle, picture.shows, scale.letter)
    angle = math.degrees(math.atan2(by - ay, bx - ax))
    along_y = measured is not None and measured[0] == "y"
    quarters = round((angle - (90 if along_y else 0)) / 90) % 4
    x0, y0, x1, y1 = picture.box
    centre = ((x0 + x1) / 2, (y0 + y1) / 2)
    middle = ((ax + bx) / 2, (ay + by) / 2)
    is_level = abs(bx - ax) >= abs(by - ay)
    # The known middle of the length in mm, turned and scaled, must fall on the middle of the two points.
    at = (measured[1] if measured else 0.0) * factor
    offset = _turn((0.0, at) if along_y else (at, 0.0), quarters)
    origin = (middle[0] - offset[0], centre[1]) if is_level else (centre[0], middle[1] - offset[1])
    return OverlayPlacement(factor, quarters, (origin[0] + picture.shift[0], origin[1] + picture.shift[1]))


def _measured(bundle: Bundle, shows: str, letter: str) -> tuple[str, float] | None:
    """Along which axis a letter is measured in Eider's drawing, and where the middle of its length lies (mm)."""
    if not letter or shows == "lands":
        return None
    family = family_of(bundle.sheet.family)
    views: tuple[View, ...] = family.views(bundle.sheet, family.dims(bundle.sheet))
    for view in views:
        for dimension in view.dimensions if view.name == shows else ():
            if dimension.letter == letter:
                axis = "x" if dimension.side in ("top", "bottom") else "y"
                index = 0 if axis == "x" else 1
                return axis, (dimension.a[index] + dimension.b[index]) / 2
    return None


def _turn(point: Point, quarters: int) -> Point:
    x, y = point
    for _ in range(quarters % 4):
        x, y = -y, x
    return x, y
