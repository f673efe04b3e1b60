"""A sum over Eider itself: what is kept from one start to the next is good only for the Eider that made it."""

import hashlib
from functools import cache
from pathlib import Path

from eider import __version__

SUFFIXES = (".py", ".toml", ".csv", ".ibs")


@cache
def source_sum() -> str:
    """A sum over all that results and findings follow from: the whole of Eider but its window and commands."""
    total = hashlib.sha256(__version__.encode())
    root = Path(__file__).parent
    for path in sorted(root.rglob("*")):
        name = path.relative_to(root)
        if path.suffix in SUFFIXES and name.parts[0] not in ("desktop", "cli"):
            total.update(name.as_posix().encode() + path.read_bytes())
    return total.hexdigest()[:20]
