"""The finished demo library, built once into the user's cache, and copied from there for every start."""

import hashlib
import shutil
import tempfile
from pathlib import Path

import platformdirs

from eider import __version__
from eider.library import Library, open_library

MADE_FROM = (".py", ".toml", ".csv", ".ibs")


def demo_key() -> str:
    """A sum over everything that the demo follows from, which is all of Eider but its window and its commands."""
    total = hashlib.sha256(__version__.encode())
    root = Path(__file__).parent.parent
    for path in sorted(root.rglob("*")):
        name = path.relative_to(root)
        if path.suffix in MADE_FROM and name.parts[0] not in ("desktop", "cli"):
            total.update(name.as_posix().encode() + path.read_bytes())
    return total.hexdigest()[:20]


def cache_folder() -> Path:
    """Where the finished demo of this Eider is kept."""
    return Path(platformdirs.user_cache_dir("eider")) / f"demo-{demo_key()}"


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
