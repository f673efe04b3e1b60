"""Outlines that a library keeps by name, for use in any of its parts: `outlines.json`."""

from functools import lru_cache
from pathlib import Path

from eider.errors import InputError
from eider.library.atomic_files import write_atomic
from eider.library.release_commit import locked
from eider.library.store import Library
from eider.model.codec import DocumentError, decode, encode
from eider.model.outline import OutlineSpec

FILE = "outlines.json"


def library_outlines(folder: Path) -> dict[str, OutlineSpec]:
    """The outlines of the library in a folder; none where its file cannot be read."""
    path = folder / FILE
    try:
        return dict(_read(path, path.stat().st_mtime_ns))
    except (OSError, DocumentError):
        return {}


@lru_cache(maxsize=4)
def _read(path: Path, _stamp: int) -> dict[str, OutlineSpec]:
    return decode(path.read_bytes(), dict[str, OutlineSpec], str(path))


def save_outline(library: Library, name: str, outline: OutlineSpec) -> None:
    """Keep an outline under its name; one of the same name is replaced, and its history is in git.

    Raises:
        ReadOnlyError: nothing can be written here.
        InputError: it is made of other outlines of its sheet, or the file there is damaged.
    """
    library.require_writable()
    own = [part.shape for part in outline.parts if part.shape not in ("rectangle", "circle")]
    if own:
        raise InputError(
            f"outline {name} uses {', '.join(own)} of this sheet; "
            "only self-contained outlines can be saved to the library"
        )
    path = library.folder / FILE
    if path.exists() and not library_outlines(library.folder):
        raise InputError(f"{path} cannot be read; correct it or move it away before saving another outline")
    with locked(library):
        kept = {**library_outlines(library.folder), name: outline}
        data = encode(dict(sorted(kept.items()))).encode()
        write_atomic(path, data)
        library.versions.commit({FILE: data}, f"outline {name} kept", library.person())
