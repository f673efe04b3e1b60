"""Whether the lines at which letters are in an outline drawing lie as a package of these lengths would have them."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import permutations
from typing import Literal

import msgspec

from eider.geometry.limits import Limits
from eider.geometry.plane import bounds
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packages.family import Family, SheetError, View
from eider.packages.letters.typical_dimensions import with_typical

DrawnAxis = Literal["horizontal", "vertical"]
# Pitch and width of leads on four sides are drawn on any of them.
PlaceAxis = Literal["horizontal", "vertical", "either"]
# whole: from one end of a view to the other; edge: from one end inwards; inner: between edges within; outside: none.
DrawnReach = Literal["whole", "edge", "inner", "outside"]
# How a line agrees with its meaning: not, as far as drawings have it in common, or to the letter.
DISAGREES, AGREES, AGREES_CLOSELY = 0, 1, 2
# An end this share of a view from its end is at it.
AT_END = 0.02
# A length of less than this share of a view is one of its terminals.
SMALL = 0.3
# A drawing with more views than this is looked at by the ones with most letters.
MOST_VIEWS = 6


class DrawnSpan(msgspec.Struct, frozen=True):
    """A letter's line in an outline drawing: in which view (from 0), along which axis, and how far over it."""

    letter: str
    view: int
    axis: DrawnAxis
    reach: DrawnReach


def drawing_agrees(
    family: Family,
    sheet: PackageSheet,
    limits: Mapping[str, Limits],
    meanings: Mapping[str, str],
    spans: Sequence[DrawnSpan],
) -> dict[str, int]:
    """For each letter of the sheet that is drawn, how far it lies as its meaning does in Eider's own views.

    Args:
        family: the family of the package.
        sheet: its pins and options.
        limits: the lengths by the sheet's letters.
        meanings: the standard's letter for each of the sheet's.
        spans: the lines of the drawing. Views may be drawn turned by a quarter, the side view may not.

    Letters that Eider does not draw, or that have no line, are left out; so are all where nothing can be drawn.
    """
    dims = {standard: Dimension(limits=limits[own]) for own, standard in meanings.items()}
    try:
        tried = with_typical(msgspec.structs.replace(sheet, dims=dims))
        views = family.views(tried, family.dims(tried))
    except (SheetError, ValueError, ZeroDivisionError):
        return {}
    by_view = {index: [span for span in spans if span.view == index] for index in {span.view for span in spans}}
    drawn = sorted(by_view.values(), key=len, reverse=True)[:MOST_VIEWS]
    heights = {
        letter for v in views if v.name == "side" for letter, (axis, _r) in letter_places(v) if axis == "vertical"
    }
    flat = {letter for v in views if v.name == "top" for letter, _place in letter_places(v)} - heights
    compared = [
        [_compared(here, view, meanings, heights if view.name == "top" else flat) for view in views] for here in drawn
    ]
    best: dict[str, int] = {}
    for chosen in _pairings(len(drawn), len(views)):
        told: dict[str, int] = {}
        for row, column in chosen:
            for letter, agrees in compared[row][column].items():
                told[letter] = max(told.get(letter, DISAGREES), agrees)
        best = max(best, told, key=_points) if best else told
    return best


def _pairings(drawn: int, views: int) -> Iterator[tuple[tuple[int, int], ...]]:
    """All ways to take each view of a drawing for another of Eider's, or the other way round where it has fewer."""
    if drawn <= views:
        yield from (tuple(enumerate(order)) for order in permutations(range(views), drawn))
    else:
        yield from (tuple((row, column) for column, row in enumerate(o)) for o in permutations(range(drawn), views))


def _points(told: Mapping[str, int]) -> float:
    return sum((-1.0, 1.0, 1.1)[agrees] for agrees in told.values())


def _compared(
    spans: Sequence[DrawnSpan], view: View, meanings: Mapping[str, str], elsewhere: Collection[str]
) -> dict[str, int]:
    """What a view of the drawing says as one of Eider's, as it lies or, seen from above, turned by a quarter.

    Letters `elsewhere` cannot be seen in it: heights from above, and upright from the side what lies flat.
    """
    places = dict(letter_places(view))
    straight = _held_against(spans, places, meanings, turned=False)
    turned = _held_against(spans, places, meanings, turned=True) if view.name == "top" else straight
    hidden = {
        span.letter: DISAGREES
        for span in spans
        if meanings.get(span.letter) in elsewhere and (view.name == "top" or span.axis == "vertical")
    }
    best = straight if _points(straight) >= _points(turned) else turned
    return {**hidden, **best}


def letter_places(view: View) -> Iterator[tuple[str, tuple[PlaceAxis, DrawnReach]]]:
    """For each letter of a view its axis and how far it goes over it."""
    x0, y0, x1, y1 = bounds(point for shape in view.shapes for point in shape.outline if shape.role != "board")
    feet = [bounds(shape.outline) for shape in view.shapes if shape.role == "terminal"]
    nearest = [
        min((abs(foot[side] - edge) for foot in feet), default=1.0) for side, edge in enumerate((x0, y0, x1, y1))
    ]
    on_all_sides = bool(feet) and max(nearest) < AT_END * (x1 - x0)
    for dimension in view.dimensions:
        is_across = dimension.side in ("top", "bottom")
        low, high = (x0, x1) if is_across else (y0, y1)
        ends = sorted((dimension.a[0], dimension.b[0]) if is_across else (dimension.a[1], dimension.b[1]))
        room = AT_END * (high - low)
        at_ends = (abs(ends[0] - low) <= room) + (abs(ends[1] - high) <= room)
        reach: DrawnReach = ("inner", "edge", "whole")[at_ends]
        is_small = ends[1] - ends[0] < SMALL * (high - low)
        axis: PlaceAxis = "horizontal" if is_across else "vertical"
        yield dimension.letter, ("either" if is_small and on_all_sides else axis, reach)


def _held_against(
    spans: Sequence[DrawnSpan],
    places: Mapping[str, tuple[PlaceAxis, DrawnReach]],
    meanings: Mapping[str, str],
    *,
    turned: bool,
) -> dict[str, int]:
    found: dict[str, int] = {}
    for span in spans:
        place = places.get(meanings.get(span.letter, ""))
        if place is not None:
            is_along = place[0] == "either" or (place[0] == span.axis) != turned
            # Which lead of a row a drawing takes for its width and pitch is left to it.
            is_alike = (place[1] == "whole") == (span.reach == "whole")
            closely = AGREES_CLOSELY if place[1] == span.reach else AGREES
            found[span.letter] = closely if is_along and is_alike else DISAGREES
    return found
