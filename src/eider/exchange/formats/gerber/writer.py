"""Writes land patterns as Gerber X2 layers, an X3 component layer, and XNC drill files.

Names of attributes and functions are those of the Gerber layer format's published specification.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from eider import __version__
from eider.exchange.formats.gerber.attributes import REFERENCE, escaped
from eider.geometry.plane import Point, bounds, rotated
from eider.geometry.rounding import plain_digits
from eider.model.bundle import Bundle
from eider.model.pattern import Opening, Pad, Pattern, PatternStroke

# The layers of a file set: its stem and the function of the file.
COPPER = {"top": ("copper-top", "Copper,L1,Top"), "bottom": ("copper-bottom", "Copper,L2,Bot")}
MASK = {"top": ("mask-top", "Soldermask,Top"), "bottom": ("mask-bottom", "Soldermask,Bot")}
SIDES: Mapping[str, tuple[str, ...]] = {"top": ("top",), "bottom": ("bottom",), "all": ("top", "bottom")}
# Outlines are drawn with so wide an aperture where the line has no width of its own (mm).
OUTLINE_WIDTH = 0.05


class Flash(NamedTuple):
    """A form to flash, the function of its aperture, and the pin that it belongs to."""

    form: Pad | Opening
    function: str = ""
    pin: str = ""


class _Layer:
    """One file while it is written: its apertures by their definition, and its objects."""

    def __init__(self, function: str, *, negative: bool = False) -> None:
        self._head = [
            f"%TF.GenerationSoftware,Eider,Eider,{__version__}*%",
            "%TF.Part,Other,Land pattern*%",
            f"%TF.FileFunction,{function}*%",
            f"%TF.FilePolarity,{'Negative' if negative else 'Positive'}*%",
            "%FSLAX36Y36*%",
            "%MOMM*%",
        ]
        self._macros: list[str] = []
        self._apertures: dict[tuple[str, str], int] = {}
        self._objects: list[str] = []
        self._current = (0, "")

    def flash(self, flash: Flash) -> None:
        """Put a form where it stands."""
        form = flash.form
        self.flash_aperture(_aperture(form, self._macros), flash.function, flash.pin, (form.x, form.y))

    def flash_aperture(self, definition: str, function: str, pin: str, at: Point) -> None:
        """Put an aperture by its definition at a place."""
        self._choose(definition, function, pin)
        self._objects.append(f"X{_nm(at[0])}Y{_nm(at[1])}D03*")

    def draw(self, stroke: PatternStroke, function: str = "") -> None:
        """Draw a line with a round aperture of its width."""
        self._choose(f"C,{plain_digits(stroke.width)}", function, "")
        for index, (x, y) in enumerate(stroke.points):
            self._objects.append(f"X{_nm(x)}Y{_nm(y)}D{'01' if index else '02'}*")

    def attribute(self, command: str) -> None:
        """An attribute of the objects that follow."""
        self._objects.append(f"%{command}*%")

    def text(self) -> str:
        """The file."""
        defined = []
        for (definition, function), number in self._apertures.items():
            if function:
                defined.append(f"%TA.AperFunction,{function}*%")
            defined.append(f"%ADD{number}{definition}*%")
            if function:
                defined.append("%TD.AperFunction*%")
        lines = [*self._head, *self._macros, *defined, "%LPD*%", "G01*", *self._objects, "M02*"]
        return "\n".join(lines) + "\n"

    def _choose(self, definition: str, function: str, pin: str) -> None:
        number = self._apertures.setdefault((definition, function), 10 + len(self._apertures))
        if self._current[0] != number:
            self._objects.append(f"D{number}*")
        if self._current[1] != pin:
            self._objects.append(f"%TO.P,{REFERENCE},{escaped(pin)}*%" if pin else "%TD.P*%")
        self._current = (number, pin)


def gerber_files(pattern: Pattern, bundle: Bundle) -> dict[str, str]:
    """The files of a land pattern by what is behind its name, such as `copper-top.gbr`."""
    made: dict[str, str] = {}
    for side in ("top", "bottom"):
        pads = [pad for pad in pattern.pads if side in SIDES[pad.layers]]
        stem, function = COPPER[side]
        made |= _flashed(stem, function, [Flash(pad, _function(pad), pad.number) for pad in pads if _has_land(pad)])
        stem, function = MASK[side]
        made |= _flashed(stem, function, [Flash(opening) for pad in pads for opening in pad.mask], negative=True)
    paste = [Flash(opening) for pad in pattern.pads for opening in pad.paste]
    made |= _flashed("paste-top", "Paste,Top", paste)
    made |= _drawn("silkscreen-top", "Legend,Top", pattern.silkscreen)
    made |= _drawn("profile", "Profile,NP", [_closed(_profile(pattern))], "Profile")
    made["component-top.gbr"] = _component_layer(pattern, bundle)
    for stem, plated in (("drill-plated", True), ("drill-unplated", False)):
        if text := _drill(pattern, plated=plated):
            made[f"{stem}.xnc"] = text
    return made


def _has_land(pad: Pad) -> bool:
    hole = pad.hole
    return pad.plated or hole is None or (pad.width, pad.height) != (hole.width, hole.height)


def _function(pad: Pad) -> str:
    return "ComponentPad" if pad.hole is not None and pad.plated else "SMDPad,CuDef"


def _flashed(stem: str, function: str, flashes: Iterable[Flash], *, negative: bool = False) -> dict[str, str]:
    layer, count = _Layer(function, negative=negative), 0
    for flash in flashes:
        layer.flash(flash)
        count += 1
    return {f"{stem}.gbr": layer.text()} if count else {}


def _drawn(stem: str, function: str, strokes: Iterable[PatternStroke], of: str = "") -> dict[str, str]:
    layer, count = _Layer(function), 0
    for stroke in strokes:
        layer.draw(stroke, of)
        count += 1
    return {f"{stem}.gbr": layer.text()} if count else {}


def _profile(pattern: Pattern) -> list[tuple[float, float]]:
    if pattern.courtyard:
        return list(pattern.courtyard)
    boxes = [pad.box for pad in pattern.pads]
    x0, y0, x1, y1 = bounds([p for box in boxes for p in (box[:2], box[2:])]) if boxes else (-1, -1, 1, 1)
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]


def _closed(points: list[tuple[float, float]]) -> PatternStroke:
    return PatternStroke((*points, points[0]), OUTLINE_WIDTH)


def _component_layer(pattern: Pattern, bundle: Bundle) -> str:
    """The component with its pins and outlines (X3)."""
    layer = _Layer("Component,L1,Top")
    facts = bundle.part.facts
    told = {
        "CRot": "0",
        "CMnt": "TH" if any(pad.hole and pad.plated for pad in pattern.pads) else "SMD",
        "CFtp": pattern.name,
        "CMPN": facts["Part number"].value if "Part number" in facts else "",
        "CMfr": facts["Manufacturer"].value if "Manufacturer" in facts else "",
    }
    layer.attribute(f"TO.C,{REFERENCE}")
    for name, value in told.items():
        if value:
            layer.attribute(f"TO.{name},{escaped(value)}")
    layer.flash_aperture("C,0.3", "ComponentMain", "", (0.0, 0.0))
    for index, pad in enumerate(pad for pad in pattern.pads if pad.number):
        # The first pin is a diamond, the others are points without a size.
        layer.flash_aperture("C,0" if index else "P,0.36X4X0", "ComponentPin", pad.number, (pad.x, pad.y))
    for stroke in (s for s in pattern.assembly if s.role == "body"):
        layer.draw(PatternStroke(stroke.points, 0.0), "ComponentOutline,Body")
    if pattern.courtyard:
        layer.draw(PatternStroke((*pattern.courtyard, pattern.courtyard[0]), 0.0), "ComponentOutline,Courtyard")
    return layer.text()


def _drill(pattern: Pattern, *, plated: bool) -> str:
    """The XNC file of the plated or unplated holes; empty where there are none."""
    holes = [(p.hole.width, p.hole.height, *p.hole_centre, p.rotation, _drill_function(plated=plated))
             for p in pattern.pads if p.hole is not None and p.plated is plated]  # fmt: skip
    if plated:
        holes += [(via.drill, via.drill, via.x, via.y, 0.0, "Plated,PTH,ViaDrill") for via in pattern.vias]
    if not holes:
        return ""
    tools: dict[tuple[float, str], list[str]] = {}
    for width, height, x, y, turn, function in holes:
        tools.setdefault((min(width, height), function), []).extend(_hole_commands(width, height, (x, y), turn))
    ordered = sorted(tools)
    lines = ["M48", f"; #@! TF.FileFunction,{'Plated,1,2,PTH' if plated else 'NonPlated,1,2,NPTH'}"]
    lines += [f"; #@! TF.GenerationSoftware,Eider,Eider,{__version__}", "METRIC"]
    for number, (diameter, function) in enumerate(ordered, start=1):
        lines += [f"; #@! TA.AperFunction,{function}", f"T{number:02}C{plain_digits(diameter)}"]
    lines += ["%", "G05"]
    for number, key in enumerate(ordered, start=1):
        lines += [f"T{number:02}", *tools[key]]
    return "\n".join([*lines, "M30"]) + "\n"


def _drill_function(*, plated: bool) -> str:
    return "Plated,PTH,ComponentDrill" if plated else "NonPlated,NPTH,MechanicalDrill"


def _hole_commands(width: float, height: float, at: tuple[float, float], turn: float) -> Iterator[str]:
    if width == height:
        yield f"X{_decimal(at[0])}Y{_decimal(at[1])}"
        return
    half = abs(width - height) / 2
    ends = [(-half, 0.0), (half, 0.0)] if width > height else [(0.0, -half), (0.0, half)]
    (x0, y0), (x1, y1) = rotated([(x + at[0], y + at[1]) for x, y in ends], turn, at)
    yield f"G00X{_decimal(x0)}Y{_decimal(y0)}"
    yield "M15"
    yield f"G01X{_decimal(x1)}Y{_decimal(y1)}"
    yield "M16"
    yield "G05"


def _decimal(value: float) -> str:
    text = plain_digits(value)
    return text if "." in text else f"{text}.0"


def _nm(value: float) -> int:
    return round(value * 1e6)


def _aperture(form: Pad | Opening, macros: list[str]) -> str:
    """The definition of an aperture of a form; forms that are no standard aperture get a macro."""
    turn = form.rotation % 180
    width, height = (form.height, form.width) if turn == 90 else (form.width, form.height)
    if form.shape == "circle":
        return f"C,{plain_digits(width)}"
    if form.shape in ("rectangle", "oval") and turn in (0, 90):
        return f"{'R' if form.shape == 'rectangle' else 'O'},{plain_digits(width)}X{plain_digits(height)}"
    body = _macro_body(form)
    for text in macros:
        name, _, known = text.removeprefix("%AM").partition("*\n")
        if known == body:
            return name
    made = f"FORM{len(macros) + 1}"
    macros.append(f"%AM{made}*\n{body}")
    return made


def _macro_body(form: Pad | Opening) -> str:
    """The primitives of a form about its own place, turned as it stands."""
    turn = plain_digits(form.rotation)
    if form.shape == "outline":
        points = [f"{plain_digits(x)},{plain_digits(y)}" for x, y in (*form.outline, form.outline[0])]
        return f"4,1,{len(form.outline)},\n" + ",\n".join(points) + f",\n{turn}*%"
    if form.shape == "rectangle":
        return f"21,1,{plain_digits(form.width)},{plain_digits(form.height)},0,0,{turn}*%"
    radius = form.corner_radius if form.shape == "rounded" else min(form.width, form.height) / 2
    radius = min(radius, form.width / 2, form.height / 2)
    inner_width, inner_height = form.width - 2 * radius, form.height - 2 * radius
    boxes = [(form.width, inner_height), (inner_width, form.height)]
    lines = [f"21,1,{plain_digits(w)},{plain_digits(h)},0,0,{turn}*" for w, h in boxes if min(w, h) > 0]
    x, y = inner_width / 2, inner_height / 2
    corners = dict.fromkeys((sx * x + 0.0, sy * y + 0.0) for sx in (-1, 1) for sy in (-1, 1))
    for cx, cy in corners:
        lines.append(f"1,1,{plain_digits(2 * radius)},{plain_digits(cx)},{plain_digits(cy)},{turn}*")
    return "\n".join(lines) + "%"
