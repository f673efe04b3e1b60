"""Outlines that a library keeps by name, for use in any of its parts: `outlines.json`."""

import contextlib

from eider.errors import EiderError, InputError
from eider.library.errors import ConflictError
from eider.library.item_paths import OUTLINES
from eider.library.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.codec import DocumentError, decode, encode
from eider.model.outline import OutlineSpec


def library_outlines(library: Library) -> dict[str, OutlineSpec]:
    """The outlines of a library; none where its file cannot be read."""
    with contextlib.suppress(EiderError):
        return _read(library)
    return {}


def _read(library: Library) -> dict[str, OutlineSpec]:
    data = library.files.read(OUTLINES)
    return {} if data is None else decode(data, dict[str, OutlineSpec], OUTLINES)


def save_outline(library: Library, name: str, outline: OutlineSpec, *, replaces: OutlineSpec | None = None) -> None:
    """Keep an outline under its name, in place of the one that it `replaces`; the history of both is in git.

    Raises:
        ReadOnlyError: nothing can be written here.
        InputError: it is made of other outlines of its sheet, or the file there is damaged.
        ConflictError: the outline of that name is another than the one it replaces.
    """
    library.require_writable()
    others = [part.shape for part in outline.parts if part.shape not in ("rectangle", "circle")]
    if others:
        raise InputError(
            f"outline {name} uses {', '.join(others)} of this sheet; "
            "only self-contained outlines can be saved to the library"
        )
    with locked(library):
        try:
            kept = _read(library)
        except DocumentError as fault:
            raise InputError(f"{fault}, or move it away before saving another outline") from fault
        if kept.get(name) not in (replaces, outline):
            raise ConflictError(f"somebody saved another outline {name} meanwhile; look at it, or choose another name")
        data = encode(dict(sorted({**kept, name: outline}.items()))).encode()
        commit_noted(library, {OUTLINES: data}, f"outline {name} kept")
