"""Texts of a part composed from its facts: `{Capacitance} {Rated voltage} {Package}`, `LYN-R{Resistance|code}`."""

import re
from collections.abc import Iterator, Mapping

from eider.facts.categories import fact_field
from eider.facts.fact_reading import NOTHING, print_fact
from eider.facts.quantities import parse_quantity, print_code
from eider.model.library import Category
from eider.model.part import Part

CODE = "code"
_PLACE = re.compile(r"\{([^{}]*)\}")
# In names values are written without spaces, and signs that names cannot bear are spelled.
_IN_NAMES = {"Ω": "R", "µ": "u", "±": "", "°": "", "%": "PC", "/": "-", ",": ".", "≤": "", "≥": ""}


def places_of(template: str) -> tuple[str, ...]:
    """The names of facts that a template speaks of, in order."""
    return tuple(name.partition("|")[0].strip() for name in _PLACE.findall(template))


def template_fault(template: str, category: Category) -> str:
    """What is wrong with a template; empty where nothing is. `part`, `name` and `package` need no fact."""
    if _PLACE.sub("", template).count("{") or _PLACE.sub("", template).count("}"):
        return "a brace is open or closed alone; write names of facts as {Name}"
    known = {fact.name for fact in category.facts}
    unknown = [name for name in places_of(template) if name not in known]
    if unknown:
        return f"“{unknown[0]}” is not a fact of {category.title}"
    forms = {place.partition("|")[2].strip() for place in _PLACE.findall(template)} - {"", CODE}
    return f"“{min(forms)}” is not a form of a value; leave it out, or write {CODE}" if forms else ""


def composed_description(category: Category, part: Part) -> str:
    """The description that a category composes of a part; empty without a template or any of its facts."""
    if not category.description or not any(part.facts.get(name) for name in places_of(category.description)):
        return ""
    return compose_text(category.description, category, {name: fact.value for name, fact in part.facts.items()})


def composed_name(category: Category, part: Part) -> str:
    """The name that a category composes of a part; empty where it has no template or a fact of it is missing."""
    facts = {name: fact.value for name, fact in part.facts.items()}
    if not category.part_name or any(missing_places(category.part_name, facts)):
        return ""
    return compose_name(category.part_name, category, facts)


def compose_text(template: str, category: Category, facts: Mapping[str, str]) -> str:
    """The description of a part: facts that are empty leave nothing, and no spaces or commas of theirs."""
    text = _PLACE.sub(lambda match: _value(match[1].strip(), category, facts), template)
    return re.sub(r"\s*,(?:\s*,)+", ",", re.sub(r"\s+", " ", text)).strip(" ,;-")


def compose_name(template: str, category: Category, facts: Mapping[str, str]) -> str:
    """The name of a part: values without spaces, in letters that every file system and program takes."""
    text = _PLACE.sub(lambda match: _in_name(_value(match[1].strip(), category, facts)), template)
    return re.sub(r"-{2,}", "-", text).strip("-_ ")


def _value(place: str, category: Category, facts: Mapping[str, str]) -> str:
    """What stands for a place: the fact as it is printed, or `|code` of it (IEC 60062)."""
    name, _, form = (piece.strip() for piece in place.partition("|"))
    text = facts.get(name, "")
    if text.strip().lower() in NOTHING:
        return ""
    field = fact_field(category, name)
    found = parse_quantity(text, field.unit if field else "") if form == CODE else None
    return print_code(found) if found else print_fact(field, text)


def _in_name(text: str) -> str:
    for sign, plain in _IN_NAMES.items():
        text = text.replace(sign, plain)
    return re.sub(r"\s+", "", text)


def missing_places(template: str, facts: Mapping[str, str]) -> Iterator[str]:
    """The facts that a template wants and a part does not have."""
    for name in dict.fromkeys(places_of(template)):
        if not facts.get(name, "").strip():
            yield name
