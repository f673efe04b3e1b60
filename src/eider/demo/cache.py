"""The finished demo library, built once into the user's cache, and copied from there for every start."""

import shutil
import tempfile
from pathlib import Path

import platformdirs

from eider.library import Library, open_library
from eider.source_sum import source_sum


def cache_folder() -> Path:
    """Where the finished demo of this Eider is kept."""
    return Path(platformdirs.user_cache_dir("eider")) / f"demo-{source_sum()}"


def copy_from_cache(folder: Path) -> Library | None:
    """A fresh copy of the finished demo in a folder; None where it has not been built yet."""
    cached = cache_folder()
    if not cached.is_dir():
        return None
    shutil.copytree(cached, folder, dirs_exist_ok=True)
    return open_library(folder / "library")


def keep_in_cache(folder: Path) -> None:
    """Keep a finished demo for the next start; where there is no room for it, the next start builds it again."""
    cached = cache_folder()
    try:
        cached.parent.mkdir(parents=True, exist_ok=True)
        for old in cached.parent.glob("demo-*"):
            shutil.rmtree(old, ignore_errors=True)
        # Copied aside and renamed, so that a half copied one is never found; what was left of one goes with the old.
        aside = Path(tempfile.mkdtemp(prefix="demo-making-", dir=cached.parent))
        shutil.copytree(folder, aside, dirs_exist_ok=True)
        aside.rename(cached)
    except OSError:
        return
