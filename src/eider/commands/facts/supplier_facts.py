"""Facts that a part takes from a supplier: under the library's names, with supplier numbers and price breaks."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from eider.catalogue.offers import price_words
from eider.catalogue.protocol import CatalogueEntry, SupplierOffer
from eider.commands.facts import fact_edits
from eider.commands.facts.fact_edits import TakenFacts
from eider.evidence.evidence_changes import utc_now
from eider.facts.categories import category_of
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.library import LibrarySettings
from eider.model.wording import counted

LIFECYCLE, DATASHEET = "Lifecycle", "Datasheet"


class TakenEntry(NamedTuple):
    """A part with the facts of an entry, and in words what was renamed, left out, or stays as it was."""

    bundle: Bundle
    told: tuple[str, ...]


class TakingChoice(NamedTuple):
    """How facts are taken: whether they replace those that are there, and price breaks come along."""

    replaces: bool = False
    with_prices: bool = False


def offered_facts(entry: CatalogueEntry) -> dict[str, str]:
    """The facts of an entry under the supplier's names, its standing and the link to its datasheet among them."""
    besides = {LIFECYCLE: entry.lifecycle, DATASHEET: entry.datasheet}
    return entry.facts | {name: text for name, text in besides.items() if text and name not in entry.facts}


def offer_facts(offers: Sequence[SupplierOffer], *, with_prices: bool) -> dict[str, str]:
    """The number of each supplier, of its smallest packing where it has several; on request its price breaks."""
    facts: dict[str, str] = {}
    for offer in sorted(offers, key=lambda o: o.minimum):
        facts.setdefault(f"{offer.supplier} number", offer.number)
        if with_prices and offer.prices:
            facts.setdefault(f"{offer.supplier} prices", price_words(offer))
    return facts


def take_entry(
    bundle: Bundle,
    entry: CatalogueEntry,
    settings: LibrarySettings,
    learned: Mapping[str, str],
    address: str,
    choice: TakingChoice | None = None,
) -> TakenEntry:
    """Fill in what an entry says, as learned and as the category calls it; the catalogue's address is the evidence."""
    category, choice = category_of(settings, bundle.part.category), choice or TakingChoice()
    taken = fact_edits.taken_facts(offered_facts(entry), settings, category, learned)
    facts = {**taken.facts, **offer_facts(entry.offers, with_prices=choice.with_prices)}
    stays = [
        name
        for name, text in facts.items()
        if not choice.replaces and name in bundle.part.facts and bundle.part.facts[name].value != text
    ]
    evidence = Evidence(EvidenceKind.SUPPLIER, text=address, at=utc_now())
    made = fact_edits.fill_facts(bundle, facts, evidence, replaces=choice.replaces)
    made = fact_edits.follow_description(bundle, made, category)
    return TakenEntry(made, (*_told(taken), *_stays(stays)))


def _told(taken: TakenFacts) -> list[str]:
    told = [f"{name} copied as {ours}" for name, ours in taken.renamed.items()]
    told += [f"{name} left out, as the library drops it" for name in taken.dropped]
    return [*told, *(f"{name} left out, as it came with another value too" for name in taken.doubled)]


def _stays(names: Sequence[str]) -> list[str]:
    return [f"{counted(len(names), 'fact')} kept: {', '.join(names)}"] if names else []
