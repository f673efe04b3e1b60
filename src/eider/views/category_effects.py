"""What changed categories would do to the parts that are there, and how their templates read for one of them."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import msgspec

from eider.facts.categories import category_of
from eider.facts.fact_reading import read_fact
from eider.facts.text_templates import compose_name, compose_text, missing_places
from eider.library.index.part_index import PartRow
from eider.model.library import Category, LibrarySettings
from eider.model.wording import counted

# Parts that are named one by one.
NAMED = 200


class CategoryEffects(NamedTuple):
    """What would change: in words how much, and the parts with what would become of each."""

    summary: str
    lines: tuple[str, ...]


class TemplateExample(NamedTuple):
    """How the templates read for a part of the category: its name, and what they make of it."""

    part: str
    description: str
    name: str


def category_effects(
    settings: LibrarySettings, categories: Mapping[str, Category], rows: Sequence[PartRow]
) -> CategoryEffects:
    """Descriptions that would be composed again, values of another kind, required facts that would be missing."""
    changed = msgspec.structs.replace(settings, categories=dict(categories))
    wholes = {key: (category_of(settings, key), category_of(changed, key)) for key in {row.category for row in rows}}
    lines: list[str] = []
    described = wrong = missing = homeless = 0
    for row in rows:
        before, after = wholes[row.category]
        if before == after:
            continue
        if after is None:
            homeless += 1
            lines.append(f"{row.name}: its category would be gone")
            continue
        new = _new_description(before, after, row)
        described += bool(new)
        lines += [f"{row.name}: {row.description or 'no description'} → {new}"] if new else []
        for fault, is_missing in _faults(before, after, row):
            missing, wrong = missing + is_missing, wrong + (not is_missing)
            lines.append(f"{row.name}: {fault}")
    told = [
        counted(count, *words)
        for count, words in (
            (described, ("description would be composed again", "descriptions would be composed again")),
            (wrong, ("value would be of the wrong kind", "values would be of the wrong kind")),
            (missing, ("required fact would be missing", "required facts would be missing")),
            (homeless, ("part would have no category", "parts would have no category")),
        )
        if count
    ]
    return CategoryEffects("; ".join(told) or "No part would change.", tuple(lines[:NAMED]))


def _new_description(before: Category | None, after: Category, row: PartRow) -> str:
    """What a description that was composed, or is wanted to be now, would read; empty where it stays."""
    new = compose_text(after.description, after, row.facts) if after.description else ""
    old = compose_text(before.description, before, row.facts) if before and before.description else ""
    return new if new and new != row.description and new != old else ""


def _faults(before: Category | None, after: Category, row: PartRow) -> list[tuple[str, bool]]:
    old = {fact.name: fact for fact in before.facts} if before else {}
    found = []
    for fact in after.facts:
        was, text = old.get(fact.name), row.facts.get(fact.name, "")
        if was == fact:
            continue
        reading = read_fact(fact, text)
        if reading.fault and not (was and read_fact(was, text).fault):
            found.append((f"{fact.name}: {reading.fault}", False))
        if fact.required and not text and not (was and was.required):
            found.append((f"{fact.name} would be required", True))
    return found


def template_example(
    settings: LibrarySettings, categories: Mapping[str, Category], key: str, rows: Sequence[PartRow]
) -> TemplateExample | None:
    """The templates of a category for the part of it that has most of their facts; None without one."""
    whole = category_of(msgspec.structs.replace(settings, categories=dict(categories)), key)
    mine = [row for row in rows if row.category == key]
    if whole is None or not mine:
        return None
    wanted = whole.description + whole.part_name
    best = min(mine, key=lambda row: len(list(missing_places(wanted, row.facts))))
    return TemplateExample(
        best.name,
        compose_text(whole.description, whole, best.facts) if whole.description else "",
        compose_name(whole.part_name, whole, best.facts) if whole.part_name else "",
    )
