"""A published folder: every released part, brought up to date by what changed, whole or not at all."""

import hashlib
import json
import stat
from pathlib import Path

import pytest

from command_line import answer, eider
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.errors import EiderError, InputError
from eider.library import Library, init_library, open_library
from eider.library.errors import LibraryError
from eider.model.library import PublishSettings
from eider.model.part import DatasheetLink
from eider.services.publishing import library_publishing as publishing
from eider.services.publishing.exporting import Exported, ExportRequest
from eider.services.publishing.library_publishing import (
    NOTE,
    STAGING,
    keep_publishing,
    publish_by_settings,
    publish_library,
)
from eider.services.releasing.part_releasing import release_part, release_parts
from eider.services.releasing.withdrawing import withdraw_part
from eider.services.tasks import CancelledError, Task
from shared_libraries import change_fact

FIRST, SECOND = "LYN-C1608-100N", "LYN-C1608-1U"


@pytest.fixture
def library(tmp_path: Path) -> Library:
    made = init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)
    series, sheet = chips(), DatasheetLink("0" * 64, "LYN-C.pdf", 2)
    size = next(size for size in series.sizes if size.size == "1608")
    release_parts(made, [chip_part(made, series, size, value, sheet) for value in ("100 nF", "1 µF")], "first")
    return made


def _state(folder: Path) -> dict[str, bytes]:
    return {path.relative_to(folder).as_posix(): path.read_bytes() for path in folder.rglob("*") if path.is_file()}


def test_every_part_is_there_with_its_sums_and_cannot_be_written(library: Library, tmp_path: Path) -> None:
    place = tmp_path / "published"
    report = publish_library(library, place, ("json", "svg"))
    manifest = json.loads((place / "manifest.json").read_text())
    assert (manifest["format"], manifest["library"], report.parts) == ("eider-publish/1", "Skerry Fieldworks", 2)
    assert [(part["name"], part["revision"]) for part in manifest["parts"]] == [(FIRST, 1), (SECOND, 1)]
    for part in manifest["parts"]:
        for name, total in part["files"].items():
            path = place / part["folder"] / name
            assert hashlib.sha256(path.read_bytes()).hexdigest() == total
            assert stat.S_IMODE(path.stat().st_mode) == 0o444
    assert sorted(_state(place)) == sorted([*report.written, "manifest.json"])


def test_only_what_changed_is_written_again(library: Library, tmp_path: Path) -> None:
    place = tmp_path / "published"
    publish_library(library, place, ("json",))
    assert publish_library(library, place, ("json",)).written == ()
    part_id = library.find(FIRST).id
    # What is being worked on is not published.
    changed = change_fact(library, part_id, "Shelf", "A7")
    assert publish_library(library, place, ("json",)).written == ()
    release_part(library, changed, "A7")
    assert publish_library(library, place, ("json",)).written == (f"parts/{FIRST}/{FIRST}.json",)
    assert '"A7"' in (place / "parts" / FIRST / f"{FIRST}.json").read_text()
    (place / "parts" / SECOND / f"{SECOND}.json").unlink()
    assert publish_library(library, place, ("json",)).written == (f"parts/{SECOND}/{SECOND}.json",)
    assert len(publish_library(library, place, ("csv", "json")).written) > 2


def test_a_withdrawn_part_is_moved_aside(library: Library, tmp_path: Path) -> None:
    place = tmp_path / "published"
    publish_library(library, place, ("json",))
    withdraw_part(library, library.find(FIRST).id, "obsolete", SECOND)
    report = publish_library(library, place, ("json",))
    assert report.removed == (f"parts/{FIRST}",) and report.written == (f"withdrawn/{FIRST}/{FIRST}.json",)
    assert not (place / "parts" / FIRST).exists() and "withdrawn by" in report.log[0]


def test_what_goes_wrong_leaves_what_was_published(library: Library, tmp_path: Path) -> None:
    place = tmp_path / "published"
    publish_library(library, place, ("json",))
    before = _state(place)
    release_part(library, change_fact(library, library.find(FIRST).id, "Shelf", "A7"), "A7")

    def broken(_request: ExportRequest) -> Exported:
        raise LibraryError("the disk is full")

    with pytest.raises(LibraryError, match="disk is full"):
        publish_library(library, place, ("json",), run=broken)
    task = Task()
    task.cancel()
    with pytest.raises(CancelledError):
        publish_library(library, place, ("json",), task)
    assert _state(place) == before
    with pytest.raises(InputError, match="not known"):
        publish_library(library, place, ("smell",))


@pytest.mark.parametrize("moved", [0, 1])
def test_a_killed_process_is_finished_by_the_next(
    library: Library, tmp_path: Path, moved: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    place = tmp_path / "published"
    publish_library(library, place, ("json",))
    for name in (FIRST, SECOND):
        release_part(library, change_fact(library, library.find(name).id, "Shelf", "A7"), "A7")
    with monkeypatch.context() as patch:
        patch.setattr(publishing, "_apply", lambda _files, _moves: None)
        publish_library(library, place, ("json",))
    assert (place / NOTE).is_file()
    for name in (FIRST, SECOND)[:moved]:
        (place / "parts" / name / f"{name}.json").unlink()
        (place / "parts" / name).rmdir()
        (place / STAGING / "parts" / name).rename(place / "parts" / name)
    assert publish_library(library, place, ("json",)).written == ()
    texts = [(place / "parts" / name / f"{name}.json").read_text() for name in (FIRST, SECOND)]
    assert all('"A7"' in text for text in texts) and not (place / STAGING).exists()


def test_a_folder_of_something_else_is_not_touched(library: Library, tmp_path: Path) -> None:
    (tmp_path / "mine").mkdir()
    (tmp_path / "mine" / "letter").write_text("x")
    with pytest.raises(InputError, match="holds something else"):
        publish_library(library, tmp_path / "mine", ("json",))
    (tmp_path / "mine" / "manifest.json").write_text("{}")
    with pytest.raises(EiderError, match="is not a manifest of Eider"):
        publish_library(library, tmp_path / "mine", ("json",))
    assert sorted(_state(tmp_path / "mine")) == ["letter", "manifest.json"]


def test_the_library_says_that_it_is_published_after_each_release(library: Library, tmp_path: Path) -> None:
    assert publish_by_settings(library) is None
    keep_publishing(library, PublishSettings("../published", ("json",)))
    assert open_library(library.folder).settings.publish == PublishSettings("../published", ("json",))
    change_fact(library, library.find(FIRST).id, "Shelf", "A7")
    told = eider("release", library.folder, FIRST, "--note", "A7").stdout
    assert "published: 2 files written" in told
    assert (tmp_path / "published" / "parts" / FIRST / f"{FIRST}.json").is_file()


def test_the_command(library: Library, tmp_path: Path) -> None:
    told = answer("publish", library.folder, tmp_path / "out", "--to", "json,bundle", "--always")
    assert told["parts"] == 2 and len(told["written"]) == 4 and told["removed"] == []
    assert told["manifest"] == str(tmp_path / "out" / "manifest.json")
    assert answer("publish", library.folder)["written"] == []
    assert "name a folder" in eider("publish", init_library(tmp_path / "new").folder, status=2).stderr
