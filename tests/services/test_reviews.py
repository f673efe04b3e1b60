"""Reviews between two people: requested, seen, declined with notes, approved with ticks, released, and roles."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.commands.facts import fact_edits
from eider.demo.data import chips
from eider.demo.parts import chip_part
from eider.errors import EiderError, InputError
from eider.evidence.evidence_changes import set_evidence
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.sharing.review_refs import read_review
from eider.library.sharing.shared_server import REVIEWS
from eider.model.address import FactAddress, PadAddress
from eider.model.bundle import Bundle
from eider.model.part import DatasheetLink
from eider.model.review import ReviewNote
from eider.services.releasing.part_releasing import BlockedError, release_part
from eider.services.releasing.withdrawing import withdraw_part
from eider.services.sharing.reviews import (
    changes_under_review,
    end_review,
    fetch_reviews,
    judge_review,
    request_review,
    waiting_reviews,
)
from eider.services.sharing.roles import RoleError, require_role
from eider.services.sharing.synchronising import synchronise
from shared_libraries import change_fact, git, shared_pair, sound_server

NAME = "LYN-C1608-100N"
Pair = tuple[Path, Library, Library]


def _capacitor(library: Library) -> Bundle:
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    return chip_part(library, series, size, "100 nF", DatasheetLink("0" * 64, "LYN-C.pdf", 2))


@pytest.fixture
def pair(tmp_path: Path) -> Pair:
    return shared_pair(tmp_path, _capacitor)


def _id(library: Library) -> str:
    return library.find(NAME).id


def _strict(*libraries: Library, two_people: bool = True) -> None:
    for library in libraries:
        library.settings = replace(library.settings, review="required", two_people=two_people)


def _ticked(bundle: Bundle, name: str, by: str) -> Bundle:
    fact = bundle.part.facts[name]
    assert fact.evidence is not None
    return set_evidence(bundle, {FactAddress(name): replace(fact.evidence, confirmed_by=by)})


def test_a_change_is_requested_declined_with_notes_mended_approved_and_released(pair: Pair) -> None:
    server, ours, theirs = pair
    _strict(ours, theirs)
    part_id = _id(ours)
    made = change_fact(ours, part_id, "Shelf", "A7")
    with pytest.raises(EiderError, match="wants a review; request one"):
        release_part(ours, made, "A7")
    request_review(ours, part_id, "it lies in A7 now")
    with pytest.raises(EiderError, match="its review is requested"):
        release_part(ours, made, "A7")
    fetch_reviews(theirs)
    (waiting,) = waiting_reviews(theirs)
    assert (waiting.review.name, waiting.review.requested.by, waiting.review.revision) == (NAME, "Skerry librarian", 1)
    assert waiting.copy.bundle.part.facts["Shelf"].value == "A7"
    assert any("Shelf added" in words for words in changes_under_review(theirs, waiting))
    note = ReviewNote("too near", "Skerry reviewer", "2026-11-28T00:00:00Z", PadAddress("1"))
    judge_review(theirs, part_id, "declined", "B2 it is", [note])
    synchronise(ours)
    stored = read_review(ours, part_id)
    assert stored and stored.review.state == "declined" and stored.review.notes == (note,)
    mended = change_fact(ours, part_id, "Shelf", "B2")
    request_review(ours, part_id, "B2")
    fetch_reviews(theirs)
    shown = read_review(theirs, part_id)
    assert shown and [event.state for event in shown.review.events] == ["requested", "declined", "requested"]
    ticked = _ticked(shown.copy.bundle, "Capacitance", "Skerry reviewer")
    judge_review(theirs, part_id, "approved", "as in the datasheet", ticked=ticked)
    synchronise(ours)
    taken = ours.load(part_id)
    evidence = taken.part.facts["Capacitance"].evidence
    assert evidence and evidence.confirmed_by == "Skerry reviewer", "the ticks come along"
    assert taken.part.facts["Shelf"] == mended.part.facts["Shelf"]
    release_part(ours, taken, "moved to B2")
    assert git(server, "for-each-ref", REVIEWS) == ""
    note_of = ours.history(part_id)[-1].note
    assert note_of.startswith("moved to B2")
    assert f"{NAME} approved by Skerry reviewer <reviewer@skerry.example>" in note_of
    synchronise(theirs)
    assert read_review(theirs, part_id) is None and waiting_reviews(theirs) == ()
    sound_server(server)


def test_an_approval_lapses_when_the_part_changes(pair: Pair) -> None:
    _, ours, theirs = pair
    _strict(ours, theirs)
    part_id = _id(ours)
    change_fact(ours, part_id, "Shelf", "A7")
    request_review(ours, part_id, "A7")
    judge_review(theirs, part_id, "approved", "")
    synchronise(ours)
    with pytest.raises(EiderError, match="changed since it was approved"):
        release_part(ours, change_fact(ours, part_id, "Shelf", "C9"), "C9")
    release_part(ours, change_fact(ours, part_id, "Shelf", "A7"), "A7")
    assert ours.find(NAME).revision == 2


def test_what_cannot_be_done_says_why(pair: Pair) -> None:
    _, ours, theirs = pair
    _strict(ours, theirs)
    part_id = _id(ours)
    with pytest.raises(InputError, match="no working copy"):
        request_review(ours, part_id, "x")
    change_fact(ours, part_id, "Shelf", "A7")
    with pytest.raises(InputError, match="the reviewer reads it first"):
        request_review(ours, part_id, " ")
    with pytest.raises(InputError, match="no review of this part is requested"):
        judge_review(theirs, part_id, "approved", "x")
    request_review(ours, part_id, "x")
    with pytest.raises(InputError, match="two people"):
        judge_review(ours, part_id, "approved", "x")
    with pytest.raises(InputError, match="say why it is declined"):
        judge_review(theirs, part_id, "declined", "")
    shown = read_review(theirs, part_id)
    assert shown
    other = fact_edits.set_fact(shown.copy.bundle, "Shelf", "Z")
    with pytest.raises(InputError, match="ticks values and changes none"):
        judge_review(theirs, part_id, "approved", "x", ticked=other)
    with pytest.raises(InputError, match="Skerry librarian requested this review"):
        end_review(theirs, part_id)
    end_review(ours, part_id)
    with pytest.raises(InputError, match="no review"):
        end_review(ours, part_id)
    blocked = fact_edits.set_fact(ours.load(part_id), "Capacitance", "")
    ours.copies.save(WorkingCopy(bundle=blocked))
    with pytest.raises(BlockedError, match="Capacitance is empty"):
        request_review(ours, part_id, "x")


def test_without_a_server_reviews_stay_on_this_machine(library: Library) -> None:
    made = _capacitor(library)
    library.copies.save(WorkingCopy(bundle=made))
    request_review(library, made.part.id, "new")
    assert [stored.review.name for stored in waiting_reviews(library)] == [NAME]
    judge_review(library, made.part.id, "approved", "good")
    release_part(library, made, "first release")
    assert "approved by" in library.history(made.part.id)[0].note
    assert waiting_reviews(library) == () and read_review(library, made.part.id) is None


def test_roles_allow_what_they_say(pair: Pair) -> None:
    _, ours, theirs = pair
    people = {"librarian@skerry.example": "engineer", "reviewer@skerry.example": "reviewer"}
    for library in (ours, theirs):
        library.settings = replace(library.settings, people=people)
    part_id = _id(ours)
    made = change_fact(ours, part_id, "Shelf", "A7")
    with pytest.raises(RoleError, match="has the role engineer"):
        release_part(ours, made, "A7")
    with pytest.raises(RoleError, match="may not withdraw parts; a librarian may"):
        withdraw_part(ours, part_id, "x")
    request_review(ours, part_id, "A7")
    with pytest.raises(RoleError, match="may not request a review"):
        request_review(theirs, part_id, "x")
    judge_review(theirs, part_id, "approved", "good")
    ours.settings = replace(ours.settings, people={"someone@skerry.example": "librarian"})
    for action in ("release", "claim", "request", "judge", "withdraw"):
        with pytest.raises(RoleError, match="reader"):
            require_role(ours, action)  # type: ignore[arg-type]


def test_the_command(pair: Pair) -> None:
    _, ours, theirs = pair
    a, b = ours.folder, theirs.folder
    change_fact(ours, _id(ours), "Shelf", "A7")
    assert answer("review", a, NAME, "--request", "--note", "A7")["state"] == "in review"
    assert [r["name"] for r in answer("review", b)["waiting"]] == [NAME]
    declined = answer("review", b, NAME, "--decline", "--at", "lands.pads.1=too short")
    assert declined["state"] == "declined" and declined["review"]["notes"][0]["place"] == "lands.pads.1"
    assert answer("review", a, NAME, "--request", "--note", "again")["state"] == "in review"
    assert answer("review", b, NAME, "--approve")["state"] == "approved"
    assert "say what is to be done" in eider("review", a, NAME, status=2).stderr
    assert "expected PLACE=TEXT" in eider("review", b, NAME, "--decline", "--at", "x", status=2).stderr
    assert answer("review", a, NAME, "--end")["state"] == "changed"
