"""Whether a part was approved as it is, and by whom."""

import re
from collections.abc import Iterable

from eider.library import Library
from eider.library.sharing.review_refs import all_reviews, forget_review, read_review
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.services.parts.recipe_identity import released_recipe

# A reviewer's ticks change no value.
_TICKS = re.compile(r', "confirmed_by": "[^"]*"')


def without_ticks(bundle: Bundle) -> str:
    """The recipe of a part as text, whoever ticked its values."""
    return _TICKS.sub("", encode(released_recipe(bundle)))


def approval_fault(library: Library, bundle: Bundle) -> str:
    """Why a part may not be released for want of an approval; empty where the library wants none, or it has one."""
    if library.settings.review != "required":
        return ""
    stored = read_review(library, bundle.part.id)
    if stored is None:
        return "this library wants a review; request one"
    if stored.review.state != "approved":
        return f"its review is {stored.review.state}; it has to be approved first"
    if without_ticks(stored.copy.bundle) != without_ticks(bundle):
        return "it was changed since it was approved; request a review again"
    return ""


def approval_words(library: Library, bundles: Iterable[Bundle]) -> str:
    """Who approved which of some parts, a line each, for the note of their release; empty where nobody did."""
    lines = []
    for bundle in bundles:
        stored = read_review(library, bundle.part.id)
        if stored and stored.review.state == "approved" and without_ticks(stored.copy.bundle) == without_ticks(bundle):
            event = stored.review.events[-1]
            lines.append(f"{bundle.part.name} approved by {event.by} <{event.email}>, {event.at}")
    return "\n".join(lines)


def close_reviews(library: Library, part_ids: Iterable[str]) -> None:
    """Reviews of parts that are released are over."""
    for part_id in part_ids:
        forget_review(library, part_id)


def take_ticks(library: Library) -> tuple[str, ...]:
    """Working copies get the ticks of their reviewers, where nothing else was changed since; returns their names."""
    taken = []
    for part_id, stored in all_reviews(library).items():
        mine = library.copies.load(part_id)
        if mine is None or mine.bundle == stored.copy.bundle or stored.review.state == "requested":
            continue
        if without_ticks(mine.bundle) == without_ticks(stored.copy.bundle):
            library.copies.save(stored.copy)
            taken.append(stored.review.name)
    return tuple(taken)
