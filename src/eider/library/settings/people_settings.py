"""Who may do what in a library, and whether releases are reviewed, saved in its settings."""

from collections.abc import Mapping
from functools import partial

import msgspec

from eider.errors import InputError
from eider.library.settings.settings_file import save_settings, toml_text, toml_value, with_section, with_value
from eider.library.store import Library
from eider.model.library import LibrarySettings, Role


class PeopleSettings(msgspec.Struct, frozen=True):
    """The role of each e-mail address, whether a release needs an approval, and that of another person."""

    people: Mapping[str, Role]
    review_required: bool
    two_people: bool


def people_settings(settings: LibrarySettings) -> PeopleSettings:
    """As the settings of a library have them."""
    return PeopleSettings(dict(settings.people), settings.review == "required", settings.two_people)


def people_fault(wanted: PeopleSettings) -> str:
    """What is wrong with them; empty where nothing is."""
    wrong = next((email for email in wanted.people if "@" not in email or email != email.strip()), "")
    if wrong:
        return f"“{wrong}” is not an e-mail address; roles belong to the addresses by which git knows people"
    if wanted.people and "librarian" not in wanted.people.values():
        return "nobody would be a librarian, and nobody could release a part or change this; give one person that role"
    if wanted.two_people and not wanted.review_required:
        return "two people are asked for where a review is required; require it as well"
    return ""


def save_people(library: Library, wanted: PeopleSettings, note: str, *, replaces: PeopleSettings) -> None:
    """Keep them in place of those that they replace, with a note of why; the library works by them at once.

    Raises:
        InputError: there is no note, or they cannot be used.
        ConflictError: someone changed them meanwhile.
        ReadOnlyError: nothing can be written to the library.
    """
    if not note.strip():
        raise InputError("say in a few words why; the note stays with the change")
    if fault := people_fault(wanted):
        raise InputError(fault)
    save_settings(library, _fields(wanted), partial(_written, wanted=wanted), note, replaces=_fields(replaces))


def _fields(people: PeopleSettings) -> dict[str, object]:
    review = "required" if people.review_required else "free"
    return {"people": dict(people.people), "review": review, "two_people": people.two_people}


def _written(text: str, wanted: PeopleSettings) -> str:
    text = with_value(text, "review", toml_value("required" if wanted.review_required else "free"))
    text = with_value(text, "two_people", toml_value(wanted.two_people))
    lines = [f"{toml_text(email)} = {toml_text(role)}" for email, role in wanted.people.items()]
    return with_section(text, "people", ["", "[people]", *lines] if lines else [])
