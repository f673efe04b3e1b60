"""A part that shall not be used any more: withdrawn with a reason and a successor, and readable for ever."""

import msgspec

from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.git.housekeeping import keep_house
from eider.library.releases.release_commit import Released, release_bundles
from eider.model.bundle import Bundle
from eider.model.item_ref import Ref
from eider.model.part import Part, Withdrawal
from eider.services.sharing.roles import require_role

replace = msgspec.structs.replace


def withdraw_part(library: Library, part_id: str, reason: str, successor: str = "") -> Released:
    """Withdraw a released part, as its next revision; `successor` is the name of the part to use in its place.

    Raises:
        InputError: there is no reason; it was never released, is withdrawn, or is being worked on; the successor is
            the part itself or withdrawn.
        NotFoundError: there is no such successor. LibraryError: nothing was written.
    """
    require_role(library, "withdraw")
    if not reason.strip():
        raise InputError("say why the part is withdrawn; the reason stays with it")
    bundle = _released(library, part_id)
    if bundle.part.withdrawn is not None:
        raise InputError(f"{bundle.part.name} is withdrawn already: {bundle.part.withdrawn.reason}")
    follower = None
    if successor.strip():
        row = library.find(successor.strip())
        if row.id == part_id or row.state == "withdrawn":
            raise InputError(f"{row.name} cannot follow {bundle.part.name}; name another part, which is not withdrawn")
        follower = Ref(row.id, row.name)
    made = Withdrawal(reason.strip(), library.person().name, utc_now(), follower)
    note = f"withdrawn: {reason.strip()}" + (f"; use {follower.name}" if follower else "")
    return _release(library, replace(bundle.part, withdrawn=made), bundle, note)


def reinstate_part(library: Library, part_id: str, note: str) -> Released:
    """Take a withdrawal back, as the next revision.

    Raises:
        InputError: there is no note, the part is not withdrawn, or is being worked on.
        LibraryError: nothing was written.
    """
    require_role(library, "withdraw")
    if not note.strip():
        raise InputError("say why the part is used again; the note stays with the revision")
    bundle = _released(library, part_id)
    if bundle.part.withdrawn is None:
        raise InputError(f"{bundle.part.name} is not withdrawn")
    return _release(library, replace(bundle.part, withdrawn=None), bundle, note.strip())


def _released(library: Library, part_id: str) -> Bundle:
    if library.copies.sum_of(part_id):
        name = library.load(part_id).part.name
        raise InputError(f"{name} is being worked on; release or discard the working copy first")
    if not library.history(part_id):
        raise InputError("the part was never released; there is nothing to withdraw")
    return library.load_release(part_id)


def _release(library: Library, part: Part, bundle: Bundle, note: str) -> Released:
    released = release_bundles(library, [replace(bundle, part=part)], note)[0]
    keep_house(library)
    return released


def withdrawn_words(bundle: Bundle) -> str:
    """Why a part is withdrawn and what to use in its place, in words; empty where it is not withdrawn."""
    found = bundle.part.withdrawn
    if found is None:
        return ""
    instead = f"; use {found.successor.name} in its place" if found.successor else ""
    return f"withdrawn by {found.by} on {found.at[:10]}: {found.reason}{instead}"
