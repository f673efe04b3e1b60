"""The members of a family table: a part for each row, made of its base by columns and rules."""

import re
from collections.abc import Callable, Iterator, Mapping
from typing import NamedTuple

import msgspec

from eider.commands.facts.fact_edits import compose_description
from eider.commands.packages import package_edits
from eider.commands.pins.pin_count import with_pin_count
from eider.errors import InputError
from eider.evidence.address_table import put_kept_distance
from eider.facts.categories import category_of, fact_field
from eider.facts.quantities import parse_quantity, print_code
from eider.facts.text_templates import CODE
from eider.model.address import KeptDistanceAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.family_table import FamilyBase, FamilyDefinition, FamilyRow
from eider.model.library import LibrarySettings
from eider.model.package_sheet import Dimension
from eider.model.part import Fact
from eider.model.wording import counted
from eider.packages.registry import family_of
from eider.packages.sheet_parsing import with_dimension

replace = msgspec.structs.replace
_PLACE = re.compile(r"\{([^{}]*)\}")
MOST_MEMBERS = 5000


class MadeMember(NamedTuple):
    """A part as its row makes it, under the ids of its base, and what could not be told."""

    bundle: Bundle
    doubts: tuple[str, ...]


class CellValue(NamedTuple):
    """A text that is put into a part, and where it came from."""

    text: str
    evidence: Evidence | None


Setter = Callable[[Bundle, str, CellValue], MadeMember]


def _set_pins(bundle: Bundle, _key: str, value: CellValue) -> MadeMember:
    if not value.text.isdecimal():
        raise InputError(f"“{value.text}” is not a number of pins; enter a whole number")
    return MadeMember(*with_pin_count(bundle, int(value.text[:9])))


def _set_dimension(bundle: Bundle, letter: str, value: CellValue) -> MadeMember:
    old = bundle.sheet.dims.get(letter)
    if old is not None and old.text == value.text and value.evidence is None:
        return MadeMember(bundle, ())
    made = Dimension(value.text, evidence=value.evidence)
    return MadeMember(replace(bundle, sheet=with_dimension(bundle.sheet, letter, made)), ())


def _set_fact(bundle: Bundle, name: str, value: CellValue) -> MadeMember:
    old = bundle.part.facts.get(name)
    if old is not None and old.value == value.text and value.evidence is None:
        return MadeMember(bundle, ())
    facts = {**bundle.part.facts, name: Fact(value.text, value.evidence)}
    return MadeMember(replace(bundle, part=replace(bundle.part, facts=facts)), ())


def _set_distance(bundle: Bundle, key: str, value: CellValue) -> MadeMember:
    """What the kept distance of this place in their order shall be."""
    kept = bundle.footprint.distances
    if not key.isdecimal() or not 1 <= int(key[:4]) <= len(kept):
        raise InputError(f"the base keeps {counted(len(kept), 'distance')}; there is no distance {key}")
    address = KeptDistanceAddress(kept[int(key) - 1].key)
    made = Dimension(value.text, evidence=value.evidence or kept[int(key) - 1].shall.evidence)
    return MadeMember(put_kept_distance(bundle, address, made), ())


def _set_option(bundle: Bundle, key: str, value: CellValue) -> MadeMember:
    return MadeMember(package_edits.set_field(bundle, key, value.text), ())


def _set_text(bundle: Bundle, key: str, value: CellValue) -> MadeMember:
    return MadeMember(replace(bundle, part=replace(bundle.part, **{key: value.text})), ())


# What a column or a rule can set, by the first word of its target.
_SETTERS: Mapping[str, Setter] = {
    "pins": _set_pins,
    "dims": _set_dimension,
    "fact": _set_fact,
    "sheet": _set_option,
    "distance": _set_distance,
    "name": lambda bundle, _key, value: _set_text(bundle, "name", value),
    "description": lambda bundle, _key, value: _set_text(bundle, "description", value),
}
_ALONE = frozenset({"pins", "name", "description"})


def target_fault(target: str, base: Bundle | None) -> str:
    """What is wrong with a target; empty where nothing is."""
    kind, dot, key = target.partition(".")
    if kind not in _SETTERS or (kind in _ALONE) == bool(dot) or (dot and not key.strip()):
        forms = "pins, name, description, dims.A, fact.Ways, sheet.columns, distance.1"
        return f"“{target}” is nothing that a column can set; write one of the forms {forms}"
    if base is not None and kind == "sheet":
        keys = [field.key for field in family_of(base.sheet.family).fields]
        if key not in keys:
            return f"the family {base.sheet.family} has no {key}; it has {', '.join(keys) or 'no such inputs'}"
    return ""


def base_of(definition: FamilyDefinition, row: FamilyRow) -> FamilyBase:
    """The base that a row begins as.

    Raises:
        InputError: the table has none, or none for the cell that chooses.
    """
    if not definition.bases:
        raise InputError("the table has no base; choose the part that members begin as")
    if len(definition.bases) == 1 and not definition.bases[0].when:
        return definition.bases[0]
    cell = row.cells.get(definition.chosen_by, "")
    found = next((base for base in definition.bases if base.when == cell), None)
    if found is None:
        known = ", ".join(base.when for base in definition.bases)
        raise InputError(f"there is no base for {definition.chosen_by or 'a cell'} “{cell}”; the table has {known}")
    return found


def make_member(
    definition: FamilyDefinition, row: FamilyRow, base: Bundle, settings: LibrarySettings, table: str
) -> MadeMember:
    """The part that a row makes of its base.

    Cells are set in the order of the columns, an empty one leaves what the base has; then the rules. A description
    that the category composes is composed, unless a rule gives one.

    Raises:
        InputError: a cell or rule cannot be used; the message names its column.
    """
    plain = replace(base.part, release=None, waivers=(), origin=None)
    made = replace(base, part=plain)
    doubts: list[str] = []
    values: list[tuple[str, str, CellValue]] = []
    for column in definition.columns:
        heading = column.heading
        cell = CellValue(row.cells.get(heading, ""), row.evidence.get(heading))
        values += [(target, heading, cell) for target in column.sets]
    cells = len(values)
    for rule in definition.rules:
        evidence = Evidence(EvidenceKind.CALCULATED, text=f"family table {table}: {rule.template}")
        values.append((rule.sets, f"rule for {rule.sets}", CellValue(rule.template, evidence)))
    for index, (target, where, value) in enumerate(values):
        if index >= cells:
            value = value._replace(text=fill_template(value.text, definition, row, made, settings))
        if not value.text.strip():
            continue
        if fault := target_fault(target, base):
            raise InputError(f"{where}: {fault}")
        kind, _, key = target.partition(".")
        try:
            step = _SETTERS[kind](made, key, value._replace(text=value.text.strip()))
        except InputError as fault_of_cell:
            raise InputError(f"{where}: {fault_of_cell}") from fault_of_cell
        made = step.bundle
        doubts += step.doubts
    if "description" not in all_targets(definition):
        made, told = _with_own_description(made, base, settings)
        doubts += told
    return MadeMember(made, tuple(doubts))


def _with_own_description(made: Bundle, base: Bundle, settings: LibrarySettings) -> MadeMember:
    composed = compose_description(made, category_of(settings, made.part.category))
    left = base.part.description
    unchanged = composed.part.description == left
    facts, base_facts = ({name: fact.value for name, fact in each.part.facts.items()} for each in (made, base))
    if left and unchanged and facts != base_facts:
        told = f"the description is still that of {base.part.name}; set description by a column or a rule"
        return MadeMember(composed, (told,))
    return MadeMember(composed, ())


def fill_template(
    template: str, definition: FamilyDefinition, row: FamilyRow, part: Bundle, settings: LibrarySettings
) -> str:
    """A rule's text with the cells of a row, and the facts that the part has so far, in place of their names.

    `{ways|02}` writes a number with two digits, `{Resistance|code}` a value by IEC 60062, `4K7`.

    Raises:
        InputError: a name is neither a column nor a fact, or a form does not fit the value.
    """
    headings = [column.heading for column in definition.columns]
    category = category_of(settings, part.part.category)

    def value(match: re.Match[str]) -> str:
        name, _, form = (piece.strip() for piece in match[1].partition("|"))
        if name not in headings and name not in part.part.facts:
            raise InputError(f"“{template}”: {name} is neither a column nor a fact; columns are {', '.join(headings)}")
        text = (row.cells.get(name, "") if name in headings else part.part.facts[name].value).strip()
        if not form:
            return text
        if form == CODE:
            field = fact_field(category, name)
            quantity = parse_quantity(text, field.unit if field else "")
            if quantity is None:
                raise InputError(f"“{template}”: {name} “{text}” is not a value that has a code")
            return print_code(quantity)
        if form.isdecimal() and text.isdecimal() and len(form) <= 2:
            return text.zfill(int(form))
        raise InputError(
            f"“{template}”: {form} is not a form of “{text}”; write {CODE}, or a number of digits such as 02"
        )

    return _PLACE.sub(value, template)


def all_targets(definition: FamilyDefinition) -> frozenset[str]:
    """What the columns and rules of a definition set."""
    targets = {target for column in definition.columns for target in column.sets}
    return frozenset(targets | {rule.sets for rule in definition.rules})


def unused_headings(definition: FamilyDefinition) -> Iterator[str]:
    """The columns that neither set anything nor are named by a rule nor choose the base."""
    named = {name.partition("|")[0].strip() for rule in definition.rules for name in _PLACE.findall(rule.template)}
    for column in definition.columns:
        if not column.sets and column.heading not in named and column.heading != definition.chosen_by:
            yield column.heading
