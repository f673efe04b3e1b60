"""The categories of a library, saved in its settings."""

import re
from collections.abc import Iterator, Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.facts.categories import category_of, parent_fault
from eider.facts.text_templates import template_fault
from eider.library.settings.settings_file import save_section, toml_value, value_pairs
from eider.library.store import Library
from eider.model.library import Category, FactField, LibrarySettings

# A key of a category, as it is written in the file and in parts.
KEY = re.compile(r"^[a-z][a-z0-9-]*$")


def save_categories(
    library: Library, categories: Mapping[str, Category], note: str, *, replaces: Mapping[str, Category]
) -> None:
    """Keep the categories in place of those that they replace, with a note of why; the library works by them at once.

    Raises:
        InputError: there is no note, or a category cannot be used.
        ConflictError: someone changed the categories meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    if not note.strip():
        raise InputError("say in a few words why the categories change; the note stays with the change")
    changed = msgspec.structs.replace(library.settings, categories=dict(categories))
    for key in categories:
        if fault := category_fault(changed, key):
            raise InputError(f"category {key}: {fault}")
    save_section(library, "categories", dict(categories), category_lines(categories), note, replaces=dict(replaces))


def category_fault(settings: LibrarySettings, key: str) -> str:
    """What is wrong with a category; empty where nothing is."""
    category = settings.categories[key]
    if not KEY.match(key):
        return "its key is written with small letters, digits and hyphens, such as chip-resistor"
    if not category.title.strip():
        return "it has no title"
    if fault := _fields_fault(category.facts, "fact") or _fields_fault(category.pin_columns, "pin column"):
        return fault
    if sum(fact.is_value for fact in category.facts) > 1:
        return "two facts are the value; choose one"
    if fault := parent_fault(settings, key):
        return fault
    return _pattern_fault(category) or _template_faults(settings, key)


def _fields_fault(fields: Sequence[FactField], what: str) -> str:
    names = [field.name for field in fields]
    if "" in (name.strip() for name in names):
        return f"a {what} has no name"
    if doubled := sorted({name for name in names if names.count(name) > 1}):
        return f"{doubled[0]} is there twice"
    if empty := next((f.name for f in fields if f.kind == "choice" and not f.choices), ""):
        return f"{empty} is a choice and has no choices"
    return ""


def _pattern_fault(category: Category) -> str:
    try:
        re.compile(category.name_pattern)
    except re.error as fault:
        return f"its naming pattern is not a regular expression: {fault}"
    return ""


def _template_faults(settings: LibrarySettings, key: str) -> str:
    whole = category_of(settings, key)
    if whole is None:
        return ""
    for title, template in (("description", whole.description), ("name", whole.part_name)):
        if fault := template_fault(template, whole):
            return f"template of the {title}: {fault}"
    return ""


def category_lines(categories: Mapping[str, Category]) -> list[str]:
    """The section of the settings as text."""
    return [line for key, category in categories.items() for line in _category_lines(key, category)]


def _category_lines(key: str, category: Category) -> Iterator[str]:
    yield ""
    yield f"[categories.{key}]"
    # A category without facts, whose title is written in any case.
    about = msgspec.structs.replace(category, facts=(), pin_columns=())
    yield from value_pairs(about, Category(title=""), toml_value)
    for key_of_list, fields in (("facts", category.facts), ("pin_columns", category.pin_columns)):
        if fields:
            yield f"{key_of_list} = ["
            yield from (f"  {{ {', '.join(value_pairs(field, FactField(''), toml_value))} }}," for field in fields)
            yield "]"
