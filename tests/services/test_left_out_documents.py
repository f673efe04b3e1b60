"""Datasheets and STEP files of a shared library come when they are needed, from a server that can leave them out."""

import random
import shutil
from pathlib import Path

import pytest

from command_line import eider
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.library import Library, init_library, open_library
from eider.library.documents.attachments import DocumentKind
from eider.library.errors import LibraryError
from eider.library.git import housekeeping as object_packing
from eider.library.git.housekeeping import keep_house
from eider.model.part import DatasheetLink
from eider.services.checking.library_checking import check_files
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.synchronising import open_shared, share_library, synchronise
from shared_libraries import REVIEWER, bare_server, change_fact, git, sound_server

SHEET = b"%PDF-1.7\n" + random.Random(1).randbytes(200_000)
OTHER = b"%PDF-1.7\n" + random.Random(2).randbytes(200_000)


def _release(library: Library, value: str, data: bytes) -> tuple[str, str]:
    """A part with a datasheet; its id, and the sum of the datasheet."""
    sha256 = library.attachments.keep(DocumentKind.DATASHEET, data)
    series = chips()
    size = next(size for size in series.sizes if size.size == "1608")
    bundle = chip_part(library, series, size, value, DatasheetLink(sha256, "LYN-C.pdf", 2))
    release_part(library, bundle, value)
    return bundle.part.id, sha256


@pytest.fixture(params=[True, False], ids=["left-out", "server-sends-all"])
def server(tmp_path: Path, request: pytest.FixtureRequest) -> Path:
    """A server that can leave contents out, or one that cannot."""
    made = bare_server(tmp_path / "server.git")
    git(made, "config", "uploadpack.allowFilter", "true" if request.param else "false")
    return made


@pytest.fixture
def ours(server: Path, tmp_path: Path) -> Library:
    library = init_library(tmp_path / "ours", "Skerry Fieldworks", LIBRARIAN)
    _release(library, "100 nF", SHEET)
    share_library(library, f"file://{server}")
    return library


def _documents(library: Library) -> list[Path]:
    return sorted(path for place in ("datasheets", "models", "bodies") for path in _files(library.folder / place))


def _files(folder: Path) -> list[Path]:
    return [path for path in folder.rglob("*") if path.suffix in (".pdf", ".step")]


def test_a_datasheet_comes_when_it_is_opened(server: Path, ours: Library, tmp_path: Path) -> None:
    theirs = open_shared(f"file://{server}", tmp_path / "theirs", REVIEWER)
    assert _documents(theirs) == [] and len(theirs.search()) == 1
    assert git(theirs.folder, "status", "--porcelain") == ""
    link = theirs.load(theirs.search()[0].id).part.datasheets[0]
    assert theirs.attachments.path(DocumentKind.DATASHEET, link.sha256).read_bytes() == SHEET
    assert [path.suffix for path in _documents(theirs)] == [".pdf"]
    assert git(theirs.folder, "status", "--porcelain") == ""
    assert check_files(theirs) == ()


def test_what_others_release_comes_without_its_documents(server: Path, ours: Library, tmp_path: Path) -> None:
    theirs = open_shared(f"file://{server}", tmp_path / "theirs", REVIEWER)
    part_id, sha256 = _release(ours, "220 nF", OTHER)
    assert len(synchronise(theirs).received) > 0
    assert theirs.load(part_id).part.datasheets[0].sha256 == sha256 and _documents(theirs) == []
    assert git(theirs.folder, "status", "--porcelain") == ""
    assert theirs.attachments.read(DocumentKind.DATASHEET, sha256) == OTHER


def test_parts_are_released_where_documents_are_left_out(server: Path, ours: Library, tmp_path: Path) -> None:
    theirs = open_shared(f"file://{server}", tmp_path / "theirs", REVIEWER)
    part_id = theirs.search()[0].id
    release_part(theirs, change_fact(theirs, part_id, "Shelf", "B2"), "B2")
    keep_house(theirs)
    assert _documents(theirs) == [] and git(theirs.folder, "status", "--porcelain") == ""
    synchronise(ours)
    assert ours.load(part_id).part.facts["Shelf"].value == "B2" and len(_documents(ours)) == 2
    sound_server(server)


def test_offline_it_says_which_document_is_not_here(ours: Library, server: Path, tmp_path: Path) -> None:
    theirs = open_shared(f"file://{server}", tmp_path / "theirs", REVIEWER)
    link = theirs.load(theirs.search()[0].id).part.datasheets[0]
    has_all = git(server, "config", "uploadpack.allowFilter") == "false"
    shutil.move(server, tmp_path / "away.git")
    if has_all:
        assert theirs.attachments.read(DocumentKind.DATASHEET, link.sha256) == SHEET
        return
    with pytest.raises(LibraryError, match=r"datasheets/.*\.pdf is not on this machine yet and cannot be fetched now"):
        theirs.attachments.path(DocumentKind.DATASHEET, link.sha256)


def test_the_whole_library_comes_where_it_is_wanted(ours: Library, server: Path, tmp_path: Path) -> None:
    eider("open", f"file://{server}", "--to", tmp_path / "theirs", "--whole", "--no-window")
    theirs = open_library(tmp_path / "theirs")
    assert [path.suffix for path in _documents(theirs)] == [".step", ".pdf"]
    assert not list((theirs.folder / ".git" / "objects" / "pack").glob("*.promisor"))


def test_many_packs_of_such_a_library_are_gathered_by_git(
    ours: Library, server: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    theirs = open_shared(f"file://{server}", tmp_path / "theirs", REVIEWER)
    for value in ("220 nF", "330 nF", "470 nF"):
        _release(ours, value, OTHER + value.encode())
        synchronise(theirs)
    packs = theirs.folder / ".git" / "objects" / "pack"
    before = len(list(packs.glob("*.pack")))
    monkeypatch.setattr(object_packing, "PACKS", 2)
    keep_house(theirs)
    assert len(list(packs.glob("*.pack"))) < before
    assert len(open_library(theirs.folder).search()) == 4
    assert git(theirs.folder, "fsck", "--connectivity-only", "--no-dangling") == ""
