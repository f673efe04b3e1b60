"""What need not be done while someone waits for a release: git's own index follows, and objects are packed."""

import re
import struct
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pygit2

from eider.library.errors import LibraryError
from eider.library.git.git_index_following import settle_index
from eider.library.git.git_program import run_git
from eider.library.releases.release_recovery import locked
from eider.library.store import Library

# From so many loose objects on it is worth packing, and from so many packs on gathering them into one.
LOOSE, PACKS = 2000, 16
_OID_BYTES = 20


def is_due(git: Path) -> bool:
    """Whether so many objects lie loose that packing is worth while; tells from one of their 256 folders."""
    sample = git / "objects" / "17"
    return sample.is_dir() and sum(1 for _ in sample.iterdir()) * 256 >= LOOSE


def pack_objects(git: Path) -> None:
    """Pack the loose objects of a repository, and its packs into one where there are many.

    For who holds the library's lock. Nothing is removed before the new pack is on disk.

    Raises:
        LibraryError: there is no room for the pack; nothing was changed.
    """
    packs, loose = git / "objects" / "pack", dict(_loose(git))
    gathered = _gathered(packs)
    wanted = set(loose).union(*(_packed(index) for index in gathered))
    if not wanted:
        return
    try:
        # Made apart: a pack bears the sum of what it holds, and must not be taken for one of those that it replaces.
        with tempfile.TemporaryDirectory(dir=packs, prefix="tmp_eider_") as made:
            repository = pygit2.Repository(str(git), pygit2.enums.RepositoryOpenFlag.NO_SEARCH)
            builder = pygit2.PackBuilder(repository)
            for oid in sorted(wanted):
                builder.add(pygit2.Oid(hex=oid))
            builder.write(made)
            # git finds a pack by its index, which therefore comes last.
            new = sorted(Path(made).iterdir(), key=lambda path: path.suffix == ".idx")
            for path in new:
                path.replace(packs / path.name)
    except (pygit2.GitError, OSError, KeyError) as fault:
        raise LibraryError(f"{git}: its objects were not packed, which takes nothing from them: {fault}") from fault
    for index in gathered:
        if index.name not in {path.name for path in new}:
            index.unlink()
            index.with_suffix(".pack").unlink(missing_ok=True)
    for path in loose.values():
        path.unlink(missing_ok=True)


def _gathered(packs: Path) -> list[Path]:
    """The indexes of the packs that become one: none while they are few, or while git keeps some for a reason."""
    found = sorted(packs.glob("pack-*.idx"))
    kept = [*packs.glob("*.keep"), *packs.glob("*.promisor"), *packs.glob("multi-pack-index")]
    return found if len(found) >= PACKS and not kept else []


def gather_partial(git: Path) -> None:
    """Gather the many packs of a library whose documents come when they are needed; git knows which it may miss.

    Raises:
        LibraryError: git could not; nothing was changed.
    """
    packs = git / "objects" / "pack"
    if any(packs.glob("*.promisor")) and sum(1 for _ in packs.glob("pack-*.idx")) >= PACKS:
        run_git(git, ["repack", "-a", "-d", "--quiet"])


def _loose(git: Path) -> Iterator[tuple[str, Path]]:
    """The objects that lie in a file each."""
    for folder in (git / "objects").iterdir():
        if re.fullmatch("[0-9a-f]{2}", folder.name) and folder.is_dir() and not folder.is_symlink():
            for path in folder.iterdir():
                if re.fullmatch("[0-9a-f]{38}", path.name):
                    yield folder.name + path.name, path


def _packed(index: Path) -> Iterator[str]:
    """The objects of a pack, from its index (git's format, version 2)."""
    data = index.read_bytes()
    if data[:8] != b"\xfftOc\x00\x00\x00\x02":
        raise LibraryError(f"{index} is not an index of a pack; run git fsck in the library")
    (count,) = struct.unpack(">I", data[8 + 255 * 4 : 8 + 256 * 4])
    start = 8 + 256 * 4
    for place in range(start, start + count * _OID_BYTES, _OID_BYTES):
        yield data[place : place + _OID_BYTES].hex()


def keep_house(library: Library) -> str:
    """Bring git's index up to date, so that `git status` is clean, and pack objects where many lie loose.

    Returns why it could not be done, which is no harm: the next time makes up for it. Empty where it was.
    """
    if library.read_only:
        return library.read_only
    try:
        with locked(library):
            settle_index(library)
            # A project's objects are for git itself to pack.
            if not library.versions.in_project and is_due(library.versions.git_folder):
                pack_objects(library.versions.git_folder)
            if library.versions.has_documents_when_needed:
                gather_partial(library.versions.git_folder)
    except LibraryError as fault:
        return str(fault)
    return ""
