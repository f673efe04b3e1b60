"""A release that dies at any step: what is found afterwards is the state before it or the state after it, whole."""

import os
import shutil
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pygit2
import pytest

from eider.commands.packages import package_edits
from eider.demo.parts import converter_part
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.git.housekeeping import keep_house
from eider.library.releases.release_commit import release_bundles
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.model.part import DatasheetLink

KILLED = 9
# What a release does to the disk goes through these.
STEPS = (
    ("os", "open"),
    ("os", "fsync"),
    ("os", "replace"),
    ("os", "unlink"),
    ("pygit2.Repository", "create_blob"),
    ("pygit2.Repository", "create_commit"),
)


@pytest.fixture(scope="module")
def prepared(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A library with a part of one revision, whose working copy is to become the second."""
    from eider.library import init_library
    from eider.library.git.commit_reading import Person

    folder = tmp_path_factory.mktemp("prepared") / "library"
    library = init_library(folder, "Prepared", Person("Skerry librarian", "librarian@skerry.example"))
    release_bundles(library, (converter_part(library, DatasheetLink("0" * 64, "x.pdf")),), "first")
    library.copies.save(WorkingCopy(bundle=_changed(library)))
    keep_house(library)
    library.close()
    return folder


def _changed(library: Library) -> Bundle:
    row = library.search("nvk")[0]
    return package_edits.set_dimension(library.load_release(row.id), "b", "0.19–0.33")


def _release(folder: Path) -> None:
    library = open_library(folder)
    release_bundles(library, (library.load(library.search()[0].id),), "second", {"bodies/x.step": b"ISO"})


def _dies_at(folder: Path, step: int) -> bool:
    """Release in a process that is gone at its nth step; whether it died rather than finished."""
    child = os.fork()
    if child == 0:
        try:
            _count_down(step)
            _release(folder)
            os._exit(0)
        except BaseException:
            os._exit(1)
    _, status = os.waitpid(child, 0)
    assert os.waitstatus_to_exitcode(status) in (0, KILLED)
    return os.waitstatus_to_exitcode(status) == KILLED


def _count_down(step: int) -> None:
    left = [step]

    def counted(whole: Callable[..., Any]) -> Callable[..., Any]:
        def call(*values: Any, **more: Any) -> Any:
            left[0] -= 1
            if left[0] == 0:
                os._exit(KILLED)
            return whole(*values, **more)

        return call

    for owner, name in STEPS:
        target = os if owner == "os" else pygit2.Repository
        setattr(target, name, counted(getattr(target, name)))


def _holds(folder: Path) -> int:
    """What must hold whenever the release died; returns the revision that is found."""
    library = open_library(folder)
    part_id = library.search()[0].id
    revision = len(library.history(part_id))
    found = library.load_release(part_id)
    assert found.part.release
    assert found.part.release.revision == revision
    # The folder is what the newest commit says, and nothing lies about.
    assert keep_house(library) == ""
    assert pygit2.Repository(str(folder)).status() == {}
    assert not [path for path in folder.rglob("*") if path.name.endswith((".part", ".lock"))]
    copy = library.copies.load(part_id)
    if revision == 1:
        assert copy is not None
        assert encode(copy.bundle) == encode(_changed(library))
        _release(folder)
    else:
        assert copy is None
    again = open_library(folder)
    assert [entry.note for entry in again.history(part_id)] == ["first", "second"]
    assert again.load_release(part_id).sheet.dims["b"].text == "0.19–0.33"
    return revision


@pytest.mark.parametrize("stride", [9, pytest.param(1, marks=pytest.mark.sweep)])
def test_a_release_killed_at_any_step_is_whole_or_did_not_happen(prepared: Path, tmp_path: Path, stride: int) -> None:
    found, step = [], 0
    while True:
        step += stride
        folder = tmp_path / f"at-{step}"
        shutil.copytree(prepared, folder)
        if not _dies_at(folder, step):
            break
        found.append(_holds(folder))
        shutil.rmtree(folder)
    # Some died before the branch moved, some after it.
    assert len(found) > 30 // stride
    assert found == sorted(found)
    assert set(found) == {1, 2}


@pytest.mark.parametrize("name", ["refs/heads/main.lock", "index.lock", "HEAD.lock"])
def test_locks_of_a_dead_release_are_removed(prepared: Path, tmp_path: Path, name: str) -> None:
    folder = tmp_path / "library"
    shutil.copytree(prepared, folder)
    library = open_library(folder)
    (folder / ".git" / name).touch()
    (folder / ".eider/releasing.json").write_text(f'{{"start": "{library.versions.head}"}}')
    assert _holds(folder) == 1


def test_a_lock_that_is_not_ours_is_told(prepared: Path, tmp_path: Path) -> None:
    folder = tmp_path / "library"
    shutil.copytree(prepared, folder)
    (folder / ".git/refs/heads/main.lock").touch()
    with pytest.raises(EiderError, match=r"another git program is at work .*remove the file that ends in \.lock"):
        _release(folder)
    (folder / ".git/refs/heads/main.lock").unlink()
    assert _holds(folder) == 1


def test_a_file_that_someone_changed_by_hand_is_theirs(prepared: Path, tmp_path: Path) -> None:
    folder = tmp_path / "library"
    shutil.copytree(prepared, folder)
    library = open_library(folder)
    start = library.versions.head
    _release(folder)
    path = next(folder.glob("parts/**/*.json"))
    path.write_text("by hand")
    (folder / ".eider/releasing.json").write_text(f'{{"start": "{start}"}}')
    open_library(folder)
    assert path.read_text() == "by hand"
