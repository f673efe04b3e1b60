"""Reviews: a working copy is shown to others, who decline it with notes or approve it before it is released."""

from collections.abc import Sequence

import msgspec

from eider.commands.parts.evaluation import evaluate_part
from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.sharing.review_refs import StoredReview, all_reviews, drop_review, read_review, write_review
from eider.library.sharing.shared_server import SharedServer, shared_address
from eider.model.bundle import Bundle
from eider.model.review import Review, ReviewEvent, ReviewNote, ReviewState
from eider.reports.proof_changes import ProofChanges
from eider.services.parts.part_rules import rules_for
from eider.services.releasing.change_words import difference_words
from eider.services.releasing.part_releasing import BlockedError
from eider.services.sharing.review_approval import without_ticks
from eider.services.sharing.roles import require_role

replace = msgspec.structs.replace


def fetch_reviews(library: Library) -> None:
    """Ask the server for claims and reviews; nothing is asked where the library is not shared.

    Raises:
        OfflineError: the server cannot be reached.
    """
    if shared_address(library.folder):
        SharedServer(library).fetch_claims()


def waiting_reviews(library: Library) -> tuple[StoredReview, ...]:
    """The reviews that wait for someone's word, the oldest request first."""
    found = [stored for stored in all_reviews(library).values() if stored.review.state == "requested"]
    return tuple(sorted(found, key=lambda stored: stored.review.requested.at))


def request_review(library: Library, part_id: str, note: str) -> Review:
    """Show the working copy of a part to others; again after a decline it goes on.

    Raises:
        InputError: there is no note or no working copy. BlockedError: it has blockers; resolve them first.
        RoleError: the person may not. ConflictError, OfflineError: nothing was requested.
    """
    require_role(library, "request")
    if not note.strip():
        raise InputError("say what was changed and why; the reviewer reads it first")
    copy = library.copies.load(part_id)
    if copy is None:
        raise InputError("there is no working copy of this part; change something, then request a review")
    outcome = evaluate_part(copy.bundle, rules_for(library, copy.bundle))
    blockers = tuple(finding for finding in outcome.findings if finding.severity == "blocker")
    if blockers:
        raise BlockedError(copy.bundle.part.name, blockers)
    fetch_reviews(library)
    before, release = read_review(library, part_id), copy.bundle.part.release
    event = _event(library, "requested", note)
    review = Review(
        part=part_id,
        name=copy.bundle.part.name,
        revision=release.revision if release else 0,
        events=(*(before.review.events if before else ()), event),
        notes=before.review.notes if before else (),
    )
    shown = WorkingCopy(bundle=outcome.bundle, findings=outcome.counts)
    write_review(library, review, shown, note.strip(), before.commit if before else "")
    return review


def _event(library: Library, state: ReviewState, note: str) -> ReviewEvent:
    person = library.person()
    return ReviewEvent(state, person.name, person.email, utc_now(), note.strip())


def judge_review(
    library: Library,
    part_id: str,
    state: ReviewState,
    note: str,
    notes: Sequence[ReviewNote] = (),
    ticked: Bundle | None = None,
) -> Review:
    """Approve or decline; `ticked` is the part with the values that the reviewer ticked, and no other change.

    Raises:
        InputError: nothing is requested, a decline has no note, the library wants two people and this is the one who
            requested it, or `ticked` changes more than ticks. RoleError: the person may not.
        ConflictError, OfflineError: nothing was changed.
    """
    require_role(library, "judge")
    fetch_reviews(library)
    stored = read_review(library, part_id)
    if stored is None or stored.review.state != "requested":
        raise InputError("no review of this part is requested")
    if state == "declined" and not note.strip() and not notes:
        raise InputError("say why it is declined, so that it can be put right")
    if library.settings.two_people and stored.review.requested.email == library.person().email:
        raise InputError("this library wants two people: someone else than who requested the review")
    copy = stored.copy
    if ticked is not None:
        if without_ticks(ticked) != without_ticks(copy.bundle):
            raise InputError("a review ticks values and changes none; decline it with a note on what is to be changed")
        copy = replace(copy, bundle=ticked)
    event = _event(library, state, note)
    review = replace(stored.review, events=(*stored.review.events, event), notes=(*stored.review.notes, *notes))
    write_review(library, review, copy, note.strip() or state, stored.commit)
    return review


def changes_since_release(library: Library, bundle: Bundle) -> ProofChanges | None:
    """What a part changes in the revision that it was begun from; None for a new part and for one without changes."""
    release = bundle.part.release
    if release is None:
        return None
    before = library.load_release(bundle.part.id, release.revision)
    words = difference_words(before, bundle)
    return ProofChanges(before, f"revision {release.revision}", words) if words else None


def changes_under_review(library: Library, stored: StoredReview) -> tuple[str, ...]:
    """What a part under review changes in the revision that it was begun from, in words; nothing of a new part."""
    if not stored.review.revision:
        return ()
    return difference_words(library.load_release(stored.review.part, stored.review.revision), stored.copy.bundle)


def end_review(library: Library, part_id: str) -> None:
    """Take a request back.

    Raises:
        InputError: there is none, or someone else requested it. ConflictError, OfflineError: it stands as it was.
    """
    fetch_reviews(library)
    stored = read_review(library, part_id)
    if stored is None:
        raise InputError("no review of this part is requested")
    if stored.review.requested.email != library.person().email:
        raise InputError(f"{stored.review.requested.by} requested this review; only they can cancel it")
    drop_review(library, part_id, stored.commit)
