"""Who may do what in a library: a table of people and roles in its settings; without one, everybody everything."""

from collections.abc import Mapping
from typing import Literal

from eider.errors import EiderError
from eider.library import Library

Action = Literal["release", "claim", "request", "judge", "withdraw", "settings"]
ROLES: Mapping[str, frozenset[Action]] = {
    "librarian": frozenset(("release", "claim", "request", "judge", "withdraw", "settings")),
    "reviewer": frozenset(("judge",)),
    "engineer": frozenset(("claim", "request")),
    "reader": frozenset(),
}
_WORDS: Mapping[Action, str] = {
    "release": "release parts",
    "claim": "claim parts",
    "request": "request a review",
    "judge": "approve or decline a review",
    "withdraw": "withdraw parts",
    "settings": "change roles and reviews",
}


class RoleError(EiderError):
    """Someone whose role does not allow it."""


def role_of(library: Library, email: str) -> str:
    """The role of a person; librarian where the library has no table, reader where it does not name the person."""
    people = library.settings.people
    return people.get(email, "reader") if people else "librarian"


def require_role(library: Library, action: Action) -> None:
    """Refuse what the role of the person who works here does not allow.

    Raises:
        RoleError: it does not.
    """
    person = library.person()
    role = role_of(library, person.email)
    if action not in ROLES.get(role, frozenset()):
        allowed = " or ".join(name for name, actions in ROLES.items() if action in actions)
        raise RoleError(
            f"{person.name} has the role {role} here and may not {_WORDS[action]}; a {allowed} may. Roles stand "
            "under Library › People and reviews"
        )
