"""Reads parts out of IPC-2581 B and C: packages with their lands and pins, and what the bill says of components."""

from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from eider.errors import InputError
from eider.exchange.formats.ipc2581.drawings import drawn_strokes, line_widths, package_height, package_outline
from eider.exchange.formats.ipc2581.shapes import (
    MM,
    LandShape,
    child,
    children,
    length,
    read_shape,
    tag,
)
from eider.exchange.found_parts import FoundFile, FoundPart
from eider.exchange.json_files import plain_number, require_size
from eider.geometry.plane import Outline, rotated
from eider.model.pattern import Hole, Opening, Pad, PatternStroke
from eider.model.symbol import Pin
from eider.symbols.pin_table import make_pin

LARGEST = 512 * 2**20
# What a layer is for, by its function in the standard.
_COPPER, _MASK = frozenset({"CONDUCTOR", "SIGNAL", "PLANE", "MIXED", "CONDFILM"}), frozenset({"SOLDERMASK"})
_PASTE, _DRILL = frozenset({"PASTEMASK", "SOLDERPASTE"}), frozenset({"DRILL", "ROUT"})


class _Form(NamedTuple):
    """A shape on a layer: its function and side, and where it lies as its pad sees it."""

    function: str
    side: str
    shape: LandShape
    x: float
    y: float
    turn: float


class _Stack(NamedTuple):
    """A pad stack: its forms by layer, its hole, and whether that is plated."""

    forms: tuple[_Form, ...]
    hole: Hole | None
    plated: bool


class _Package(NamedTuple):
    pads: tuple[Pad, ...] = ()
    pins: tuple[Pin, ...] = ()
    log: tuple[str, ...] = ()
    silkscreen: tuple[PatternStroke, ...] = ()
    assembly: tuple[PatternStroke, ...] = ()
    outline: Outline = ()
    height: float = 0.0


def read_ipc2581(path: Path) -> FoundFile:
    """The parts of a file: those that its components are, and packages that no component uses.

    Raises:
        InputError: it is not an IPC-2581, is damaged, or is larger than 512 MB.
    """
    require_size(path, LARGEST)
    try:
        root = fromstring(path.read_bytes(), forbid_dtd=True)
    except DefusedXmlException as fault:
        raise InputError(f"{path.name} has a DTD or entities, which are not read: {type(fault).__name__}") from fault
    except (ParseError, ValueError, LookupError) as fault:
        raise InputError(f"{path.name} is not XML, or is damaged: {fault}") from fault
    if tag(root) != "IPC-2581":
        raise InputError(f"{path.name} is XML, but no IPC-2581: it begins with {tag(root)}")
    return _Reader(root, path.name).read()


class _Reader:
    """One file: its dictionaries, layers and pad stacks, looked up while its packages are read."""

    def __init__(self, root: Element, file: str) -> None:
        self._root, self._file = root, file
        self._log: list[str] = []
        header = next(self._all("CadHeader"), None)
        self._scale = self._units(header)
        self._shapes = dict(self._dictionary())
        self._layers = {
            layer.get("name", ""): (layer.get("layerFunction", ""), layer.get("side", "TOP"))
            for layer in self._all("Layer")
        }
        self._stacks: dict[str, _Stack] = {}
        dictionaries = list(self._all("DictionaryLineDesc"))
        self._widths = line_widths((one, self._units(one)) for one in dictionaries)

    def read(self) -> FoundFile:
        """Everything that Eider reads of it."""
        for definition in self._all("PadStackDef"):
            self._stacks[definition.get("name", "")] = self._stack(definition)
        packages = {p.get("name", ""): self._package(p) for p in self._all("Package")}
        facts, used = dict(self._facts()), set[str]()
        parts: dict[str, FoundPart] = {}
        for name, package in self._components():
            used.add(package)
            if name in parts:
                continue
            found = packages.get(package)
            if found is None:
                self._log.append(f"{name}: its package {package} is not in the file")
                found = _Package()
            parts[name] = self._found(name, package, found, facts.get(name, {}))
        for name, found in packages.items():
            if name not in used and name not in parts:
                parts[name] = self._found(name, name, found, {})
        return FoundFile(tuple(parts.values()), log=tuple(self._log))

    def _found(self, name: str, package: str, found: _Package, facts: dict[str, str]) -> FoundPart:
        source = f"{self._file}, package {package}"
        known = {key: value for key, value in facts.items() if key != "description"}
        description = facts.get("description", "")
        return FoundPart(
            name=name,
            source=source,
            pins=found.pins,
            pads=found.pads,
            silkscreen=found.silkscreen,
            assembly=found.assembly,
            outline=found.outline,
            height=found.height,
            facts=known,
            description=description,
            log=found.log,
        )

    def _all(self, *names: str) -> Iterator[Element]:
        return (element for element in self._root.iter() if tag(element) in names)

    def _units(self, element: Element | None) -> float:
        units = element.get("units", "MILLIMETER") if element is not None else "MILLIMETER"
        if units.upper() not in MM:
            raise InputError(f"{self._file}: the unit {units[:20]} is not one of {', '.join(MM)}")
        return MM[units.upper()]

    def _dictionary(self) -> Iterator[tuple[str, LandShape]]:
        """Named shapes; one that is not read is told where it is used."""
        for dictionary in self._all("DictionaryStandard", "DictionaryUser"):
            scale = self._units(dictionary)
            for entry in children(dictionary, "EntryStandard", "EntryUser"):
                try:
                    shape = self._shape_in(entry, scale)
                except InputError as fault:
                    self._log.append(f"shape {entry.get('id', '')}: {fault}")
                    continue
                if shape is not None:
                    yield entry.get("id", ""), shape

    def _shape_in(self, element: Element, scale: float) -> LandShape | None:
        """The first shape in an element, given in place or by its name."""
        for inside in element:
            if tag(inside) in ("StandardPrimitiveRef", "UserPrimitiveRef"):
                name = inside.get("id", "")
                if name not in self._shapes:
                    raise InputError(f"the shape {name} is not in the file, or is not read")
                return self._shapes[name]
            shape = self._shape_in(inside, scale) if tag(inside) == "UserSpecial" else read_shape(inside, scale)
            if shape is not None:
                return shape
        return None

    def _stack(self, definition: Element) -> _Stack:
        forms, hole, plated = [], None, True
        drilled = child(definition, "PadstackHoleDef")
        if drilled is not None:
            diameter = length(drilled, "diameter", self._scale)
            x, y = length(drilled, "x", self._scale, 0.0), length(drilled, "y", self._scale, 0.0)
            hole, plated = Hole(diameter, diameter, x, y), drilled.get("platingStatus", "PLATED") != "NONPLATED"
        for pad in children(definition, "PadstackPadDef"):
            function, side = self._layers.get(pad.get("layerRef", ""), ("", ""))
            if pad.get("padUse", "REGULAR") != "REGULAR":
                continue
            try:
                shape = self._shape_in(pad, self._scale)
            except InputError as fault:
                self._log.append(f"pad stack {definition.get('name', '')}: {fault}")
                continue
            if shape is not None:
                x, y, turn = self._place(pad)
                forms.append(_Form(function, side, shape, x, y, turn))
        slot = next((form for form in forms if form.function in _DRILL), None)
        if slot is not None and hole is not None:
            hole = Hole(slot.shape.width, slot.shape.height, slot.x, slot.y)
        return _Stack(tuple(forms), hole, plated)

    def _place(self, element: Element) -> tuple[float, float, float]:
        """Where something stands and how it is turned.

        Raises:
            InputError: it is mirrored or scaled, which a land of a package is not.
        """
        at, form = child(element, "Location"), child(element, "Xform")
        x, y = (length(at, key, self._scale, 0.0) if at is not None else 0.0 for key in ("x", "y"))
        if form is None:
            return x, y, 0.0
        scaled = plain_number(form.get("scale", "1"), "scale")
        if form.get("mirror", "false") in ("true", "1") or scaled != 1:
            raise InputError("it is mirrored or scaled, which is not read")
        dx, dy = length(form, "xOffset", self._scale, 0.0), length(form, "yOffset", self._scale, 0.0)
        return x + dx, y + dy, plain_number(form.get("rotation", "0"), "rotation") % 360

    def _package(self, package: Element) -> _Package:
        log: list[str] = []
        pads = []
        for pattern in children(package, "LandPattern"):
            for index, element in enumerate(children(pattern, "Pad"), start=1):
                try:
                    pads.append(self._pad(element))
                except InputError as fault:
                    log.append(f"pad {index} of {package.get('name', '')} is left out: {fault}")
        pins = []
        for index, element in enumerate(children(package, "Pin"), start=1):
            number, name = element.get("number", ""), element.get("name", "")
            if not number:
                log.append(f"pin {index} of {package.get('name', '')} has no number")
                continue
            pins.append(make_pin(number, name)[0])
        if pins and not any(pin.name for pin in pins):
            log.append("the file does not name the pins; type their names, or capture them from the datasheet")
        silkscreen, assembly = (
            tuple(
                stroke for e in children(package, kind) for stroke in drawn_strokes(e, self._scale, self._widths, log)
            )
            for kind in ("SilkScreen", "AssemblyDrawing")
        )
        outline, height = package_outline(package, self._scale, log), package_height(package, self._scale)
        return _Package(tuple(pads), tuple(pins), tuple(log), silkscreen, assembly, outline, height)

    def _pad(self, element: Element) -> Pad:
        name = element.get("padstackDefRef", "")
        stack = self._stacks.get(name, _Stack((), None, True))
        x, y, turn = self._place(element)
        own = self._shape_in(element, self._scale)
        copper = [form for form in stack.forms if form.function in _COPPER]
        shape = own or next((form.shape for form in copper), None)
        is_bare = stack.hole is not None and not stack.plated and not copper
        if stack.hole is not None and (is_bare or shape is None):
            round_hole = stack.hole.width == stack.hole.height
            shape = LandShape("circle" if round_hole else "oval", stack.hole.width, stack.hole.height)
        if shape is None:
            raise InputError(f"neither it nor its pad stack {name} has a shape")
        pin = child(element, "PinRef")
        place = (x, y, turn)
        return Pad(
            pin.get("pin", "") if pin is not None else "",
            x,
            y,
            shape.width,
            shape.height,
            rotation=turn,
            shape=shape.shape,
            corner_radius=shape.corner_radius,
            hole=stack.hole,
            plated=stack.plated,
            mask=_openings(stack.forms, _MASK, place),
            paste=_openings(stack.forms, _PASTE, place),
            layers=_sides(copper, is_through=stack.hole is not None),
            outline=shape.outline,
        )

    def _components(self) -> Iterator[tuple[str, str]]:
        """Parts with their packages: from the board's components, else from the bill."""
        names = {ref.get("name", ""): item.get("OEMDesignNumberRef", "")
                 for item in self._all("BomItem") for ref in children(item, "RefDes")}  # fmt: skip
        found = [
            (c.get("part") or names.get(c.get("refDes", ""), "") or c.get("packageRef", ""), c.get("packageRef", ""))
            for c in self._all("Component")
        ]
        if not found:
            found = [
                (item.get("OEMDesignNumberRef", ""), ref.get("packageRef", ""))
                for item in self._all("BomItem")
                for ref in children(item, "RefDes")
            ]
        return ((name, package) for name, package in found if name)

    def _facts(self) -> Iterator[tuple[str, dict[str, str]]]:
        """What the bill and the list of vendors say of each part."""
        vendors = {e.get("id", ""): e.get("name", "") for e in self._all("Enterprise")}
        known: dict[str, dict[str, str]] = {}
        for item in self._all("BomItem"):
            facts = known.setdefault(item.get("OEMDesignNumberRef", ""), {})
            if item.get("description"):
                facts["description"] = item.get("description", "")
            for one in (element for element in item.iter() if tag(element) in ("Textual", "Measured")):
                facts |= _characteristic(one)
        for item in self._all("AvlItem"):
            facts = known.setdefault(item.get("OEMDesignNumber", ""), {})
            for choice in children(item, "AvlVmpn"):
                number, vendor = child(choice, "AvlMpn"), child(choice, "AvlVendor")
                if number is not None:
                    facts.setdefault("Part number", number.get("name", ""))
                if vendor is not None:
                    name = vendors.get(vendor.get("enterpriseRef", ""), "") or choice.get("evplVendor", "")
                    facts.setdefault("Manufacturer", name)
        yield from known.items()


def _characteristic(element: Element) -> dict[str, str]:
    if tag(element) == "Textual":
        name, value = element.get("textualCharacteristicName", ""), element.get("textualCharacteristicValue", "")
    else:
        name = element.get("measuredCharacteristicName", "")
        unit = element.get("engineeringUnitOfMeasure", "")
        value = f"{element.get('measuredCharacteristicValue', '')} {unit}".strip()
    return {name: value} if name and value else {}


def _openings(
    forms: tuple[_Form, ...], functions: frozenset[str], place: tuple[float, float, float]
) -> tuple[Opening, ...]:
    """The openings of a pad as they stand on the board; those of both sides of one form are one."""
    x, y, turn = place
    found: dict[Opening, None] = {}
    for form in forms:
        if form.function in functions:
            ((dx, dy),) = rotated([(form.x, form.y)], turn)
            shape = form.shape
            made = Opening(
                x + dx,
                y + dy,
                shape.width,
                shape.height,
                (form.turn + turn) % 360,
                shape.shape,
                shape.corner_radius,
                shape.outline,
            )
            found[made] = None
    return tuple(found)


def _sides(copper: list[_Form], *, is_through: bool) -> str:
    sides = {form.side for form in copper}
    if is_through or {"TOP", "BOTTOM"} <= sides or "ALL" in sides:
        return "all"
    return "bottom" if sides == {"BOTTOM"} else "top"
