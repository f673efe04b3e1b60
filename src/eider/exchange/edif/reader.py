"""Reads parts out of EDIF 2 0 0: cells with a symbol, their ports as pins, their properties as facts."""

from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from eider.errors import InputError
from eider.exchange.edif.expressions import Form, Node, Quoted, name_of, read_expression
from eider.exchange.edif.writer import ACTIVE_LOW, PART, PIN_TYPE, REFERENCE, SWAP, UNIT
from eider.exchange.found_parts import FoundFile, FoundPart
from eider.exchange.json_files import require_size
from eider.model.symbol import PIN_TYPES, Pin
from eider.symbols.pin_table import make_pin

LARGEST = 256 * 2**20
_TYPES = {"INPUT": "input", "OUTPUT": "output", "INOUT": "bidirectional"}
# Forms that say nothing of pins and facts, or that Eider makes anew.
_EXPECTED = frozenset(
    {"celltype", "view", "property", "comment", "userdata", "status", "interface", "viewmap", "viewtype"}
)


def read_edif(path: Path) -> FoundFile:
    """The parts of a file: its cells that have a view with ports; units of one part are one.

    Raises:
        InputError: it is no EDIF 2 0 0, is damaged, or is larger than 256 MB.
    """
    require_size(path, LARGEST)
    try:
        root = read_expression(path.read_bytes().decode("latin-1"))
    except InputError as fault:
        raise InputError(f"{path.name} is no EDIF, or is damaged: {fault}") from fault
    if root.keyword != "edif":
        raise InputError(f"{path.name} is no EDIF: it begins with ({root.keyword[:40]}")
    version = root.form("edifversion")
    if version is not None and [item for item in version.items if isinstance(item, str)][:1] != ["2"]:
        raise InputError(f"{path.name} is EDIF of another version than 2 0 0")
    skipped: Counter[str] = Counter()
    parts: dict[str, FoundPart] = {}
    for library in root.forms("library", "external"):
        for cell in library.forms("cell"):
            found = _cell(cell, path.name, skipped)
            if found is not None:
                parts[found.name] = _joined(parts[found.name], found) if found.name in parts else found
    log = [f"{count} times ({keyword}: not understood, skipped" for keyword, count in sorted(skipped.items())]
    if parts:
        log.append("graphics are left out: symbols are drawn anew from their pins")
    return FoundFile(tuple(parts.values()), log=tuple(log))


def _joined(first: FoundPart, other: FoundPart) -> FoundPart:
    """One part of two units; pins that both have, such as supplies, are one."""
    known = {pin.number for pin in first.pins}
    pins = (*first.pins, *(pin for pin in other.pins if pin.number not in known))
    return replace(first, pins=pins, facts={**other.facts, **first.facts}, log=(*first.log, *other.log))


def _cell(cell: Form, file: str, skipped: Counter[str]) -> FoundPart | None:
    """The part, or the unit of one, that a cell is; None for a cell without ports, such as a page."""
    skipped.update(form.keyword for form in cell.forms() if form.keyword not in _EXPECTED and form.keyword != "rename")
    name = name_of(cell.items[0] if cell.items else None)
    views = [view for view in cell.forms("view") if (kind := view.form("viewtype")) is None or _word(kind) != "NETLIST"]
    interfaces = [face for view in views or cell.forms("view") if (face := view.form("interface")) is not None]
    if not interfaces:
        return None
    told = dict(_properties(cell))
    for interface in interfaces:
        told |= {key: value for key, value in _properties(interface) if key not in told}
    unit, part = told.pop(UNIT, ""), told.pop(PART, name)
    log: list[str] = []
    # Of several views of a symbol the first counts: they have the same ports.
    pins = tuple(_pins(interfaces[0], unit, log))
    if not pins:
        return None
    facts = {key: value for key, value in told.items() if key not in (REFERENCE, SWAP) and value}
    return FoundPart(name=part, source=f"{file}, cell {name}", pins=pins, facts=facts, log=tuple(log))


def _pins(interface: Form, unit: str, log: list[str]) -> Iterator[Pin]:
    for port in interface.forms("port"):
        first = port.items[0] if port.items else None
        name = name_of(first)
        if isinstance(first, Form) and first.keyword == "array":
            log.append(f"line {port.line}: the ports {name} are an array, whose pins it does not name; left out")
            continue
        told = dict(_properties(port))
        number = _designator(port) or told.get("PINNUMBER", "")
        if not number:
            log.append(f"line {port.line}: the port {name} has no designator, and so no pin number; left out")
            continue
        kind = told.get(PIN_TYPE, "")
        kind = kind if kind in PIN_TYPES else _TYPES.get(_word(port.form("direction")), "")
        pin, fault = make_pin(number, name, kind)
        if fault:
            log.append(f"line {port.line}: port {name}: {fault}")
        if ACTIVE_LOW in told:
            pin = replace(pin, name=name, active_low=told[ACTIVE_LOW] == "true")
        yield replace(pin, unit=unit, group=told.get("GROUP", ""))


def _designator(port: Form) -> str:
    form = port.form("designator")
    return _text(form.items[0]) if form is not None and form.items else ""


def _properties(owner: Form) -> Iterator[tuple[str, str]]:
    """The properties of a form by their names, as texts."""
    for form in owner.forms("property"):
        value = form.form("string", "integer", "number", "boolean", "minomax")
        if form.items and value is not None:
            inside = value.items[0] if value.items else None
            yield (
                name_of(form.items[0]),
                inside.keyword if isinstance(inside, Form) and value.keyword == "boolean" else _text(inside),
            )


def _text(node: Node | None) -> str:
    """A string or number as a text; a displayed one by what it displays."""
    if isinstance(node, Quoted):
        return node.text
    if isinstance(node, str):
        return node.removeprefix("&")
    if node is not None and node.keyword == "e" and len(node.items) == 2:
        return "e".join(_text(item) for item in node.items)
    return _text(node.items[0]) if node is not None and node.items else ""


def _word(form: Form | None) -> str:
    return _text(form.items[0]).upper() if form is not None and form.items else ""
