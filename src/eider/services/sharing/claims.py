"""Claims: one person at a time changes a part of a shared library; the server decides who."""

import datetime as dt

from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.errors import LibraryError
from eider.library.sharing.shared_server import Claim, ClaimedError, SharedServer
from eider.services.sharing.roles import require_role
from eider.services.sharing.synchronising import require_shared
from eider.services.tasks import Task

# A claim can be taken over after so many days, with a note.
TAKE_OVER_DAYS = 7


def server_of(library: Library, task: Task | None = None) -> SharedServer:
    """The server of a shared library; a cancel of the task ends its work.

    Raises:
        LibraryError: the library is not shared.
    """
    require_shared(library)
    task = task or Task()
    return SharedServer(library, lambda what: task.report(0.5, what or "asking the server"))


def claim_part(library: Library, part_id: str, name: str, why: str = "", task: Task | None = None) -> Claim:
    """Reserve a part: nobody else can release it now. Claiming what one holds already changes nothing.

    Raises:
        ClaimedError: someone else holds it. OfflineError: the server cannot be reached; nothing is claimed.
        LibraryError: the library is not shared.
    """
    server = server_of(library, task)
    library.require_writable()
    require_role(library, "claim")
    server.fetch_claims()
    held, person = server.claim_of(part_id), library.person()
    if held is not None:
        if held.email == person.email:
            return held
        raise ClaimedError(_held_words(held))
    made = Claim(part_id, name, person.name, person.email, utc_now(), why.strip())
    server.make_claim(made)
    return made


def _held_words(held: Claim) -> str:
    why = f" ({held.why})" if held.why else ""
    return f"{held.name} is claimed by {held.by} since {held.at[:16].replace('T', ' ')}{why}"


def give_back(library: Library, part_id: str, task: Task | None = None) -> None:
    """Give a claim back.

    Raises:
        InputError: one does not hold it. MovedError: someone took it over meanwhile.
        OfflineError: the server cannot be reached; the claim is kept.
    """
    server = server_of(library, task)
    server.fetch_claims()
    held = server.claim_of(part_id)
    if held is None:
        raise InputError("nobody holds this part; there is no claim to give back")
    if held.email != library.person().email:
        raise InputError(f"{_held_words(held)}; only {held.by} can give it back")
    server.drop_claim(part_id)


def take_over(
    library: Library, part_id: str, note: str, task: Task | None = None, now: dt.datetime | None = None
) -> Claim:
    """Take a claim over that someone has held for too long; the note says why, and the trace stays.

    Raises:
        InputError: there is no note, nobody holds the part, or not for long enough.
        ClaimedError: someone else was faster. OfflineError: the server cannot be reached.
    """
    server = server_of(library, task)
    library.require_writable()
    server.fetch_claims()
    held, person = server.claim_of(part_id), library.person()
    if not note.strip():
        raise InputError("say in a few words why you take the claim; the note stays with it")
    if held is None:
        raise InputError("nobody holds this part; claim it")
    days = _days_since(held.at, now or dt.datetime.now(dt.UTC))
    if days < TAKE_OVER_DAYS:
        # Clocks that are a little apart are no fault.
        clock = " (that lies ahead of this machine's clock: one of the two is wrong)" if days < -1 else ""
        raise InputError(
            f"{_held_words(held)}, for {max(days, 0)} days{clock}; "
            f"others can take it after {TAKE_OVER_DAYS}. Ask {held.by}"
        )
    made = Claim(part_id, held.name, person.name, person.email, utc_now(), note.strip(), held.by)
    server.make_claim(made, over=server.claim_commit(part_id))
    return made


def _days_since(at: str, now: dt.datetime) -> int:
    """Whole days, less than none for a time ahead of this clock; a time that cannot be read is not a time at all."""
    try:
        return (now - dt.datetime.fromisoformat(at.replace("Z", "+00:00"))).days
    except (ValueError, TypeError):
        return 0


def all_claims(library: Library) -> dict[str, Claim]:
    """The claims by part, as they were when the server was asked last; none where the library is not shared."""
    try:
        return server_of(library).claims()
    except LibraryError:
        return {}
