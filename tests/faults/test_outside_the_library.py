"""Nothing outside of a library's folder is read, written or removed, whatever is in its files."""

import json
import os
import subprocess
from pathlib import Path

import pygit2
import pytest

from eider.commands.facts import fact_edits
from eider.demo.parts import converter_part
from eider.errors import EiderError
from eider.library import Library, LibraryError, init_library, open_library
from eider.library.atomic_files import write_atomic
from eider.library.documents.attachments import DocumentKind
from eider.library.documents.working_copies import WorkingCopy
from eider.library.library_files import LibraryFiles, checked_path
from eider.model.codec import DocumentError, encode
from eider.model.part import DatasheetLink
from eider.services.releasing.part_releasing import release_part

LINK = DatasheetLink("0" * 64, "x.pdf")


@pytest.fixture
def victim(tmp_path: Path) -> Path:
    path = tmp_path / "victim"
    path.write_text("of someone else")
    return path


@pytest.mark.parametrize("path", ["", "../victim", "a/../../victim", "/victim", "a//b", "./a", ".git/config", "a\0b"])
def test_a_path_out_of_the_library_is_refused(path: str, tmp_path: Path) -> None:
    with pytest.raises(LibraryError, match="not a path inside a library"):
        checked_path(path)
    with pytest.raises(LibraryError, match="not a path inside a library"):
        LibraryFiles(tmp_path).write(path, b"x")


@pytest.mark.parametrize("paths", [["../victim"], ["{victim}"], [".git/config"], ["parts/ic/x.part.json"]])
def test_a_note_of_a_release_removes_nothing(library: Library, victim: Path, paths: list[str]) -> None:
    release_part(library, converter_part(library, LINK), "first")
    before = {path: path.read_bytes() for path in library.folder.rglob("*.json") if ".git" not in path.parts}
    config = (library.folder / ".git/config").read_bytes()
    told = [path.format(victim=victim) for path in paths]
    root = str(next(iter(pygit2.Repository(str(library.folder)).walk(library.versions.head, 4 | 1))).id)
    for start in ("", "f" * 40, "../x", root):
        note = {"paths": told, "start": start, "copies": {"../../victim": "0" * 64}}
        (library.folder / ".eider/releasing.json").write_text(json.dumps(note))
        open_library(library.folder).search("nvk")
        assert not (library.folder / ".eider/releasing.json").exists()
    assert victim.read_text() == "of someone else"
    assert (library.folder / ".git/config").read_bytes() == config
    assert {path: path.read_bytes() for path in before} == before


@pytest.mark.parametrize("sha", ["../../victim", "{victim}", "A" * 64, "0" * 63, ""])
def test_a_sum_that_is_none_is_no_document(library: Library, victim: Path, sha: str) -> None:
    named = sha.format(victim=victim)
    with pytest.raises(LibraryError, match="not a SHA-256"):
        library.attachments.path(DocumentKind.DATASHEET, named)
    bundle = converter_part(library, DatasheetLink(named, "x.pdf"))
    text = encode(WorkingCopy(bundle=bundle))
    library.copies.path(bundle.part.id).parent.mkdir(parents=True, exist_ok=True)
    library.copies.path(bundle.part.id).write_text(text)
    with pytest.raises(DocumentError):
        library.load(bundle.part.id)
    with pytest.raises(EiderError, match="not a SHA-256"):
        release_part(library, bundle, "first")
    open_library(library.folder).search("")
    assert victim.read_text() == "of someone else"


@pytest.mark.parametrize("name", ["parts", "bodies", "footprints", "packages", "symbols", ".eider/working"])
def test_links_are_not_written_through(library: Library, tmp_path: Path, name: str) -> None:
    outside = tmp_path / "outside"
    outside.mkdir()
    (library.folder / name).parent.mkdir(exist_ok=True)
    (library.folder / name).symlink_to(outside)
    bundle = converter_part(library, LINK)
    if name == ".eider/working":
        with pytest.raises(LibraryError, match="behind a link"):
            library.copies.save(WorkingCopy(bundle=bundle))
    else:
        released = release_part(library, bundle, "first")
        assert "behind a link" in released.behind
        # The revision itself is in git, whole.
        assert library.load_release(bundle.part.id).sheet.dims
    assert not list(outside.iterdir())
    (library.folder / name).unlink()
    open_library(library.folder)
    assert not list(outside.iterdir())


def test_a_linked_lock_is_not_followed(library: Library, victim: Path) -> None:
    (library.folder / ".eider/lock").unlink(missing_ok=True)
    (library.folder / ".eider/lock").symlink_to(victim)
    with pytest.raises(LibraryError, match="behind a link"):
        release_part(library, converter_part(library, LINK), "first")
    assert victim.read_text() == "of someone else"


@pytest.mark.parametrize("name", [".git", ".git/objects", ".git/refs", ".git/HEAD", ".git/index"])
def test_a_repository_behind_a_link_is_refused(library: Library, tmp_path: Path, name: str) -> None:
    path = library.folder / name
    path.rename(tmp_path / "moved")
    path.symlink_to(tmp_path / "moved")
    with pytest.raises(LibraryError, match="leads out of the library"):
        open_library(library.folder)


def test_a_library_inside_another_repository_is_refused(tmp_path: Path) -> None:
    other = pygit2.init_repository(str(tmp_path))
    (tmp_path / "inner").mkdir()
    (tmp_path / "inner/eider-library.toml").write_text('format = 2\nname = "inner"\n')
    with pytest.raises(LibraryError, match="no git repository"):
        open_library(tmp_path / "inner")
    assert other.head_is_unborn


def test_a_repository_that_works_elsewhere_is_refused(library: Library, tmp_path: Path) -> None:
    (tmp_path / "elsewhere").mkdir()
    pygit2.Repository(str(library.folder)).config["core.worktree"] = str(tmp_path / "elsewhere")
    with pytest.raises(LibraryError, match=r"core\.worktree"):
        open_library(library.folder)


def test_only_regular_files_are_replaced(tmp_path: Path, victim: Path) -> None:
    (tmp_path / "link").symlink_to(victim)
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "folder").mkdir()
    for name in ("link", "pipe", "folder"):
        with pytest.raises(LibraryError, match="not a regular file"):
            write_atomic(tmp_path / name, b"x")
    assert victim.read_text() == "of someone else"
    assert sorted(path.name for path in tmp_path.iterdir()) == ["folder", "link", "pipe", "victim"]


def test_files_have_the_rights_that_the_user_gives_files(tmp_path: Path) -> None:
    before = os.umask(0o027)
    try:
        write_atomic(tmp_path / "new", b"x")
        LibraryFiles(tmp_path).write("below/new", b"x")
        (tmp_path / "old").touch()
        (tmp_path / "old").chmod(0o604)
        write_atomic(tmp_path / "old", b"x")
    finally:
        os.umask(before)
    modes = {name: (tmp_path / name).stat().st_mode & 0o777 for name in ("new", "below/new", "below", "old")}
    assert modes == {"new": 0o640, "below/new": 0o640, "below": 0o750, "old": 0o604}


def test_a_cloned_library_brings_no_note_of_a_release(library: Library, victim: Path, tmp_path: Path) -> None:
    release_part(library, converter_part(library, LINK), "first")
    note = json.dumps({"start": "", "paths": [str(victim)], "copies": {}}).encode()
    (library.folder / ".gitignore").unlink()
    library.versions.commit({".eider/releasing.json": note, ".gitignore": None}, "hostile", library.person())
    subprocess.run(["git", "clone", "-q", str(library.folder), str(tmp_path / "clone")], check=True)
    assert [row.name for row in open_library(tmp_path / "clone").search("")] == ["NVK-1216T"]
    assert victim.read_text() == "of someone else"


def test_init_leaves_nothing_where_it_fails(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(_descriptor: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("eider.library.atomic_files.os.fsync", full)
    with pytest.raises(LibraryError, match=r"the disk is full; nothing was changed; free \d+ MB"):
        init_library(tmp_path / "new")
    assert not (tmp_path / "new").exists()


def test_a_fact_of_another_part_is_not_written_over(library: Library) -> None:
    bundle = converter_part(library, LINK)
    release_part(library, bundle, "first")
    changed = fact_edits.set_fact(library.load_release(bundle.part.id), "Compliance", "RoHS")
    assert release_part(library, changed, "second").revision == 2
