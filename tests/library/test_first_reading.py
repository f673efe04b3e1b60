"""A library that this machine reads for the first time: in pieces, beside others, and on after it was broken off."""

import threading
from pathlib import Path

import pytest

from eider.commands.parts import new_parts
from eider.demo.parts import converter_part
from eider.library import Library, open_library
from eider.library.index import part_index as index_module
from eider.library.releases.release_commit import release_bundles
from eider.model.part import DatasheetLink

PARTS = 6


class BrokenOffError(Exception):
    """The reading is broken off."""


@pytest.fixture
def unread(library: Library, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A library with parts, of which this machine knows nothing."""
    like = converter_part(library, DatasheetLink("0" * 64, "x.pdf"))
    release_bundles(library, [new_parts.start_from_part(like, f"NVK-{n}") for n in range(PARTS)], "first")
    library.close()
    for path in (library.folder / ".eider").glob("index.sqlite*"):
        path.unlink()
    monkeypatch.setattr(index_module, "READ_TOGETHER", 1)
    return library.folder


def test_what_was_read_so_far_is_found_and_opened_meanwhile(unread: Path) -> None:
    library, reached, go_on = open_library(unread), threading.Event(), threading.Event()

    def tell(share: float) -> None:
        # Parts come last: all their items have been read by then.
        if share > 0.9:
            reached.set()
            go_on.wait(20)

    thread = threading.Thread(target=library.read_first, args=(tell,))
    thread.start()
    assert reached.wait(20)
    found = library.search()
    assert 0 < len(found) < PARTS
    assert library.load(found[0].id).symbol.pins
    assert library.history(found[0].id)[0].note == "first"
    assert library.index.is_new
    go_on.set()
    thread.join(20)
    assert not library.index.is_new
    assert len(library.search()) == PARTS


def test_a_reading_that_was_broken_off_is_finished_by_the_next_search(unread: Path) -> None:
    library = open_library(unread)

    def tell(share: float) -> None:
        if share > 0.5:
            raise BrokenOffError

    with pytest.raises(BrokenOffError):
        library.read_first(tell)
    assert len(open_library(unread).search()) == PARTS
    assert len(library.search("nvk-3")) == 1
    assert [len(library.history(row.id)) for row in library.search()] == [1] * PARTS


def test_what_another_one_read_meanwhile_is_not_read_again(unread: Path) -> None:
    library, other, told = open_library(unread), open_library(unread), list[float]()

    def tell(share: float) -> None:
        told.append(share)
        if len(told) == 2:
            assert len(other.search()) == PARTS

    library.read_first(tell)
    assert len(told) == 2
    assert len(library.search()) == PARTS


def test_a_release_made_while_the_library_is_read_is_found(unread: Path) -> None:
    library, other, told = open_library(unread), open_library(unread), list[float]()
    like = converter_part(other, DatasheetLink("0" * 64, "x.pdf"))

    def tell(share: float) -> None:
        told.append(share)
        if len(told) == 2:
            release_bundles(other, [new_parts.start_from_part(like, "NVK-LATE")], "second")

    library.read_first(tell)
    assert len(library.search()) == PARTS + 1
    assert len(library.search("late")) == 1
