"""Parts that could stand in for another, of the library and of suppliers: by facts and land pattern."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from eider.catalogue.protocol import CatalogueEntry
from eider.commands.facts.fact_edits import taken_facts
from eider.commands.facts.supplier_facts import LIFECYCLE, offered_facts
from eider.facts.categories import category_of, value_field
from eider.facts.fact_reading import fact_order
from eider.library.index.index_reader import PartRow
from eider.model.library import Category, FactField, LibrarySettings

# Facts that name a part and do not describe it.
_NAMES = frozenset({"Manufacturer", "Part number"})
# So many are shown.
MOST = 40


class FactDifference(NamedTuple):
    """A fact in which an alternate differs; an empty text is one that is not known."""

    name: str
    mine: str
    theirs: str


class PartInHand(NamedTuple):
    """The part for which another is looked for: its id, category, facts, and the name of its land pattern."""

    id: str
    category: str
    facts: Mapping[str, str]
    pattern: str


class Alternate(NamedTuple):
    """A part that could replace it.

    `source` is where it was found: *library*, or the suppliers that sell it. `pattern` says how its lands compare:
    *same*, another name, or *not known*. `same` counts the facts that are equal.
    """

    name: str
    manufacturer: str
    source: str
    pattern: str
    lifecycle: str
    differs: tuple[FactDifference, ...]
    same: int
    part_id: str = ""
    entry: CatalogueEntry | None = None


def library_alternates(part: PartInHand, rows: Iterable[PartRow], settings: LibrarySettings) -> list[Alternate]:
    """The parts of the library that could replace it, the nearest first.

    They are of the same category and have the same value; where the category has no value, the same land pattern.
    """
    category = category_of(settings, part.category)
    found = []
    for row in rows:
        if row.id == part.id or row.category != part.category:
            continue
        pattern = "same" if row.package == part.pattern else row.package or "none yet"
        if not _stands_in(part, row.facts, category, is_same_pattern=pattern == "same"):
            continue
        found.append(_alternate(part, row.name, row.facts, category, ("library", pattern), part_id=row.id))
    return sorted(found, key=_nearness)[:MOST]


def offered_alternates(
    part: PartInHand, entries: Sequence[CatalogueEntry], settings: LibrarySettings, learned: Mapping[str, str]
) -> list[Alternate]:
    """The parts that suppliers would send, the nearest first; their land patterns are not known."""
    category = category_of(settings, part.category)
    found = []
    for entry in entries:
        facts = taken_facts(offered_facts(entry), settings, category, learned).facts
        sellers = ", ".join(dict.fromkeys(offer.supplier for offer in entry.offers)) or "nobody sells it"
        found.append(_alternate(part, entry.part_number, facts, category, (sellers, "not known"), entry=entry))
    return sorted(found, key=_nearness)[:MOST]


def _nearness(alternate: Alternate) -> tuple[bool, int, int, str]:
    return alternate.pattern != "same", len(alternate.differs), -alternate.same, alternate.name


def _stands_in(part: PartInHand, facts: Mapping[str, str], category: Category | None, *, is_same_pattern: bool) -> bool:
    field = value_field(category)
    mine = part.facts.get(field.name, "") if field else ""
    if field is None or not mine:
        return is_same_pattern and bool(part.pattern)
    return same_value(field, mine, facts.get(field.name, ""))


def same_value(field: FactField | None, first: str, second: str) -> bool:
    """Whether two texts are one value, however they are typed; an empty one is none."""
    return bool(first and second) and fact_order(field, first) == fact_order(field, second)


def _alternate(
    part: PartInHand,
    name: str,
    facts: Mapping[str, str],
    category: Category | None,
    origin: tuple[str, str],
    *,
    part_id: str = "",
    entry: CatalogueEntry | None = None,
) -> Alternate:
    differs = tuple(_differences(part.facts, facts, category))
    known = [field.name for field in category.facts] if category else []
    same = sum(1 for n in known if n not in _NAMES and part.facts.get(n) and facts.get(n)) - len(
        [d for d in differs if d.mine and d.theirs]
    )
    maker, lifecycle = facts.get("Manufacturer", ""), facts.get(LIFECYCLE, "")
    return Alternate(name, maker, *origin, lifecycle, differs, same, part_id, entry)


def _differences(
    mine: Mapping[str, str], theirs: Mapping[str, str], category: Category | None
) -> Iterator[FactDifference]:
    """The facts of the category in which two parts differ, or that one of them alone has."""
    for field in category.facts if category else ():
        texts = mine.get(field.name, ""), theirs.get(field.name, "")
        if field.name not in _NAMES and any(texts) and not same_value(field, *texts):
            yield FactDifference(field.name, *texts)
