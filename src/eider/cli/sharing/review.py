"""The command review: a working copy shown to others, declined with notes or approved."""

from pathlib import Path

import click

from eider.cli.library_argument import library_argument, opened_library
from eider.cli.output import finish, json_option
from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.model.address import parse_address
from eider.model.review import Review, ReviewNote
from eider.model.wording import counted
from eider.services.sharing.reviews import end_review, fetch_reviews, judge_review, request_review, waiting_reviews


@click.command("review")
@library_argument
@click.argument("item", required=False)
@click.option("--request", "action", flag_value="request", help="Show the working copy to others; needs --note.")
@click.option("--approve", "action", flag_value="approve", help="Say that it can be released.")
@click.option("--decline", "action", flag_value="decline", help="Say that it cannot; needs --note or --at.")
@click.option("--end", "action", flag_value="end", help="Cancel a request.")
@click.option("--note", default="", help="What was changed and why, or what is wrong.")
@click.option(
    "--at", "places", multiple=True, metavar="PLACE=TEXT", help="A note on a place, as lands.pads.3=too short."
)
@json_option
def review(
    folder: Path, item: str | None, action: str | None, note: str, places: tuple[str, ...], as_json: bool
) -> None:
    """Print the reviews that wait for someone's word, or take the next step in the review of a part."""
    library = opened_library(folder)
    if item is None:
        fetch_reviews(library)
        waiting = [stored.review for stored in waiting_reviews(library)]
        lines = [f"{r.name}, requested by {r.requested.by} {r.requested.at[:10]}: {r.requested.note}" for r in waiting]
        finish({"waiting": waiting}, [*lines, f"{counted(len(waiting), 'review')} waiting"], as_json)
    row = library.find(item)
    if action is None:
        raise InputError("say what is to be done: --request, --approve, --decline or --end")
    if action == "end":
        end_review(library, row.id)
        finish({"item": row.name, "state": library.find(row.id).state}, [f"{row.name} is not in review"], as_json)
    made = _step(library, row.id, action, note, places)
    state = "in review" if made.state == "requested" else made.state
    finish({"item": row.name, "state": state, "review": made}, [f"{row.name}: {state}"], as_json)


def _step(library: Library, part_id: str, action: str, note: str, places: tuple[str, ...]) -> Review:
    if action == "request":
        return request_review(library, part_id, note)
    by, at = library.person().name, utc_now()
    notes = [ReviewNote(text.strip(), by, at, parse_address(place.strip())) for place, text in map(_placed, places)]
    return judge_review(library, part_id, "approved" if action == "approve" else "declined", note, notes)


def _placed(text: str) -> tuple[str, str]:
    place, equals, note = text.partition("=")
    if not equals or not note.strip():
        raise InputError(f"--at {text}: expected PLACE=TEXT, such as lands.pads.3=too short")
    return place, note
