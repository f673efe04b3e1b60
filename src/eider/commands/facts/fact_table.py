"""Facts across parts as one table: edited, filled, replaced and merged as values; what differs is kept later."""

import re
from collections import Counter
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from functools import lru_cache
from typing import NamedTuple

import msgspec

from eider.errors import InputError
from eider.facts.categories import category_of, fact_field, fact_names, spelling_key
from eider.facts.fact_reading import fact_order, read_fact
from eider.model.library import FactField, LibrarySettings

replace = msgspec.structs.replace
# A number at the end of a text, by which a series goes on.
_ENDING = re.compile(r"^(.*?)(-?\d+(?:\.\d+)?)(\D*)$", re.DOTALL)


class FactsOfPart(msgspec.Struct, frozen=True):
    """A part in the table: its facts as they were typed."""

    id: str
    name: str
    category: str
    facts: Mapping[str, str]


class FactTable(msgspec.Struct, frozen=True):
    """Parts down, facts across."""

    parts: tuple[FactsOfPart, ...]
    names: tuple[str, ...]


class FactChange(NamedTuple):
    """A fact of a part that is to be another; an empty text is not a fact."""

    part_id: str
    part: str
    name: str
    before: str
    after: str


class SpellingGroup(NamedTuple):
    """One fact under several names: the name that is meant, and the others with how many parts have each."""

    meant: str
    others: tuple[tuple[str, int], ...]


Cells = Mapping[tuple[int, str], str]


def fact_table(parts: Sequence[FactsOfPart], settings: LibrarySettings) -> FactTable:
    """The table of some parts: the facts of their category in its order, then what else any of them has.

    Of several categories those come first that most parts have.
    """
    named: dict[str, None] = {}
    for key in dict.fromkeys(part.category for part in parts):
        category = category_of(settings, key)
        named |= dict.fromkeys(fact.name for fact in category.facts if not fact.hidden) if category else {}
    hidden = _hidden(parts, settings)
    counts = Counter(name for part in parts for name in part.facts)
    if len({part.category for part in parts}) > 1:
        named = dict.fromkeys(sorted(named, key=lambda name: -counts[name]))
    others = (name for name, _ in counts.most_common() if name not in named and name not in hidden)
    return FactTable(tuple(parts), (*named, *others))


def _hidden(parts: Sequence[FactsOfPart], settings: LibrarySettings) -> set[str]:
    found = set()
    for key in {part.category for part in parts}:
        category = category_of(settings, key)
        found |= {fact.name for fact in category.facts if fact.hidden} if category else set()
    return found


def set_cells(table: FactTable, cells: Cells) -> FactTable:
    """Other texts in some cells; rows that do not exist are left out."""
    by_row: dict[int, dict[str, str]] = {}
    for (row, name), text in cells.items():
        if 0 <= row < len(table.parts):
            by_row.setdefault(row, {})[name] = text.strip()
    parts = list(table.parts)
    for row, changed in by_row.items():
        facts = {**parts[row].facts, **changed}
        parts[row] = replace(parts[row], facts={name: text for name, text in facts.items() if text})
    names = dict.fromkeys((*table.names, *(name for _, name in cells)))
    return FactTable(tuple(parts), tuple(names))


def fill_down(table: FactTable, rows: Sequence[int], names: Sequence[str]) -> FactTable:
    """What the first of the rows has, in all of them."""
    first = table.parts[rows[0]].facts
    return set_cells(table, {(row, name): first.get(name, "") for row in rows[1:] for name in names})


def continue_series(table: FactTable, rows: Sequence[int], names: Sequence[str]) -> FactTable:
    """The numbers of the first two rows carried on through the others; of one alone it counts by 1.

    Raises:
        InputError: a first text ends in no number.
    """
    cells: dict[tuple[int, str], str] = {}
    for name in names:
        texts = [table.parts[row].facts.get(name, "") for row in rows[:2]]
        first = _ENDING.match(texts[0])
        if first is None:
            raise InputError(f"“{texts[0]}” has no number by which {name} could go on; type one such as R1 or 10")
        second = _ENDING.match(texts[1]) if len(texts) > 1 else None
        goes_on = second is not None and (second[1], second[3]) == (first[1], first[3])
        step = float(second[2]) - float(first[2]) if goes_on and second else 1.0
        digits = max(len(match[2].partition(".")[2]) for match in (first, second if goes_on and second else first))
        width = len(first[2]) if first[2].startswith("0") and "." not in first[2] else 0
        for place, row in enumerate(rows):
            number = f"{float(first[2]) + place * step:.{digits}f}".zfill(width)
            cells[row, name] = f"{first[1]}{number}{first[3]}"
    return set_cells(table, cells)


def replace_text(
    table: FactTable, cells: Collection[tuple[int, str]], find: str, new: str, *, whole: bool = False
) -> tuple[FactTable, int]:
    """Another text in place of one, in any case of letters, in some cells; returns how many cells changed.

    Raises:
        InputError: there is nothing to find.
    """
    if not find:
        raise InputError("there is nothing to find; enter the text that is to be replaced")
    pattern = re.compile(f"^{re.escape(find)}$" if whole else re.escape(find), re.IGNORECASE)
    found: dict[tuple[int, str], str] = {}
    for row, name in cells:
        text = table.parts[row].facts.get(name, "")
        made = pattern.sub(lambda _match: new, text)
        if made != text:
            found[row, name] = made
    return (set_cells(table, found) if found else table), len(found)


def spelling_groups(parts: Sequence[FactsOfPart], settings: LibrarySettings) -> tuple[SpellingGroup, ...]:
    """Facts that go by several names in these parts: other spellings of a category's fact, or of each other."""
    meant_by = {key: _meanings(settings, key) for key in {part.category for part in parts}}
    groups: dict[str, Counter[str]] = {}
    for part in parts:
        for name in part.facts:
            key = spelling_key(name)
            groups.setdefault(meant_by[part.category].get(key, f"={key}"), Counter())[name] += 1
    found = []
    for meant, counts in groups.items():
        target = counts.most_common(1)[0][0] if meant.startswith("=") else meant
        others = tuple(sorted((name, count) for name, count in counts.items() if name != target))
        if others:
            found.append(SpellingGroup(target, others))
    return tuple(sorted(found))


def _meanings(settings: LibrarySettings, key: str) -> Mapping[str, str]:
    category = category_of(settings, key)
    return fact_names(category) if category else {}


def merge_names(table: FactTable, group: SpellingGroup) -> tuple[FactTable, tuple[str, ...]]:
    """One name for a fact; returns the parts too in which two of the names have different values: these stay."""
    others = {name for name, _ in group.others}
    parts, left = [], []
    for part in table.parts:
        mine = {name: text for name, text in part.facts.items() if name in others or name == group.meant}
        if not others & set(mine):
            parts.append(part)
        elif len(set(mine.values())) > 1:
            left.append(part.name)
            parts.append(part)
        else:
            value = next(iter(mine.values()))
            renamed = {(group.meant if name in mine else name): text for name, text in part.facts.items()}
            parts.append(replace(part, facts={**renamed, group.meant: value}))
    remaining = {name for part in parts for name in part.facts}
    names = (name for name in (*table.names, group.meant) if name not in others or name in remaining)
    return FactTable(tuple(parts), tuple(dict.fromkeys(names))), tuple(left)


def drop_facts(table: FactTable, names: Collection[str]) -> FactTable:
    """The table without some facts, in any of their spellings."""
    keys = {spelling_key(name) for name in names}
    parts = tuple(
        replace(part, facts={name: text for name, text in part.facts.items() if spelling_key(name) not in keys})
        for part in table.parts
    )
    return FactTable(parts, tuple(name for name in table.names if spelling_key(name) not in keys))


def sort_parts(table: FactTable, name: str, settings: LibrarySettings, *, backwards: bool = False) -> FactTable:
    """The parts in the order of a fact's values; those without one come last, whichever way round."""
    keys: dict[str, FactField | None] = {
        key: fact_field(category_of(settings, key), name) for key in {part.category for part in table.parts}
    }

    def order(part: FactsOfPart) -> tuple[int, float, str]:
        return fact_order(keys[part.category], part.facts.get(name, ""))

    filled = [part for part in table.parts if part.facts.get(name)]
    empty = [part for part in table.parts if not part.facts.get(name)]
    return replace(table, parts=(*sorted(filled, key=order, reverse=backwards), *empty))


def changes_between(before: FactTable, after: FactTable) -> Iterator[FactChange]:
    """Each fact of each part that differs; parts that only one of the tables has are left out."""
    old = {part.id: part for part in before.parts}
    for part in after.parts:
        was = old.get(part.id)
        if was is None or was is part or was.facts == part.facts:
            continue
        for name in dict.fromkeys((*was.facts, *part.facts)):
            texts = was.facts.get(name, ""), part.facts.get(name, "")
            if texts[0] != texts[1]:
                yield FactChange(part.id, part.name, name, *texts)


def cell_fault(settings: LibrarySettings) -> Callable[[FactsOfPart, str], str]:
    """What is wrong with a cell: a value of the wrong kind, or none where one is required."""

    @lru_cache(maxsize=1024)
    def field_of(category: str, name: str) -> FactField | None:
        return fact_field(category_of(settings, category), name)

    # A table asks for each cell that it paints, several times.
    @lru_cache(maxsize=65536)
    def told(category: str, name: str, text: str) -> str:
        field = field_of(category, name)
        if field is None or not text:
            return "required" if field is not None and field.required else ""
        reading = read_fact(field, text)
        return f"{reading.fault}. Accepted: {reading.accepted}" if reading.fault else ""

    return lambda part, name: told(part.category, name, part.facts.get(name, ""))
