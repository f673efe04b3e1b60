"""What the Shelf lists: the parts that were found, and the filters with what each of them holds."""

from collections import Counter
from collections.abc import Callable, Collection, Mapping

import msgspec

from eider.library.index.part_index import PartGroup, PartRow, SearchHits
from eider.model.library import LibrarySettings
from eider.model.wording import counted
from eider.views.family_titles import family_titles
from eider.views.parts_order import PartsOrder, ordered_parts

# A list that nobody reads to its end; the rest is found with more words or a filter.
MOST_LISTED = 20_000


class FilterValue(msgspec.Struct, frozen=True):
    """One value that parts are filtered by: as it is stored, as it is shown, and how many parts have it."""

    value: str
    title: str
    count: int


class FilterGroup(msgspec.Struct, frozen=True):
    """Values that exclude each other; `key` is a name of `PartGroup`."""

    key: str
    title: str
    values: tuple[FilterValue, ...]


class PartsList(msgspec.Struct, frozen=True):
    """The list: its rows, how many parts there are in words, and the filters.

    `in_hand` is the row of the part that was selected before, or else the first one.
    """

    rows: tuple[PartRow, ...]
    count: str
    filters: tuple[FilterGroup, ...]
    in_hand: int = 0


def parts_list(
    hits: SearchHits,
    chosen: Mapping[str, Collection[str]],
    settings: LibrarySettings,
    selected: str = "",
    order: PartsOrder | None = None,
) -> PartsList:
    """The list of what was found, by name unless in another order.

    A value that is chosen keeps its filter though no part has it now.
    """
    rows = tuple(ordered_parts(hits.rows, order, settings)[:MOST_LISTED]) if order else hits.rows
    listed = len(rows)
    count = counted(hits.total, "part")
    if listed < hits.total:
        count = f"The first {listed:,} of {count}; type more words or choose a filter to see the others"
    filters = tuple(
        FilterGroup(key, title, _values(hits.groups, key, chosen.get(key, ()), title_of))
        for key, title, title_of in _groups(settings)
    )
    in_hand = next((index for index, row in enumerate(rows) if row.id == selected), 0)
    return PartsList(rows, count, filters, in_hand)


def _values(
    groups: Mapping[PartGroup, int], key: str, chosen: Collection[str], title_of: Callable[[str], str]
) -> tuple[FilterValue, ...]:
    counts = Counter(dict.fromkeys(chosen, 0))
    for group, number in groups.items():
        counts[getattr(group, key)] += number
    made = (FilterValue(value, title_of(value), number) for value, number in counts.items())
    return tuple(sorted(made, key=lambda value: value.title))


def _groups(settings: LibrarySettings) -> tuple[tuple[str, str, Callable[[str], str]], ...]:
    """The filters: key, title, and how a value is shown."""
    categories = {key: category.title for key, category in settings.categories.items()}
    families = {key: title for key, title, _ in family_titles()}
    return (
        ("category", "Category", lambda value: categories.get(value, value or "None")),
        ("state", "State", lambda value: value),
        ("family", "Package family", lambda value: families.get(value, value or "None")),
        ("findings", "Findings", lambda value: "Has findings" if value else "None"),
    )
