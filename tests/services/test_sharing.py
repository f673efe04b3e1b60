"""A library of two people over a real git server: followed, claimed, released at once, cut, rewound, offline."""

import datetime as dt
import os
import shutil
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.errors import EiderError, InputError
from eider.library import Library, init_library, open_library
from eider.library.documents.shared_tables import SHARED_LISTS
from eider.library.errors import LibraryError
from eider.library.git.commit_reading import Person
from eider.library.git.git_program import OfflineError, checked_address
from eider.library.git.versions import Versions
from eider.library.sharing import shared_server
from eider.library.sharing.server_sync import RewrittenError
from eider.library.sharing.shared_server import CLAIMS, Claim, ClaimedError, SharedServer
from eider.model.bundle import Bundle
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.claims import TAKE_OVER_DAYS, all_claims, claim_part, give_back, server_of, take_over
from eider.services.sharing.conflicts import conflict_differences, settle_conflict
from eider.services.sharing.synchronising import folder_for, open_shared, share_library, synchronise
from eider.services.tasks import CancelledError, Task
from shared_libraries import again, bare_server, begin, capacitor, change_fact, git, shared_pair, sound_server

NAME = "LYN-C1608-100N"
Pair = tuple[Path, Library, Library]


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


def _id(library: Library) -> str:
    return library.find(NAME).id


def test_what_one_releases_the_other_has_after_synchronising(pair: Pair) -> None:
    server, ours, theirs = pair
    assert theirs.find(NAME).revision == 1
    release_part(ours, change_fact(ours, _id(ours), "Shelf", "A7"), "it lies in A7 now")
    assert theirs.find(NAME).revision == 1
    report = synchronise(theirs)
    assert [(r.name, r.kind, r.revision, r.by, r.note) for r in report.received] == [
        (NAME, "part", 2, "Skerry librarian", "it lies in A7 now")
    ]
    assert theirs.load(_id(theirs)).part.facts["Shelf"].value == "A7"
    assert (theirs.folder / "parts").is_dir() and git(theirs.folder, "status", "--porcelain", "-uno") == ""
    nothing = synchronise(theirs)
    assert (nothing.received, nothing.sent, nothing.conflicts) == ((), 0, ())
    sound_server(server)


def test_two_that_release_at_once_both_come_through(pair: Pair) -> None:
    server, ours, theirs = pair
    made = [
        replace(capacitor(ours), part=replace(capacitor(ours).part, id=f"{n:016d}", name=f"LYN-X{n}")) for n in (1, 2)
    ]
    faults: list[BaseException] = []

    def release(library: Library, bundle: Bundle) -> None:
        try:
            release_part(again(library), bundle, "at once")
        except BaseException as fault:  # every fault of a thread is told below
            faults.append(fault)

    threads = [threading.Thread(target=release, args=pairing) for pairing in zip((ours, theirs), made, strict=True)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert faults == []
    for library in (ours, theirs):
        synchronise(library)
        assert {row.name for row in library.search("LYN-X")} == {"LYN-X1", "LYN-X2"}
    sound_server(server)


def test_a_number_is_not_given_twice(pair: Pair) -> None:
    server, ours, theirs = pair
    mine, other = change_fact(ours, _id(ours), "Shelf", "A7"), change_fact(theirs, _id(theirs), "Shelf", "B2")
    release_part(ours, mine, "A7")
    with pytest.raises(EiderError, match="released as revision 2 by Skerry librarian meanwhile"):
        release_part(theirs, other, "B2")
    assert theirs.load(_id(theirs)).part.facts["Shelf"].value == "B2", "what was typed is still there"
    assert synchronise(theirs).conflicts == (NAME,)
    sound_server(server)


@pytest.mark.parametrize(("choice", "shelf", "revision"), [("mine", "B2", 3), ("theirs", "A7", 2), ("both", "A7", 2)])
def test_a_conflict_is_settled_by_the_part(pair: Pair, choice: str, shelf: str, revision: int) -> None:
    _, ours, theirs = pair
    part_id = _id(ours)
    release_part(ours, change_fact(ours, part_id, "Shelf", "A7"), "A7")
    change_fact(theirs, part_id, "Shelf", "B2")
    synchronise(theirs)
    assert any("Shelf" in words for words in conflict_differences(theirs, part_id))
    told = settle_conflict(theirs, part_id, choice, "LYN-OTHER")  # type: ignore[arg-type]
    assert NAME in told
    if choice == "mine":
        release_part(theirs, theirs.load(part_id), "B2 after all")
    if choice == "both":
        assert theirs.load(theirs.find("LYN-OTHER").id).part.facts["Shelf"].value == "B2"
    part = theirs.load(part_id).part
    assert part.facts["Shelf"].value == shelf and part.release and part.release.revision == revision
    assert conflict_differences(theirs, part_id) == ()
    with pytest.raises(InputError, match="no newer revision"):
        settle_conflict(theirs, part_id, "mine")


def test_a_claim_keeps_others_from_releasing_until_it_is_given_back_or_released(pair: Pair) -> None:
    server, ours, theirs = pair
    part_id = _id(ours)
    made = claim_part(ours, part_id, NAME, "wider lands")
    assert claim_part(again(ours), part_id, NAME) == made, "kept over a restart; claimed again it is the same"
    with pytest.raises(ClaimedError, match=r"claimed by Skerry librarian since .* \(wider lands\)"):
        claim_part(theirs, part_id, NAME)
    with pytest.raises(ClaimedError, match="claimed by Skerry librarian"):
        release_part(theirs, change_fact(theirs, part_id, "Shelf", "B2"), "B2")
    with pytest.raises(InputError, match="only Skerry librarian can give it back"):
        give_back(theirs, part_id)
    assert [c.name for c in all_claims(theirs).values()] == [NAME]
    release_part(ours, change_fact(ours, part_id, "Shelf", "A7"), "A7")
    assert git(server, "for-each-ref", CLAIMS) == "", "released in the same push"
    synchronise(theirs)
    assert all_claims(theirs) == {} == all_claims(ours)
    claim_part(theirs, part_id, NAME)
    give_back(theirs, part_id)
    with pytest.raises(InputError, match="no claim to give back"):
        give_back(theirs, part_id)
    sound_server(server)


def test_a_claim_is_taken_over_after_a_week_with_a_note_and_leaves_a_trace(pair: Pair) -> None:
    _, ours, theirs = pair
    part_id = _id(ours)
    claim_part(ours, part_id, NAME)
    later = dt.datetime.now(dt.UTC) + dt.timedelta(days=TAKE_OVER_DAYS)
    with pytest.raises(InputError, match="the note stays with it"):
        take_over(theirs, part_id, " ", now=later)
    with pytest.raises(InputError, match="for 0 days; others can take it after 7"):
        take_over(theirs, part_id, "they left")
    # A clock that is a year behind says nothing.
    with pytest.raises(InputError, match="for 0 days"):
        take_over(theirs, part_id, "they left", now=later - dt.timedelta(days=365))
    made = take_over(theirs, part_id, "they left", now=later)
    assert (made.by, made.before) == ("Skerry reviewer", "Skerry librarian")
    assert len(git(theirs.folder, "rev-list", CLAIMS + part_id).split()) == 2
    server_of(ours).fetch_claims()
    with pytest.raises(ClaimedError, match="Skerry reviewer"):
        release_part(ours, change_fact(ours, part_id, "Shelf", "A7"), "A7")


def test_of_two_that_claim_at_once_exactly_one_wins(pair: Pair) -> None:
    _, ours, theirs = pair
    for round_number in range(12):
        won: list[str] = []

        def claim(library: Library, item: str, won: list[str]) -> None:
            person = library.person()
            made = Claim(item, item, person.name, person.email, "2026-11-28T00:00:00Z")
            try:
                SharedServer(library).make_claim(made)
                won.append(person.name)
            except ClaimedError:
                return

        item = f"item{round_number}"
        threads = [threading.Thread(target=claim, args=(again(lib), item, won)) for lib in (ours, theirs)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert len(won) == 1, f"round {round_number}: {won}"


def test_offline_nothing_is_lost_and_nothing_is_claimed_or_released(pair: Pair) -> None:
    server, ours, _ = pair
    moved = server.rename(server.with_name("gone.git"))
    made, head = change_fact(ours, _id(ours), "Shelf", "A7"), ours.versions.head
    for act in (
        lambda: synchronise(ours),
        lambda: claim_part(ours, _id(ours), NAME),
        lambda: release_part(ours, made, "A7"),
        lambda: SHARED_LISTS.save(ours, "a", ("part",)),
    ):
        with pytest.raises(OfflineError, match="no git repository at this address"):
            act()
    assert ours.versions.head == head and again(ours).load(_id(ours)) == made
    assert again(ours).search("100 nF"), "reading goes on"
    moved.rename(server)
    release_part(ours, made, "A7")
    assert ours.find(NAME).revision == 2


@pytest.mark.parametrize("way", ["rewound", "rewritten", "gone"])
def test_history_that_was_rewritten_is_told_and_not_followed(pair: Pair, way: str) -> None:
    server, ours, theirs = pair
    release_part(ours, change_fact(ours, _id(ours), "Shelf", "A7"), "A7")
    synchronise(theirs)
    head = theirs.versions.head
    if way == "rewound":
        git(server, "update-ref", "refs/heads/main", git(server, "rev-parse", "main~1"))
    elif way == "gone":
        git(server, "update-ref", "-d", "refs/heads/main")
    else:
        tree = git(server, "rev-parse", "main^{tree}")
        other = git(server, "-c", "user.name=x", "-c", "user.email=x@x", "commit-tree", tree, "-m", "other")
        git(server, "update-ref", "refs/heads/main", other)
    for library in (theirs, ours):
        with pytest.raises(RewrittenError, match="nothing was followed|Nothing was followed"):
            synchronise(library)
    assert theirs.versions.head == head and theirs.find(NAME).revision == 2


@pytest.mark.parametrize("count", [0, 1, 40, 200, 500])
def test_a_connection_that_is_cut_leaves_all_or_nothing(pair: Pair, count: int) -> None:
    server, ours, theirs = pair
    made, head = change_fact(ours, _id(ours), "Shelf", "A7"), ours.versions.head
    git(ours.folder, "config", "remote.origin.receivepack", f"head -c {count} | git-receive-pack")
    with pytest.raises(LibraryError):
        release_part(ours, made, "A7")
    assert ours.versions.head == head == git(server, "rev-parse", "main")
    assert again(ours).load(_id(ours)) == made
    sound_server(server)
    git(ours.folder, "config", "--unset", "remote.origin.receivepack")
    release_part(ours, made, "A7")
    assert [r.revision for r in synchronise(theirs).received] == [2]


def test_a_server_that_refuses_is_heard(pair: Pair) -> None:
    server, ours, _ = pair
    hook = server / "hooks" / "pre-receive"
    hook.write_text("#!/bin/sh\necho 'parts with blockers are not taken' >&2\nexit 1\n", encoding="utf-8")
    hook.chmod(0o755)
    head = ours.versions.head
    with pytest.raises(LibraryError, match="parts with blockers are not taken"):
        release_part(ours, change_fact(ours, _id(ours), "Shelf", "A7"), "A7")
    assert ours.versions.head == head


@pytest.mark.parametrize("after", [0.05, 0.3, 0.6, 0.9, 1.2])
def test_a_release_that_is_killed_is_there_as_a_whole_or_not_at_all(pair: Pair, after: float) -> None:
    server, ours, theirs = pair
    change_fact(ours, _id(ours), "Shelf", "A7")
    ours.close()
    command = [sys.executable, "-m", "eider", "release", str(ours.folder), NAME, "--note", "A7"]
    process = subprocess.Popen(command, env={**os.environ, "PYTHONPATH": "src"}, stdout=subprocess.DEVNULL)
    try:
        process.wait(after)
    except subprocess.TimeoutExpired:
        process.kill()
    process.wait()
    sound_server(server)
    library = again(ours)
    report = synchronise(library)
    assert report.conflicts == ()
    revision = library.find(NAME).revision
    assert revision in (1, 2)
    facts = library.load(_id(library)).part.facts
    assert facts["Shelf"].value == "A7", "typed or released, it is there"
    synchronise(theirs)
    assert theirs.find(NAME).revision == revision
    if revision == 1:
        release_part(library, library.load(_id(library)), "A7")


def test_a_task_is_cancelled(pair: Pair) -> None:
    _, ours, _ = pair
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError):
        synchronise(ours, task)


@pytest.mark.parametrize(
    "address", ["", "-x", "--upload-pack=touch /tmp/x", "ext::sh -c 'touch /tmp/x'", "fd::17", "https:// x", "a\nb"]
)
def test_an_address_that_is_none_is_refused(address: str, tmp_path: Path) -> None:
    with pytest.raises(LibraryError, match="not an address"):
        checked_address(address)
    with pytest.raises(LibraryError, match="not an address"):
        open_shared(address, tmp_path / "x")


@pytest.mark.parametrize(
    "address",
    [
        "https://git.skerry.example/holm.git",
        "ssh://git@x/holm",
        "git@x.example:holm.git",
        "/srv/holm.git",
        "../holm.git",
        "holm.git",
    ],
)
def test_usual_addresses_are_taken(address: str) -> None:
    assert checked_address(f" {address} ") == address
    assert folder_for(address) == "holm"


def test_what_is_no_library_is_not_opened(tmp_path: Path, pair: Pair) -> None:
    server, ours, _ = pair
    other = bare_server(tmp_path / "other.git")
    with pytest.raises(LibraryError, match=r"has no eider-library\.toml"):
        open_shared(f"file://{other}", tmp_path / "made")
    assert not (tmp_path / "made").exists()
    with pytest.raises(LibraryError, match="not a new or empty folder"):
        open_shared(f"file://{server}", ours.folder)
    with pytest.raises(OfflineError, match="no git repository"):
        open_shared(f"file://{tmp_path}/nowhere.git", tmp_path / "made")
    with pytest.raises(LibraryError, match="has commits already"):
        share_library(init_library(tmp_path / "third", "x", Person("A", "a@b.example")), f"file://{server}")
    lone = init_library(tmp_path / "lone", "x", Person("A", "a@b.example"))
    with pytest.raises(LibraryError, match="is not shared"):
        synchronise(lone)
    assert all_claims(lone) == {}


def test_a_draft_waits_on_this_machine(pair: Pair) -> None:
    _, ours, _ = pair
    begin(ours, "LYN-NEW")
    assert synchronise(ours).waiting == ("LYN-NEW",)


def test_the_commands(pair: Pair, tmp_path: Path) -> None:
    server, ours, theirs = pair
    a, b = str(ours.folder), str(theirs.folder)
    claimed = answer("claim", a, NAME, "--why", "wider")
    assert claimed["claim"]["by"] == "Skerry librarian"
    assert "claimed by Skerry librarian" in eider("claim", b, NAME, status=2).stderr
    assert answer("unclaim", a, NAME)["claim"] is None
    change_fact(ours, _id(ours), "Shelf", "A7")
    eider("release", a, NAME, "--note", "A7")
    change_fact(theirs, _id(theirs), "Shelf", "B2")
    report = answer("sync", b)
    assert (len(report["received"]), report["sent"], report["conflicts"]) == (1, 0, [NAME])
    assert answer("settle", b, NAME)["differences"]
    assert answer("settle", b, NAME, "--theirs")["settled"] == "theirs"
    assert "no newer revision" in eider("settle", b, NAME, status=2).stderr
    opened = answer("open", f"file://{server}", "--to", tmp_path / "third", "--user", "X <x@x.example>", "--no-window")
    assert opened["library"] == str(tmp_path / "third")
    fourth = init_library(tmp_path / "fourth", "x", Person("A", "a@b.example"))
    shared = answer("share", fourth.folder, str(bare_server(tmp_path / "fourth.git")))
    assert shared["sent"] == 1


def test_claims_are_read_by_one_call_of_git_also_those_made_by_hand(
    pair: Pair, monkeypatch: pytest.MonkeyPatch
) -> None:
    ours = pair[1]
    claim_part(ours, _id(ours), NAME, "the shelf")
    head = git(ours.folder, "rev-parse", "HEAD")
    refs = "".join(f"create refs/eider/claims/item{number} {head}\n" for number in range(500))
    subprocess.run(["git", "-C", str(ours.folder), "update-ref", "--stdin"], input=refs, text=True, check=True)
    calls: list[object] = []
    real = shared_server.run_git
    monkeypatch.setattr(shared_server, "run_git", lambda *said, **more: (calls.append(said), real(*said, **more))[1])
    found = all_claims(ours)
    assert len(calls) == 1
    assert len(found) == 501
    assert found[_id(ours)].why == "the shelf"
    assert found["item7"].by == ours.person().name and found["item7"].name == "item7"


def test_in_a_fresh_clone_git_s_index_is_not_made_anew(
    pair: Pair, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    server, ours, _ = pair
    clone = open_shared(f"file://{server}", tmp_path / "third", Person("Third", "third@skerry.example"))
    release_part(ours, change_fact(ours, _id(ours), "Shelf", "A7"), "A7")
    settled: list[int] = []
    real = Versions.settle_index
    monkeypatch.setattr(
        Versions, "settle_index", lambda v, paths, since="": (settled.append(len(paths)), real(v, paths, since))[1]
    )
    synchronise(clone)
    assert settled == [1], "the part alone, none of what the clone had already"
    assert git(clone.folder, "status", "--porcelain") == ""
