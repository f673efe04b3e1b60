"""The server of a shared library: what is pushed to it, and who claims what there."""

import json
import re
from collections.abc import Callable, Sequence
from pathlib import Path

import msgspec
import pygit2

from eider.library.errors import ConflictError, LibraryError
from eider.library.git.commit_reading import Person
from eider.library.git.git_program import GitError, run_git
from eider.library.git.git_repository import find_repository
from eider.library.git.revision_trailers import is_own_message
from eider.library.store import Library
from eider.model.wording import counted

ORIGIN, SHARED = "origin", "eider.shared"
# Where what the server has is noted: its branch as it was last seen, and as it is being looked at.
SEEN, INCOMING = "refs/eider/seen", "refs/eider/incoming"
CLAIMS, REVIEWS = "refs/eider/claims/", "refs/eider/reviews/"
# What is read of a claim: ref, author and message, records ended by a byte that no text has.
_CLAIM_FIELDS = "%(refname)%00%(authorname)%00%(authoremail:trim)%00%(authordate:iso-strict)%00%(contents)%01"
FOLLOWED = (f"+{CLAIMS}*:{CLAIMS}*", f"+{REVIEWS}*:{REVIEWS}*")
Tell = Callable[[str], None]


class MovedError(ConflictError):
    """The server has newer revisions than those that this commit follows."""


class ClaimedError(ConflictError):
    """Someone else holds the item."""


class Claim(msgspec.Struct, frozen=True):
    """Who reserved an item, since when (ISO 8601, UTC) and why; `before` is who held it when it was taken over."""

    item: str
    name: str
    by: str
    email: str
    at: str
    why: str = ""
    before: str = ""


def shared_address(folder: Path) -> str:
    """The address of a library's server, as git's own settings have it; empty where it is not shared."""
    try:
        config = pygit2.Repository(str(find_repository(folder).git)).config
        is_shared = SHARED in config and config[SHARED] == "true"
        return str(config[f"remote.{ORIGIN}.url"]) if is_shared else ""
    except (pygit2.GitError, KeyError, ValueError, LibraryError):
        return ""


class SharedServer:
    """The server of one library.

    `tell` hears what git is doing, and may raise to cancel: nothing is changed then.
    """

    def __init__(self, library: Library, tell: Tell = lambda _what: None) -> None:
        self._library, self._folder, self._tell = library, library.folder, tell

    def git(self, *arguments: str) -> str:
        """What git says, in the library's repository."""
        return run_git(self._folder, arguments, self._tell)

    def commit_at(self, name: str) -> str:
        """The commit that a name stands for on this side; empty where it stands for none."""
        try:
            return self.git("rev-parse", "--verify", "--quiet", f"{name}^{{commit}}").strip()
        except GitError:
            return ""

    def is_before(self, older: str, newer: str) -> bool:
        """Whether a commit is another or one that it follows."""
        try:
            self.git("merge-base", "--is-ancestor", older, newer)
        except GitError:
            return False
        return True

    def require_own_commits(self) -> None:
        """Refuse to send what others than Eider committed in a project: whoever did decides when it is sent.

        Raises:
            LibraryError: there are such commits that the server, as it was seen last, does not have.
        """
        if not self._library.versions.in_project:
            return
        # What git itself sent or fetched it notes at another place.
        noted = (INCOMING, SEEN, f"refs/remotes/{ORIGIN}/{self._library.versions.branch}")
        seen = [f"^{commit}" for commit in map(self.commit_at, noted) if commit]
        said = self.git("log", "--format=%B%x00", "HEAD", *seen)
        others = [text for text in said.split("\0") if text.strip() and not is_own_message(text)]
        if others:
            raise LibraryError(
                f"{counted(len(others), 'commit')} of the project, not made with Eider, are not on the server yet "
                f"(“{others[0].strip().splitlines()[0][:60]}”); send them with git push, then try again"
            )

    def push(self, specs: Sequence[str], leases: Sequence[str] = ()) -> None:
        """All of it or nothing.

        Raises:
            MovedError: one of the refs is another on the server than this side knows.
            GitError: the server refuses it or has no room; nothing was changed.
        """
        options = ["--porcelain", "--progress", *(["--atomic"] if len(specs) > 1 else [])]
        options += [f"--force-with-lease={lease}" for lease in leases]
        try:
            self.git("push", *options, ORIGIN, *specs)
        except GitError as fault:
            low = fault.said.lower()
            if "does not support --atomic" in low:
                # The branch first: without it the others mean nothing.
                for spec in specs:
                    self.push([spec], [lease for lease in leases if lease.split(":")[0] in spec])
                return
            if "unpack" in low:
                told = _remote_words(fault.said) or "unpacking failed"
                raise GitError(
                    f"the server could not store it ({told}); it may have no room. Nothing was changed", fault.said
                ) from fault
            if re.search(r"\[rejected\]|\[remote rejected\]|stale info|fetch first|non-fast-forward", low):
                hook = re.search(r"remote rejected\].*\((?!failed to update|atomic)([^)]*)\)", fault.said)
                if hook and "hook" in hook[1]:
                    raise GitError(
                        f"the server refuses it: {_remote_words(fault.said) or hook[1]}", fault.said
                    ) from fault
                raise MovedError("the server has something newer; synchronise, then try again") from fault
            raise

    def publish(self, commit: str, part_ids: Sequence[str]) -> None:
        """Send a commit that follows the newest one, and give back the claims on its parts, all in one step.

        Raises:
            ClaimedError: someone else holds one of the parts. MovedError: the server has newer revisions.
            OfflineError: the server cannot be reached.
        """
        branch = self._library.versions.require_branch()
        self.require_own_commits()
        mine: list[str] = []
        claims = self.claims()
        for part_id in part_ids:
            claim = claims.get(part_id)
            if claim and claim.email != self._person().email:
                raise ClaimedError(
                    f"{claim.name} is claimed by {claim.by} since {claim.at[:10]}; ask for it to be given back"
                )
            mine += [part_id] if claim else []
        ended = [CLAIMS + part_id for part_id in mine]
        reviews = set(self.git("for-each-ref", "--format=%(refname)", REVIEWS).split())
        ended += [REVIEWS + part_id for part_id in part_ids if REVIEWS + part_id in reviews]
        leases = [f"{ref}:{self.commit_at(ref)}" for ref in ended]
        self.push([f"{commit}:refs/heads/{branch}", *(f":{ref}" for ref in ended)], leases)
        for ref in ended:
            self.git("update-ref", "-d", ref)
        self.git("update-ref", SEEN, commit)

    def push_ref(self, ref: str, commit: str, follows: str) -> None:
        """Let a ref of the server are at a commit (empty: be gone), if it is at the one that it follows.

        Raises:
            MovedError: it stands elsewhere. OfflineError: the server cannot be reached.
        """
        self.push([f"{commit}:{ref}"], [f"{ref}:{follows}"])

    def _person(self) -> Person:
        return self._library.person()

    def claim_of(self, item_id: str) -> Claim | None:
        """Who holds an item, as it was when the server was asked last; None where nobody does."""
        return self._claims_at(CLAIMS + item_id).get(item_id)

    def claims(self) -> dict[str, Claim]:
        """All claims by item, as they were when the server was asked last."""
        return self._claims_at(CLAIMS)

    def _claims_at(self, refs: str) -> dict[str, Claim]:
        """The claims at one ref, or at all below it, by one call of git however many there are."""
        said = self.git("for-each-ref", f"--format={_CLAIM_FIELDS}", refs)
        records = (record.strip("\n").split("\0", 4) for record in said.split("\1"))
        found = (_read_claim(*fields) for fields in records if len(fields) == 5)
        return {claim.item: claim for claim in found}

    def make_claim(self, claim: Claim, over: str = "") -> None:
        """Claim an item; `over` is the claim (a commit) that is taken over.

        Raises:
            ClaimedError: someone was faster. OfflineError: the server cannot be reached; nothing is claimed.
        """
        ref = CLAIMS + claim.item
        text = json.dumps(msgspec.to_builtins(claim), ensure_ascii=False)
        tree = self.git("hash-object", "-t", "tree", "-w", "/dev/null").strip()
        parents = ["-p", over] if over else []
        made = self.git("commit-tree", tree, *parents, "-m", text).strip()
        try:
            # An empty expectation: the server has to create the ref, and does so for one of several at once.
            self.push([f"{made}:{ref}"], [f"{ref}:{over}"])
        except MovedError as fault:
            self.fetch_claims()
            now = self.claim_of(claim.item)
            held = (
                f"claimed by {now.by} since {now.at[:16].replace('T', ' ')}" if now else "claimed otherwise meanwhile"
            )
            raise ClaimedError(f"{claim.name} is {held}") from fault
        self.git("update-ref", ref, made)

    def drop_claim(self, item_id: str) -> None:
        """Give a claim back.

        Raises:
            MovedError: someone took it over meanwhile. OfflineError: the server cannot be reached; it is kept.
        """
        ref = CLAIMS + item_id
        self.push([f":{ref}"], [f"{ref}:{self.commit_at(ref)}"])
        self.git("update-ref", "-d", ref)

    def claim_commit(self, item_id: str) -> str:
        """The commit that a claim is; empty where there is none."""
        return self.commit_at(CLAIMS + item_id)

    def fetch_claims(self) -> None:
        """Ask the server for claims and reviews.

        Raises:
            OfflineError: the server cannot be reached.
        """
        self.git("fetch", "--no-tags", "--prune", "--no-write-fetch-head", ORIGIN, *FOLLOWED)


def _read_claim(ref: str, by: str, email: str, at: str, text: str) -> Claim:
    """A claim from the commit that it is."""
    item = ref.removeprefix(CLAIMS)
    try:
        return msgspec.structs.replace(msgspec.json.decode(text.strip(), type=Claim), item=item)
    except msgspec.MsgspecError:
        # Made by hand: someone holds it, and git tells who.
        return Claim(item, item, by, email, at)


def _remote_words(said: str) -> str:
    """What the server itself said, without git's own lines."""
    words = [line.removeprefix("remote:").strip() for line in said.splitlines() if line.startswith("remote:")]
    return " ".join(word for word in words if word)[:400]
