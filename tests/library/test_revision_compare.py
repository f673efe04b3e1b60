from hypothesis import given
from hypothesis import strategies as st

from eider.library.git.revision_compare import compare_revisions

DATA = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=5),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(min_size=1, max_size=4), inner, max_size=3),
    max_leaves=10,
)


@given(DATA)
def test_the_same_has_no_differences(data: object) -> None:
    assert list(compare_revisions(data, data)) == []


def test_records_are_told_apart_by_their_number() -> None:
    before = {"pads": [{"number": "1", "x": 0}, {"number": "2", "x": 1}]}
    after = {"pads": [{"number": "2", "x": 5}, {"number": "3", "x": 9}]}
    assert [d.words for d in compare_revisions(before, after)] == [
        "pads[1] removed, was {'number': '1', 'x': 0}",
        "pads[2].x changed from 1 to 5",
        "pads[3] added: {'number': '3', 'x': 9}",
    ]
