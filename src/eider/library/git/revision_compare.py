"""What differs between two revisions of a document, in words and as data."""

from collections.abc import Iterator
from typing import Any

import msgspec

# Records in lists are told apart by the first of these that they have.
KEYS = ("number", "id", "group", "sha256", "pad")


class Difference(msgspec.Struct, frozen=True):
    """One difference: where, before and after (None where there was or is nothing)."""

    place: str
    before: Any
    after: Any

    @property
    def words(self) -> str:
        """The difference as a sentence."""
        if self.before is None:
            return f"{self.place} added: {_show(self.after)}"
        if self.after is None:
            return f"{self.place} removed, was {_show(self.before)}"
        return f"{self.place} changed from {_show(self.before)} to {_show(self.after)}"


def compare_revisions(before: Any, after: Any, place: str = "") -> Iterator[Difference]:
    """Differences of two documents given as plain data, in the order in which they stand."""
    if isinstance(before, dict) and isinstance(after, dict):
        for key in [*before, *(k for k in after if k not in before)]:
            yield from compare_revisions(before.get(key), after.get(key), f"{place}.{key}" if place else str(key))
    elif _are_records(before) and _are_records(after):
        old, new = _by_key(before), _by_key(after)
        for key in [*old, *(k for k in new if k not in old)]:
            yield from compare_revisions(old.get(key), new.get(key), f"{place}[{key}]")
    elif before != after:
        yield Difference(place, before, after)


def _are_records(data: Any) -> bool:
    return isinstance(data, list) and all(isinstance(entry, dict) for entry in data)


def _by_key(records: list[dict[str, Any]]) -> dict[str, dict[str, Any]]:
    found: dict[str, dict[str, Any]] = {}
    for index, record in enumerate(records, start=1):
        key = next((str(record[name]) for name in KEYS if name in record), str(index))
        found[key if key not in found else f"{key}#{index}"] = record
    return found


def _show(value: Any) -> str:
    text = str(value)
    return text if len(text) <= 60 else f"{text[:57]}…"
