"""Reads a Gerber layer: flashes and areas as forms on a layer of the file's function, draws as lines of it."""

import re
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from eider.errors import InputError
from eider.exchange.formats.gerber.apertures import Aperture, ApertureTable
from eider.exchange.formats.gerber.attributes import fields
from eider.exchange.formats.gerber.macros import ROUND, placed_form
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.json_files import plain_number, read_text, within_a_metre
from eider.exchange.layered_shapes import LINE_ROLES, LayeredShapes, LayerForm, form_of_area, layer_role
from eider.exchange.reading_hints import NO_HINTS, ReadingHints
from eider.geometry.arcs import arc_points
from eider.geometry.plane import Point
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


MOST_OBJECTS = 50_000
_FUNCTIONS = {"soldermask": "mask", "paste": "paste", "legend": "silkscreen", "assemblydrawing": "assembly"}
_WORD = re.compile(r"([GXYIJDM])([-+]?\d+)")
_COMMANDS = re.compile(r"%([^%]*)%|([^%*]+)\*")
# Parameters of older files that say nothing of forms, or what holds anyway.
_SILENT = ("", "IN", "LN", "IP", "OF", "SF", "AS", "MI", "IR", "SR", "AB")


class _Format(NamedTuple):
    """How coordinates are written: digits before and behind the point, and whether noughts are left out at the end."""

    whole: int
    decimals: int
    trailing: bool


def read_gerber(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """The forms and lines of one layer, for the part that the file is called after.

    Raises:
        InputError: it is not a Gerber, or is damaged.
    """
    reader = _Reader(path.name)
    reader.run(read_text(path))
    function = reader.function
    role = hints.layers.get(path.name) or _role(function) or layer_role(path.name, hints)
    layers = {path.name: role}
    if role in ("none", "courtyard"):
        reason = f"is a layer of {function}" if function else "does not say which layer it is"
        return FoundFile((), log=(f"{path.name} {reason}; nothing of it is taken",), layers=layers)
    plotter, is_drawing = reader.plotter, role in LINE_ROLES
    forms = () if is_drawing else tuple(LayerForm(role, f.opening, f.number, f.component) for f in plotter.forms)
    lines = tuple((role, stroke) for stroke in plotter.strokes) if is_drawing else ()
    log = [f"{count} {what}" for what, count in sorted(reader.left.items())]
    if is_drawing and plotter.forms:
        log.append(f"{len(plotter.forms)} flashes and areas of {role} left out: only its lines are read")
    if not is_drawing and plotter.strokes:
        log.append(f"{len(plotter.strokes)} drawn lines left out: lands are flashes, areas and strokes of pads")
    part = FoundPart(name=name_of(path), source=path.name, shapes=LayeredShapes(forms, lines=lines), log=tuple(log))
    return FoundFile((part,), layers=layers)


def _role(function: str) -> str:
    """What a layer of a function is for; empty where the file says none."""
    kind, *words = function.casefold().split(",")
    if not kind:
        return ""
    if kind == "copper":
        return "bottom" if "bot" in words else "none" if "inr" in words else "top"
    role = _FUNCTIONS.get(kind, "none")
    return "none" if role not in ("mask", "none") and "bot" in words else role


class _Reader:
    """The commands of a file, told to the table of apertures and to the plotter."""

    def __init__(self, file: str) -> None:
        self._file, self.function = file, ""
        self.left: Counter[str] = Counter()
        self.plotter = Plotter(self.left)
        self._apertures = ApertureTable(self.left)
        self._current, self._aperture_function = 0, ""
        self._object: dict[str, list[str]] = {}
        self._format: _Format | None = None
        self._scale = 0.0
        self._parameters: Mapping[str, Callable[[str], None]] = {
            "FS": self._read_format,
            "MO": self._read_unit,
            "AD": lambda text: self._apertures.define(text, self._aperture_function, self._scale),
            "LP": lambda text: setattr(self.plotter, "is_dark", text[:1] != "C"),
            "LR": lambda text: setattr(self.plotter, "turn", plain_number(text, "a parameter")),
            "LM": lambda text: setattr(self.plotter, "mirror", text.strip().replace("N", "")),
            "LS": lambda text: setattr(self.plotter, "times", plain_number(text, "a parameter")),
            "TF": self._set_attribute,
            "TA": self._set_attribute,
            "TO": self._set_object,
            "TD": self._forget,
        }

    def run(self, text: str) -> None:
        """Read all commands of a file.

        Raises:
            InputError: it is not a Gerber, or is damaged.
        """
        if "%FS" not in text or "%MO" not in text:
            raise InputError(f"{self._file} is not a Gerber layer: it names no format and no unit")
        for found in _COMMANDS.finditer(text):
            try:
                if found[1] is not None:
                    self._extended(found[1].strip())
                elif self._word(found[2].strip()):
                    return
            except InputError as fault:
                line = text.count("\n", 0, found.start()) + 1
                raise InputError(f"{self._file}, line {line}: {fault}") from fault
            if len(self.plotter.forms) + len(self.plotter.strokes) > MOST_OBJECTS:
                raise InputError(f"{self._file} has more than {MOST_OBJECTS:,} objects; that is not a land pattern")
        self.left["end of the file is missing: it may be cut off"] += 1

    def _extended(self, command: str) -> None:
        if command.startswith("AM"):
            self._apertures.add_macro(command[2:])
            return
        for part in (piece.strip() for piece in command.split("*")):
            self._parameter(part)

    def _parameter(self, command: str) -> None:
        code, rest = command[:2], command[2:]
        if code in self._parameters:
            self._parameters[code](rest)
        elif code in ("SR", "AB") and rest:
            self.left[f"{code} (repeated or block) left out"] += 1
        elif code not in _SILENT:
            self.left[f"{code}: not understood, skipped"] += 1

    def _read_format(self, text: str) -> None:
        found = re.fullmatch(r"([LTD]?)([AI])X(\d)(\d)Y(\d)(\d)", text)
        if found is None:
            raise InputError(f"the format {text[:30]} is not read")
        if found[2] == "I":
            raise InputError("incremental coordinates are not read; write the file with absolute ones")
        self._format = _Format(int(found[3]), int(found[4]), found[1] == "T")

    def _read_unit(self, text: str) -> None:
        scales = {"MM": 1.0, "IN": 25.4}
        if text[:2] not in scales:
            raise InputError(f"the unit {text[:10]} is not read")
        self._scale = scales[text[:2]]

    def _set_attribute(self, text: str) -> None:
        name, *values = fields(text)
        if name.lstrip(".") == "FileFunction":
            self.function = ",".join(values)
        elif name.lstrip(".") == "AperFunction":
            self._aperture_function = ",".join(values)

    def _set_object(self, text: str) -> None:
        name, *values = fields(text)
        self._object[name.lstrip(".")] = values

    def _forget(self, text: str) -> None:
        name = text.lstrip(".").strip()
        if name in ("", "AperFunction"):
            self._aperture_function = ""
        if name:
            self._object.pop(name, None)
        else:
            self._object.clear()

    def _word(self, word: str) -> bool:
        """A command of letters and numbers; True at the end of the file."""
        if re.match(r"G0*4(\D|$)", word):
            if found := re.search(r"#@!\s*(T[FAOD].*)", word):
                self._parameter(found[1].strip())
            return False
        given = dict[str, str]()
        for letter, digits in _WORD.findall(re.sub(r"\s", "", word)):
            if letter == "G":
                self._general(digits.lstrip("+").zfill(2))
            elif letter == "M":
                return digits.zfill(2) in ("02", "00")
            else:
                given[letter] = digits
        if given:
            self._operate(given)
        return False

    def _general(self, code: str) -> None:
        if code in ("01", "02", "03"):
            self.plotter.way = code
        elif code == "36":
            self.plotter.begin_region()
        elif code == "37":
            self.plotter.end_region()
        elif code in ("70", "71"):
            self._scale = 25.4 if code == "70" else 1.0
        elif code == "91":
            raise InputError("incremental coordinates are not read; write the file with absolute ones")

    def _operate(self, given: Mapping[str, str]) -> None:
        places = {axis: self._coordinate(given[axis]) for axis in "XYIJ" if axis in given}
        code = int(given.get("D", "1"))
        if code >= 10:
            self._current = code
            return
        to = places.get("X", self.plotter.at[0]), places.get("Y", self.plotter.at[1])
        aperture, self.plotter.attributes = self._apertures.find(self._current), self._object
        if code == 3:
            self.plotter.flash(to, aperture)
        elif code == 2:
            self.plotter.move(to)
        else:
            self.plotter.draw(to, (places.get("I", 0.0), places.get("J", 0.0)), aperture)

    def _coordinate(self, digits: str) -> float:
        if self._format is None or not self._scale:
            raise InputError("a place is before the format and the unit")
        sign, plain = (-1 if digits.startswith("-") else 1), digits.lstrip("+-")
        if self._format.trailing:
            plain = plain.ljust(self._format.whole + self._format.decimals, "0")
        if len(plain) > 12:
            raise InputError(f"“{digits[:20]}” is not a coordinate")
        return within_a_metre(sign * int(plain) * 10.0**-self._format.decimals * self._scale, "a place")
