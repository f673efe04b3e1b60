"""Outlines that a library keeps by name, for use in any of its parts: `outlines.json`."""

from eider.errors import InputError
from eider.library.documents.shared_tables import SHARED_OUTLINES
from eider.library.store import Library
from eider.model.outline import OutlineSpec


def library_outlines(library: Library) -> dict[str, OutlineSpec]:
    """The outlines of a library; none where its file cannot be read."""
    return SHARED_OUTLINES.read_sound(library)


def save_outline(library: Library, name: str, outline: OutlineSpec, *, replaces: OutlineSpec | None = None) -> None:
    """Keep an outline under its name, in place of the one that it `replaces`; the history of both is in git.

    Raises:
        ReadOnlyError: nothing can be written here.
        InputError: it is made of other outlines of its sheet, or the file there is damaged.
        ConflictError: the outline of that name is another than the one it replaces.
    """
    others = [part.shape for part in outline.parts if part.shape not in ("rectangle", "circle")]
    if others:
        raise InputError(
            f"outline {name} uses {', '.join(others)} of this sheet; "
            "only self-contained outlines can be saved to the library"
        )
    SHARED_OUTLINES.save(library, name, outline, replaces=replaces)
