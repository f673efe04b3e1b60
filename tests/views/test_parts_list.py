"""The list of the Shelf: how many parts there are, and what the filters hold."""

from eider.library import Library
from eider.library.index.part_index import PartGroup, PartRow, SearchHits
from eider.views.parts_list import FilterValue, parts_list


def row(name: str) -> PartRow:
    return PartRow(f"id-{name}", name, "ic", "", "released", 1, "SOIC", "gullwing-dual", {}, 0, 0, 0, "")


HITS = SearchHits(
    (row("A"), row("B")),
    1234,
    {
        PartGroup("ic", "released", "gullwing-dual", ""): 1000,
        PartGroup("ic", "draft", "", "some"): 200,
        PartGroup("odd", "draft", "", ""): 34,
    },
)


def test_a_list_that_is_cut_says_of_how_many(library: Library) -> None:
    made = parts_list(HITS, {}, library.settings)
    assert made.count == "The first 2 of 1,234 parts; type more words or choose a filter to see the others"
    assert parts_list(SearchHits(HITS.rows, 2, HITS.groups), {}, library.settings).count == "2 parts"


def test_the_filters_count_all_that_was_found(library: Library) -> None:
    groups = {group.key: group.values for group in parts_list(HITS, {}, library.settings).filters}
    # The number of parts that have a value is the sum over all groups with it.
    assert groups["category"] == (FilterValue("ic", "Integrated circuit", 1200), FilterValue("odd", "odd", 34))
    assert groups["state"] == (FilterValue("draft", "draft", 234), FilterValue("released", "released", 1000))
    assert groups["family"] == (FilterValue("gullwing-dual", "Dual gull-wing", 1000), FilterValue("", "None", 234))
    assert groups["findings"] == (FilterValue("some", "Has findings", 200), FilterValue("", "None", 1034))


def test_a_chosen_value_stays_though_nothing_has_it(library: Library) -> None:
    made = parts_list(HITS, {"state": {"changed"}}, library.settings)
    assert FilterValue("changed", "changed", 0) in next(g.values for g in made.filters if g.key == "state")


def test_the_part_in_hand_is_found_again_or_else_the_first(library: Library) -> None:
    assert parts_list(HITS, {}, library.settings, "id-B").in_hand == 1
    assert parts_list(HITS, {}, library.settings, "gone").in_hand == 0
