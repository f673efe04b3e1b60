"""What a Gerber file draws: flashes, areas and lines, from its operations one after the other; mm."""

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import Any

from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from eider.exchange.gerber.apertures import Aperture
from eider.exchange.gerber.macros import ROUND, placed_form
from eider.exchange.layered_shapes import LayerForm, form_of_area
from eider.geometry.arcs import arc_points
from eider.geometry.shapes import Point
from eider.model.pattern import Opening, PatternStroke

# An arc is drawn in chords of so many degrees.
CHORD_DEGREES = 2.0
# Functions of apertures whose flashes are no lands of a component.
_NO_LANDS = ("ViaPad", "FiducialPad", "BGAPad,Test", "TestPad", "WasherPad", "EtchedComponent")


class Plotter:
    """The place, the way and the attributes that hold now; `forms` and `strokes` are what was drawn."""

    def __init__(self, left: Counter[str]) -> None:
        self.at: Point = (0.0, 0.0)
        self.way, self.is_dark, self.turn, self.mirror, self.times = "01", True, 0.0, "", 1.0
        self.attributes: Mapping[str, Sequence[str]] = {}
        self.forms: list[LayerForm] = []
        self.strokes: list[PatternStroke] = []
        self._left = left
        self._contour: list[Point] | None = None

    def begin_region(self) -> None:
        """What is drawn from here on is the edge of an area."""
        self._contour = []

    def end_region(self) -> None:
        """The area is closed."""
        self._end_contour()
        self._contour = None

    def move(self, to: Point) -> None:
        """Go to a place without drawing; in a region a new edge begins."""
        if self._contour is not None:
            self._end_contour()
            self._contour = [to]
        self.at = to

    def draw(self, to: Point, centre: Point, aperture: Aperture | None) -> None:
        """Draw to a place, straight or along an arc whose centre is given from the place before."""
        start, points = self.at, self._path(to, centre)
        self.at = to
        if self._contour is not None:
            self._contour = [*(self._contour or [start]), *points]
        else:
            self._stroke([start, *points], aperture)

    def flash(self, to: Point, aperture: Aperture | None) -> None:
        """Put an aperture at a place."""
        self.at = to
        if aperture is None:
            self._left["flashes without a readable aperture left out"] += 1
        elif not self.is_dark:
            self._left["flashes that erase left out"] += 1
        elif aperture.function.startswith(_NO_LANDS):
            self._left[f"flashes of {aperture.function.split(',')[0]} left out"] += 1
        elif aperture.form is None:
            self._left["flashes of several pieces or with a hole left out"] += 1
        elif self.times != 1.0:
            self._left["flashes that are scaled left out"] += 1
        else:
            self._keep(placed_form(aperture.form, *to, self.turn, mirror=self.mirror))

    def _path(self, to: Point, centre: Point) -> list[Point]:
        """The points from the current place to the next: straight, or along an arc."""
        if self.way == "01" or centre == (0.0, 0.0):
            return [to]
        middle = self.at[0] + centre[0], self.at[1] + centre[1]
        return arc_points(self.at, to, middle, clockwise=self.way == "02", step=CHORD_DEGREES)

    def _keep(self, form: Opening) -> None:
        pin = self.attributes.get("P", ())
        number = pin[1] if len(pin) > 1 else ""
        component = pin[0] if pin else next(iter(self.attributes.get("C", ())), "")
        self.forms.append(LayerForm("", form, number, component))

    def _end_contour(self) -> None:
        contour = self._contour or []
        if len(contour) >= 3:
            area = Polygon(contour)
            if area.is_valid:
                self._keep_area(area, "areas of several pieces left out")
            else:
                self._left["areas that cross themselves left out"] += 1

    def _keep_area(self, area: BaseGeometry, otherwise: str) -> None:
        form = form_of_area(area)
        if not self.is_dark:
            self._left["areas that erase left out"] += 1
        elif form is None:
            self._left[otherwise] += 1
        else:
            self._keep(form)

    def _stroke(self, points: list[Point], aperture: Aperture | None) -> None:
        """A line; straight strokes of an aperture for lands are lands with round ends."""
        width = aperture.width if aperture is not None else 0.0
        if aperture is not None and aperture.is_land and width > 0 and len(points) == 2 and points[0] != points[1]:
            line: Any = LineString(points)
            self._keep_area(line.buffer(width / 2, quad_segs=ROUND), "strokes left out")
            return
        last = self.strokes[-1] if self.strokes else None
        if last is not None and last.points[-1] == points[0] and last.width == width:
            self.strokes[-1] = PatternStroke((*last.points, *points[1:]), width, "line")
        else:
            self.strokes.append(PatternStroke(tuple(points), width, "line"))
