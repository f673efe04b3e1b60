"""A library with damaged files, odd settings or an odd repository: what is wrong is told, the rest works."""

import os
from pathlib import Path

import pygit2
import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck, run_checks
from eider.commands.parts import new_parts
from eider.demo.parts import converter_part
from eider.library import Library, LibraryError, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.housekeeping import keep_house
from eider.library.library_files import LibraryFiles
from eider.model.library import Category, LibrarySettings
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from eider.services.checking.library_checking import check_files, check_parts
from eider.services.releasing.part_releasing import release_part
from shared_libraries import change_fact, git


@pytest.fixture
def released(library: Library) -> Library:
    release_part(library, converter_part(library, DatasheetLink("0" * 64, "x.pdf")), "first")
    return library


def _part_path(library: Library) -> str:
    library.index.refresh()
    return next(path for path in library.index.item_paths() if path.endswith(".part.json"))


@pytest.mark.parametrize(
    "data",
    [b"[]", b"null", b"", b"{", b"[" * 100_000, b'{"id": "../../x", "name": "y"}', b'{"id": 5}', b"\xff\xfe", b"1e999"],
)
@pytest.mark.parametrize("kind", ["part", "symbol"])
def test_one_bad_file_is_a_finding_and_the_rest_works(released: Library, data: bytes, kind: str) -> None:
    path = f"parts/ic/0/0/0/bad.{kind}.json"
    released.versions.commit({path: data}, "by hand", released.person())
    library = open_library(released.folder)
    assert [row.name for row in library.search("")] == ["NVK-1216T"]
    found = [f for f in check_files(library) if f.check == "library.unreadable-file"]
    assert [f.item for f in found] == [path]
    released.versions.commit({path: None}, "taken away", released.person())
    assert not [f for f in check_files(library) if f.check == "library.unreadable-file"]


@pytest.mark.parametrize("data", [b"<<<<<<< ours\n{}\n=======\n{}\n>>>>>>> theirs\n", b"{", b""])
def test_a_file_that_was_changed_by_hand_is_told(released: Library, data: bytes) -> None:
    path = _part_path(released)
    (released.folder / path).write_bytes(data)
    found = check_files(open_library(released.folder))
    assert [(f.check, f.item) for f in found] == [("library.changed-by-hand", path)]
    assert "git restore" in found[0].message


def test_a_damaged_working_copy_is_told_and_the_release_stands(released: Library) -> None:
    row = released.search("nvk")[0]
    released.copies.path(row.id).parent.mkdir(parents=True, exist_ok=True)
    released.copies.path(row.id).write_text("{")
    assert [row.state for row in released.search("nvk")] == ["released"]
    assert [f.check for f in check_files(released)] == ["library.damaged-working-copy"]


def test_a_part_that_cannot_be_checked_does_not_keep_others_from_it(released: Library) -> None:
    bundle = released.load_release(released.search("nvk")[0].id)
    lost = new_parts.start_from_part(bundle, "NVK-LOST")
    lost = replace(lost, footprint=replace(lost.footprint, rulebook="gone"))
    released.copies.save(WorkingCopy(bundle=lost))
    checked = {part.name: part.findings for part in check_parts(released, released.search(""))}
    assert [f.check for f in checked["NVK-LOST"]] == ["library.unreadable-part"]
    assert "gone" in checked["NVK-LOST"][0].message
    assert not [f for f in checked["NVK-1216T"] if f.check.startswith("library.")]


def test_a_detached_head_is_told_with_the_way_back(released: Library) -> None:
    repository = pygit2.Repository(str(released.folder))
    repository.set_head(repository.head.target)
    library = open_library(released.folder)
    changed = new_parts.start_from_part(library.load(library.search("")[0].id), "NVK-2")
    with pytest.raises(LibraryError, match="HEAD is detached.*git switch main"):
        release_part(library, changed, "nowhere")


def test_a_release_goes_to_the_branch_that_is_checked_out(released: Library) -> None:
    repository = pygit2.Repository(str(released.folder))
    main = repository.references["refs/heads/main"].target
    repository.branches.local.create("trial", repository.head.peel(pygit2.Commit))
    repository.set_head("refs/heads/trial")
    library = open_library(released.folder)
    changed = new_parts.start_from_part(library.load(library.search("")[0].id), "NVK-2")
    release_part(library, changed, "on trial")
    assert repository.references["refs/heads/main"].target == main
    assert len(library.search("")) == 2
    repository.set_head("refs/heads/main")
    # What belongs to another branch is not found in this one.
    assert [row.name for row in open_library(released.folder).search("")] == ["NVK-1216T"]


@pytest.mark.parametrize("name", ["HEAD", "refs/heads/main"])
@pytest.mark.parametrize("data", [b"", b"nonsense", b"ref: refs/heads/gone\n", b"f" * 40])
def test_damaged_refs_are_told(released: Library, name: str, data: bytes) -> None:
    released.close()
    (released.folder / ".git" / name).write_bytes(data)
    try:
        library = open_library(released.folder)
        assert library.search("") == [] or library.search("")[0].name == "NVK-1216T"
    except LibraryError as fault:
        assert "git" in str(fault)


def test_missing_objects_are_told(released: Library) -> None:
    row = released.search("")[0]
    for path in (released.folder / ".git/objects").rglob("*"):
        if path.is_file():
            path.unlink()
    library = open_library(released.folder)
    with pytest.raises(LibraryError, match="git fsck"):
        library.load_release(row.id)


def test_a_folder_that_cannot_be_written_is_searched_all_the_same(
    released: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    released.close()

    def refused(_files: LibraryFiles, _path: str) -> None:
        raise LibraryError("write-protected")

    monkeypatch.setattr(LibraryFiles, "make_folder", refused)
    monkeypatch.setattr("eider.library.store.os.access", lambda *_: False)
    before = sorted(path for path in released.folder.rglob("*"))
    library = open_library(released.folder)
    assert [row.name for row in library.search("nvk")] == ["NVK-1216T"]
    assert [entry.note for entry in library.history(library.search("")[0].id)] == ["first"]
    assert sorted(path for path in released.folder.rglob("*")) == before


@pytest.mark.parametrize("table", ["items", "parts", "revisions", "uses"])
def test_an_index_without_a_table_is_made_anew(released: Library, table: str) -> None:
    import sqlite3

    released.close()
    with sqlite3.connect(released.folder / ".eider/index.sqlite") as db:
        db.execute(f"drop table {table}")
        db.execute(f"create table {table} (nonsense text)")
    library = open_library(released.folder)
    assert [row.name for row in library.search("nvk")] == ["NVK-1216T"]
    assert len(library.history(library.search("")[0].id)) == 1


@pytest.mark.parametrize("pattern", ["([A-Z0-9a-z-]+)+!", "(((((a*)*)*)*)*)*b", "(", "*", "a{1,99999999}"])
def test_a_naming_pattern_that_hangs_or_is_none_is_a_finding(library: Library, pattern: str) -> None:
    bundle = new_parts.new_part("A" * 40, "ic", library.settings)
    settings = LibrarySettings(name="x", categories={"ic": Category("IC", "U", name_pattern=pattern)})
    found = [f for f in run_checks(PartUnderCheck(bundle, standard_rulebook(), settings)) if f.check.endswith("-name")]
    assert len(found) == 1


def test_history_that_was_rewritten_is_read_anew(released: Library, tmp_path: Path) -> None:
    repository = pygit2.Repository(str(released.folder))
    root = list(repository.walk(repository.head.target))[-1]
    assert released.search("")
    repository.references["refs/heads/main"].set_target(root.id)
    assert released.search("") == []
    assert released.history("anything") == ()


@pytest.mark.parametrize("folder", ["parts/ic", "."])
def test_a_file_name_that_is_not_utf8_closes_the_library_for_nobody(released: Library, folder: str) -> None:
    (released.folder / folder).mkdir(parents=True, exist_ok=True)
    (released.folder / folder / os.fsdecode(b"\xff.part.json")).write_text("{}")
    git(released.folder, "add", "--all")
    git(released.folder, "-c", "user.name=x", "-c", "user.email=x@skerry.example", "commit", "--quiet", "-m", "by hand")
    library = open_library(released.folder)
    assert [row.name for row in library.search("")] == ["NVK-1216T"]
    (found,) = [f for f in check_files(library) if f.check == "library.unreadable-file"]
    assert found.item.endswith("\\xff.part.json") and "not UTF-8; rename it" in found.message
    # Releases go on, and git's index follows them.
    release_part(library, change_fact(library, library.search()[0].id, "Shelf", "A7"), "A7")
    assert keep_house(library) == ""
