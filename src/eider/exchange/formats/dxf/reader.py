"""Reads land patterns out of DXF: copper as pads, openings and holes on them, their numbers from the texts on them."""

import logging
import math
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from eider.errors import InputError
from eider.exchange.formats.dxf.writer import HALF, QUARTER, BulgedPoint
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.json_files import require_size, within_a_metre
from eider.exchange.layered_shapes import (
    LINE_ROLES,
    PLAIN_LINE,
    LayeredShapes,
    LayerForm,
    LayerText,
    direction,
    form_of_points,
    layer_role,
    rectangle_of,
)
from eider.exchange.reading_hints import NO_HINTS, ReadingHints
from eider.geometry.rounding import tidy
from eider.model.pattern import Opening, PatternStroke

LARGEST, MOST_ENTITIES, DEEPEST = 64 * 2**20, 200_000, 8
# Curves that are no arcs become chords that are no farther from them (mm).
CHORD = 0.005
# mm of a unit, by its number in $INSUNITS.
UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 8: 2.54e-5, 9: 0.0254, 13: 0.001}
# Kinds of entities that are lines of a drawing when they do not close.
_LINES = ("LINE", "ARC", "LWPOLYLINE", "POLYLINE", "SPLINE", "ELLIPSE", "CIRCLE")


def read_dxf(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """The land pattern of a file, called as the file is.

    Raises:
        InputError: it is not a DXF file, damaged beyond repair, too large, or empty on every layer of lands.
    """
    from ezdxf import recover

    require_size(path, LARGEST)
    # What it repairs is told below; it would write it to the terminal, line by line.
    logging.getLogger("ezdxf").addHandler(logging.NullHandler())
    try:
        document, auditor = recover.readfile(path)
        shapes, layers, log = _collected(document, hints)
    except InputError:
        raise
    # ezdxf lets faults of every kind through, by where a file is damaged.
    except Exception as fault:
        raise InputError(f"{path.name} is not a DXF file, or is damaged: {fault}") from fault
    if auditor.errors:
        log.append(f"{len(auditor.errors)} faults of the file were repaired or left out: {auditor.errors[0].message}")
    if not shapes:
        known = ", ".join(sorted(layers)[:8]) or "none"
        raise InputError(
            f"{path.name} has no closed shape on a layer that is called copper, pads or lands; its layers are {known}: "
            "say what each is for"
        )
    part = FoundPart(name=name_of(path), source=path.name, shapes=shapes, log=tuple(log))
    return FoundFile((part,), layers=layers)


def _collected(document: Any, hints: ReadingHints) -> tuple[LayeredShapes, dict[str, str], list[str]]:
    log: list[str] = []
    unit = int(document.header.get("$INSUNITS", 0))
    if unit not in UNITS:
        log.append(f"the file names no unit that is known; its lengths are taken in {hints.unit or 'mm'}")
    scale = UNITS.get(unit, hints.scale)
    forms, texts, lines = list[LayerForm](), list[LayerText](), list[tuple[str, PatternStroke]]()
    left: Counter[str] = Counter()
    layers: dict[str, str] = {}
    for entity in _entities(document.modelspace(), 0):
        layer, kind = str(entity.dxf.layer), entity.dxftype()
        role = layers.setdefault(layer, layer_role(layer, hints))
        if kind in ("TEXT", "MTEXT", "ATTRIB"):
            texts.append(_text(entity, kind, scale))
        elif role in LINE_ROLES:
            lines += [(role, stroke) for stroke in _strokes(entity, kind, scale)]
        elif role not in ("none", "number", "courtyard"):
            made = _form(entity, kind, scale)
            if made is None:
                left[f"{kind} on {layer}"] += 1
            else:
                forms.append(LayerForm(role, made))
    log += [f"{count} {what} left out: not a closed shape" for what, count in sorted(left.items())]
    return LayeredShapes(tuple(forms), tuple(texts), tuple(lines)), layers, log


def _strokes(entity: Any, kind: str, scale: float) -> Iterator[PatternStroke]:
    """A line of silkscreen or assembly, its curves as chords."""
    from ezdxf import path

    if kind not in _LINES:
        return
    made = path.make_path(entity)
    points = tuple((_mm(p.x, scale), _mm(p.y, scale)) for p in made.flattening(CHORD / scale))
    width = (_mm(entity.dxf.get("const_width", 0.0), scale) if kind == "LWPOLYLINE" else 0.0) or PLAIN_LINE
    if len(points) > 1:
        yield PatternStroke(points, width, "line")


def _entities(space: Any, depth: int) -> Iterator[Any]:
    """Everything that is drawn, blocks resolved where they are inserted."""
    for count, entity in enumerate(space):
        if count > MOST_ENTITIES:
            raise InputError(f"there are more than {MOST_ENTITIES:,} entities; that is not a land pattern")
        if entity.dxftype() == "INSERT" and depth < DEEPEST:
            yield from _entities(entity.virtual_entities(), depth + 1)
            yield from entity.attribs
        else:
            yield entity


def _text(entity: Any, kind: str, scale: float) -> LayerText:
    text = entity.plain_text() if kind == "MTEXT" else entity.dxf.text
    at = entity.dxf.insert
    if kind != "MTEXT" and (entity.dxf.get("halign", 0) or entity.dxf.get("valign", 0)):
        at = entity.dxf.get("align_point", at)
    return LayerText(str(text).strip(), _mm(at[0], scale), _mm(at[1], scale))


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
        return rectangle_of([(x, y) for x, y, _bulge in points])
    arcs = [index for index, bulge in enumerate(bulges) if abs(bulge) > 1e-6]
    if len(points) == 4 and len(arcs) == 2 and all(abs(bulges[i] - HALF) < 1e-4 for i in arcs):
        return _oval(points, arcs[0])
    if len(points) == 8 and len(arcs) == 4 and all(abs(bulges[i] - QUARTER) < 1e-4 for i in arcs):
        return _rounded(points, arcs[0])
    return None


def _oval(points: list[BulgedPoint], arc: int) -> Opening | None:
    """Two straight sides with half circles between; its length is along the straight side before the first arc."""
    (x0, y0, _), (x1, y1, _), (x2, y2, _), (x3, y3, _) = (points[(arc + index - 1) % 4] for index in range(4))
    straight, across = math.hypot(x1 - x0, y1 - y0), math.hypot(x2 - x1, y2 - y1)
    turn = direction((x0, y0), (x1, y1))
    middle = tidy((x0 + x1 + x2 + x3) / 4), tidy((y0 + y1 + y2 + y3) / 4)
    return Opening(*middle, tidy(straight + across), tidy(across), tidy(turn), "oval")


def _rounded(points: list[BulgedPoint], arc: int) -> Opening | None:
    """Four straight sides with quarter circles between."""
    turned = [points[(arc + index - 1) % 8] for index in range(8)]
    (x0, y0, _), (x1, y1, _), (x2, y2, _), (x3, y3, _) = turned[:4]
    radius = math.hypot(x2 - x1, y2 - y1) / math.sqrt(2)
    width = math.hypot(x1 - x0, y1 - y0) + 2 * radius
    height = math.hypot(x3 - x2, y3 - y2) + 2 * radius
    turn = direction((x0, y0), (x1, y1))
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
    return form_of_points(points)
