"""Servers that are full, hold too much or the wrong things, and clocks that are wrong: told, and nothing lost."""

import datetime as dt
import os
import shutil
import stat
from pathlib import Path

import pytest

from eider.commands.facts.fact_edits import set_about
from eider.errors import EiderError, InputError
from eider.library import Library, open_library
from eider.library.errors import LibraryError
from eider.library.git import commit_reading, versions
from eider.library.releases.release_commit import release_bundles
from eider.library.sharing.shared_server import SharedServer
from eider.services.releasing.library_history import library_timeline
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing import synchronising as sharing
from eider.services.sharing.claims import TAKE_OVER_DAYS, claim_part, take_over
from eider.services.sharing.synchronising import open_shared, synchronise
from shared_libraries import REVIEWER, again, capacitor, change_fact, git, shared_pair, sound_server

NAME = "LYN-C1608-100N"
Pair = tuple[Path, Library, Library]
YEAR = dt.timedelta(days=365)


@pytest.fixture(scope="module")
def prepared(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("shared")
    shared_pair(folder, capacitor)
    return folder


@pytest.fixture
def pair(prepared: Path, tmp_path: Path) -> Pair:
    folder = shutil.copytree(prepared, tmp_path / "shared")
    for name in ("ours", "theirs"):
        git(folder / name, "config", "remote.origin.url", f"file://{folder / 'server.git'}")
    return folder / "server.git", open_library(folder / "ours"), open_library(folder / "theirs")


def test_a_server_that_is_full_takes_nothing_and_loses_nothing(pair: Pair, tmp_path: Path) -> None:
    server, ours, theirs = pair
    # What the server writes stops at 1 kB, as on a disk without room.
    full = tmp_path / "full-server"
    full.write_text('#!/bin/sh\ntrap "" XFSZ\nulimit -f 2\nexec git-receive-pack "$@"\n')
    full.chmod(full.stat().st_mode | stat.S_IXUSR)
    git(ours.folder, "config", "remote.origin.receivepack", str(full))
    part_id, head = ours.find(NAME).id, ours.versions.head
    changed = change_fact(ours, part_id, "Shelf", "A7 " + os.urandom(4000).hex())
    with pytest.raises(EiderError, match="the server could not store it .*Nothing was changed"):
        release_part(ours, changed, "A7")
    assert ours.versions.head == head == git(server, "rev-parse", "main")
    assert again(ours).load(part_id) == changed
    sound_server(server)
    git(ours.folder, "config", "--unset", "remote.origin.receivepack")
    release_part(ours, changed, "A7")
    assert [made.revision for made in synchronise(theirs).received if made.kind == "part"] == [2]
    sound_server(server)


@pytest.mark.parametrize("wrong", [-YEAR, YEAR])
def test_a_clock_that_is_a_year_off_changes_no_order(
    pair: Pair, wrong: dt.timedelta, monkeypatch: pytest.MonkeyPatch
) -> None:
    _, ours, theirs = pair
    part_id = ours.find(NAME).id

    class OffClock(dt.datetime):
        @classmethod
        def now(cls, tz: dt.tzinfo | None = None) -> "dt.datetime":  # type: ignore[override]
            return dt.datetime.now(tz) + wrong

    with monkeypatch.context() as patch:
        patch.setattr(versions, "datetime", OffClock)
        release_part(ours, change_fact(ours, part_id, "Shelf", "A7"), "by a wrong clock")
    assert [made.revision for made in synchronise(theirs).received if made.kind == "part"] == [2]
    release_part(theirs, change_fact(theirs, part_id, "Shelf", "B2"), "by a right one")
    synchronise(ours)
    history = ours.history(part_id)
    assert [made.revision for made in history] == [1, 2, 3]
    assert abs(int(history[1].at[:4]) - int(history[2].at[:4])) == 1
    notes = [made.note for made in library_timeline(again(ours))]
    assert notes.index("by a right one") < notes.index("by a wrong clock")


@pytest.mark.parametrize("days", [-400, 3, 400])
def test_a_claim_that_lies_ahead_of_the_clock_is_not_taken_and_says_so(pair: Pair, days: int) -> None:
    _, ours, theirs = pair
    part_id = ours.find(NAME).id
    claim_part(ours, part_id, NAME, "wider lands")
    now = dt.datetime.now(dt.UTC) + dt.timedelta(days=days)
    if days >= TAKE_OVER_DAYS:
        assert take_over(theirs, part_id, "they left", now=now).before == "Skerry librarian"
        return
    with pytest.raises(InputError, match="others can take it after 7") as said:
        take_over(theirs, part_id, "in a hurry", now=now)
    assert ("ahead of this machine's clock: one of the two is wrong" in str(said.value)) == (days < 0)


@pytest.mark.parametrize("place", ["refs/heads/b", "refs/eider/claims/c"])
def test_a_server_with_too_many_refs_is_not_opened(
    pair: Pair, place: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    server, ours, _ = pair
    monkeypatch.setattr(sharing, "MOST_REFS", 40)
    refs = "".join(f"{ours.versions.head} {place}{number:03}\n" for number in range(50))
    (server / "packed-refs").write_text(refs)
    with pytest.raises(LibraryError, match="branches, claims and reviews; no library has so many"):
        open_shared(f"file://{server}", tmp_path / "opened", REVIEWER)
    assert not (tmp_path / "opened").exists()


def test_many_tags_are_nothing_to_a_library(pair: Pair, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    server, ours, _ = pair
    monkeypatch.setattr(sharing, "MOST_REFS", 40)
    (server / "packed-refs").write_text(
        "".join(f"{ours.versions.head} refs/tags/t{number:03}\n" for number in range(50))
    )
    assert len(open_shared(f"file://{server}", tmp_path / "opened", REVIEWER).search()) == 1
    assert git(tmp_path / "opened", "tag") == ""


def test_names_that_differ_only_by_case_are_two_parts(pair: Pair) -> None:
    _, ours, theirs = pair
    other = capacitor(ours)
    small = set_about(other, name=NAME.lower())
    release_bundles(ours, [small], "small letters")
    synchronise(theirs)
    assert sorted(row.name for row in theirs.search()) == [NAME, NAME.lower()]
    assert theirs.find(NAME).id != theirs.find(NAME.lower()).id


def test_an_item_that_is_too_large_is_told_and_the_rest_is_found(
    pair: Pair, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    server, ours, _ = pair
    path = "parts/capacitor/0/0/0/HUGE.part.json"
    ours.versions.commit({path: b'{"name": "' + b"x" * 3_000_000 + b'"}'}, "by hand", ours.person())
    git(ours.folder, "push", "--quiet", "origin", "main")
    monkeypatch.setattr(commit_reading, "MOST_IN_ITEM", 2_000_000)
    theirs = open_shared(f"file://{server}", tmp_path / "opened", REVIEWER)
    assert [row.name for row in theirs.search()] == [NAME]
    with pytest.raises(LibraryError, match="HUGE.part.json has 3 MB, more than the 2 MB that Eider reads"):
        theirs.versions.read(path)


def test_a_claim_ref_that_is_no_claim_is_shown_as_held(pair: Pair) -> None:
    server, ours, theirs = pair
    part_id = ours.find(NAME).id
    git(server, "update-ref", f"refs/eider/claims/{part_id}", ours.versions.head)
    SharedServer(theirs).fetch_claims()
    held = SharedServer(theirs).claim_of(part_id)
    assert held is not None and held.by == "Skerry librarian"
