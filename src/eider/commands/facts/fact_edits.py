"""Changes to the part itself: name, description, category, facts, datasheets."""

from collections.abc import Mapping
from typing import NamedTuple

import msgspec

from eider.evidence.evidence_changes import typed_fact
from eider.facts.categories import fact_names, spelling_key
from eider.facts.text_templates import composed_description
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.library import Category, LibrarySettings
from eider.model.part import DatasheetLink

replace = msgspec.structs.replace


def set_fact(bundle: Bundle, name: str, value: str, evidence: Evidence | None = None) -> Bundle:
    """Fill in a fact; an empty value takes it away."""
    facts = {**bundle.part.facts, name: typed_fact(bundle.part.facts.get(name), value.strip(), evidence)}
    return replace(bundle, part=replace(bundle.part, facts={k: f for k, f in facts.items() if f.value}))


def rename_fact(bundle: Bundle, old: str, new: str) -> Bundle:
    """Another name for a fact, in its place."""
    facts = {new if key == old else key: fact for key, fact in bundle.part.facts.items() if key == old or key != new}
    return replace(bundle, part=replace(bundle.part, facts=facts))


def enter_fact(bundle: Bundle, name: str, value: str, by: str, at: str) -> Bundle:
    """Fill in a fact that someone types; a value that was proven keeps its proof, struck through."""
    old = bundle.part.facts.get(name)
    was = (old.evidence, old.former) if old else ()
    is_proven = any(evidence is not None and evidence.kind != EvidenceKind.ENTERED for evidence in was)
    is_same = old is not None and old.value == value.strip()
    entered = None if is_proven or is_same else Evidence(EvidenceKind.ENTERED, by=by, at=at)
    return set_fact(bundle, name, value, entered)


def follow_description(before: Bundle, after: Bundle, category: Category | None) -> Bundle:
    """A description that was composed from the facts follows them; one that someone typed stays."""
    if category is None or before.part.description != composed_description(category, before.part):
        return after
    return compose_description(after, category)


def compose_description(bundle: Bundle, category: Category | None) -> Bundle:
    """The description that the category composes from the facts; as it is where it composes none."""
    composed = composed_description(category, bundle.part) if category else ""
    return set_about(bundle, description=composed) if composed else bundle


def set_about(bundle: Bundle, **changes: str) -> Bundle:
    """Name, category or description of the part."""
    return replace(bundle, part=replace(bundle.part, **changes))


def attach_datasheet(bundle: Bundle, link: DatasheetLink) -> Bundle:
    """A document more; the same one is not attached twice."""
    others = tuple(d for d in bundle.part.datasheets if d.sha256 != link.sha256)
    return replace(bundle, part=replace(bundle.part, datasheets=(*others, link)))


def our_names(category: Category | None, learned: Mapping[str, str]) -> dict[str, str]:
    """The library's name of a fact by the spelling key of another one; empty for what is left out."""
    names = dict(fact_names(category)) if category else {}
    return names | {spelling_key(theirs): ours for theirs, ours in learned.items()}


class TakenFacts(NamedTuple):
    """Facts of a supplier under the library's names; `renamed` says which.

    `dropped` are those that nobody wants, `doubled` those whose fact came under another name with another value.
    """

    facts: Mapping[str, str]
    renamed: Mapping[str, str]
    dropped: tuple[str, ...]
    doubled: tuple[str, ...]


def taken_facts(
    offered: Mapping[str, str],
    settings: LibrarySettings,
    category: Category | None,
    learned: Mapping[str, str] | None = None,
) -> TakenFacts:
    """The facts of a supplier as this library calls them, without those that it drops.

    `learned` gives the library's name for a supplier's where someone chose it, or an empty one to leave it out.
    """
    names = our_names(category, learned or {})
    unwanted = {spelling_key(name) for name in settings.dropped_facts}
    facts: dict[str, str] = {}
    renamed: dict[str, str] = {}
    dropped: list[str] = []
    doubled: list[str] = []
    for name, value in offered.items():
        key = spelling_key(name)
        if key in unwanted:
            dropped.append(name)
            continue
        ours = names.get(key, name)
        if not ours:
            dropped.append(name)
            continue
        if facts.setdefault(ours, value) != value:
            doubled.append(name)
        elif ours != name:
            renamed[name] = ours
    return TakenFacts(facts, renamed, tuple(dropped), tuple(doubled))


def fill_facts(bundle: Bundle, facts: Mapping[str, str], evidence: Evidence, *, replaces: bool = False) -> Bundle:
    """Fill in facts that are still empty; what someone entered stays, unless it is to be replaced."""
    for name, value in facts.items():
        old = bundle.part.facts.get(name)
        if old is None or (replaces and old.value != value):
            bundle = set_fact(bundle, name, value, evidence)
    return bundle
