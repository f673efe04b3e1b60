"""How the stand-in service finds parts: a number, words with values in any spelling, facts, offers."""

from collections import Counter
from collections.abc import Iterable, Sequence
from functools import lru_cache

import msgspec

from eider.catalogue.offers import OfferChoice, fitting_offers
from eider.catalogue.protocol import CatalogueCategory, CatalogueEntry, PartPage, PartQuery
from eider.facts.categories import spelling_key
from eider.facts.quantities import parse_quantity, value_spellings
from eider.library.index.search_words import holding, plain_text

# So many values of a fact are named to choose from, and so many alternates of a part.
MOST_VALUES, MOST_ALTERNATES = 12, 12
# Facts that have to be the same where one part stands in for another, besides its first one; and those that are no use.
_DEFINING = ("Package", "Case", "Size", "Mounting Style")
_NAMES = ("Manufacturer", "Part number")


class FoundPart(msgspec.Struct, frozen=True):
    """An entry with the text by which it is found."""

    entry: CatalogueEntry
    text: str


class PartSearch:
    """Finds entries; made once for all requests."""

    def __init__(self, entries: Iterable[CatalogueEntry]) -> None:
        self._parts = tuple(FoundPart(entry, _text(entry)) for entry in entries)
        self._by_number: dict[str, list[CatalogueEntry]] = {}
        for part in self._parts:
            self._by_number.setdefault(part.entry.key[1], []).append(part.entry)

    def page(self, query: PartQuery) -> PartPage:
        """The page of the parts that fit a query; those whose number begins with what is asked come first."""
        found = [] if query.is_empty else self._found(query)
        wanted = spelling_key(query.number)
        found.sort(key=lambda e: (not e.key[1].startswith(wanted), e.part_number))
        pages = max(-(-len(found) // query.size), 1)
        start = (query.page - 1) * query.size
        return PartPage(tuple(found[start : start + query.size]), len(found), query.page, pages)

    def _found(self, query: PartQuery) -> list[CatalogueEntry]:
        if query.exact:
            return [entry for number in query.exact for entry in self._by_number.get(spelling_key(number), [])]
        wanted, facts = spelling_key(query.number), [(spelling_key(n), value_key(v)) for n, v in query.facts]
        choice = OfferChoice(query.suppliers, query.currency, query.in_stock)
        is_by_offer = bool(query.suppliers or query.currency or query.in_stock or query.quantity)
        found = []
        for part in holding(self._parts, plain_text(query.words).split()):
            entry = part.entry
            if wanted not in entry.key[1] or (query.category and entry.category != query.category):
                continue
            if facts and not _has_facts(entry, facts):
                continue
            offers = fitting_offers(entry, choice, query.quantity)
            if is_by_offer and not offers:
                continue
            found.append(msgspec.structs.replace(entry, offers=tuple(offers)) if is_by_offer else entry)
        return found

    def alternates(self, manufacturer: str, number: str) -> PartPage:
        """Parts of other numbers with the same value in the same package, and of the same category."""
        key = spelling_key(manufacturer), spelling_key(number)
        entry = next((e for e in self._by_number.get(key[1], []) if e.key == key), None)
        found = [part.entry for part in self._parts if entry and _replaces(part.entry, entry)]
        shown = tuple(found[:MOST_ALTERNATES])
        return PartPage(shown, len(shown))

    def categories(self) -> tuple[CatalogueCategory, ...]:
        """All categories with their facts and the commonest values of each."""
        counts: dict[str, int] = {}
        values: dict[str, dict[str, Counter[str]]] = {}
        for part in self._parts:
            entry = part.entry
            counts[entry.category] = counts.get(entry.category, 0) + 1
            facts = values.setdefault(entry.category, {})
            for name, value in entry.facts.items():
                facts.setdefault(name, Counter())[value] += 1
        return tuple(
            CatalogueCategory(
                key, key.capitalize(), counts[key], {name: _commonest(c) for name, c in values[key].items()}
            )
            for key in sorted(counts)
        )


def _commonest(values: Counter[str]) -> tuple[str, ...]:
    return tuple(value for value, _ in values.most_common(MOST_VALUES))


def _text(entry: CatalogueEntry) -> str:
    """What an entry is found by: number, maker, description, and its facts with the usual spelling of values."""
    values = [spelling for value in entry.facts.values() for spelling in value_spellings(value)]
    return plain_text(
        " ".join((entry.part_number, entry.manufacturer, entry.description, *entry.facts.values(), *values))
    )


@lru_cache(maxsize=65536)
def value_key(text: str) -> tuple[float, str] | str:
    """By what two values are one, however they are typed: 4k7 and 4.7 kΩ; other texts by their letters."""
    quantity = parse_quantity(text)
    return (float(f"{quantity.value:.6g}"), quantity.unit) if quantity else spelling_key(text)


def _has_facts(entry: CatalogueEntry, wanted: Sequence[tuple[str, tuple[float, str] | str]]) -> bool:
    mine = {spelling_key(name): value_key(value) for name, value in entry.facts.items()}
    return all(_same(mine.get(name), value) for name, value in wanted)


def _same(mine: tuple[float, str] | str | None, wanted: tuple[float, str] | str) -> bool:
    """A number that is asked for without a unit is meant in the part's own."""
    if isinstance(mine, tuple) and isinstance(wanted, tuple):
        return mine[0] == wanted[0] and wanted[1] in ("", mine[1])
    return mine == wanted


def _replaces(other: CatalogueEntry, entry: CatalogueEntry) -> bool:
    if other.category != entry.category or other.key == entry.key:
        return False
    first = next((name for name in entry.facts if name not in _NAMES), None)
    wanted = [name for name in (first, *_DEFINING) if name is not None and name in entry.facts]
    return first is not None and all(other.facts.get(name) == entry.facts[name] for name in wanted)
