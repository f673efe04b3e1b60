"""The designs that a library knows by their lists of parts: kept by name, and found by what they use."""

from collections.abc import Collection

import msgspec

from eider.library import Library
from eider.library.documents.shared_tables import SHARED_DESIGNS


class DesignUse(msgspec.Struct, frozen=True):
    """A design that has parts: which ones in how many places, and those of which there are newer revisions."""

    name: str
    places: int
    parts: tuple[str, ...]
    behind: tuple[str, ...]


def designs_using(library: Library, part_ids: Collection[str]) -> tuple[DesignUse, ...]:
    """The designs that have one of these parts, by name."""
    library.index.refresh()
    found = []
    for name, design in SHARED_DESIGNS.read_sound(library).items():
        used = {part_id: part for part_id, part in design.parts.items() if part_id in part_ids}
        if used:
            names = {part_id: _name(library, part_id) for part_id in used}
            behind = [p for p, part in used.items() if part.revision < library.index.newest_revision(p)]
            places = sum(len(part.references) for part in used.values())
            found.append(DesignUse(name, places, tuple(names.values()), tuple(names[part_id] for part_id in behind)))
    return tuple(found)


def design_words(uses: Collection[DesignUse]) -> str:
    """Designs for a line: each with how often it has the parts, and whether newer revisions are out."""
    told = [f"{u.name} ({len(u.parts)} of its parts{', newer revisions are out' if u.behind else ''})" for u in uses]
    return ", ".join(told)


def _name(library: Library, part_id: str) -> str:
    row = library.index.find(part_id)
    return row.name if row else part_id
