"""The order of a list of parts: by a column, values as values, whichever way round."""

from collections.abc import Callable, Iterable
from typing import Any, NamedTuple

from eider.facts.categories import category_of, fact_field, value_field
from eider.facts.fact_reading import fact_order
from eider.library.index.part_index import PartRow
from eider.model.library import FactField, LibrarySettings
from eider.symbols.pin_names import natural_key

# Before the name of a fact that a list is ordered by, and the column of what each part is worth in the circuit.
FACT, VALUE = "fact:", "value"
_KEYS: dict[str, Callable[[PartRow], Any]] = {
    "name": lambda row: natural_key(row.name),
    "state": lambda row: row.state,
    "revision": lambda row: row.revision,
    "package": lambda row: natural_key(row.package),
    "description": lambda row: natural_key(row.description),
    "findings": lambda row: (-row.blockers, -row.cautions, -row.notes),
    "category": lambda row: row.category,
    "updated": lambda row: row.updated,
}


class PartsOrder(NamedTuple):
    """By what a list is ordered: a field of `PartRow`, `fact:` with a name, or `value`."""

    column: str = "name"
    backwards: bool = False


def ordered_parts(rows: Iterable[PartRow], order: PartsOrder, settings: LibrarySettings) -> list[PartRow]:
    """The parts in an order; those that have nothing under the column come last, whichever way round."""
    found = list(rows)
    if order.column in _KEYS:
        return sorted(found, key=_KEYS[order.column], reverse=order.backwards)
    fields = {key: _field(settings, key, order.column) for key in {row.category for row in found}}

    def text(row: PartRow) -> str:
        field = fields[row.category]
        return row.facts.get(field.name, "").strip() if field else ""

    def by_value(row: PartRow) -> tuple[int, float, str]:
        return fact_order(fields[row.category], text(row))

    filled = [row for row in found if text(row)]
    return [
        *sorted(filled, key=by_value, reverse=order.backwards),
        *(row for row in found if not text(row)),
    ]


def _field(settings: LibrarySettings, category: str, column: str) -> FactField | None:
    known = category_of(settings, category)
    if column == VALUE:
        return value_field(known)
    name = column.removeprefix(FACT)
    return fact_field(known, name) or FactField(name)


def value_facts(settings: LibrarySettings) -> dict[str, str]:
    """The name of the fact that is the value, by the category; those without one are left out."""
    found = {key: value_field(category_of(settings, key)) for key in settings.categories}
    return {key: field.name for key, field in found.items() if field}
