"""Finds and opens the git repository of a library: in its folder, or that of a project of which it is a folder."""

from pathlib import Path
from typing import NamedTuple

import pygit2
from pygit2.enums import RepositoryOpenFlag

from eider.library.errors import LibraryError
from eider.library.item_paths import SETTINGS

# What git writes through; a link among them would lead its writes out of the library.
_GIT_FOLDERS = ("", "objects", "refs", "refs/heads", "refs/tags")
_GIT_FILES = ("HEAD", "index", "config", "packed-refs")


class RepositoryPlace(NamedTuple):
    """Where a repository works, and the path of the library in it: ends with a slash, or is empty at the top."""

    root: Path
    prefix: str

    @property
    def git(self) -> Path:
        """Git's own folder."""
        return self.root / ".git"


def find_repository(folder: Path) -> RepositoryPlace:
    """The repository of a library: its own, or that of the project that has the library in its newest commit.

    Raises:
        LibraryError: there is none.
    """
    if (folder / ".git").exists() or (folder / ".git").is_symlink():
        return RepositoryPlace(folder, "")
    place = project_of(folder)
    if place is not None and _has_file(open_repository(place), place.prefix + SETTINGS):
        return place
    inside = f"; the project {place.root} around it has no commit with its {SETTINGS}" if place else ""
    raise LibraryError(f"{folder} is not an Eider library: it has no git repository{inside}; make one with eider init")


def project_of(folder: Path) -> RepositoryPlace | None:
    """The repository that a folder lies in; None where it lies in none."""
    absolute = folder.resolve()
    root = next((above for above in absolute.parents if (above / ".git").exists()), None)
    return RepositoryPlace(root, f"{absolute.relative_to(root).as_posix()}/") if root else None


def open_repository(place: RepositoryPlace) -> pygit2.Repository:
    """Open a repository. One belongs to the thread that opened it.

    Raises:
        LibraryError: it leads out of its folder, or git's own files are damaged.
    """
    root, git = place.root, place.git
    links = [git / name for name in (*_GIT_FOLDERS, *_GIT_FILES) if (git / name).is_symlink()]
    if links or not git.is_dir():
        raise LibraryError(f"{links[0] if links else git} leads out of the library; clone it again, without links")
    try:
        # Without a search: which repository it is has been decided.
        repository = pygit2.Repository(str(git), RepositoryOpenFlag.NO_SEARCH)
        work = Path(repository.workdir or "")
    except (pygit2.GitError, KeyError, ValueError) as fault:
        raise LibraryError(f"the git repository of {root} cannot be opened ({fault}); clone it again") from fault
    if work.resolve() != root.resolve():
        raise LibraryError(f"the git repository of {root} works in {work}; remove core.worktree from its settings")
    return repository


def _has_file(repository: pygit2.Repository, path: str) -> bool:
    return not repository.head_is_unborn and path in repository.head.peel(pygit2.Commit).tree
