"""The command people: roles and reviews of a library, and releases that a role does not allow."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.errors import InputError
from eider.library.settings.people_settings import PeopleSettings, people_settings
from eider.model.library import ROLE_NAMES, Role
from eider.services.sharing.people import change_people, unallowed_releases


@click.command("people")
@library_argument
@click.option("--set", "given", multiple=True, metavar="EMAIL=ROLE", help=f"Give a role: {', '.join(ROLE_NAMES)}.")
@click.option("--remove", multiple=True, metavar="EMAIL", help="Take someone out.")
@click.option("--review", type=click.Choice(["free", "required"]), help="Whether a release needs an approval.")
@click.option("--two-people", type=click.Choice(["yes", "no"]), help="Require a second person's approval.")
@click.option("--note", default="", help="Why; needed for a change.")
@click.option("--releases-since", metavar="COMMIT", help="Print releases after it that a role did not allow; exit 1.")
@json_option
def people(
    folder: Path,
    given: tuple[str, ...],
    remove: tuple[str, ...],
    review: str | None,
    two_people: str | None,
    note: str,
    releases_since: str | None,
    as_json: bool,
) -> None:
    """Print or change who may do what in a library; without anybody named, everybody is a librarian."""
    library = opened_library(folder)
    if releases_since is not None:
        found = unallowed_releases(library, releases_since)
        lines = [f"{made.commit[:8]} by {made.by} <{made.email}>, {made.role}: {made.note}" for made in found]
        finish({"releases": found}, lines, as_json, blocked=bool(found))
    before = people_settings(library.settings)
    roles = {email: role for email, role in before.people.items() if email not in remove}
    if gone := next((email for email in remove if email not in before.people), ""):
        raise InputError(f"{gone} has no role here")
    wanted = PeopleSettings(
        {**roles, **dict(map(_role, given))},
        before.review_required if review is None else review == "required",
        before.two_people if two_people is None else two_people == "yes",
    )
    if wanted != before:
        change_people(library, wanted, note, replaces=before)
    lines = [f"{email}: {role}" for email, role in wanted.people.items()] or ["everybody is a librarian"]
    lines.append(f"review: {'required' if wanted.review_required else 'free'}{', two people' * wanted.two_people}")
    finish(wanted, lines, as_json)


def _role(text: str) -> tuple[str, Role]:
    email, _, wanted = text.rpartition("=")
    role = next((known for known in ROLE_NAMES if known == wanted), None)
    if role is None or not email:
        raise InputError(f"--set {text}: write EMAIL=ROLE, where ROLE is {', '.join(ROLE_NAMES)}")
    return email.strip(), role
