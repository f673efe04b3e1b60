"""Differences of two recipes as a person reads them: what they speak of, without what follows from another value."""

import re
from collections.abc import Iterable, Iterator
from typing import Any

from eider.library.git.revision_compare import Difference, compare_revisions
from eider.model.bundle import Bundle
from eider.model.codec import to_data
from eider.services.parts.recipe_identity import released_recipe

# What follows from another value, or tells how the part came in; and all that belongs to where a value came from.
_FOLLOWS = re.compile(
    r"\.limits\b|^part\.(arrivals|to_confirm)\b|^pads\.[^.]+\.(mask|paste)|^part\.(package|symbol|footprint|body)\.name$|\.package\.name$"
)
# Ids say nothing to a person; the names of what they mean are compared.
_ID = re.compile(r"(^|\.)id$")
_WHENCE = re.compile(r"\.(evidence|former|former_text)\b")
_WORDS = (
    (re.compile(r"^sheet\.dims\.([^.]+)(\.text)?$"), r"Dimension \1"),
    (re.compile(r"^part\.facts\.(.+?)(\.value)?$"), r"\1"),
    (re.compile(r"^symbol\.pins\.([^.]+)\.(\w+)$"), r"\2 of pin \1"),
    (re.compile(r"^symbol\.pins\.([^.]+)$"), r"Pin \1"),
    (re.compile(r"^footprint\.adjustments\.([^. ]+) (\w+)(\..*)?$"), r"Adjustment of \2 of pad \1"),
    (re.compile(r"^footprint\.distances\.(.+?)(\.shall)?(\.text)?$"), r"Kept distance \1"),
    (re.compile(r"^(sheet|body|footprint|symbol)\.name$"), r"Name of the \1"),
    (re.compile(r"^body\.model$"), r"STEP file of the body"),
    (re.compile(r"^pads\.([^.]+)\.(\w+)$"), r"\2 of pad \1"),
    (re.compile(r"^part\.(\w+)$"), r"\1"),
)


def place_words(place: str) -> str:
    """What a place of a recipe is called: `sheet.dims.E.text` is dimension E. Places without words stay as they are."""
    plain = re.sub(r"\[([^\]]*)\]", r".\1", place)
    for pattern, words in _WORDS:
        if pattern.match(plain):
            told = pattern.sub(words, plain).replace("Name of the sheet", "Name of the package")
            return f"{told[:1].upper()}{told[1:]}"
    return place


def _plain(value: Any) -> Any:
    """A fact or dimension as its text, a pin as number and name, a model as its file; other values as they are."""
    if isinstance(value, dict):
        if "number" in value and "name" in value:
            return f"{value['number']} {value['name']}"
        return next((value[key] for key in ("value", "text", "file") if key in value), value)
    return value


def change_words(differences: Iterable[Difference], *, with_evidence: bool = True) -> Iterator[str]:
    """Differences as sentences; of where a value came from only that it is another now."""
    seen: set[str] = set()
    for difference in differences:
        place = difference.place
        whence = _WHENCE.search(place)
        if _FOLLOWS.search(place) or (whence and not with_evidence):
            continue
        if whence is None:
            yield Difference(place_words(place), _plain(difference.before), _plain(difference.after)).words
        elif (of := place[: whence.start()]) not in seen:
            seen.add(of)
            yield f"Evidence of {place_words(of)} changed"


def difference_words(before: Bundle, after: Bundle) -> tuple[str, ...]:
    """What two states of a part differ in: recipe, facts and evidence, and pad by pad what came out."""
    old, new = ({**to_data(released_recipe(bundle)), "pads": _pads(bundle)} for bundle in (before, after))
    return tuple(change_words(d for d in compare_revisions(old, new) if not _ID.search(d.place)))


def _pads(bundle: Bundle) -> object:
    pattern = bundle.footprint.pattern
    return {pad.number: to_data(pad) for pad in pattern.pads} if pattern else {}
