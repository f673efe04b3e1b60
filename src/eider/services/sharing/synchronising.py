"""A library shared through a git server: opened by its address, synchronised, and what came in told."""

import re
import shutil
import tempfile
from pathlib import Path

import msgspec

from eider.library import Library, open_library
from eider.library.errors import LibraryError
from eider.library.git.commit_reading import DOCUMENTS, HEADS, WHEN_NEEDED, Person
from eider.library.git.git_index_following import note_settled
from eider.library.git.git_program import checked_address, run_git
from eider.library.git.housekeeping import keep_house
from eider.library.git.revision_trailers import ItemRevision
from eider.library.item_paths import SETTINGS
from eider.library.sharing.server_sync import follow_server, join_server
from eider.library.sharing.shared_server import ORIGIN, SEEN, SHARED, SharedServer, Tell, shared_address
from eider.model.bundle import Bundle
from eider.services.facts.designs import DesignUse, designs_using
from eider.services.parts.recipe_identity import released_recipe
from eider.services.sharing.review_approval import take_ticks
from eider.services.tasks import Task

replace = msgspec.structs.replace

# What git leaves out of a new clone until it is asked for it: contents larger than nearly all items, where the server
# can do that. Then, which files are left out of the folder.
PARTIAL = ("--no-checkout", "--filter=blob:limit=64k")
LEFT_OUT = ("/*", "!/datasheets/", "!/models/", "!*.step")

# More refs than any library has: a claim and a review for each of 50,000 parts.
MOST_REFS = 100_000


class ReceivedRevision(msgspec.Struct, frozen=True):
    """A revision that others released: of which item, by whom, when and why."""

    id: str
    kind: str
    name: str
    revision: int
    by: str
    at: str
    note: str


class SyncReport(msgspec.Struct, frozen=True):
    """What a synchronisation brought.

    Attributes:
        received: revisions that others released, oldest first.
        sent: commits that the server did not have.
        conflicts: parts that are being worked on and were released by someone else since.
        waiting: parts that are being worked on, by name: they are on this machine alone.
        settled: working copies that were the same as what came, and are needed no more.
        designs: designs that have parts which were received, and in which revision they were.
    """

    received: tuple[ReceivedRevision, ...]
    sent: int
    conflicts: tuple[str, ...]
    waiting: tuple[str, ...]
    settled: tuple[str, ...] = ()
    designs: tuple[DesignUse, ...] = ()


def require_shared(library: Library) -> str:
    """The address of the server.

    Raises:
        LibraryError: the library is not shared.
    """
    address = shared_address(library.folder)
    if not address:
        raise LibraryError(f"{library.folder} is not shared; share it with eider share, or open one by its address")
    return address


def share_library(library: Library, address: str, task: Task | None = None) -> SyncReport:
    """Share a library through an empty repository.

    Raises:
        LibraryError: the address is not valid, cannot be reached, or has commits already.
    """
    task = task or Task()
    library.require_writable()
    count = len(run_git(library.folder, ["rev-list", "HEAD"]).split())
    join_server(library, address, lambda what: task.report(0.5, what or "sharing the library"))
    return _report(library, library.versions.head, count)


def open_shared(
    address: str, folder: Path, person: Person | None = None, task: Task | None = None, *, whole: bool = False
) -> Library:
    """Open a shared library by its address, in a new folder; where that fails, nothing of it is left.

    Its datasheets and STEP files are fetched when they are needed, unless the `whole` library is wanted. At the address
    of a project it is the library that the project has in one of its folders, and the whole project comes along.

    Raises:
        LibraryError: the folder is not empty; the address is not valid, cannot be reached, has no library or several.
    """
    task, text = task or Task(), checked_address(address)
    if folder.is_symlink() or (folder.exists() and (not folder.is_dir() or any(folder.iterdir()))):
        raise LibraryError(f"{folder} is not a new or empty folder; name one for the library")
    folder.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=folder.parent, prefix=".eider-open-") as place:
        clone = Path(place) / "library"
        # Links of a hostile repository become plain files, and none of its hooks or settings come along.
        options = ["--no-tags", "--progress", "--origin", ORIGIN, "-c", "core.symlinks=false", "-c", f"{SHARED}=true"]
        branch = _branch_of(text)
        if not branch:
            raise LibraryError(f"{text} is not an Eider library: it has no {SETTINGS}")
        options += ["--branch", branch]

        def tell(what: str) -> None:
            task.report(0.5, what or "opening")

        run_git(None, ["clone", *options, *([] if whole else PARTIAL), "--", text, str(clone)], tell)
        if not whole:
            _check_out(clone, tell)
        below = _library_in(clone, text)
        run_git(clone, ["update-ref", SEEN, "HEAD"])
        if person is not None:
            run_git(clone, ["config", "user.name", person.name])
            run_git(clone, ["config", "user.email", person.email])
        open_library(clone / below).close()
        if folder.exists():
            folder.rmdir()
        shutil.move(str(clone), str(folder))
    library = open_library(folder / below)
    note_settled(library)
    SharedServer(library).fetch_claims()
    return library


def _check_out(clone: Path, tell: Tell) -> None:
    """The files of a new clone; documents of a library are left out, those of a project around one are not."""
    if run_git(clone, ["ls-tree", "HEAD", SETTINGS]):
        run_git(clone, ["sparse-checkout", "set", "--no-cone", *LEFT_OUT])
        run_git(clone, ["config", DOCUMENTS, WHEN_NEEDED])
    run_git(clone, ["checkout", "--progress", "--force", "HEAD"], tell)


def _library_in(clone: Path, address: str) -> Path:
    """The folder of the library in what was cloned: its top, or where a project has it."""
    if (clone / SETTINGS).is_file():
        return Path()
    found = [Path(path).parent for path in run_git(clone, ["ls-files", "-z", f"*/{SETTINGS}"]).split("\0") if path]
    if len(found) == 1:
        return found[0]
    if found:
        several = ", ".join(folder.as_posix() for folder in found[:5])
        raise LibraryError(f"{address} is a project with several libraries ({several}); clone it with git, open one")
    raise LibraryError(f"{address} is not an Eider library: it has no {SETTINGS}")


def _branch_of(address: str) -> str:
    """The branch of a server: the one that its HEAD names; where that is not there, main, or the only one.

    Raises:
        LibraryError: it has more branches, claims and reviews than any library.
    """
    said = run_git(None, ["ls-remote", "--symref", "--", address, "HEAD", "refs/heads/*", "refs/eider/*"])
    if (count := said.count("\n")) > MOST_REFS:
        raise LibraryError(f"{address} has {count:,} branches, claims and reviews; no library has so many")
    lines = [line.split("\t") for line in said.splitlines() if "\t" in line]
    heads = [name.removeprefix(HEADS) for _, name in lines if name.startswith(HEADS)]
    named = [what.removeprefix(f"ref: {HEADS}") for what, name in lines if name == "HEAD" and what.startswith("ref: ")]
    wanted = [*named, "main", *(heads if len(heads) == 1 else [])]
    return next((branch for branch in wanted if branch in heads), "")


def folder_for(address: str) -> str:
    """The name of the folder for a library that is opened by its address."""
    last = re.split(r"[/:\\]", address.strip().rstrip("/"))[-1].removesuffix(".git")
    return re.sub(r"[^\w.-]", "-", last).strip(".-") or "library"


def synchronise(library: Library, task: Task | None = None) -> SyncReport:
    """Follow the server, and tell what came. What is being worked on stays on this machine, and is never changed.

    Raises:
        OfflineError: the server cannot be reached. RewrittenError: its history was rewritten.
        ConflictError: commits were made by hand on both sides. LibraryError: the library is not shared.
    """
    require_shared(library)
    library.require_writable()
    task = task or Task()
    got = follow_server(library, lambda what: task.report(0.5, what or "synchronising"))
    keep_house(library)
    take_ticks(library)
    # What was sent is this side's own.
    return _report(library, got.after if got.sent else got.before, got.sent)


def _report(library: Library, since: str, sent: int) -> SyncReport:
    received = [_received(made) for made in library.versions.revisions_since(since)]
    conflicts: list[str] = []
    waiting: list[str] = []
    settled: list[str] = []
    library.index.refresh()
    for part_id in library.copies.stamps():
        copy = library.copies.load(part_id)
        if copy is None:
            continue
        part = copy.bundle.part
        newest = library.index.newest_revision(part_id)
        if newest == (part.release.revision if part.release else 0):
            waiting.append(part.name)
        elif _is_released(library, copy.bundle):
            library.copies.discard(part_id)
            settled.append(part.name)
        else:
            conflicts.append(part.name)
    touched = designs_using(library, {made.id for made in received if made.kind == "part"})
    return SyncReport(
        tuple(received), sent, tuple(sorted(conflicts)), tuple(sorted(waiting)), tuple(sorted(settled)), touched
    )


def _received(made: ItemRevision) -> ReceivedRevision:
    name = made.path.rpartition("/")[2].removesuffix(f".{made.kind}.json")
    return ReceivedRevision(made.id, made.kind, name, made.revision, made.by, made.at, made.note)


def _is_released(library: Library, mine: Bundle) -> bool:
    """Whether a working copy is what was released of it: a release that was killed before this side knew of it."""
    newest = library.load_release(mine.part.id)
    return released_recipe(newest) == released_recipe(mine)
