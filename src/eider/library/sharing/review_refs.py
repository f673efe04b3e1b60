"""Reviews in git: a ref for each part, whose commits hold the working copy that is looked at and what was said."""

from typing import NamedTuple, TypeVar

import pygit2
from pygit2.enums import FileMode

from eider.library.documents.working_copies import WorkingCopy
from eider.library.errors import ConflictError
from eider.library.sharing.shared_server import REVIEWS, SharedServer, shared_address
from eider.library.store import Library
from eider.model.codec import DocumentError, decode, encode
from eider.model.review import Review, ReviewState

T = TypeVar("T")
COPY, ABOUT = "copy.json", "review.json"
# What a ref that someone made by hand can come to.
UNREADABLE = (KeyError, pygit2.GitError, DocumentError, AttributeError)


class StoredReview(NamedTuple):
    """A review as it stands: its commit, what was said, and the working copy that it speaks of."""

    commit: str
    review: Review
    copy: WorkingCopy


def _repository(library: Library) -> pygit2.Repository:
    return pygit2.Repository(str(library.versions.git_folder))


def read_review(library: Library, part_id: str) -> StoredReview | None:
    """The review of a part; None where there is none, or none that can be read."""
    return _read(_repository(library), part_id)


def _read(repository: pygit2.Repository, part_id: str) -> StoredReview | None:
    try:
        commit = repository.references[REVIEWS + part_id].peel(pygit2.Commit)
        review, copy = _document(repository, commit, ABOUT, Review), _document(repository, commit, COPY, WorkingCopy)
    except UNREADABLE:
        return None
    return StoredReview(str(commit.id), review, copy)


def _document(repository: pygit2.Repository, commit: pygit2.Commit, name: str, kind: type[T]) -> T:
    return decode(repository[commit.tree[name].id].peel(pygit2.Blob).data, kind, f"{name} of {commit.short_id}")


def all_reviews(library: Library) -> dict[str, StoredReview]:
    """All reviews by part, as far as this machine knows."""
    repository = _repository(library)
    found = {part_id: _read(repository, part_id) for part_id in _under_review(repository)}
    return {part_id: stored for part_id, stored in found.items() if stored}


def review_states(library: Library) -> dict[str, ReviewState]:
    """What became of the reviews that are open, by part; the working copies that they speak of are not read."""
    repository, found = _repository(library), {}
    for part_id in _under_review(repository):
        try:
            commit = repository.references[REVIEWS + part_id].peel(pygit2.Commit)
            found[part_id] = _document(repository, commit, ABOUT, Review).state
        except UNREADABLE:
            continue
    return found


def _under_review(repository: pygit2.Repository) -> list[str]:
    return sorted(name.removeprefix(REVIEWS) for name in repository.references if name.startswith(REVIEWS))


def write_review(library: Library, review: Review, copy: WorkingCopy, note: str, follows: str) -> str:
    """Keep the next step of a review; `follows` is the commit of the one before, empty for the first.

    In a shared library it is on the server before it is here.

    Raises:
        ConflictError: someone took another step meanwhile. OfflineError: the server cannot be reached.
    """
    repository, ref, person = _repository(library), REVIEWS + review.part, library.person()
    builder = repository.TreeBuilder()
    for name, document in ((ABOUT, review), (COPY, copy)):
        builder.insert(name, repository.create_blob(encode(document).encode()), FileMode.BLOB)
    signature = pygit2.Signature(person.name, person.email)
    parents = [follows] if follows else []
    commit = str(repository.create_commit(None, signature, signature, note, builder.write(), parents))
    if shared_address(library.folder):
        SharedServer(library).push_ref(ref, commit, follows)
    now = read_review(library, review.part)
    if (now.commit if now else "") != follows:
        raise ConflictError(f"someone took another step in the review of {review.name} meanwhile; look at it again")
    repository.references.create(ref, commit, force=True)
    return commit


def drop_review(library: Library, part_id: str, commit: str) -> None:
    """End a review without a release.

    Raises:
        ConflictError: someone took another step meanwhile. OfflineError: the server cannot be reached.
    """
    ref = REVIEWS + part_id
    if shared_address(library.folder):
        SharedServer(library).push_ref(ref, "", commit)
    forget_review(library, part_id)


def forget_review(library: Library, part_id: str) -> None:
    """End a review on this machine; where the library is shared, the server has ended it."""
    repository, ref = _repository(library), REVIEWS + part_id
    if ref in repository.references:
        repository.references.delete(ref)
