"""The categories of a library, saved in its settings: their part of the file is written anew, the rest stays."""

import json
import re
from collections.abc import Iterator, Mapping

import msgspec

from eider.errors import InputError
from eider.facts.categories import category_of, parent_fault
from eider.facts.text_templates import template_fault
from eider.library.errors import ConflictError
from eider.library.item_paths import SETTINGS
from eider.library.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.codec import DocumentError, convert, parse_toml
from eider.model.library import Category, FactField, LibrarySettings

_HEADER = re.compile(r"^\s*\[+\s*([^\]]+?)\s*\]+")
# A key of a category, as it is written in the file and in parts.
KEY = re.compile(r"^[a-z][a-z0-9-]*$")


def save_categories(
    library: Library, categories: Mapping[str, Category], note: str, *, replaces: Mapping[str, Category]
) -> None:
    """Keep the categories in place of those that they replace, with a note of why; the library works by them at once.

    Raises:
        InputError: there is no note, or a category cannot be used.
        ConflictError: somebody changed the categories meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    if not note.strip():
        raise InputError("say in a few words why the categories change; the note stays with the change")
    library.require_writable()
    changed = msgspec.structs.replace(library.settings, categories=dict(categories))
    for key in categories:
        if fault := category_fault(changed, key):
            raise InputError(f"category {key}: {fault}")
    with locked(library):
        text = (library.files.read(SETTINGS) or b"").decode()
        stored = _settings(text)
        if stored.categories != dict(replaces):
            raise ConflictError("somebody changed the categories meanwhile; open them anew and make the change there")
        made = with_categories(text, categories)
        wanted = msgspec.structs.replace(stored, categories=dict(categories))
        if not _reads_as(made, wanted):
            raise InputError(f"{SETTINGS} is laid out in a way that cannot be changed here; edit the file itself")
        commit_noted(library, {SETTINGS: made.encode()}, note.strip())
        library.settings = wanted


def _settings(text: str) -> LibrarySettings:
    return convert(parse_toml(text, SETTINGS), LibrarySettings, SETTINGS)


def _reads_as(text: str, wanted: LibrarySettings) -> bool:
    try:
        return _settings(text) == wanted
    except DocumentError:
        return False


def category_fault(settings: LibrarySettings, key: str) -> str:
    """What is wrong with a category; empty where nothing is."""
    category = settings.categories[key]
    names = [fact.name for fact in category.facts]
    if not KEY.match(key):
        return "its key is written with small letters, digits and hyphens, such as chip-resistor"
    if not category.title.strip():
        return "it has no title"
    if "" in (name.strip() for name in names):
        return "a fact has no name"
    if doubled := sorted({name for name in names if names.count(name) > 1}):
        return f"{doubled[0]} is there twice"
    if sum(fact.is_value for fact in category.facts) > 1:
        return "two facts are the value; choose one"
    if empty := next((f.name for f in category.facts if f.kind == "choice" and not f.choices), ""):
        return f"{empty} is a choice and has no choices"
    if fault := parent_fault(settings, key):
        return fault
    return _pattern_fault(category) or _template_faults(settings, key)


def _pattern_fault(category: Category) -> str:
    try:
        re.compile(category.name_pattern)
    except re.error as fault:
        return f"its naming pattern is no regular expression: {fault}"
    return ""


def _template_faults(settings: LibrarySettings, key: str) -> str:
    whole = category_of(settings, key)
    if whole is None:
        return ""
    for title, template in (("description", whole.description), ("name", whole.part_name)):
        if fault := template_fault(template, whole):
            return f"template of the {title}: {fault}"
    return ""


def with_categories(text: str, categories: Mapping[str, Category]) -> str:
    """The text of the settings with these categories at its end in place of those it had."""
    kept: list[str] = []
    is_category = False
    for line in text.splitlines():
        if match := _HEADER.match(line):
            is_category = match[1].split(".")[0].strip("\"' ") == "categories"
        if not is_category:
            kept.append(line)
    while kept and (not kept[-1].strip() or kept[-1].lstrip().startswith("#")):
        kept.pop()
    return "\n".join([*kept, *(line for key, c in categories.items() for line in _category_lines(key, c))]) + "\n"


def _category_lines(key: str, category: Category) -> Iterator[str]:
    yield ""
    yield f"[categories.{key}]"
    plain = Category(title="")
    for name in Category.__struct_fields__:
        value = getattr(category, name)
        if name != "facts" and (value != getattr(plain, name) or name == "title"):
            yield f"{name} = {_quoted(value)}"
    if category.facts:
        yield "facts = ["
        yield from (f"  {{ {', '.join(_fact_pairs(fact))} }}," for fact in category.facts)
        yield "]"


def _fact_pairs(fact: FactField) -> Iterator[str]:
    plain = FactField("")
    for name in FactField.__struct_fields__:
        value = getattr(fact, name)
        if value == getattr(plain, name):
            continue
        if isinstance(value, bool):
            yield f"{name} = {str(value).lower()}"
        elif isinstance(value, tuple):
            yield f"{name} = [{', '.join(map(_quoted, value))}]"
        else:
            yield f"{name} = {_quoted(value)}"


def _quoted(text: str) -> str:
    # A basic string of TOML is one of JSON, but for the sign 127.
    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")
