"""Checks of the part: category, name, facts, datasheet."""

from collections.abc import Iterator

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.facts.categories import fact_names, spelling_key
from eider.facts.fact_reading import read_fact
from eider.facts.text_templates import composed_description
from eider.model.address import FactAddress, FieldAddress, fact_name
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity

replace = msgspec.structs.replace


@check("facts.no-category", Severity.BLOCKER, reads=("about", "settings"))
def no_category(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The part's class is set.

    Naming, reference letter and required facts follow from it.
    """
    if view.category is None:
        known = ", ".join(view.settings.categories) or "none yet"
        yield CheckHit(
            FieldAddress("part", "category"),
            "the part has no category from this library",
            view.bundle.part.category,
            known,
        )


@check("facts.required", Severity.BLOCKER, reads=("about", "facts", "settings"))
def required(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The facts that the category requires are filled in.

    An empty one is an empty cell in someone's bill of materials.
    """
    facts, category = view.bundle.part.facts, view.category
    if category is None:
        return
    for field in category.facts:
        if field.required and not (field.name in facts and facts[field.name].value.strip()):
            yield CheckHit(FactAddress(field.name), f"{field.name} is empty (required by category {category.title})")


def _rename(view: PartUnderCheck, finding: Finding) -> Bundle:
    name = fact_name(finding.address)
    part = view.bundle.part
    facts = {finding.expected if key == name else key: fact for key, fact in part.facts.items()}
    return replace(view.bundle, part=replace(part, facts=facts))


@check(
    "facts.other-spelling",
    Severity.CAUTION,
    reads=("about", "facts", "settings"),
    quick_fix=QuickFix("Use the category's name", _rename),
)
def other_spelling(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A fact bears the category's name for it.

    A parameter spelled two ways leaves an empty cell in the bill of materials.
    """
    if view.category is None:
        return
    names, spellings = {field.name for field in view.category.facts}, fact_names(view.category)
    for key in view.bundle.part.facts:
        meant = spellings.get(spelling_key(key))
        if key not in names and meant and meant not in view.bundle.part.facts:
            yield CheckHit(FactAddress(key), f"“{key}” is another spelling of “{meant}”", key, meant)


def _compose(view: PartUnderCheck, _finding: Finding) -> Bundle:
    part = view.bundle.part
    wanted = composed_description(view.category, part) if view.category else part.description
    return replace(view.bundle, part=replace(part, description=wanted))


@check("facts.wrong-kind", Severity.CAUTION, reads=("about", "facts", "settings"))
def wrong_kind(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A fact is of the kind that the category's template says.

    A text where a number is wanted cannot be searched, sorted or printed like the others.
    """
    for field in view.category.facts if view.category else ():
        fact = view.bundle.part.facts.get(field.name)
        reading = read_fact(field, fact.value) if fact else None
        if fact and reading and reading.value is None:
            yield CheckHit(FactAddress(field.name), f"{field.name}: {reading.fault}", fact.value[:60], reading.accepted)


@check(
    "facts.not-composed",
    Severity.NOTE,
    reads=("about", "facts", "settings"),
    quick_fix=QuickFix("Compose it from the facts", _compose),
)
def not_composed(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The description is the one that the category composes from the facts.

    One that was typed, or that an older value went into, reads otherwise than those of its relatives.
    """
    category, part = view.category, view.bundle.part
    wanted = composed_description(category, part) if category else ""
    if wanted and part.description != wanted:
        message = "the description is not the one composed from the facts"
        yield CheckHit(FieldAddress("part", "description"), message, part.description[:60] or "empty", wanted)


# A pattern can be such that matching it takes for ever (s).
LONGEST_MATCH = 0.05


@check("facts.part-name", Severity.CAUTION, reads=("about", "settings"))
def part_name(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The part's name follows the category's convention.

    The name decides whether the part is found again years later.
    """
    category, name = view.category, view.bundle.part.name
    if category is None or not category.name_pattern:
        return
    import regex  # only where a category has a rule for names

    try:
        fits = regex.fullmatch(category.name_pattern, name, timeout=LONGEST_MATCH)
    except (regex.error, TimeoutError, RecursionError) as fault:
        why = "takes too long to match" if isinstance(fault, TimeoutError) else f"is not a regular expression: {fault}"
        message = f"the naming pattern of {category.title} in the library's settings {why}"
        yield CheckHit(FieldAddress("part", "name"), message, category.name_pattern[:60], category.name_example)
        return
    if not fits:
        yield CheckHit(
            FieldAddress("part", "name"),
            f"“{name}” does not follow the naming of {category.title}",
            name,
            category.name_example,
        )


@check("facts.no-datasheet", Severity.CAUTION, reads=("datasheets",))
def no_datasheet(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The part has its datasheet.

    Nothing on it can be checked without.
    """
    if not view.bundle.part.datasheets:
        yield CheckHit(FieldAddress("source"), "no datasheet is attached", "0 documents", "1 document")
