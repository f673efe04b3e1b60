"""Writes parts as IPC-2581C: packages with their lands, a component and a bill line for each part, vendors."""

from collections.abc import Iterable
from typing import NamedTuple
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from eider import __version__
from eider.exchange.body_outline import body_outline
from eider.exchange.formats.ipc2581.shapes import LandShape, shape_of, write_polygon, write_shape
from eider.geometry.plane import rotated
from eider.geometry.rounding import plain_digits
from eider.model.bundle import Bundle
from eider.model.pattern import Opening, Pad, Pattern, PatternStroke
from eider.model.symbol import Pin

NAMESPACE = "http://webstds.ipc.org/2581"
REVISION = "C"
# Layers: name, function and side, as the standard has them.
LAYERS = (
    ("COPPER_TOP", "CONDUCTOR", "TOP"),
    ("COPPER_BOTTOM", "CONDUCTOR", "BOTTOM"),
    ("MASK_TOP", "SOLDERMASK", "TOP"),
    ("MASK_BOTTOM", "SOLDERMASK", "BOTTOM"),
    ("PASTE_TOP", "PASTEMASK", "TOP"),
    ("SILKSCREEN_TOP", "SILKSCREEN", "TOP"),
    ("ASSEMBLY_TOP", "ASSEMBLY", "TOP"),
    ("DRILL", "DRILL", "ALL"),
)
_COPPER = {"top": ("COPPER_TOP",), "bottom": ("COPPER_BOTTOM",), "all": ("COPPER_TOP", "COPPER_BOTTOM")}
_MASK = {"top": ("MASK_TOP",), "bottom": ("MASK_BOTTOM",), "all": ("MASK_TOP", "MASK_BOTTOM")}
SOURCE = "Eider"


class _Placed(NamedTuple):
    """A part with its reference in the file, and its land patterns under the names of their packages."""

    reference: str
    part: Bundle
    patterns: tuple[tuple[str, Pattern], ...]

    @property
    def package(self) -> str:
        """The name of its package."""
        return self.patterns[0][0] if self.patterns else ""


class _Stack(NamedTuple):
    """What makes two pads one pad stack: form, hole, sides, and openings about the pad's own place."""

    shape: LandShape
    hole: tuple[float, float, float, float] | None
    plated: bool
    layers: str
    mask: tuple[tuple[LandShape, float, float, float], ...]
    paste: tuple[tuple[LandShape, float, float, float], ...]


def ipc2581_file(bundles: Iterable[Bundle]) -> bytes:
    """The file of some parts, as UTF-8; lengths in mm, y up, the origin that of each land pattern."""
    parts = _placed_parts(bundles)
    root = Element("IPC-2581", {"revision": REVISION, "xmlns": NAMESPACE})
    content = SubElement(root, "Content", {"roleRef": "OWNER"})
    SubElement(content, "FunctionMode", {"mode": "USERDEF", "level": "1"})
    SubElement(content, "StepRef", {"name": "PARTS"})
    for name, _function, _side in LAYERS:
        SubElement(content, "LayerRef", {"name": name})
    for kind, name in (("BomRef", "BOM"), ("AvlRef", "AVL")):
        SubElement(content, kind, {"name": name})
    _logistics(root, parts)
    _bill(root, parts)
    ecad = SubElement(root, "Ecad", {"name": "PARTS"})
    SubElement(ecad, "CadHeader", {"units": "MILLIMETER"})
    data = SubElement(ecad, "CadData")
    for name, function, side in LAYERS:
        SubElement(data, "Layer", {"name": name, "layerFunction": function, "side": side, "polarity": "POSITIVE"})
    _step(data, parts)
    _vendors(root, parts)
    indent(root, " ")
    return b'<?xml version="1.0" encoding="UTF-8"?>\n' + tostring(root, encoding="unicode").encode() + b"\n"


def _placed_parts(bundles: Iterable[Bundle]) -> list[_Placed]:
    """The parts with the packages that they use: one for each level of lands, shared where pins are called alike."""
    packages: dict[tuple[object, ...], str] = {}
    made = []
    for index, part in enumerate(bundles, start=1):
        pins = tuple((pin.number, pin.name) for pin in part.symbol.pins)
        found = []
        for pattern in part.footprint.patterns:
            key = (pattern.name, pattern.level, pattern.pads, pins)
            if key not in packages:
                packages[key] = _free_name(pattern, part.part.name, set(packages.values()))
            found.append((packages[key], pattern))
        made.append(_Placed(f"{part.symbol.reference or 'U'}{index}", part, tuple(found)))
    return made


def _free_name(pattern: Pattern, part: str, used: set[str]) -> str:
    """Leaded patterns are called alike at every level, and parts in one package name its pins differently."""
    names = (pattern.name, f"{pattern.name}-{pattern.level}", f"{pattern.name} {part}")
    free = next((name for name in names if name and name not in used), "")
    return free or f"{pattern.name}-{pattern.level} {part}"


def _logistics(root: Element, parts: list[_Placed]) -> None:
    header = SubElement(root, "LogisticHeader")
    SubElement(header, "Role", {"id": "OWNER", "roleFunction": "SENDER"})
    SubElement(header, "Enterprise", {"id": "LIBRARY", "code": "NONE"})
    for maker, index in _makers(parts).items():
        SubElement(header, "Enterprise", {"id": f"MAKER{index}", "code": "NONE", "name": maker})
    SubElement(header, "Person", {"name": "LIBRARIAN", "enterpriseRef": "LIBRARY", "roleRef": "OWNER"})
    newest = max((p.part.part.release.at for p in parts if p.part.part.release), default="1970-01-01T00:00:00Z")
    history = {"number": "1", "origination": newest, "software": SOURCE, "lastChange": newest}
    record = SubElement(SubElement(root, "HistoryRecord", history), "FileRevision")
    record.attrib |= {"fileRevisionId": "1", "comment": "", "label": ""}
    package = SubElement(record, "SoftwarePackage", {"name": SOURCE, "vendor": SOURCE, "revision": __version__})
    SubElement(package, "Certification", {"certificationStatus": "SELFTEST"})


def _makers(parts: list[_Placed]) -> dict[str, int]:
    names = (_fact(placed.part, "Manufacturer") for placed in parts)
    return {name: index for index, name in enumerate(dict.fromkeys(filter(None, names)), start=1)}


def _fact(part: Bundle, name: str) -> str:
    found = part.part.facts.get(name)
    return found.value if found else ""


def _bill(root: Element, parts: list[_Placed]) -> None:
    bom = SubElement(root, "Bom", {"name": "BOM"})
    SubElement(SubElement(bom, "BomHeader", {"assembly": "PARTS", "revision": "1"}), "StepRef", {"name": "PARTS"})
    for reference, part, patterns in parts:
        about = {
            "OEMDesignNumberRef": part.part.name,
            "quantity": "1",
            "pinCount": str(len(part.symbol.pins)),
            "category": "ELECTRICAL",
            "description": part.part.description,
        }
        item = SubElement(bom, "BomItem", about)
        place = {"name": reference, "packageRef": patterns[0][0] if patterns else ""}
        SubElement(item, "RefDes", {**place, "populate": "true", "layerRef": "COPPER_TOP"})
        facts = SubElement(item, "Characteristics", {"category": "ELECTRICAL"})
        for name, fact in part.part.facts.items():
            told = {"textualCharacteristicName": name, "textualCharacteristicValue": fact.value}
            SubElement(facts, "Textual", {"definitionSource": SOURCE, **told})


def _vendors(root: Element, parts: list[_Placed]) -> None:
    avl, makers = SubElement(root, "Avl", {"name": "AVL"}), _makers(parts)
    SubElement(avl, "AvlHeader", {"title": "AVL", "source": SOURCE, "author": SOURCE, "datetime": "", "version": "1"})
    for _reference, part, _patterns in parts:
        maker, orderable = _fact(part, "Manufacturer"), _fact(part, "Part number")
        if maker and orderable:
            item = SubElement(avl, "AvlItem", {"OEMDesignNumber": part.part.name})
            choice = {"evplVendor": maker, "evplMpn": orderable, "qualified": "true", "chosen": "true"}
            vendor_part = SubElement(item, "AvlVmpn", choice)
            SubElement(vendor_part, "AvlMpn", {"name": orderable, "rank": "1"})
            SubElement(vendor_part, "AvlVendor", {"enterpriseRef": f"MAKER{makers[maker]}"})


def _step(data: Element, parts: list[_Placed]) -> None:
    step = SubElement(data, "Step", {"name": "PARTS"})
    named = [(name, pattern, placed.part) for placed in parts for name, pattern in placed.patterns]
    stacks: dict[_Stack, str] = {}
    for _name, pattern, _part in named:
        for pad in pattern.pads:
            stacks.setdefault(_stack_of(pad), f"STACK{len(stacks) + 1}")
    for stack, name in stacks.items():
        _pad_stack(step, name, stack)
    done: set[str] = set()
    for name, pattern, part in named:
        if name not in done:
            _package(step, name, pattern, part, stacks)
            done.add(name)
    for placed in parts:
        reference, part = placed.reference, placed.part
        about = {"refDes": reference, "packageRef": placed.package, "layerRef": "COPPER_TOP"}
        mount = "THMT" if any(pad.hole for _name, p in placed.patterns for pad in p.pads) else "SMT"
        component = SubElement(step, "Component", {**about, "part": part.part.name, "mountType": mount})
        SubElement(component, "Location", {"x": "0", "y": "0"})


def _stack_of(pad: Pad) -> _Stack:
    hole = pad.hole
    drilled = (hole.width, hole.height, hole.x, hole.y) if hole else None
    mask, paste = (tuple(_relative(pad, opening) for opening in openings) for openings in (pad.mask, pad.paste))
    return _Stack(shape_of(pad), drilled, pad.plated, pad.layers, mask, paste)


def _relative(pad: Pad, opening: Opening) -> tuple[LandShape, float, float, float]:
    """An opening as its pad sees it: form, place, and turn."""
    ((x, y),) = rotated([(opening.x - pad.x, opening.y - pad.y)], -pad.rotation)
    return shape_of(opening), round(x, 6), round(y, 6), round((opening.rotation - pad.rotation) % 360, 6)


def _pad_stack(step: Element, name: str, stack: _Stack) -> None:
    made = SubElement(step, "PadStackDef", {"name": name})
    if stack.hole is not None:
        width, height, x, y = stack.hole
        about = {
            "name": f"{name}_HOLE",
            "diameter": plain_digits(min(width, height)),
            "platingStatus": "PLATED" if stack.plated else "NONPLATED",
            "plusTol": "0",
            "minusTol": "0",
            "x": plain_digits(x),
            "y": plain_digits(y),
        }
        SubElement(made, "PadstackHoleDef", about)
        if width != height:
            # A slot: its form stands on the layer that is drilled.
            _pad_def(made, "DRILL", LandShape("oval", width, height), x, y, 0.0)
    for layer in _COPPER[stack.layers] if _has_land(stack) else ():
        _pad_def(made, layer, stack.shape, 0.0, 0.0, 0.0)
    for layers, openings in ((_MASK[stack.layers], stack.mask), (("PASTE_TOP",), stack.paste)):
        for layer in layers:
            for shape, x, y, turn in openings:
                _pad_def(made, layer, shape, x, y, turn)


def _has_land(stack: _Stack) -> bool:
    """Whether there is copper: a bare hole is as large as its drill."""
    return stack.plated or stack.hole is None or (stack.shape.width, stack.shape.height) != stack.hole[:2]


def _pad_def(made: Element, layer: str, shape: LandShape, x: float, y: float, turn: float) -> None:
    found = SubElement(made, "PadstackPadDef", {"layerRef": layer, "padUse": "REGULAR"})
    if turn:
        SubElement(found, "Xform", {"rotation": plain_digits(turn)})
    SubElement(found, "Location", {"x": plain_digits(x), "y": plain_digits(y)})
    write_shape(found, shape)


def _package(step: Element, name: str, pattern: Pattern, part: Bundle, stacks: dict[_Stack, str]) -> None:
    result = part.body.result
    about = {"name": name, "type": "OTHER", "pinOne": _first_number(pattern), "pinOneOrientation": "OTHER"}
    height = {"height": plain_digits(result.bounds[1][2])} if result else {}
    package = SubElement(step, "Package", {**about, **height})
    outline = SubElement(package, "Outline")
    write_polygon(SubElement(outline, "Polygon"), body_outline(pattern))
    SubElement(outline, "LineDesc", {"lineEnd": "ROUND", "lineWidth": "0.1"})
    SubElement(package, "PickupPoint", {"x": "0", "y": "0"})
    lands = SubElement(package, "LandPattern")
    for pad in pattern.pads:
        made = SubElement(lands, "Pad", {"padstackDefRef": stacks[_stack_of(pad)]})
        if pad.rotation:
            SubElement(made, "Xform", {"rotation": plain_digits(pad.rotation)})
        SubElement(made, "Location", {"x": plain_digits(pad.x), "y": plain_digits(pad.y)})
        write_shape(made, shape_of(pad))
        if pad.number:
            SubElement(made, "PinRef", {"pin": pad.number})
    for kind, strokes in (("SilkScreen", pattern.silkscreen), ("AssemblyDrawing", pattern.assembly)):
        drawing = SubElement(package, kind)
        for stroke in strokes:
            _stroke(drawing, stroke)
    for pin in part.symbol.pins:
        _pin(package, pin, pattern)


def _first_number(pattern: Pattern) -> str:
    return next((pad.number for pad in pattern.pads if pad.number), "1")


def _stroke(drawing: Element, stroke: PatternStroke) -> None:
    line = SubElement(SubElement(drawing, "Marking", {"markingUsage": "NONE"}), "Polyline")
    (x, y), *rest = stroke.points
    SubElement(line, "PolyBegin", {"x": plain_digits(x), "y": plain_digits(y)})
    for x, y in rest:
        SubElement(line, "PolyStepSegment", {"x": plain_digits(x), "y": plain_digits(y)})
    SubElement(line, "LineDesc", {"lineEnd": "ROUND", "lineWidth": plain_digits(stroke.width)})


def _pin(package: Element, pin: Pin, pattern: Pattern) -> None:
    pad = next((pad for pad in pattern.pads if pad.number == pin.number), None)
    is_through = pad is not None and pad.hole is not None
    about = {
        "number": pin.number,
        "name": pin.name,
        "type": "THRU" if is_through else "SURFACE",
        "electricalType": "ELECTRICAL",
        "mountType": "THROUGH_HOLE_PIN" if is_through else "SURFACE_MOUNT_PIN",
    }
    made = SubElement(package, "Pin", about)
    if pad is not None:
        SubElement(made, "Location", {"x": plain_digits(pad.x), "y": plain_digits(pad.y)})
        write_shape(made, shape_of(pad))
