import shutil
import tempfile
from pathlib import Path

import pytest

from eider.demo import cache
from eider.library import init_library
from eider.library.git.commit_reading import Person


@pytest.fixture
def made(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A small library in place of the finished demo, and a cache of its own."""
    monkeypatch.setattr(cache.platformdirs, "user_cache_dir", lambda _name: str(tmp_path / "cache"))
    folder = tmp_path / "made"
    init_library(folder / "library", "Skerry", Person("Skerry librarian", "librarian@skerry.example")).close()
    return folder


def test_nothing_is_copied_before_something_was_kept(made: Path, tmp_path: Path) -> None:
    assert cache.copy_from_cache(tmp_path / "copy") is None
    assert not (tmp_path / "copy").exists()


def test_what_was_kept_is_copied_and_the_copy_is_ones_own(made: Path, tmp_path: Path) -> None:
    cache.keep_in_cache(made)
    copy = cache.copy_from_cache(tmp_path / "copy")
    assert copy is not None
    assert copy.settings.name == "Skerry"
    copy.close()
    shutil.rmtree(tmp_path / "copy")
    again = cache.copy_from_cache(tmp_path / "again")
    assert again is not None
    again.close()


def test_other_contents_are_another_demo_and_replace_the_old(
    made: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    cache.keep_in_cache(made)
    old = cache.cache_folder()
    monkeypatch.setattr(cache, "source_sum", lambda: "of the next Eider")
    assert cache.copy_from_cache(tmp_path / "copy") is None
    cache.keep_in_cache(made)
    assert not old.exists()
    assert [found.name for found in old.parent.iterdir()] == [cache.cache_folder().name]


def test_a_disk_that_takes_nothing_is_no_reason_to_fail(made: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(**_options: object) -> str:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(tempfile, "mkdtemp", full)
    cache.keep_in_cache(made)
    assert not cache.cache_folder().exists()
