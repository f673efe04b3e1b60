"""Git's own index follows what Eider commits: the user's next plain `git commit` takes nothing of it back."""

from collections.abc import Callable
from pathlib import Path

import pytest

from command_line import eider
from eider.library import Library, init_library, open_library
from eider.library.documents.shared_outlines import save_outline
from eider.library.git.housekeeping import keep_house
from eider.model.outline import OutlineSpec
from eider.services.releasing.part_releasing import release_part
from shared_libraries import capacitor, change_fact, git


def _withdraw(library: Library, _folder: Path) -> None:
    eider("withdraw", library.folder, library.search()[0].name, "--note", "no longer made")


def _set_people(library: Library, _folder: Path) -> None:
    eider("people", library.folder, "--set", "librarian@skerry.example=librarian", "--note", "a reviewer")


def _keep_design(library: Library, folder: Path) -> None:
    parts = folder / "list.csv"
    parts.write_text(f"Designator,Part\nC1,{library.search()[0].name}\n")
    eider("bom", library.folder, parts, "--keep-design", "Perch")


def _keep_outline(library: Library, _folder: Path) -> None:
    save_outline(library, "tee", OutlineSpec(corner="0.1"))


def _begin_rulebook(library: Library, _folder: Path) -> None:
    eider("rulebook", library.folder, "dense", "--from", "standard", "--set", "pads.stencil=0.1", "--keep", "thin")


COMMITTING = (_withdraw, _set_people, _keep_design, _keep_outline, _begin_rulebook)


@pytest.fixture(params=["alone", "in a project"])
def released(request: pytest.FixtureRequest, tmp_path: Path) -> Library:
    """A library with a released part, by itself or as a folder of a project."""
    root = tmp_path / "root"
    if request.param == "alone":
        library = init_library(root)
    else:
        root.mkdir()
        git(root, "init", "--quiet", "--initial-branch=main")
        library = init_library(root / "parts", in_project=True)
    git(library.folder, "config", "user.name", "Skerry engineer")
    git(library.folder, "config", "user.email", "engineer@skerry.example")
    release_part(library, capacitor(library), "first release")
    keep_house(library)
    return library


def _commit_plainly(library: Library) -> str:
    """What git says is different after the user commits a file of their own."""
    (library.folder / "notes.txt").write_text("tide table")
    git(library.folder, "add", "notes.txt")
    git(library.folder, "commit", "--quiet", "-m", "notes")
    assert git(library.folder, "show", "--format=", "--name-only").split("/")[-1] == "notes.txt"
    return git(library.folder, "status", "--porcelain")


@pytest.mark.parametrize("change", COMMITTING, ids=lambda change: change.__name__)
def test_a_plain_commit_takes_back_nothing(
    released: Library, tmp_path: Path, change: Callable[[Library, Path], None]
) -> None:
    before = released.versions.head
    change(released, tmp_path)
    made = open_library(released.folder)
    assert made.versions.head != before
    assert _commit_plainly(made) == ""


def test_a_process_that_ended_before_is_made_up_for_at_the_next_opening(released: Library) -> None:
    # A release leaves git's index to `keep_house`, which a killed process never comes to.
    release_part(released, change_fact(released, released.search()[0].id, "Shelf", "A7"), "A7")
    assert git(released.folder, "status", "--porcelain") != ""
    assert _commit_plainly(open_library(released.folder)) == ""


def test_what_the_user_has_staged_stays_staged(released: Library) -> None:
    settings = released.folder / "eider-library.toml"
    settings.write_text(settings.read_text() + "# shelf A is full\n")
    git(released.folder, "add", "eider-library.toml")
    _begin_rulebook(released, released.folder)
    assert git(released.folder, "diff", "--cached", "--name-only").split("/")[-1] == "eider-library.toml"
