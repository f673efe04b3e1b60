"""Two connections to one index that find the same change at the same time."""

from collections.abc import Sequence
from threading import Thread

import pytest

from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.index import index_writer as index_module
from eider.library.index.part_index import Index, PartRow
from eider.model.bundle import Bundle


def test_two_that_find_the_same_working_copy_at_once_both_have_it(
    library: Library, sound: Bundle, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = Index(library.files, library.versions, library.copies)
    first.refresh()
    library.copies.save(WorkingCopy(bundle=sound))
    plain_text = index_module.plain_text
    others: list[Thread] = []
    faults: list[Exception] = []

    def follow_elsewhere() -> None:
        second = Index(library.files, library.versions, library.copies)
        try:
            second.follow_copies()
        except Exception as fault:
            faults.append(fault)
        second.close()

    def text_slowly(text: str) -> str:
        # What is asked last before the part is put in.
        if not others:
            others.append(Thread(target=follow_elsewhere))
            others[0].start()
            # Long enough for the other to put the part in, if it may.
            others[0].join(0.5)
        return plain_text(text)

    monkeypatch.setattr(index_module, "plain_text", text_slowly)
    first.follow_copies()
    others[0].join()
    assert faults == []
    assert [row.name for row in first.search().rows] == [sound.part.name]


def test_a_part_that_another_takes_away_during_a_search_is_not_found(
    library: Library, sound: Bundle, monkeypatch: pytest.MonkeyPatch
) -> None:
    library.copies.save(WorkingCopy(bundle=sound))
    first = Index(library.files, library.versions, library.copies)
    first.refresh()
    rows_of = Index._rows_of

    def rows_later(index: Index, rowids: Sequence[int]) -> list[PartRow | None]:
        # Between the texts and the rows another connection drops the part.
        if library.copies.sum_of(sound.part.id):
            library.copies.discard(sound.part.id)
            second = Index(library.files, library.versions, library.copies)
            second.refresh()
            second.close()
        return rows_of(index, rowids)

    monkeypatch.setattr(Index, "_rows_of", rows_later)
    found = first.search()
    assert (found.rows, found.total) == ((), 0)
