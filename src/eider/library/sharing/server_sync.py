"""How a library joins a server and follows it; one whose history was rewritten is never followed."""

from typing import NamedTuple

from eider.library.errors import ConflictError, LibraryError
from eider.library.git.git_program import GitError, checked_address, run_git
from eider.library.releases.release_recovery import follow_to, locked
from eider.library.sharing.shared_server import FOLLOWED, INCOMING, ORIGIN, SEEN, SHARED, SharedServer, Tell
from eider.library.store import Library


class RewrittenError(LibraryError):
    """The server's history is another than it was; nothing was followed."""


class Received(NamedTuple):
    """What a synchronisation brought: the commit before and after, and how many commits were sent."""

    before: str
    after: str
    sent: int


def join_server(library: Library, address: str, tell: Tell) -> None:
    """Share the library through an empty repository at an address; one in a project through the project's own.

    Raises:
        LibraryError: the address is not valid, cannot be reached, or has commits of something else already.
    """
    text, branch = checked_address(address), library.versions.require_branch()
    server = SharedServer(library, tell)
    if library.versions.in_project:
        _join_project(library, server, text)
        return
    there = run_git(None, ["ls-remote", "--heads", "--", text], tell)
    if there.strip() and library.versions.head not in there:
        raise LibraryError(f"{text} has commits already; share into an empty repository, or open it as a library")
    with locked(library):
        server.git("config", f"remote.{ORIGIN}.url", text)
        server.git("push", "--porcelain", ORIGIN, f"refs/heads/{branch}:refs/heads/{branch}")
        server.git("config", SHARED, "true")
        server.git("update-ref", SEEN, library.versions.head)


def _join_project(library: Library, server: SharedServer, address: str) -> None:
    known = server.git("config", "--default", "", "--get", f"remote.{ORIGIN}.url").strip()
    if known not in ("", address):
        raise LibraryError(f"the project has the server {known}; share its library through that")
    with locked(library):
        server.git("config", f"remote.{ORIGIN}.url", address)
        _synchronise(library, server)
        server.git("config", SHARED, "true")


def follow_server(library: Library, tell: Tell) -> Received:
    """Follow the server, and send it the commits that it does not have yet.

    Raises:
        OfflineError: the server cannot be reached. RewrittenError: its history was rewritten.
        ConflictError: both sides have commits that the other does not know.
    """
    with locked(library):
        return _synchronise(library, SharedServer(library, tell))


def _synchronise(library: Library, server: SharedServer) -> Received:
    versions = library.versions
    branch, head = versions.require_branch(), versions.head
    _fetch(server, branch)
    incoming, seen = server.commit_at(INCOMING), server.commit_at(SEEN)
    if seen and incoming and not server.is_before(seen, incoming):
        raise RewrittenError(
            f"the history on the server was rewritten: it had {seen[:8]}, which its {incoming[:8]} does not follow "
            "from. Nothing was followed. Ask who did it; your library is as it was"
        )
    if seen and not incoming:
        raise RewrittenError(f"the branch {branch} is gone from the server; nothing was followed. Ask who removed it")
    if incoming == head:
        server.git("update-ref", SEEN, incoming)
        return Received(head, head, 0)
    if server.is_before(head, incoming):
        follow_to(library, incoming)
        server.git("update-ref", SEEN, incoming)
        return Received(head, incoming, 0)
    if not incoming or server.is_before(incoming, head):
        count = len(server.git("rev-list", head, *([f"^{incoming}"] if incoming else [])).split())
        server.require_own_commits()
        server.push([f"{head}:refs/heads/{branch}"])
        server.git("update-ref", SEEN, head)
        return Received(head, head, count)
    ours = len(server.git("rev-list", head, f"^{incoming}").split())
    raise ConflictError(
        f"{ours} commits of this library are not on the server, which has others since. They were not made with "
        f"Eider; put them on top with git rebase {incoming[:8]}, then synchronise again"
    )


def _fetch(server: SharedServer, branch: str) -> None:
    wanted = (f"+refs/heads/{branch}:{INCOMING}", *FOLLOWED)
    try:
        server.git("fetch", "--no-tags", "--prune", "--no-write-fetch-head", "--progress", ORIGIN, *wanted)
    except GitError as fault:
        if "couldn't find remote ref" not in fault.said.lower():
            raise
        server.git("update-ref", "-d", INCOMING)
