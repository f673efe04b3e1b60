"""What a library keeps by name for all of its parts, a file for each kind: outlines, materials, compositions, lists."""

import contextlib
from collections.abc import Callable, Mapping
from typing import Any, Generic, TypeVar

from eider.errors import EiderError, InputError
from eider.library.errors import ConflictError
from eider.library.item_paths import (
    COMPOSITIONS,
    DESIGNS,
    FACT_NAMES,
    HOUSES,
    INTAKE_MAPS,
    LISTS,
    MATERIALS,
    OUTLINES,
    SUPPLIER_RULES,
)
from eider.library.releases.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.body import ComposedSolid
from eider.model.codec import DocumentError, decode, encode
from eider.model.design import Design
from eider.model.house import House
from eider.model.intake import IntakeMap
from eider.model.library import SupplierRule
from eider.model.material import Material
from eider.model.outline import OutlineSpec

T = TypeVar("T")


class SharedTable(Generic[T]):
    """A table of a library: its file, the type of its entries, and what one is called."""

    def __init__(self, path: str, kind: Any, title: str) -> None:
        self.path, self.kind, self.title = path, kind, title

    def read(self, library: Library) -> dict[str, T]:
        """All entries by name.

        Raises:
            DocumentError: the file is damaged.
        """
        data = library.files.read(self.path)
        return {} if data is None else decode(data, dict[str, self.kind], self.path)  # type: ignore[name-defined]

    def read_sound(self, library: Library) -> dict[str, T]:
        """The same; none where the file cannot be read, which is told when something is to be saved."""
        with contextlib.suppress(EiderError):
            return self.read(library)
        return {}

    def save(self, library: Library, name: str, entry: T, *, replaces: T | None = None) -> None:
        """Keep an entry under its name, in place of the one that it `replaces`; the history of both is in git.

        Raises:
            ReadOnlyError: nothing can be written here.
            InputError: the name is empty, or the file is damaged.
            ConflictError: the entry of that name is another than the one it replaces.
        """
        if not name.strip():
            raise InputError(f"give the {self.title} a name")

        def changed(table: dict[str, T]) -> dict[str, T]:
            if table.get(name) not in (replaces, entry):
                raise ConflictError(
                    f"someone saved another {self.title} {name} meanwhile; look at it, or choose another name"
                )
            return {**table, name: entry}

        self._change(library, changed, f"{self.title} {name} kept")

    def save_all(self, library: Library, table: Mapping[str, T], note: str, *, replaces: Mapping[str, T]) -> None:
        """Keep a whole table in place of the one that it `replaces`.

        Raises:
            ReadOnlyError: nothing can be written here.
            InputError: the file is damaged.
            ConflictError: the table was changed meanwhile.
        """

        def changed(now: dict[str, T]) -> dict[str, T]:
            if now != replaces:
                raise ConflictError(f"someone changed the {self.title}s meanwhile; open them again and try again")
            return dict(table)

        self._change(library, changed, note)

    def _change(self, library: Library, change: Callable[[dict[str, T]], dict[str, T]], note: str) -> None:
        library.require_writable()
        with locked(library):
            try:
                table = self.read(library)
            except DocumentError as fault:
                raise InputError(f"{fault}, or move it away before saving another {self.title}") from fault
            made = dict(sorted(change(table).items()))
            commit_noted(library, {self.path: encode(made).encode()}, note)


SHARED_OUTLINES = SharedTable[OutlineSpec](OUTLINES, OutlineSpec, "outline")
SHARED_MATERIALS = SharedTable[Material](MATERIALS, Material, "material")
# What the columns of a design's list mean, by its headings.
SHARED_LISTS = SharedTable[tuple[str, ...]](LISTS, tuple[str, ...], "kind of list")
SHARED_DESIGNS = SharedTable[Design](DESIGNS, Design, "design")
# Under which of its names a library keeps the facts of suppliers, by category; an empty one is left out.
SHARED_FACT_NAMES = SharedTable[dict[str, str]](FACT_NAMES, dict[str, str], "set of suppliers' names")
SHARED_SUPPLIERS = SharedTable[SupplierRule](SUPPLIER_RULES, SupplierRule, "supplier")
# How parts of a source become the library's own, by what the source is called.
SHARED_INTAKE_MAPS = SharedTable[IntakeMap](INTAKE_MAPS, IntakeMap, "source")
# What was learned of the datasheets of a house, by what the house is called.
SHARED_HOUSES = SharedTable[House](HOUSES, House, "house")
SHARED_COMPOSITIONS = SharedTable[tuple[ComposedSolid, ...]](COMPOSITIONS, tuple[ComposedSolid, ...], "composition")
