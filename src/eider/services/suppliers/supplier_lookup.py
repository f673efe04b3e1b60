"""Parts looked up at suppliers for a library: by its preferred suppliers and currency, under its names of facts."""

import os
from collections.abc import Mapping

from eider.catalogue.answer_cache import AnswerCache, KnownPart, cache_path
from eider.catalogue.client import Answered, Catalogue
from eider.catalogue.protocol import PartPage, PartQuery
from eider.commands.facts.alternates import Alternate, PartInHand, library_alternates, offered_alternates
from eider.errors import InputError
from eider.facts.categories import spelling_key
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_FACT_NAMES, SHARED_SUPPLIERS
from eider.library.index.part_index import PartRow
from eider.model.bundle import Bundle
from eider.model.library import SupplierRule
from eider.services.tasks import Task

# Where the access token is looked for when none is given.
TOKEN_VARIABLE = "EIDER_CATALOGUE_TOKEN"
NUMBER, MANUFACTURER = "Part number", "Manufacturer"


def open_catalogue(address: str, token: str = "", task: Task | None = None) -> Catalogue:
    """The service at an address, with what it answered before on this machine; a cancel of the task ends its work.

    Raises:
        CatalogueError: the address is empty.
    """
    task = task or Task()
    cache = AnswerCache(cache_path(address))
    return Catalogue(address, token or os.environ.get(TOKEN_VARIABLE, ""), cache, lambda what: task.report(0.5, what))


def preferred_suppliers(library: Library) -> tuple[str, ...]:
    """The suppliers that the library prefers; none where nobody said so."""
    return tuple(name for name, rule in SHARED_SUPPLIERS.read_sound(library).items() if rule.preferred)


def prefer_supplier(library: Library, name: str, *, preferred: bool) -> None:
    """Keep with the library whether a supplier is preferred.

    Raises:
        LibraryError: nothing can be written here, or the file is damaged.
    """
    SHARED_SUPPLIERS.save(library, name, SupplierRule(preferred), replaces=SHARED_SUPPLIERS.read(library).get(name))


def learned_names(library: Library, category: str) -> Mapping[str, str]:
    """Under which names the library keeps the facts of suppliers in a category; an empty one leaves a fact out."""
    return SHARED_FACT_NAMES.read_sound(library).get(category, {})


def learn_name(library: Library, category: str, theirs: str, ours: str) -> None:
    """Keep with the library under which name a supplier's fact is copied in a category; empty leaves it out.

    Raises:
        InputError: the supplier's name is empty. LibraryError: nothing can be written, or the file is damaged.
    """
    if not spelling_key(theirs):
        raise InputError("the supplier's fact has no name")
    before = SHARED_FACT_NAMES.read(library).get(category)
    others = {name: text for name, text in (before or {}).items() if spelling_key(name) != spelling_key(theirs)}
    SHARED_FACT_NAMES.save(library, category, {**others, theirs: ours}, replaces=before)


def query_of_text(text: str, known_facts: Mapping[str, str] | None = None) -> PartQuery:
    """What someone typed as a query: one word is a part number or a piece of it, several are words and values.

    `NAME=VALUE` asks for a fact.
    """
    facts = tuple(known_facts.items()) if known_facts else ()
    words = []
    for word in text.split():
        name, equals, value = word.partition("=")
        if equals and name and value:
            facts = (*facts, (name, value))
        else:
            words.append(word)
    if len(words) == 1:
        return PartQuery(number=words[0], facts=facts)
    return PartQuery(words=" ".join(words), facts=facts)


def look_up(catalogue: Catalogue, query: PartQuery, *, again: bool = False) -> Answered[PartPage]:
    """The parts that fit; one word that is not a piece of a number is looked for among all words.

    Raises:
        InputError: nothing is asked. CatalogueError: the service does not answer.
    """
    if query.is_empty:
        raise InputError("enter a part number, words or values to look up")
    found = catalogue.parts(query, again=again)
    if found.value.total or not query.number:
        return found
    return catalogue.parts(query.narrowed(number="", words=query.number), again=again)


def part_number(row: PartRow) -> str:
    """The number under which a part is looked up: its part number, or else its name."""
    return row.facts.get(NUMBER, "") or row.name


def part_key(row: PartRow) -> tuple[str, str]:
    """By what a part is known in the answers of a catalogue: manufacturer and number, however they are spelled."""
    return spelling_key(row.facts.get(MANUFACTURER, "")), spelling_key(part_number(row))


def known_part(address: str, manufacturer: str, number: str) -> KnownPart | None:
    """What was last heard of a part on this machine, without asking."""
    if not address:
        return None
    return AnswerCache(cache_path(address)).known_part((spelling_key(manufacturer), spelling_key(number)))


def find_alternates(library: Library, bundle: Bundle, catalogue: Catalogue | None) -> list[Alternate]:
    """Parts that could stand in for one: of the library, and with a catalogue of suppliers too.

    Raises:
        CatalogueError: the service does not answer.
    """
    facts = {name: fact.value for name, fact in bundle.part.facts.items()}
    part = PartInHand(bundle.part.id, bundle.part.category, facts, bundle.footprint.name)
    found = library_alternates(part, library.find_parts("").rows, library.settings)
    if catalogue is not None:
        number = facts.get(NUMBER, bundle.part.name)
        entries = catalogue.alternates(facts.get(MANUFACTURER, ""), number).value.parts
        taken = {spelling_key(alternate.name) for alternate in found}
        others = [entry for entry in entries if entry.key[1] not in taken]
        found += offered_alternates(part, others, library.settings, learned_names(library, bundle.part.category))
    return found
