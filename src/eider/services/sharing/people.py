"""The people of a library: their roles changed, and releases by those found whose role does not allow them."""

import msgspec

from eider.library import Library
from eider.library.errors import LibraryError
from eider.library.item_paths import SETTINGS
from eider.library.settings.people_settings import PeopleSettings, save_people
from eider.library.settings.settings_file import read_settings
from eider.services.sharing.roles import ROLES, require_role


class UnallowedRelease(msgspec.Struct, frozen=True):
    """A commit that released something, made by someone whose role does not allow it."""

    commit: str
    by: str
    email: str
    role: str
    note: str


def change_people(library: Library, wanted: PeopleSettings, note: str, *, replaces: PeopleSettings) -> None:
    """Keep other roles and rules of review; only a librarian may.

    Raises:
        RoleError: the person is not a librarian. InputError, ConflictError, ReadOnlyError: nothing was changed.
    """
    require_role(library, "settings")
    save_people(library, wanted, note, replaces=replaces)


def unallowed_releases(library: Library, since: str) -> tuple[UnallowedRelease, ...]:
    """Releases after a commit by people who might not make them, by the roles that held at that commit.

    Raises:
        LibraryError: the newest commit does not follow from it. DocumentError: its settings cannot be read.
    """
    if not library.versions.is_before_head(since):
        raise LibraryError(f"{since[:40]} is not a commit that the newest one follows from")
    text = library.versions.read(SETTINGS, since)
    people = read_settings(text.decode("utf-8", "replace")).people if text is not None else {}
    if not people:
        return ()
    found = []
    for made in library.versions.own_commits(since):
        role = people.get(made.email, "reader")
        if "release" not in ROLES[role]:
            found.append(UnallowedRelease(made.commit, made.name, made.email, role, made.note))
    return tuple(found)
