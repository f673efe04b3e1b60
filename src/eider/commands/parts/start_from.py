"""A new part begun from another one: what usually differs between two parts of one kind is changed on the way."""

from collections.abc import Mapping, Sequence

from eider.commands.facts.fact_edits import enter_fact, follow_description
from eider.commands.parts.new_parts import start_from_part
from eider.facts.categories import category_of, value_field
from eider.facts.text_templates import composed_name, places_of
from eider.model.bundle import Bundle
from eider.model.library import LibrarySettings

# So many facts are offered: the value first, then number, ratings, and what names and descriptions are made of.
MOST_OFFERED = 6
NUMBER = "Part number"


def facts_that_differ(bundle: Bundle, settings: LibrarySettings) -> Sequence[str]:
    """The facts in which another part of this kind usually differs, the likeliest first."""
    category = category_of(settings, bundle.part.category)
    if category is None:
        return ()
    value = value_field(category)
    names = [value.name] if value else []
    ratings = [fact.name for fact in category.facts if fact.required and fact.kind in ("number", "range")]
    names += [NUMBER, *places_of(category.part_name), *ratings, *places_of(category.description)]
    known = {fact.name for fact in category.facts}
    return tuple(dict.fromkeys(name for name in names if name in known))[:MOST_OFFERED]


def text_of_fact(bundle: Bundle, name: str) -> str:
    """The value of a fact; empty where it has none."""
    fact = bundle.part.facts.get(name)
    return fact.value if fact else ""


def name_with_facts(bundle: Bundle, facts: Mapping[str, str], settings: LibrarySettings) -> str:
    """The name of a part with other facts: as the category composes it, else its number where the origin has its own.

    Empty where neither gives one.
    """
    category, changed = category_of(settings, bundle.part.category), with_facts(bundle, facts, "", "")
    composed = composed_name(category, changed.part) if category else ""
    is_number = bundle.part.name == text_of_fact(bundle, NUMBER) != text_of_fact(changed, NUMBER)
    return composed or (text_of_fact(changed, NUMBER) if is_number else "")


def with_facts(bundle: Bundle, facts: Mapping[str, str], by: str, at: str) -> Bundle:
    """A part with other facts, entered by `by` at `at`; those that stay as they were keep their evidence."""
    for name, text in facts.items():
        if text.strip() != text_of_fact(bundle, name):
            bundle = enter_fact(bundle, name, text, by, at)
    return bundle


def start_with_facts(
    bundle: Bundle, name: str, facts: Mapping[str, str], settings: LibrarySettings, by: str, at: str
) -> Bundle:
    """A new part that begins as a copy, with other facts; without a name it has the one that follows from them.

    Facts that stay as they were keep their evidence; those that are changed were entered by `by` at `at`.

    Raises:
        InputError: it has no name and none follows from its facts.
    """
    category = category_of(settings, bundle.part.category)
    changed = with_facts(bundle, facts, by, at)
    composed = name_with_facts(bundle, facts, settings) if changed is not bundle else ""
    copy = start_from_part(changed, name.strip() or composed)
    return follow_description(bundle, copy, category)
