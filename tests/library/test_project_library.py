"""A library that is a folder of a project: its commits are the project's, whose other files are left alone."""

from pathlib import Path

import pytest

from command_line import answer
from eider.library import Library, init_library, open_library
from eider.library.errors import LibraryError
from eider.library.git.housekeeping import keep_house
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.synchronising import open_shared, share_library, synchronise
from shared_libraries import REVIEWER, bare_server, capacitor, change_fact, git, sound_server

PLACE = "hardware/parts"


@pytest.fixture
def project(tmp_path: Path) -> Path:
    """A project of someone, with a file and one commit."""
    folder = tmp_path / "project"
    folder.mkdir()
    git(folder, "init", "--quiet", "--initial-branch=main")
    git(folder, "config", "user.name", "Skerry engineer")
    git(folder, "config", "user.email", "engineer@skerry.example")
    (folder / "README").write_text("A weather station.\n")
    git(folder, "add", "README")
    git(folder, "commit", "--quiet", "-m", "begin")
    return folder


@pytest.fixture
def library(project: Path) -> Library:
    made = init_library(project / PLACE, "Weather station", in_project=True)
    release_part(made, capacitor(made), "first release")
    return made


def _commit(project: Path, text: str) -> None:
    (project / "README").write_text(text)
    git(project, "commit", "--quiet", "-am", text)


def test_releases_are_commits_of_the_project(project: Path, library: Library) -> None:
    keep_house(library)
    assert git(project, "status", "--porcelain") == ""
    log = git(project, "log", "--format=%an|%s")
    assert log.splitlines() == ["Skerry engineer|first release", "Skerry engineer|Begin the library Weather station",
                                "Skerry engineer|begin"]  # fmt: skip
    assert f"Eider-Revision: part {library.search()[0].id} 1 {PLACE}/parts/" in git(project, "log", "-1", "--format=%B")
    assert (project / "README").read_text() == "A weather station.\n"


def test_what_others_commit_and_stage_in_the_project_stays_theirs(project: Path, library: Library) -> None:
    part_id = library.search()[0].id
    (project / "notes").write_text("staged")
    git(project, "add", "notes")
    (project / "README").write_text("changed, not committed")
    release_part(library, change_fact(library, part_id, "Shelf", "A7"), "A7")
    keep_house(library)
    assert git(project, "status", "--porcelain").splitlines() == ["M README", "A  notes"]
    again = open_library(project / PLACE)
    assert [made.revision for made in again.history(part_id)] == [1, 2]
    assert again.load_release(part_id, 1).part.facts.get("Shelf") is None
    git(project, "stash", "--quiet")
    git(project, "switch", "--quiet", "--detach", "HEAD~1")
    assert [made.revision for made in open_library(project / PLACE).history(part_id)] == [1]


def test_two_libraries_of_one_project_do_not_see_each_other(project: Path, library: Library) -> None:
    other = init_library(project / "firmware" / "parts", "Probe", in_project=True)
    assert other.search() == [] and len(library.search()) == 1
    release_part(other, capacitor(other), "theirs")
    assert [row.id for row in library.search()] != [row.id for row in other.search()]
    assert len(library.search()) == len(other.search()) == 1


def test_it_is_shared_through_the_projects_own_server(project: Path, library: Library, tmp_path: Path) -> None:
    server = f"file://{bare_server(tmp_path / 'server.git')}"
    git(project, "remote", "add", "origin", server)
    with pytest.raises(LibraryError, match="the project has the server"):
        share_library(library, f"{server}-other")
    with pytest.raises(LibraryError, match="1 commit of the project, not made with Eider.*“begin”.*git push"):
        share_library(library, server)
    git(project, "push", "--quiet", "origin", "main")
    share_library(library, server)
    theirs = open_shared(server, tmp_path / "theirs", REVIEWER)
    assert theirs.folder == tmp_path / "theirs" / PLACE and len(theirs.search()) == 1
    part_id = theirs.search()[0].id
    _commit(project, "a lightning detector")
    git(project, "push", "--quiet", "origin", "main")
    release_part(library, change_fact(library, part_id, "Shelf", "A7"), "A7")
    assert [made.revision for made in synchronise(theirs).received if made.kind == "part"] == [2]
    assert (tmp_path / "theirs" / "README").read_text() == "a lightning detector"
    assert theirs.load(part_id).part.facts["Shelf"].value == "A7"
    assert git(tmp_path / "theirs", "status", "--porcelain") == ""
    sound_server(tmp_path / "server.git")


def test_what_someone_changed_in_the_project_is_not_overwritten(
    project: Path, library: Library, tmp_path: Path
) -> None:
    server = f"file://{bare_server(tmp_path / 'server.git')}"
    git(project, "remote", "add", "origin", server)
    git(project, "push", "--quiet", "origin", "main")
    share_library(library, server)
    theirs = open_shared(server, tmp_path / "theirs", REVIEWER)
    _commit(project, "a lightning detector")
    git(project, "push", "--quiet", "origin", "main")
    (tmp_path / "theirs" / "README").write_text("mine")
    with pytest.raises(LibraryError, match="changed here: README; commit or put aside"):
        synchronise(theirs)
    assert (tmp_path / "theirs" / "README").read_text() == "mine"


def test_a_folder_that_is_in_no_project_or_not_committed_says_so(project: Path, tmp_path: Path) -> None:
    with pytest.raises(LibraryError, match="lies in no git repository"):
        init_library(tmp_path / "alone", in_project=True)
    copied = project / "copied"
    copied.mkdir()
    (copied / "eider-library.toml").write_text('format = 2\nname = "x"\n')
    with pytest.raises(LibraryError, match="no git repository; the project .* has no commit with its"):
        open_library(copied)


def test_several_libraries_at_one_address_are_named(project: Path, library: Library, tmp_path: Path) -> None:
    init_library(project / "probe", in_project=True)
    with pytest.raises(LibraryError, match=r"several libraries \(hardware/parts, probe\)"):
        open_shared(f"file://{project}", tmp_path / "theirs")
    assert not (tmp_path / "theirs").exists()


def test_the_command_makes_one_in_a_project(project: Path) -> None:
    told = answer("init", project / PLACE, "--in-project")
    assert told["library"] == str(project / PLACE)
    assert "Begin the library parts" in git(project, "log", "-1", "--format=%s")
