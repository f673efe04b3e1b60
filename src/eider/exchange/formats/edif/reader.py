"""Reads parts out of EDIF 2 0 0: cells with a symbol, their ports as pins, their properties as facts."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace

from eider.errors import InputError
from eider.exchange.formats.edif.expressions import Form, Node, Quoted, name_of, read_expression
from eider.exchange.formats.edif.graphics import name_key, symbol_graphic, unit_of
from eider.exchange.formats.edif.writer import ACTIVE_LOW, PART, PIN_TYPE, REFERENCE, SWAP, UNIT
from eider.exchange.found_parts import FoundFile, FoundPart
from eider.exchange.json_files import require_size
from eider.model.symbol import PIN_TYPES, GraphicStroke, Pin
from eider.model.wording import counted
from eider.symbols.pin_table import make_pin

# Properties by which a design tells parts of one cell apart, in small letters without blanks.
_PART_NUMBERS = ("partnumber", "manufacturerpartnumber", "mpn", "partname")


class Instance(NamedTuple):
    """One use of a cell: its properties, and the numbers of its pins by port."""

    properties: Mapping[str, str]
    designators: Mapping[str, str]


def instances_of(root: Form) -> dict[str, list[Instance]]:
    """The instances of a file by the cell that they use."""
    found: dict[str, list[Instance]] = {}
    for contents in _contents(root):
        for instance in contents.forms("instance"):
            cell = _cell_name(instance)
            if not cell:
                continue
            ports = {
                name_key(port.items[0]): designator_of(port)
                for port in instance.forms("portinstance")
                if port.items and designator_of(port)
            }
            found.setdefault(cell, []).append(Instance(dict(properties_of(instance)), ports))
    return found


def parts_of_instances(instances: Sequence[Instance]) -> dict[str, dict[str, str]]:
    """The part numbers that a cell is used with, each with what all its uses say; an empty one where none says any."""
    groups: dict[str, list[Instance]] = {}
    for instance in instances:
        number = next((v for k, v in instance.properties.items() if _plain(k) in _PART_NUMBERS and v), "")
        groups.setdefault(number, []).append(instance)
    if len(groups) > 1:
        groups.pop("", None)
    made = {number: _shared(group) for number, group in groups.items()}
    return made or {"": {}}


def _shared(group: Sequence[Instance]) -> dict[str, str]:
    first, *others = group
    return {k: v for k, v in first.properties.items() if v and all(o.properties.get(k) == v for o in others)}


def _plain(name: str) -> str:
    return "".join(c for c in name.casefold() if c.isalnum())


def _contents(form: Form) -> Iterator[Form]:
    for library in form.forms("library"):
        for cell in library.forms("cell"):
            for view in cell.forms("view"):
                for contents in view.forms("contents"):
                    yield contents
                    yield from contents.forms("page")


def _cell_name(instance: Form) -> str:
    reference = instance.form("viewref")
    cell = reference.form("cellref") if reference is not None else instance.form("cellref")
    return name_key(cell.items[0]) if cell is not None and cell.items else ""


def designator_of(port: Form) -> str:
    """The designator of a port or an instance; empty where it has none."""
    form = port.form("designator")
    return text_of(form.items[0]) if form is not None and form.items else ""


def properties_of(owner: Form) -> Iterator[tuple[str, str]]:
    """The properties of a form by their names, as texts."""
    for form in owner.forms("property"):
        value = form.form("string", "integer", "number", "boolean", "minomax")
        if form.items and value is not None:
            inside = value.items[0] if value.items else None
            yield (
                name_of(form.items[0]),
                inside.keyword if isinstance(inside, Form) and value.keyword == "boolean" else text_of(inside),
            )


def text_of(node: Node | None) -> str:
    """A string or number as a text; a displayed one by what it displays."""
    if isinstance(node, Quoted):
        return node.text
    if isinstance(node, str):
        return node.removeprefix("&")
    if node is not None and node.keyword == "e" and len(node.items) == 2:
        return "e".join(text_of(item) for item in node.items)
    return text_of(node.items[0]) if node is not None and node.items else ""


LARGEST = 256 * 2**20
_TYPES = {"INPUT": "input", "OUTPUT": "output", "INOUT": "bidirectional"}
# Forms that say nothing of pins and facts, or that Eider makes again.
_EXPECTED = frozenset(
    {"celltype", "view", "property", "comment", "userdata", "status", "interface", "viewmap", "viewtype"}
)


def read_edif(path: Path) -> FoundFile:
    """The parts of a file: its cells that have a view with ports; units of one part are one.

    Raises:
        InputError: it is not an EDIF file 2 0 0, is damaged, or is larger than 256 MB.
    """
    require_size(path, LARGEST)
    try:
        root = read_expression(path.read_bytes().decode("latin-1"))
    except InputError as fault:
        raise InputError(f"{path.name} is not an EDIF file, or is damaged: {fault}") from fault
    if root.keyword != "edif":
        raise InputError(f"{path.name} is not an EDIF file: it begins with ({root.keyword[:40]}")
    version = root.form("edifversion")
    if version is not None and [item for item in version.items if isinstance(item, str)][:1] != ["2"]:
        raise InputError(f"{path.name} is EDIF of another version than 2 0 0")
    skipped: Counter[str] = Counter()
    parts: dict[str, FoundPart] = {}
    used = instances_of(root)
    for library in root.forms("library", "external"):
        unit = unit_of(library.form("technology"))
        for cell in library.forms("cell"):
            for found in _cell(cell, path.name, unit, used, skipped):
                parts[found.name] = _joined(parts[found.name], found) if found.name in parts else found
    log = [f"{count} times ({keyword}: not understood, skipped" for keyword, count in sorted(skipped.items())]
    if boxes := sum(1 for part in parts.values() if part.pins and not part.graphic):
        log.append(f"{counted(boxes, 'symbol')} without a graphic that can be kept: drawn again")
    libraries = list(root.forms("library", "external"))
    known = {name_key(cell.items[0]) for library in libraries for cell in library.forms("cell") if cell.items}
    log += [
        f"the cell {name} of {counted(len(instances), 'instance')} is not in the file"
        for name, instances in sorted(used.items())
        if name not in known
    ]
    return FoundFile(tuple(parts.values()), log=tuple(log))


def _joined(first: FoundPart, other: FoundPart) -> FoundPart:
    """One part of two units; pins that both have, such as supplies, are one."""
    known = {pin.number for pin in first.pins}
    pins = (*first.pins, *(pin for pin in other.pins if pin.number not in known))
    log = [*first.log, *other.log]
    if first.graphic or other.graphic:
        log.append("its graphics are left out: a part of several units is drawn again from its pins")
    return replace(first, pins=pins, graphic=(), facts={**other.facts, **first.facts}, log=tuple(log))


def _cell(
    cell: Form, file: str, unit: float, used: Mapping[str, Sequence[Instance]], skipped: Counter[str]
) -> Iterator[FoundPart]:
    """The part, or the unit of one, that a cell is, for each part number that its instances have.

    None for a cell without ports, such as a page.
    """
    skipped.update(form.keyword for form in cell.forms() if form.keyword not in _EXPECTED and form.keyword != "rename")
    name = name_of(cell.items[0] if cell.items else None)
    instances = used.get(name_key(cell.items[0]) if cell.items else "", ())
    views = [view for view in cell.forms("view") if (kind := view.form("viewtype")) is None or _word(kind) != "NETLIST"]
    interfaces = [face for view in views or cell.forms("view") if (face := view.form("interface")) is not None]
    if not interfaces:
        return
    told = dict(properties_of(cell))
    for interface in interfaces:
        told |= {key: value for key, value in properties_of(interface) if key not in told}
    label, part = told.pop(UNIT, ""), told.pop(PART, name)
    log: list[str] = []
    designators = {port: number for instance in instances for port, number in instance.designators.items()}
    # Of several views of a symbol the first counts: they have the same ports.
    pins = dict(_pins(interfaces[0], label, designators, log))
    if not pins:
        return
    rows = _graphic(interfaces, pins, unit, log)
    facts = {key: value for key, value in told.items() if key not in (REFERENCE, SWAP) and value}
    source = f"{file}, cell {name}"
    made = FoundPart(name=part, source=source, pins=tuple(pins.values()), graphic=rows, facts=facts, log=tuple(log))
    for number, shared in parts_of_instances(instances).items():
        yield replace(made, name=number or part, facts={**facts, **shared})


def _graphic(
    interfaces: Sequence[Form], pins: Mapping[str, Pin], unit: float, log: list[str]
) -> tuple[GraphicStroke, ...]:
    """The rows of the symbol's graphic, its pins called by their numbers; none where a box is drawn."""
    symbol = next((found for face in interfaces if (found := face.form("symbol")) is not None), None)
    drawn = symbol_graphic(symbol, unit) if symbol is not None else None
    if drawn is None:
        return ()
    placed = sum(1 for row in drawn.rows if row.kind == "pin" and row.text in pins)
    if placed != len(pins):
        log.append(f"its graphic is left out: it has places for {placed} of {counted(len(pins), 'pin')}")
        return ()
    log += drawn.log
    return tuple(
        replace(row, text=pins[row.text].number) if row.kind == "pin" and row.text in pins else row
        for row in drawn.rows
    )


def _pins(interface: Form, unit: str, designators: Mapping[str, str], log: list[str]) -> Iterator[tuple[str, Pin]]:
    """The pins of a cell by the identifier of their port; `designators` are those that instances give."""
    for port in interface.forms("port"):
        first = port.items[0] if port.items else None
        name = name_of(first)
        if isinstance(first, Form) and first.keyword == "array":
            log.append(f"line {port.line}: the ports {name} are an array, whose pins it does not name; left out")
            continue
        told = dict(properties_of(port))
        number = designator_of(port) or told.get("PINNUMBER", "") or designators.get(name_key(first), "")
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
        yield name_key(first), replace(pin, unit=unit, group=told.get("GROUP", ""))


def _word(form: Form | None) -> str:
    return text_of(form.items[0]).upper() if form is not None and form.items else ""
