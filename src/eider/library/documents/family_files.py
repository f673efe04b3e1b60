"""The family tables of a library: a file each, versioned with it."""

from eider.errors import InputError, NotFoundError
from eider.library.errors import ConflictError
from eider.library.item_paths import FAMILIES, family_path, safe_name
from eider.library.releases.release_recovery import commit_noted, locked
from eider.library.store import Library
from eider.model.codec import decode, encode
from eider.model.family_table import FAMILY_FORMAT, FamilyTable

ENDING = ".family.json"


def family_names(library: Library) -> list[str]:
    """The names of all family tables."""
    return sorted(name.removesuffix(ENDING) for name in library.files.stamps(FAMILIES) if name.endswith(ENDING))


def read_family(library: Library, name: str) -> FamilyTable:
    """Read the family table of this name.

    Raises:
        NotFoundError: the library has no such table. DocumentError: its file is damaged.
        InputError: it was made by a newer Eider.
    """
    path = family_path(name)
    data = library.files.read(path)
    if data is None:
        known = ", ".join(family_names(library)) or "no family tables"
        raise NotFoundError(f"there is no family table “{name}” in {library.folder}; it has {known}")
    return parse_family(data, path)


def parse_family(data: bytes, where: str) -> FamilyTable:
    """A family table from its file.

    Raises:
        DocumentError: the file is damaged. InputError: it was made by a newer Eider.
    """
    table = decode(data, FamilyTable, where)
    if table.format != FAMILY_FORMAT:
        raise InputError(f"{where} has the format {table.format}, made by a newer Eider; update Eider to use it")
    return table


def family_file(table: FamilyTable) -> bytes:
    """The file of a table."""
    return encode(table).encode()


def save_family(library: Library, table: FamilyTable, note: str, *, replaces: FamilyTable | None) -> None:
    """Keep a table under its name, in place of the one that it `replaces`.

    Raises:
        InputError: no file can have its name. ConflictError: someone changed it meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    require_name(table.name)
    library.require_writable()
    with locked(library):
        require_unchanged(library, table.name, replaces)
        commit_noted(library, {family_path(table.name): family_file(table)}, note)


def require_name(name: str) -> None:
    """Refuse a name that no file can have.

    Raises:
        InputError: it is such a name.
    """
    if not name or safe_name(name) != name:
        raise InputError(f"“{name}” is not a name for a family table; letters, digits, - and _ are")


def require_unchanged(library: Library, name: str, replaces: FamilyTable | None) -> None:
    """Refuse to replace a table that is another by now.

    Raises:
        ConflictError: it is another.
    """
    data = library.files.read(family_path(name))
    now = None if data is None else parse_family(data, family_path(name))
    if now is not None and now != replaces:
        raise ConflictError(
            f"someone changed the family table {name} meanwhile; open it again and make the change there"
        )
