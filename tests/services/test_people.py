"""Roles and reviews of a library: changed with a note, and releases found that a role did not allow."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.demo.parts import LIBRARIAN
from eider.errors import EiderError, InputError
from eider.library import Library, init_library, open_library
from eider.library.errors import ConflictError
from eider.library.settings.people_settings import PeopleSettings, people_settings
from eider.library.settings.settings_file import with_value
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.people import change_people, unallowed_releases
from eider.services.sharing.roles import RoleError
from shared_libraries import capacitor, change_fact, git

FREE = PeopleSettings({}, False, False)
OURS = PeopleSettings({LIBRARIAN.email: "librarian", "mei@skerry.example": "engineer"}, True, True)


@pytest.fixture
def library(tmp_path: Path) -> Library:
    made = init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)
    release_part(made, capacitor(made), "first release")
    return made


def test_roles_and_reviews_are_kept_with_a_note(library: Library) -> None:
    before = (library.folder / "eider-library.toml").read_text()
    change_people(library, OURS, "four hands now", replaces=FREE)
    again = open_library(library.folder)
    assert people_settings(again.settings) == OURS == people_settings(library.settings)
    assert again.settings.categories == library.settings.categories
    assert git(library.folder, "log", "-1", "--format=%s") == "four hands now"
    change_people(library, FREE, "one again", replaces=OURS)
    after = (library.folder / "eider-library.toml").read_text()
    assert [line for line in after.splitlines() if line not in before.splitlines()] == [
        'review = "free"',
        "two_people = false",
    ]


@pytest.mark.parametrize(
    ("wanted", "says"),
    [
        (PeopleSettings({"mei@skerry.example": "engineer"}, False, False), "nobody would be a librarian"),
        (PeopleSettings({"mei": "librarian"}, False, False), "“mei” is not an e-mail address"),
        (PeopleSettings({}, False, True), "require it as well"),
    ],
)
def test_what_cannot_be_used_says_why(library: Library, wanted: PeopleSettings, says: str) -> None:
    with pytest.raises(InputError, match=says):
        change_people(library, wanted, "x", replaces=FREE)
    with pytest.raises(InputError, match="in a few words why"):
        change_people(library, OURS, " ", replaces=FREE)
    assert people_settings(library.settings) == FREE


def test_only_a_librarian_changes_them_and_nobody_overwrites_another(library: Library) -> None:
    other = open_library(library.folder)
    change_people(library, OURS, "four hands now", replaces=FREE)
    with pytest.raises(ConflictError, match="changed the people meanwhile"):
        change_people(other, PeopleSettings({LIBRARIAN.email: "librarian"}, False, False), "mine", replaces=FREE)
    git(library.folder, "config", "user.email", "mei@skerry.example")
    with pytest.raises(RoleError, match="has the role engineer here and may not change roles and reviews"):
        change_people(open_library(library.folder), FREE, "free", replaces=OURS)


def test_releases_of_those_who_may_not_are_found_in_the_history(library: Library) -> None:
    change_people(library, PeopleSettings(OURS.people, False, False), "roles", replaces=FREE)
    head, part_id = library.versions.head, library.search()[0].id
    release_part(library, change_fact(library, part_id, "Shelf", "A7"), "A7")
    assert unallowed_releases(library, head) == ()
    # An Eider that was told that everybody may: the commit tells who did it all the same.
    git(library.folder, "config", "user.email", "mei@skerry.example")
    library.settings = replace(library.settings, people={})
    release_part(library, change_fact(library, part_id, "Shelf", "B2"), "B2")
    (found,) = unallowed_releases(library, head)
    assert (found.email, found.role, found.note) == ("mei@skerry.example", "engineer", "B2")
    told = answer("people", library.folder, "--releases-since", head, status=1)
    assert [made["commit"] for made in told["releases"]] == [library.versions.head]
    with pytest.raises(EiderError):
        unallowed_releases(library, "0" * 40)


def test_the_command_prints_and_changes_them(library: Library) -> None:
    assert "everybody is a librarian" in eider("people", library.folder).stdout
    told = answer(
        "people", library.folder, "--set", f"{LIBRARIAN.email}=librarian", "--review", "required", "--note", "y"
    )
    assert told == {"people": {LIBRARIAN.email: "librarian"}, "review_required": True, "two_people": False}
    told = answer("people", library.folder, "--set", "joe@skerry.example=reader", "--two-people", "yes", "--note", "z")
    assert told["people"]["joe@skerry.example"] == "reader" and told["two_people"]
    assert "write EMAIL=ROLE" in eider("people", library.folder, "--set", "joe=boss", status=2).stderr
    assert "has no role here" in eider("people", library.folder, "--remove", "ann@x", status=2).stderr
    eider("people", library.folder, "--remove", "joe@skerry.example", "--note", "left")
    assert "joe" not in eider("people", library.folder).stdout


def test_a_value_before_the_sections_is_written_where_it_stands() -> None:
    text = 'name = "x"\n review = "free"  # for now\n\n[symbols]\nreview = 1\n'
    assert with_value(text, "review", '"required"') == 'name = "x"\nreview = "required"\n\n[symbols]\nreview = 1\n'
    assert with_value("[a]\nb = 1\n", "c", "true") == "c = true\n[a]\nb = 1\n"
