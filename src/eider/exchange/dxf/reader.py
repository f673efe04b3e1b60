"""Reads land patterns out of DXF: copper as pads, openings and holes on them, their numbers from the texts on them."""

import math
import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple, cast

from msgspec.structs import replace

from eider.errors import InputError
from eider.exchange.dxf.writer import HALF, QUARTER, BulgedPoint
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.json_files import require_size, within_a_metre
from eider.geometry.rounding import tidy
from eider.geometry.shapes import Box, Point, bounds, rotated
from eider.model.pattern import Hole, Opening, Pad

LARGEST, MOST_ENTITIES, DEEPEST = 64 * 2**20, 200_000, 8
# Curves that are no arcs become chords that are no farther from them (mm).
CHORD = 0.005
# mm of a unit, by its number in $INSUNITS.
UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 8: 2.54e-5, 9: 0.0254, 13: 0.001}
SAME = 0.0005
# What a layer is for, by the words in its name; the first that fits.
_ROLES = (
    ("number", r"number|desig|text|label|name"),
    ("unplated", r"unplated|nonplated|npth|nptth"),
    ("hole", r"hole|drill|pth"),
    ("mask", r"mask|resist"),
    ("paste", r"paste|stencil|cream"),
    ("bottom", r"(copper|pad|land|metal|cu).*(bot|back)|(bot|back).*(copper|pad|land|metal|cu)"),
    ("top", r"copper|pad|land|metal|\bcu\b|top_cu|cu_top"),
)


class _Form(NamedTuple):
    """A closed shape about its middle."""

    role: str
    opening: Opening


class _Text(NamedTuple):
    text: str
    x: float
    y: float


def read_dxf(path: Path) -> FoundFile:
    """The land pattern of a file, called as the file is.

    Raises:
        InputError: it is no DXF, is damaged beyond repair, too large, or has no copper.
    """
    from ezdxf import recover

    require_size(path, LARGEST)
    try:
        document, auditor = recover.readfile(path)
        forms, texts, log = _collected(document)
    except InputError:
        raise
    # ezdxf lets faults of every kind through, by where a file is damaged.
    except Exception as fault:
        raise InputError(f"{path.name} is no DXF, or is damaged: {fault}") from fault
    if auditor.errors:
        log.append(f"{len(auditor.errors)} faults of the file were repaired or left out: {auditor.errors[0].message}")
    pads = _pads(forms, texts, log)
    if not pads:
        raise InputError(f"{path.name} has no closed shape on a layer that is called copper, pads or lands")
    part = FoundPart(name=name_of(path), source=path.name, pads=pads, log=tuple(log))
    return FoundFile((part,), log=("silkscreen, assembly and courtyard are left out: the rulebook makes them anew",))


def _collected(document: Any) -> tuple[list[_Form], list[_Text], list[str]]:
    log: list[str] = []
    unit = int(document.header.get("$INSUNITS", 0))
    if unit not in UNITS:
        log.append("the file names no unit that is known; mm are assumed")
    scale = UNITS.get(unit, 1.0)
    forms, texts = list[_Form](), list[_Text]()
    left: Counter[str] = Counter()
    for entity in _entities(document.modelspace(), 0):
        role, kind = _role(entity.dxf.layer), entity.dxftype()
        if kind in ("TEXT", "MTEXT", "ATTRIB"):
            texts.append(_text(entity, kind, scale))
        elif role not in ("", "number"):
            made = _form(entity, kind, scale)
            if made is None:
                left[f"{kind} on {entity.dxf.layer}"] += 1
            else:
                forms.append(_Form(role, made))
    log += [f"{count} {what} left out: not a closed shape" for what, count in sorted(left.items())]
    return forms, texts, log


def _entities(space: Any, depth: int) -> Iterator[Any]:
    """Everything that is drawn, blocks resolved where they are inserted."""
    for count, entity in enumerate(space):
        if count > MOST_ENTITIES:
            raise InputError(f"there are more than {MOST_ENTITIES:,} entities; that is no land pattern")
        if entity.dxftype() == "INSERT" and depth < DEEPEST:
            yield from _entities(entity.virtual_entities(), depth + 1)
            yield from entity.attribs
        else:
            yield entity


def _role(layer: str) -> str:
    name = layer.lower().replace("-", "_").replace(" ", "_")
    return next((role for role, words in _ROLES if re.search(words, name)), "")


def _text(entity: Any, kind: str, scale: float) -> _Text:
    text = entity.plain_text() if kind == "MTEXT" else entity.dxf.text
    at = entity.dxf.insert
    if kind != "MTEXT" and (entity.dxf.get("halign", 0) or entity.dxf.get("valign", 0)):
        at = entity.dxf.get("align_point", at)
    return _Text(str(text).strip(), _mm(at[0], scale), _mm(at[1], scale))


def _mm(value: float, scale: float) -> float:
    return within_a_metre(float(value) * scale, "a length")


def _form(entity: Any, kind: str, scale: float) -> Opening | None:
    """Read an entity as a closed shape; None where it does not close."""
    if kind == "CIRCLE":
        x, y, *_ = entity.dxf.center
        size = _mm(2 * entity.dxf.radius, scale)
        return Opening(_mm(x, scale), _mm(y, scale), size, size, shape="circle") if size > 0 else None
    if kind == "LWPOLYLINE" and entity.closed:
        points = [(_mm(x, scale), _mm(y, scale), float(bulge)) for x, y, bulge in entity.get_points("xyb")]
        known = _known_form(points)
        if known is not None:
            return known
    return _flattened(entity, kind, scale)


def _known_form(points: list[BulgedPoint]) -> Opening | None:
    """A rectangle, one with round corners, or an oval, in any turn; None for any other outline."""
    bulges = [bulge for _x, _y, bulge in points]
    straight = all(abs(bulge) < 1e-6 for bulge in bulges)
    if len(points) == 4 and straight:
        return _rectangle([(x, y) for x, y, _bulge in points])
    arcs = [index for index, bulge in enumerate(bulges) if abs(bulge) > 1e-6]
    if len(points) == 4 and len(arcs) == 2 and all(abs(bulges[i] - HALF) < 1e-4 for i in arcs):
        return _oval(points, arcs[0])
    if len(points) == 8 and len(arcs) == 4 and all(abs(bulges[i] - QUARTER) < 1e-4 for i in arcs):
        return _rounded(points, arcs[0])
    return None


def _rectangle(points: list[tuple[float, float]]) -> Opening | None:
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = points
    width, height = math.hypot(x1 - x0, y1 - y0), math.hypot(x2 - x1, y2 - y1)
    is_right = abs((x1 - x0) * (x2 - x1) + (y1 - y0) * (y2 - y1)) < SAME * max(width, height)
    is_closed = math.hypot(x0 + x2 - x1 - x3, y0 + y2 - y1 - y3) < SAME
    if not is_right or not is_closed or min(width, height) <= 0:
        return None
    turn = _turn(points[0], points[1])
    return Opening(tidy((x0 + x2) / 2), tidy((y0 + y2) / 2), tidy(width), tidy(height), tidy(turn))


def _turn(start: Point, end: Point) -> float:
    """The direction of a side, in degrees counter-clockwise from +x."""
    return math.degrees(math.atan2(end[1] - start[1], end[0] - start[0])) % 360


def _oval(points: list[BulgedPoint], arc: int) -> Opening | None:
    """Two straight sides with half circles between; its length is along the straight side before the first arc."""
    (x0, y0, _), (x1, y1, _), (x2, y2, _), (x3, y3, _) = (points[(arc + index - 1) % 4] for index in range(4))
    straight, across = math.hypot(x1 - x0, y1 - y0), math.hypot(x2 - x1, y2 - y1)
    turn = _turn((x0, y0), (x1, y1))
    middle = tidy((x0 + x1 + x2 + x3) / 4), tidy((y0 + y1 + y2 + y3) / 4)
    return Opening(*middle, tidy(straight + across), tidy(across), tidy(turn), "oval")


def _rounded(points: list[BulgedPoint], arc: int) -> Opening | None:
    """Four straight sides with quarter circles between."""
    turned = [points[(arc + index - 1) % 8] for index in range(8)]
    (x0, y0, _), (x1, y1, _), (x2, y2, _), (x3, y3, _) = turned[:4]
    radius = math.hypot(x2 - x1, y2 - y1) / math.sqrt(2)
    width = math.hypot(x1 - x0, y1 - y0) + 2 * radius
    height = math.hypot(x3 - x2, y3 - y2) + 2 * radius
    turn = _turn((x0, y0), (x1, y1))
    middle = sum(p[0] for p in turned) / 8, sum(p[1] for p in turned) / 8
    sizes = tidy(width), tidy(height), tidy(turn)
    return Opening(tidy(middle[0]), tidy(middle[1]), *sizes, "rounded", tidy(radius))


def _flattened(entity: Any, kind: str, scale: float) -> Opening | None:
    """Any other closed outline, its curves as chords; a hatch by its first boundary."""
    from ezdxf import path

    if kind == "HATCH":
        found = list(path.from_hatch(entity))
    elif kind in ("LWPOLYLINE", "POLYLINE", "SPLINE", "ELLIPSE", "SOLID", "TRACE"):
        found = [path.make_path(entity)]
    else:
        return None
    if not found or not (found[0].is_closed or kind in ("SOLID", "TRACE")):
        return None
    points = [(_mm(p.x, scale), _mm(p.y, scale)) for p in found[0].flattening(CHORD / scale)]
    while len(points) > 1 and points[0] == points[-1]:
        points.pop()
    if len(points) < 3:
        return None
    if len(points) == 4 and (rectangle := _rectangle(points)) is not None:
        return rectangle
    x0, y0, x1, y1 = bounds(points)
    x, y = tidy((x0 + x1) / 2), tidy((y0 + y1) / 2)
    outline = tuple((tidy(px - x), tidy(py - y)) for px, py in points)
    return Opening(x, y, tidy(x1 - x0), tidy(y1 - y0), shape="outline", outline=outline)


def _pads(forms: list[_Form], texts: list[_Text], log: list[str]) -> tuple[Pad, ...]:
    """Pads from copper, and bare holes; what lies on them is theirs."""
    made: list[Pad] = []
    for role in ("top", "bottom"):
        for form in (f.opening for f in forms if f.role == role):
            same = next((i for i, pad in enumerate(made) if role == "bottom" and _is_same(pad, form)), None)
            if same is not None:
                made[same] = replace(made[same], layers="all")
            else:
                made.append(_as_pad(form, role))
    for role in ("hole", "unplated", "mask", "paste"):
        for form in (f.opening for f in forms if f.role == role):
            _put(made, role, form, log)
    numbered = [_numbered(pad, texts) for pad in made]
    if nameless := sum(1 for pad in numbered if not pad.number and pad.plated):
        log.append(f"{nameless} pads have no number: no text lies on them")
    return tuple(numbered)


def _as_pad(form: Opening, layers: str) -> Pad:
    sizes = form.width, form.height
    about = {
        "rotation": form.rotation,
        "shape": form.shape,
        "corner_radius": form.corner_radius,
        "outline": form.outline,
    }
    return Pad("", form.x, form.y, *sizes, layers=layers, **about)  # type: ignore[arg-type]


def _is_same(pad: Pad, form: Opening) -> bool:
    return (
        pad.shape == form.shape
        and math.dist((pad.x, pad.y, pad.width, pad.height), (form.x, form.y, form.width, form.height)) < SAME
    )


def _put(made: list[Pad], role: str, form: Opening, log: list[str]) -> None:
    """A hole or opening on the pad on whose box its middle lies, the nearest one; a hole alone is a bare one."""
    near = [i for i, pad in enumerate(made) if _is_on(pad, form.x, form.y)]
    at = min(near, key=lambda i: math.dist((made[i].x, made[i].y), (form.x, form.y)), default=None)
    if at is None and role in ("mask", "paste"):
        # One opening over several pads is that of the first.
        at = next((i for i, pad in enumerate(made) if _is_in(form.box, pad.x, pad.y)), None)
    if role in ("hole", "unplated"):
        hole = Hole(form.width, form.height)
        if at is None:
            bare = _as_pad(form, "all")
            made.append(replace(bare, hole=hole, plated=False))
            return
        pad = made[at]
        ((x, y),) = rotated([(form.x - pad.x, form.y - pad.y)], -pad.rotation)
        turned = round((form.rotation - pad.rotation) / 90) % 2 == 1
        size = (form.height, form.width) if turned else (form.width, form.height)
        placed = Hole(*size, *((tidy(x), tidy(y)) if math.hypot(x, y) > SAME else ()))
        made[at] = replace(pad, hole=placed, plated=role == "hole", layers="all" if role == "hole" else pad.layers)
    elif at is not None:
        pad, field = made[at], role
        known = cast("tuple[Opening, ...]", getattr(pad, field))
        if form not in known:
            made[at] = replace(pad, **{field: (*known, form)})
    else:
        log.append(f"an opening of {role} at {form.x:g}, {form.y:g} lies on no pad; left out")


def _is_on(pad: Pad, x: float, y: float) -> bool:
    return _is_in(pad.box, x, y)


def _is_in(box: Box, x: float, y: float) -> bool:
    x0, y0, x1, y1 = box
    return x0 - SAME <= x <= x1 + SAME and y0 - SAME <= y <= y1 + SAME


def _numbered(pad: Pad, texts: list[_Text]) -> Pad:
    on = [text for text in texts if text.text and _is_on(pad, text.x, text.y)]
    nearest = min(on, key=lambda text: math.dist((text.x, text.y), (pad.x, pad.y)), default=None)
    return replace(pad, number=nearest.text) if nearest else pad
