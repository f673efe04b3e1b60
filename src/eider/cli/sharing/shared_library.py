"""The commands of shared libraries: share, sync, claim, unclaim, settle."""

from pathlib import Path

import click

from eider.cli.library_argument import item_argument, library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.cli.progress import shown_progress
from eider.errors import InputError
from eider.library.sharing.shared_server import Claim
from eider.model.wording import counted
from eider.services.facts.designs import design_words
from eider.services.sharing.claims import claim_part, give_back, take_over
from eider.services.sharing.conflicts import CHOICES, conflict_differences, settle_conflict
from eider.services.sharing.synchronising import SyncReport, share_library, synchronise

# Revisions that are printed one by one.
MOST_SHOWN = 40


@click.command("share")
@library_argument
@click.argument("address", metavar="URL")
@json_option
def share(folder: Path, address: str, as_json: bool) -> None:
    """Share a library through an empty git repository: https, ssh, file or a path."""
    library = opened_library(folder)
    with shown_progress() as task:
        report = share_library(library, address, task)
    finish(report, [*report_lines(report), f"{folder} is shared through {address}"], as_json)


@click.command("sync")
@library_argument
@json_option
def sync(folder: Path, as_json: bool) -> None:
    """Follow the server of a shared library, and print what others released."""
    library = opened_library(folder)
    with shown_progress() as task:
        report = synchronise(library, task)
    finish(report, report_lines(report), as_json)


def report_lines(report: SyncReport) -> list[str]:
    """A synchronisation for a person."""
    parts = [made for made in report.received if made.kind == "part"]
    lines = [
        f"{made.name} revision {made.revision}, {made.by} {made.at[:10]}: {made.note}" for made in parts[:MOST_SHOWN]
    ]
    if len(parts) > MOST_SHOWN:
        lines.append(f"and {counted(len(parts) - MOST_SHOWN, 'more revision')}")
    lines += [
        f"{name} was released by someone else meanwhile; settle it with eider settle" for name in report.conflicts
    ]
    lines += [f"{name}: its working copy is what was released, and is needed no more" for name in report.settled]
    if report.designs:
        lines.append(f"designs with these parts: {design_words(report.designs)}")
    if report.waiting:
        lines.append(f"on this machine alone: {', '.join(report.waiting)}")
    return [*lines, f"{counted(len(report.received), 'revision')} received, {counted(report.sent, 'commit')} sent"]


@click.command("claim")
@library_argument
@item_argument
@click.option("--why", default="", help="What it is claimed for.")
@click.option(
    "--take-over",
    "over",
    is_flag=True,
    help="Take the claim from someone who has held it for more than a week (requires --why).",
)
@json_option
def claim(folder: Path, item: str, why: str, over: bool, as_json: bool) -> None:
    """Reserve a part of a shared library: nobody else can release it until it is given back or released."""
    library = opened_library(folder)
    row = library.find(item)
    with shown_progress() as task:
        made = take_over(library, row.id, why, task) if over else claim_part(library, row.id, row.name, why, task)
    finish({"item": row.name, "state": row.state, "claim": made}, [_claim_words(made)], as_json)


def _claim_words(claim_made: Claim) -> str:
    why = f": {claim_made.why}" if claim_made.why else ""
    before = f", taken from {claim_made.before}" if claim_made.before else ""
    return f"{claim_made.name} is claimed by {claim_made.by} since {claim_made.at}{before}{why}"


@click.command("unclaim")
@library_argument
@item_argument
@json_option
def unclaim(folder: Path, item: str, as_json: bool) -> None:
    """Give the claim on a part back."""
    library = opened_library(folder)
    row = library.find(item)
    with shown_progress() as task:
        give_back(library, row.id, task)
    finish({"item": row.name, "state": row.state, "claim": None}, [f"{row.name} is claimed by nobody"], as_json)


@click.command("settle")
@library_argument
@item_argument
@click.option("--mine", "choice", flag_value="mine", help="The working copy becomes the revision after theirs.")
@click.option("--theirs", "choice", flag_value="theirs", help="What was released holds; the working copy goes.")
@click.option("--both", "choice", flag_value="both", help="The working copy becomes a part under --name.")
@click.option("--name", "new_name", default="", help="With --both: the name of the part that is made.")
@json_option
def settle(folder: Path, item: str, choice: str | None, new_name: str, as_json: bool) -> None:
    """Settle a part that someone else released while it was worked on; without a choice, print what differs."""
    library = opened_library(folder)
    row = library.find(item)
    differences = conflict_differences(library, row.id)
    if choice is None:
        if not differences:
            raise InputError(f"{row.name} has no newer revision than the one that it is worked on from")
        finish(
            {"item": row.name, "differences": differences}, [*differences, "choose --mine, --theirs or --both"], as_json
        )
    done = settle_conflict(library, row.id, next(known for known in CHOICES if known == choice), new_name)
    finish({"item": row.name, "settled": choice}, [done], as_json)
