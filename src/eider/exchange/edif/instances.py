"""Instances of a design: what parts it uses, with the properties and pin numbers that it gives them."""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from eider.exchange.edif.expressions import Form, Node, Quoted, name_of
from eider.exchange.edif.graphics import name_key

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
