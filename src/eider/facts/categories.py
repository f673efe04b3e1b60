"""Categories as they work: with what they inherit, and which fact a name of any spelling means."""

import re
from collections.abc import Iterator, Mapping
from functools import lru_cache

import msgspec

from eider.errors import InputError
from eider.model.library import Category, FactField, LibrarySettings

replace = msgspec.structs.replace
# What a category takes from its parent where it has none.
_INHERITED = ("name_pattern", "name_example", "graphic", "reference", "description", "part_name", "pin_columns")


def require_category(settings: LibrarySettings, key: str) -> Category:
    """The category with all that its parents give it.

    Raises:
        InputError: the library has no such category.
    """
    known = category_of(settings, key)
    if known is None:
        raise InputError(f"there is no category “{key}”; choose one of {', '.join(settings.categories)}")
    return known


def category_of(settings: LibrarySettings, key: str) -> Category | None:
    """The category with all that its parents give it; None where there is no such category.

    Facts of a parent come first; one of the same name is the category's own. A parent that is missing, or a circle of
    parents, gives nothing.
    """
    lineage = list(_lineage(settings, key))
    if not lineage:
        return None
    found = lineage[-1]
    for child in reversed(lineage[:-1]):
        found = _with_parent(child, found)
    return found


def _lineage(settings: LibrarySettings, key: str) -> Iterator[Category]:
    """The category, its parent, and so on."""
    seen: set[str] = set()
    while key and key not in seen and (category := settings.categories.get(key)) is not None:
        seen.add(key)
        yield category
        key = category.parent


def _with_parent(child: Category, parent: Category) -> Category:
    own = {fact.name: fact for fact in child.facts}
    kept = tuple(own.pop(fact.name, fact) for fact in parent.facts)
    texts = {name: getattr(child, name) or getattr(parent, name) for name in _INHERITED}
    return replace(child, facts=(*kept, *own.values()), **texts)


def parent_fault(settings: LibrarySettings, key: str) -> str:
    """What is wrong with the parents of a category; empty where nothing is."""
    seen = [key]
    while (category := settings.categories.get(seen[-1])) is not None and category.parent:
        if category.parent not in settings.categories:
            return f"its parent “{category.parent}” is not a category of this library"
        if category.parent in seen:
            return f"its parents form a circle: {' → '.join([*seen, category.parent])}"
        seen.append(category.parent)
    return ""


@lru_cache(maxsize=4096)
def spelling_key(name: str) -> str:
    """What two spellings of one name have in common: letters and digits alone, in small letters."""
    return re.sub(r"[\W_]+", "", name).casefold()


def pin_columns(settings: LibrarySettings, key: str) -> tuple[FactField, ...]:
    """The further columns of the pin tables of a category."""
    category = category_of(settings, key)
    return category.pin_columns if category else ()


def fact_names(category: Category) -> Mapping[str, str]:
    """The category's name of each fact, by the spelling keys of its name and of what else it is called."""
    found: dict[str, str] = {}
    for fact in category.facts:
        for word in (fact.name, *fact.also):
            found.setdefault(spelling_key(word), fact.name)
    return found


def fact_field(category: Category | None, name: str) -> FactField | None:
    """The template's entry of a fact; None where the category has none of this name."""
    return next((fact for fact in category.facts if fact.name == name), None) if category else None


def value_field(category: Category | None) -> FactField | None:
    """The fact that is *the value* of a part, such as the resistance of a resistor."""
    return next((fact for fact in category.facts if fact.is_value), None) if category else None
